"""Several grounds to start from: each is searched, and all ways stand against each other."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace

from zesty_veil.advise.match.context import ANYWHERE
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.pareto import plainest_first
from zesty_veil.advise.match.ramp import RampWay, ramp_ways
from zesty_veil.advise.match.rampproblem import Spot
from zesty_veil.advise.match.search import Matcher, Way
from zesty_veil.advise.match.tuning import Manner
from zesty_veil.light.grid import Array
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.look import ViewingConditions


def ways_from(
    matchers: Sequence[Matcher], target: Array, should_continue: Callable[[], bool] = lambda: True
) -> Iterator[tuple[Way, ...]]:
    """Yield the ways to a colour from several grounds, as `Matcher.ways`; each names its start."""
    every: list[Way] = []
    for start, matcher in enumerate(matchers):
        here: list[Way] = []
        for ways in matcher.ways(target, should_continue):
            here = [replace(way, start=start) for way in ways]
            yield plainest_first([*every, *here])
        every += here


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
            yield plainest_first([*every, *here])
        every += here
