"""What a way shows between its targets, and ends of coats that let nothing shine up there again."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from itertools import pairwise

import numpy as np
from msgspec.structs import replace

from zesty_veil.paint.laydown import RELIEF, SITES
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Passage, Target
from zesty_veil.predict.field import SITE_RELIEF, axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.targets import missed
from zesty_veil.thresholds import RISES_VALUES

# At so many places it is looked at what comes between the targets.
ALONG_PLACES = 41
# A value by which it rises counts as so many dE00 that it is off; so many ends are moved.
_RISE_DE00, _MOVES = 10.0, 3


def in_order(targets: Sequence[Target]) -> tuple[Target, ...]:
    """Return targets from the light on, at each place from recess to ridge."""
    return tuple(sorted(targets, key=lambda t: (t.place, RELIEF[t.site])))


def farthest_along(
    passage: Passage, paints: Mapping[str, Paint], look: ViewingConditions
) -> tuple[float, float]:
    """Return where a passage is farthest from its targets or from what is between them, dE00.

    And by how many values it gets lighter again, where its targets get darker all along: the
    section shows both.
    """
    field = predict(passage, paints, axis(ALONG_PLACES), SITE_RELIEF, look)
    told = missed(passage, field)
    worst = 0.0 if told is None else told.worst_place(passage, field.u)[1]
    targets = in_order(passage.targets)
    wanted = [target.lab[0] for target in targets if target.site == "flat"]
    if len(wanted) < 2 or any(b > a for a, b in pairwise(wanted)):
        return worst, 0.0
    first, last = targets[0].place, targets[-1].place
    value = field.value[(field.u >= first) & (field.u <= last), SITES.index("flat")]
    return worst, float((value - np.minimum.accumulate(value)).max(initial=0.0))


def falling(
    passage: Passage, first: int, paints: Mapping[str, Paint], look: ViewingConditions
) -> Passage:
    """Return a passage whose ends are moved where a coat shines up from under a darker one.

    A light coat that ends where the dark one over it ends shows beside it. So the light one ends
    at the place before, or the dark one runs on.

    first : the first coat that may be changed.
    """
    now, (worst, rises) = passage, farthest_along(passage, paints, look)
    for _ in range(_MOVES):
        if rises <= RISES_VALUES:
            break
        tried = [(farthest_along(each, paints, look), each) for each in _moved(now, first)]
        best = min(tried, key=lambda each: cost_along(*each[0]), default=None)
        if best is None or cost_along(*best[0]) >= cost_along(worst, rises):
            break
        (worst, rises), now = best
    return now


def cost_along(worst: float, rises: float) -> float:
    """Return what being so far off, dE00, and rising by so many values cost together, dE00."""
    return worst + _RISE_DE00 * max(rises - RISES_VALUES, 0.0)


def _moved(passage: Passage, first: int) -> Iterator[Passage]:
    """Yield a passage with the far end of one coat moved to another target's place."""
    places = [target.place for target in in_order(passage.targets)]
    for i, coat in enumerate(passage.coats[first:], first):
        for k, place in enumerate(places):
            if place < coat.span[0] or place == coat.span[1]:
                continue
            ends = places[k + 1] if k + 1 < len(places) else 1.0
            yield _with(passage, i, _ending(coat, place, ends - place))
        if coat.span[1] < 1.0:
            yield _with(passage, i, _ending(coat, 1.0, 0.0))


def _ending(coat: Coat, end: float, feather: float) -> Coat:
    return replace(coat, span=(coat.span[0], end), feather=(coat.feather[0], feather))


def _with(passage: Passage, i: int, coat: Coat) -> Passage:
    return replace(passage, coats=(*passage.coats[:i], coat, *passage.coats[i + 1 :]))
