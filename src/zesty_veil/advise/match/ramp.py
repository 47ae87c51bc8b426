"""Match along the axis: wanted colours from light to far, and coats that lead to them.

Painters have no recipe for each place. They lay one stack, of which each coat reaches less far than
the one before: from the light outward, from the far end inward, or both from a middle tone. What
each may do is told by the rules of `judge`. Ridge and recess of a place are one step of it: the
same coats lie on both.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import replace as changed
from functools import partial
from itertools import chain

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.beam import Beam, unlike
from zesty_veil.advise.match.candidate import Candidate, coats_of
from zesty_veil.advise.match.choices import thinner_of, tools_for
from zesty_veil.advise.match.context import ANYWHERE, MatchContext
from zesty_veil.advise.match.difference import delta_e
from zesty_veil.advise.match.judge import total_cost
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.orders import orders_of_work
from zesty_veil.advise.match.pareto import plainest_first
from zesty_veil.advise.match.problem import Problem
from zesty_veil.advise.match.recipe import Recipe
from zesty_veil.advise.match.shortlist import near_mixtures, solid_looks
from zesty_veil.advise.match.spots import Spot, near_enough
from zesty_veil.advise.match.tuning import WorkOrder
from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lch
from zesty_veil.light.gamut import most_chroma
from zesty_veil.light.grid import Array
from zesty_veil.light.region import Region
from zesty_veil.paint.kinds import SPECIAL
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import with_feather, with_span
from zesty_veil.plan.model import MOST_PASSES, Coat, Passage
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.tr import tr

MOST_RAMP_TARGETS = 9
# How much the painter's effort counts: to come near, to weigh both, to be done soon.
_NEAR, _FAIR, _PLAIN = 0.15, 0.5, 1.6
# So many candidates of each way to lay are begun, of so many that are judged; so many of all are
# tuned, so many of those once more, and so many made plainer: of all orders of work, or of one that
# is given.
_BEGUN, _JUDGED = 3, 30
_ROUNDS, _ROUNDS_OF_ONE = (5, 2, 2), (3, 1, 1)
# So many mixtures are tried for each colour wanted, on each ground.
_MIXTURES = 12
# Brighter than this, or clearer by so much than screens are, nothing is that doesn't glow.
_BRIGHTEST, _CLEARER = 97.5, 10.0
_LIKE_IT = 8.0  # a paint so near a colour, dE00, is of its kind
# Thinnings of water and passes that are tried first, by tool, for one paint and for a mixture.
_Variants = dict[str, tuple[tuple[float, tuple[int, ...]], ...]]
_SINGLE: _Variants = {
    "loaded": ((0.5, (1, 2, 3)), (1.0, (1, 2, 3))),
    "glaze": ((2.0, (2, 4)), (4.0, (2, 4)), (7.0, (2,))),
    "wash": ((0.0, (1, 2)), (1.0, (1,))),
    "contrast": ((0.0, (1,)), (1.0, (1, 2))),
    "airbrush": ((1.0, (2, 4)), (3.0, (2, 4))),
    "sponge": ((1.0, (2, 4)),),
    "stipple": ((0.5, (2, 4)),),
}
_MIXED: _Variants = {
    **_SINGLE,
    "loaded": ((0.5, (1, 2)), (1.0, (1,))),
    "glaze": ((2.0, (2, 4)), (7.0, (2,))),
}
_OTHER = ((1.0, (1, 2)),)


def ramp_ways(
    spots: Sequence[Spot],
    paints: Sequence[Paint],
    limits: Limits,
    look: ViewingConditions,
    should_continue: Callable[[], bool] = lambda: True,
    passage: Passage = ANYWHERE,
    only: WorkOrder | None = None,
    over: tuple[Coat, ...] = (),
) -> Iterator[tuple[Recipe, ...]]:
    """Yield the ways to a ramp found so far, none at first, then better and better.

    The plainest of those that are about as near as the nearest stands first.

    Parameters
    ----------
    spots
        What is wanted where, in rising order of place; of at most `MOST_RAMP_TARGETS` places.
    paints, limits, look
        What may be used and done, and how it is looked at.
    should_continue
        Asked between the steps; when it says no, nothing more is yielded.
    passage
        Whose size tells how long a coat takes.
    only
        The end that later coats draw back to, or a painter's order of work; none to try all.
    over
        Coats that will lie over all, on top of those found; the limits do not count them.

    Raises
    ------
    InputError
        If there is no target, or too many, or their places do not rise.
    """
    _check(spots)
    # A metal is never chosen for its colour, nor what glows, but where nothing else is as bright.
    glows = any(_beyond_paint(spot.lab, paints) for spot in spots)
    usable = [p for p in paints if p.kind not in SPECIAL or (glows and p.kind == "fluorescent")]
    wanted = [spot.lab if spot.region is None else spot.region for spot in spots]
    options = _options(usable, wanted, limits)
    if not options:
        return
    reliefs = sorted({spot.relief for spot in spots})
    # Over metal every film is worked out for straight beams too, so one such ground says it.
    ground = next((s.ground for s in spots if s.ground.mirror is not None), spots[0].ground)
    contexts = {r: MatchContext(ground, paints, limits, look, r, passage) for r in reliefs}
    problem = Problem(spots, contexts, options, over, clean=only in {"white", "over"})
    there = near_enough(spots)
    # One colour may be there already, or so far away that nothing leads nearer.
    found: list[Candidate] = [()] if problem.last == 0 else []
    told: dict[Candidate, Recipe] = {candidate: _recipe(candidate, problem) for candidate in found}
    if not should_continue():
        return
    yield tuple(told.values())
    begun: list[Candidate] = []
    orders = orders_of_work(problem, usable, only)
    for allowed in orders:
        best: list[Candidate] = []
        for candidates in Beam(problem, allowed, _FAIR).grown(should_continue):
            best = candidates
            yield tuple(told.values())
        begun += unlike(_in_turn(best[:_JUDGED], problem, _FAIR))[: 2 * _BEGUN]
        if problem.last == 0:
            begun += _of_each_length(best)
    ends = dict.fromkeys(end for allowed in orders for end in allowed.towards)
    free = changed(orders[0], towards=tuple(ends), grounds=())
    begun = list(dict.fromkeys(begun))
    tuned, again, plainer = _rounds(only)
    stages = [(_NEAR, begun, tuned, 1), (_NEAR, found, again, 1), (_PLAIN, found, plainer, 1)]
    if problem.last == 0:
        stages = [(_NEAR, begun, len(begun), 2), (_PLAIN, found, len(begun), 1)]
    for effort_weight, among, count, sweeps in stages:
        beam = Beam(problem, free, effort_weight)
        for candidate in _in_turn(among, problem, effort_weight)[:count]:
            if not should_continue():
                return
            # A glow's many passes are put in where it pays most: into what is best by then.
            put_in = among is found or not limits.again
            done = beam.finished(candidate, should_continue, sweeps, put_in)
            if done not in found:
                found.append(done)
                told[done] = _recipe(done, problem)
            yield plainest_first([told[each] for each in _by_rule(found, problem)], there)


def _in_turn(
    candidates: Sequence[Candidate], problem: Problem, effort_weight: float
) -> list[Candidate]:
    """Return candidates by turns: the nearest that breaks as few rules as any, then the nearest.

    Tuned, what breaks a rule now may be the best of all.
    """
    fair = partial(problem.charge, effort_weight=effort_weight)
    near = partial(problem.weight, effort_weight=effort_weight)
    both = zip(sorted(candidates, key=fair), sorted(candidates, key=near), strict=True)
    return list(dict.fromkeys(chain.from_iterable(both)))


def _beyond_paint(lab: Array, paints: Sequence[Paint]) -> bool:
    """Tell whether a colour is as those are that glow: clearer or brighter than on any screen.

    Where a plain paint is near it, as yellows are, it is none. lab : (3,) CIELAB.
    """
    L, C, h = lch(lab)
    if L <= _BRIGHTEST and most_chroma(np.minimum(L, 99.0), h) + _CLEARER >= C:
        return False
    plain = [(Part(paint.name),) for paint in paints if paint.kind not in SPECIAL]
    named = {paint.name: paint for paint in paints}
    near = delta_e(solid_looks(plain, named)[1], lab) < _LIKE_IT if plain else np.zeros(1)
    return not near.any()


def _of_each_length(candidates: Sequence[Candidate]) -> list[Candidate]:
    """Return the best of each number of coats: at one place all of them are soon tuned."""
    return list({len(each): each for each in reversed(candidates) if each}.values())


def _by_rule(found: Sequence[Candidate], problem: Problem) -> list[Candidate]:
    """Return the candidates that break no painter's rule, or as few as any if all break some."""
    costs = [total_cost(problem.breaches(candidate)) for candidate in found]
    return [r for r, cost in zip(found, costs, strict=True) if cost == min(costs)]


