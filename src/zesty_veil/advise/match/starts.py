"""Several grounds to start from: each is searched, and all ways stand against each other."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace

from zesty_veil.advise.match.context import ANYWHERE
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.pareto import plainest_first
from zesty_veil.advise.match.ramp import RampWay, ramp_ways
from zesty_veil.advise.match.rampproblem import Spot, near_enough
from zesty_veil.advise.match.tuning import Manner
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.look import ViewingConditions


def ramps_from(
    starts: Sequence[Sequence[Spot]],
    paints: Sequence[Paint],
    limits: Limits,
    look: ViewingConditions,
    should_continue: Callable[[], bool] = lambda: True,
    passage: Passage = ANYWHERE,
    only: Manner | None = None,
    over: tuple[Coat, ...] = (),
) -> Iterator[tuple[RampWay, ...]]:
    """Yield the ways to a ramp from several grounds, as `ramp_ways`; each names its start.

    Every item of `starts` is the same wishes on another ground.
    """
    every: list[RampWay] = []
    for start, spots in enumerate(starts):
        here: list[RampWay] = []
        for ways in ramp_ways(spots, paints, limits, look, should_continue, passage, only, over):
            here = [replace(way, start=start) for way in ways]
            yield plainest_first([*every, *here], near_enough(spots))
        every += here
