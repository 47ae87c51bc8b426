"""What is worked out beside the search: another passage's colours, a coat at other thinnings.

No Qt here; it runs away from the interface thread.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from msgspec.structs import replace

from zesty_veil.plan.drying import whole
from zesty_veil.plan.edits import with_passes, with_thinning
from zesty_veil.plan.model import Coat, Plan, Target
from zesty_veil.predict.coatsto import RATIOS, coats_to
from zesty_veil.predict.field import fold, predict
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.services.finding import ShownWay, WaySearch

# At its own thinning a coat comes to what it is, dE00.
_ITSELF = 0.01


@dataclass(frozen=True)
class Copying:
    """The colours of another passage, to be wanted on this one too."""

    plan: Plan
    passage: int
    look: ViewingConditions
    count: int


def copying(asked: Copying, should_continue: Callable[[], bool]) -> Iterator[tuple[Target, ...]]:
    """Yield what is wanted on a passage, or else what it comes to at evenly spaced places."""
    passage = asked.plan.passages[asked.passage]
    if passage.targets:
        yield passage.targets
        return
    u = np.linspace(0.03, 0.97, asked.count)
    field = predict(passage, asked.plan.rack(), u, np.zeros(1), asked.look)
    labs = field.lab[:, 0].round(2).tolist()
    yield tuple(Target(round(float(p), 4), tuple(lab)) for p, lab in zip(u, labs, strict=True))


@dataclass(frozen=True)
class Thinnings:
    """A coat of a way, to be laid at other thinnings."""

    search: WaySearch
    way: ShownWay
    coat: int


@dataclass(frozen=True)
class Thinned:
    """A coat at one thinning: as many passes as come to the same, or none if it never does.

    minutes : drying included. sensitivity : by how much an ordinary hand strays, dE00. left : how
    far off it still is after so many passes that nobody lays more, dE00.
    """

    thinning: float
    coat: Coat | None
    minutes: float
    sensitivity: float
    left: float = 0.0


def thinnings(
    asked: Thinnings, should_continue: Callable[[], bool]
) -> Iterator[tuple[Thinned, ...]]:
    """Yield how a coat of a way comes to the same at other thinnings."""
    search, way, i = asked.search, asked.way, asked.coat
    coat = way.coats[i]
    paints = {paint.name: paint for paint in (*search.plan.paints, *search.rack)}
    # Where it lies in full with the fewest coats over it, its own colour counts most.
    full = [t.place for t in search.targets if coat.span[0] <= t.place <= coat.span[1]]
    above = way.coats[i + 1 :]
    over = [sum(c.span[0] <= p <= c.span[1] for c in above) for p in full]
    place = full[int(np.argmin(over))] if full else float(np.mean(coat.span))
    below = replace(way.base, coats=(*way.base.coats, *way.coats[:i]))
    u, r = np.array([place]), np.zeros(1)
    now = fold(below, (*below.coats, coat), paints, u, r)
    lab = colours(now, search.look)[0][0, 0]
    out = []
    own = coat.mixture.thinning
    others = tuple(ratio for ratio in RATIOS if ratio != own)
    how = (lab, coat, below, paints, place, 0.0, search.look)
    rows = [*coats_to(*how, (own,), _ITSELF), *coats_to(*how, others)]
    for row in sorted(rows, key=lambda row: row.thinning):
        thinned = None
        if row.passes:
            thinned = with_passes(with_thinning(coat, row.thinning), row.passes)
        minutes = whole(thinned, below) if thinned is not None else 0.0
        out.append(Thinned(row.thinning, thinned, minutes, row.sensitivity or 0.0, row.after[-1]))
    yield tuple(out)
