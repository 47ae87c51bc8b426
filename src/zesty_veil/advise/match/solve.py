"""A request for colours on a passage, and the ways there: one call for one colour or a ramp.

It is what the command line, the window and the planner of glows ask.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace as changed

import numpy as np

from zesty_veil.advise.match.along import cost_along, in_order
from zesty_veil.advise.match.answering import answered, context_of, spots_on
from zesty_veil.advise.match.obstacle import Obstacle, Reason, WhyNot
from zesty_veil.advise.match.ramp import ramp_steps
from zesty_veil.advise.match.recipe import Answers, MatchRequest, Recipe
from zesty_veil.advise.match.rescue import (
    covered_starts,
    now_on,
)
from zesty_veil.advise.match.spots import Spot, near_enough
from zesty_veil.advise.match.starts import SearchStart, ramps_from
from zesty_veil.advise.match.whynot import nearest_alone, why_not
from zesty_veil.errors import InputError
from zesty_veil.paint.kinds import SPECIAL
from zesty_veil.plan.model import Ground, Passage, Target
from zesty_veil.thresholds import AS_NEAR_DE00, MET_DE00, RISES_VALUES
from zesty_veil.tr import tr

# More than so many coats for one colour by itself are not looked for.
_ALONE = 3
# So much of the work is done when all ways are found, but their ends are not soft yet.
_SOUGHT = 0.85


def _spots(request: MatchRequest) -> list[tuple[Spot, ...]]:
    """Return what is wanted on each of the bases; what is rescued has its paint whatever comes."""
    wanted = request.targets, request.held, request.now
    every = [spots_on(base, *wanted) for base in request.bases]
    if request.rescue:
        every = [tuple(changed(spot, under=0.0) for spot in spots) for spots in every]
    return every


def solve(
    request: MatchRequest, should_continue: Callable[[], bool] = lambda: True
) -> Iterator[Answers]:
    """Yield ways to what is wished, better and better; the last says why there is none nearer.

    Raises
    ------
    InputError
        If nothing is wished, at too many places, or there is no paint or tool to do it with.
    """
    if not request.targets:
        raise InputError(tr("This passage has no target yet; write a colour, or keep one with K."))
    starts = _spots(request)
    best: tuple[Recipe, ...] = ()
    ways: tuple[Recipe, ...] = ()
    known: dict[Recipe, Recipe] = {}
    for count, (ways, steps) in enumerate(_searched(request, starts, should_continue), 1):
        known |= {
            way: answered(way, starts, request, soft=False) for way in ways if way not in known
        }
        best = tuple(known[way] for way in ways)
        yield Answers(best, min(count / steps, _SOUGHT))
    if not should_continue():
        return
    for k, way in enumerate(ways):
        best = (*best[:k], answered(way, starts, request, soft=True), *best[k + 1 :])
        ranked = _falling_first(_near_first(best, near_enough(starts[0])))
        yield Answers(ranked, _SOUGHT + (0.97 - _SOUGHT) * (k + 1) / len(ways))
        if not should_continue():
            return
        # What a soft end leads no farther away is what was looked for.
        fine = best[k].rises <= RISES_VALUES and best[k].off <= way.off + AS_NEAR_DE00
        if request.plainest_only and fine:
            best = best[: k + 1]
            break
    best = _falling_first(_near_first(best, near_enough(starts[0])))
    if not best:
        raise InputError(
            tr("There is nothing to lay; allow more paints, tools, minutes or passes.")
        )
    why = hindrance(request, best[0], should_continue, starts) if request.reasons else (None, None)
    if should_continue():
        yield Answers(best, 1.0, *why)


def _near_first(answers: tuple[Recipe, ...], there: float) -> tuple[Recipe, ...]:
    """Return answers as they were ranked, but what soft ends lead too far away behind the others.

    there : dE00 that counts as there, as for `plainest_first`.
    """
    least = min((answer.off for answer in answers), default=0.0)
    far = [answer.off > max(least + AS_NEAR_DE00, there) for answer in answers]
    order = sorted(range(len(answers)), key=lambda k: answers[k].off if far[k] else 0.0)
    return tuple(answers[k] for k in order)


def _falling_first(answers: tuple[Recipe, ...]) -> tuple[Recipe, ...]:
    """Return answers, those that get lighter again between their targets behind the others.

    A rise that costs less than being as far off as all that fall stays where it is.
    """
    costs = [cost_along(answer.worst, answer.rises) for answer in answers]
    rise = [answer.rises > RISES_VALUES for answer in answers]
    least = min((c for c, up in zip(costs, rise, strict=True) if not up), default=np.inf)
    behind = [up and c >= least for c, up in zip(costs, rise, strict=True)]
    order = sorted(range(len(answers)), key=behind.__getitem__)
    return tuple(answers[k] for k in order)


def _searched(
    request: MatchRequest, bases: Sequence[Sequence[Spot]], should_continue: Callable[[], bool]
) -> Iterator[tuple[tuple[Recipe, ...], int]]:
    """Yield the recipes so far, and in how many steps about all are found."""
    paints, limits, look, base = request.paints, request.limits, request.look, request.bases[0]
    starts = [SearchStart(spots, limits, number) for number, spots in enumerate(bases)]
    if request.rescue:
        starts += covered_starts(bases[0], paints, limits, look, base)
    places = len({spot.place for spot in bases[0]})
    steps = ramp_steps(places, limits, request.towards) * len(starts)
    how = (paints, look, should_continue, base, request.towards, request.over)
    for recipes in ramps_from(starts, *how):
        yield recipes, steps


def hindrance(
    request: MatchRequest,
    answer: Recipe,
    should_continue: Callable[[], bool] = lambda: True,
    starts: Sequence[Sequence[Spot]] | None = None,
) -> tuple[WhyNot, Target] | tuple[None, None]:
    """Return what stands in the way at the worst target of an answer, if that is far off, and it.

    starts : as `spots_on` tells of each base, where that is known.
    """
    worst = int(np.argmax(answer.delta_e))
    if answer.delta_e[worst] <= MET_DE00:
        return None, None
    known = starts or [
        spots_on(base, request.targets, request.held, request.now) for base in request.bases
    ]
    why = _why(request, known[answer.base][worst], should_continue)
    return (None, None) if why is None else (why, in_order(request.targets)[worst])


def _why(request: MatchRequest, spot: Spot, should_continue: Callable[[], bool]) -> WhyNot | None:
    """Return what stands in the way of one spot by itself."""
    limits = changed(request.limits, coats=min(request.limits.coats, _ALONE))
    # A ramp is laid without special paints, so without those it is what stands in the way; they
    # may still be what helps.
    special = [p for p in request.paints if p.kind in SPECIAL and len(request.targets) > 1]
    plain = tuple(p for p in request.paints if p not in special)
    context = context_of(changed(request, limits=limits, paints=plain), spot)
    catalogue = (*(p for p in special if p.kind == "fluorescent"), *request.catalogue)
    alone = nearest_alone(context, spot, should_continue)
    if alone is None or not should_continue():
        return None
    if alone.mean <= MET_DE00:
        return WhyNot((0.0, 0.0, 0.0), (Obstacle(Reason.NEIGHBOURS, alone.mean),))
    white = now_on(Passage("white", ground=Ground("white")), {}, spot.place, spot.relief)
    return why_not(context, alone.coats, spot.lab, white, catalogue, should_continue)
