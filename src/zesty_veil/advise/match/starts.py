"""Several starts: each is searched, and all recipes stand against each other."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

from zesty_veil.advise.match.context import ANYWHERE
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.pareto import plainest_first
from zesty_veil.advise.match.ramp import ramp_ways
from zesty_veil.advise.match.recipe import Recipe
from zesty_veil.advise.match.spots import Spot, near_enough
from zesty_veil.advise.match.tuning import WorkOrder
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.look import ViewingConditions


@dataclass(frozen=True)
class SearchStart:
    """What recipes begin from: wanted colours on a ground, and the limits that hold from there.

    cover : a coat that hides that ground, laid first; the spots lie on it, and `minutes` are what
    it takes.
    """

    spots: Sequence[Spot]
    limits: Limits
    base: int = 0
    cover: tuple[Coat, ...] = ()
    minutes: float = 0.0


def ramps_from(
    starts: Sequence[SearchStart],
    paints: Sequence[Paint],
    look: ViewingConditions,
    should_continue: Callable[[], bool] = lambda: True,
    passage: Passage = ANYWHERE,
    only: WorkOrder | None = None,
    over: tuple[Coat, ...] = (),
) -> Iterator[tuple[Recipe, ...]]:
    """Yield the recipes for a ramp from several starts, as `ramp_ways`; each names its base.

    Those that cover first stand behind the others, whatever they cost: a painter chooses.
    """
    every: list[Recipe] = []
    covering: list[Recipe] = []
    for start in starts:
        here: list[Recipe] = []
        how = (start.limits, look, should_continue, passage, only, over)
        for recipes in ramp_ways(start.spots, paints, *how):
            here = [_from(start, recipe) for recipe in recipes]
            if start.cover:
                yield (*plainest_first(every, near_enough(start.spots)), *covering, *here)
            else:
                yield plainest_first([*every, *here], near_enough(start.spots))
        if start.cover:
            covering += here
        else:
            every += here


def _from(start: SearchStart, recipe: Recipe) -> Recipe:
    """Return a recipe with the coat that hides the ground of its start."""
    return replace(
        recipe,
        coats=(*start.cover, *recipe.coats),
        minutes=recipe.minutes + start.minutes,
        pots=recipe.pots + len(start.cover),
        base=start.base,
    )