def _rounds(only: WorkOrder | None) -> tuple[int, int, int]:
    """Return how many candidates are tuned, how many once more, and how many are made plainer.

    Where the order of work is given, the best candidates are near each other from the first.
    """
    return _ROUNDS if only is None else _ROUNDS_OF_ONE


def ramp_steps(places: int, limits: Limits, only: WorkOrder | None = None) -> int:
    """Return how often `ramp_ways` yields, about."""
    ways = 3 if places > 1 and only is None else 1
    return ways * min(limits.coats, places + 1) + sum(_rounds(only))


def _check(spots: Sequence[Spot]) -> None:
    places = list(dict.fromkeys(spot.place for spot in spots))
    if not 1 <= len(places) <= MOST_RAMP_TARGETS:
        raise InputError(
            tr("A ramp has from 1 to {0} targets; this has {1}.").format(
                MOST_RAMP_TARGETS, len(places)
            )
        )
    sites = {(spot.place, spot.relief) for spot in spots}
    if places != sorted(places) or len(sites) < len(spots):
        raise InputError(
            tr("The places of a ramp's targets must rise from the light to the far end.")
        )


def _options(
    paints: Sequence[Paint], wanted: Sequence[Array | Region], limits: Limits
) -> list[Coat]:
    """Return the coats to choose from: of single paints, and of mixtures that look like a step."""
    named, out = {paint.name: paint for paint in paints}, []
    for paint in paints:
        out += _variants((Part(paint.name),), tools_for(paint, limits.tools), _SINGLE)
    if limits.mixes:
        for parts in near_mixtures(paints, wanted, _MIXTURES):
            if len(parts) > 1:
                tools = [tools_for(named[part.paint], limits.tools) for part in parts]
                out += _variants(parts, dict.fromkeys(t for each in tools for t in each), _MIXED)
    return out


