"""Coats to: how many passes, at which thinning, until a wanted colour comes."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import with_passes, with_thinning
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.field import fold
from zesty_veil.predict.folding import fold_coats
from zesty_veil.predict.lay import prepare
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import DAYLIGHT, ViewingConditions, colours
from zesty_veil.predict.solid import solid_after
from zesty_veil.predict.sure import FILM_CV
from zesty_veil.thresholds import CLOSE_DE00

RATIOS = (1.0, 2.0, 3.0, 5.0, 7.0)
# Where a colour never comes, it is told what does after so many passes.
LOOKED_AT = (3, 6, 12)
MOST_PASSES_TRIED = 40


class CoatWay(NamedTuple):
    """A thinning with the passes it needs; none where it never comes that close."""

    thinning: float
    passes: int | None
    closest: float  # dE00 at that number of passes, or the best within `MOST_PASSES_TRIED`
    # dE00 by which an ordinary hand strays, where it needs any passes.
    sensitivity: float | None = None
    # dE00 after each number of passes of `LOOKED_AT`.
    after: tuple[float, ...] = ()


def coats_to(
    wanted: Array,
    coat: Coat,
    passage: Passage,
    paints: Mapping[str, Paint],
    place: float = 0.5,
    relief: float = 0.0,
    look: ViewingConditions = DAYLIGHT,
    ratios: tuple[float, ...] = RATIOS,
    close: float = CLOSE_DE00,
) -> tuple[CoatWay, ...]:
    """Return the passes of a coat at each thinning until a colour is near a wanted one.

    Parameters
    ----------
    wanted : (3,) float64
        CIELAB of the colour wanted.
    coat
        What is laid on the passage as it is; its own thinning and passes do not count.
    passage
        What is there already.
    place, relief
        Where the colour is wanted.

    Returns
    -------
    tuple of Way
        For each of `ratios`, the first number of passes within dE00 `close`, or none ("never").
    """

    u, r = np.array([place]), np.array([relief])
    start = fold(passage, passage.coats, paints, u, r)

    def difference(state: StackOptics) -> float:
        return float(ciede2000(colours(state, look)[0], wanted).max())

    out = []
    for ratio in ratios:
        single = with_passes(with_thinning(_everywhere(coat), ratio), 1)
        one = prepare([single], paints, passage, u, r)
        state, passes, best = start, 0, difference(start)
        now = best
        seen: dict[int, float] = {}
        while now > close and passes < MOST_PASSES_TRIED:
            state = fold_coats(state, one)
            passes += 1
            now = difference(state)
            best = min(best, now)
            seen[passes] = now
        further = state
        for more in range(passes + 1, LOOKED_AT[-1] + 1):
            further = fold_coats(further, one)
            seen[more] = difference(further)
        after = tuple(seen[count] for count in LOOKED_AT)
        sensitivity = None
        if now <= close and passes:
            # Passes stray each by itself, so that many thin ones stray less than one strong one.
            more = 1 + FILM_CV["ordinary"] / passes**0.5
            # What is neat cannot be stronger, and strays as far the other way.
            strayed = (1 + ratio) / more if ratio + 1 >= more else (1 + ratio) * more
            thicker = with_thinning(single, strayed - 1)
            other = fold_coats(
                start, prepare([with_passes(thicker, passes)], paints, passage, u, r)
            )
            sensitivity = float(ciede2000(colours(other, look)[0], colours(state, look)[0]).max())
        reached = passes if now <= close else None
        out.append(CoatWay(ratio, reached, best, sensitivity, after))
    return tuple(out)


def coats_to_hide(
    coat: Coat,
    passage: Passage,
    paints: Mapping[str, Paint],
    place: float = 0.5,
    relief: float = 0.0,
    look: ViewingConditions = DAYLIGHT,
) -> tuple[CoatWay, ...]:
    """Return the passes at each thinning until what is below does not show any more.

    That is within dE00 `CLOSE_DE00` of the same paint laid so thick that nothing shows through.
    Parameters as `coats_to`.
    """
    solid = with_passes(with_thinning(_everywhere(coat), 0.0), MOST_PASSES_TRIED)
    u, r = np.array([place]), np.array([relief])
    thick = fold(passage, (*passage.coats, *(solid,) * 20), paints, u, r)
    wanted, _ = colours(thick, look)
    return coats_to(wanted[0, 0], coat, passage, paints, place, relief, look)


def coats_to_solid(
    coat: Coat,
    passage: Passage,
    paints: Mapping[str, Paint],
    place: float = 0.5,
    relief: float = 0.0,
    look: ViewingConditions = DAYLIGHT,
    ratios: tuple[float, ...] = RATIOS,
) -> tuple[int | None, ...]:
    """Return the passes at each thinning until the eye sees no more change; none for never.

    That is long before the paint's own depth; see `predict.solid`. Parameters as `coats_to`.
    """
    u, r = np.array([place]), np.array([relief])
    start = fold(passage, passage.coats, paints, u, r)
    out = []
    for ratio in ratios:
        single = with_passes(with_thinning(_everywhere(coat), ratio), 1)
        one = prepare([single], paints, passage, u, r)
        state, labs, found = start, [colours(start, look)[0][0, 0]], None
        while found is None and len(labs) <= MOST_PASSES_TRIED + 1:
            state = fold_coats(state, one)
            labs.append(colours(state, look)[0][0, 0])
            found = solid_after(np.array(labs))
        out.append(found)
    return tuple(out)


def _everywhere(coat: Coat) -> Coat:
    return replace(coat, span=(0.0, 1.0), feather=(0.0, 0.0))