def _variants(parts: tuple[Part, ...], tools: Iterable[str], table: _Variants) -> list[Coat]:
    return [
        Coat(Mixture(parts, thinner_of(thinning), thinning), tool, count)
        for tool in tools
        for thinning, passes in table.get(tool, _OTHER)
        for count in passes
    ]


def joined_coats(coats: Sequence[Coat]) -> list[Coat]:
    """Return coats, those that differ in nothing but their passes as one, where they follow."""
    out: list[Coat] = []
    for coat in coats:
        passes = coat.passes + (out[-1].passes if out else 0)
        joined = replace(coat, passes=passes)
        if out and joined == replace(out[-1], passes=passes) and passes <= MOST_PASSES:
            out[-1] = joined
        else:
            out.append(coat)
    return out


def _recipe(candidate: Candidate, problem: Problem) -> Recipe:
    """Return a candidate as coats with spans and feathers."""
    places = list(dict.fromkeys(spot.place for spot in problem.spots))
    coats = []
    for placed in candidate:
        start, end, feather = 0.0, 1.0, [0.0, 0.0]
        first, last = placed.interval
        if first > 0:
            start, feather[0] = places[first], places[first] - places[first - 1]
        if last < problem.last:
            end, feather[1] = places[last], places[last + 1] - places[last]
        coats.append(with_feather(with_span(placed.coat, start, end), *feather))
    coats = joined_coats(coats)
    minutes = problem.context.minutes(tuple(coats))
    state = problem.state(candidate)
    off, weighed = (tuple(by.tolist()) for by in (problem.plain_off(state.labs), state.off))
    pots = len({coat.mixture for coat in coats_of(candidate)})
    return Recipe(
        tuple(coats),
        off,
        minutes,
        pots,
        problem.strays(candidate),
        problem.effort(candidate),
        problem.rough(candidate),
        problem.beside(state.labs),
        weighed=weighed,
    )
