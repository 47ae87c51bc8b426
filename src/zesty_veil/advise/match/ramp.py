"""Match along the axis: wanted colours from light to far, and coats that lead to them.

Painters lay no recipe for each place. They lay one stack, of which each coat reaches less far than
the one before: from the light outward, from the far end inward, or both from a middle tone. What
each may do is told by the rules of `recipe`. Ridge and recess of a place are one step of it: the
same coats lie on both.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from dataclasses import replace as changed

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.choices import thinner_of, tools_for
from zesty_veil.advise.match.context import ANYWHERE, MatchContext
from zesty_veil.advise.match.grounds import dark_grounds, light_grounds, sketches, white_ground
from zesty_veil.advise.match.laying import Laying, unlike
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.pareto import Objectives, objectives, plainest_first
from zesty_veil.advise.match.rampproblem import RampProblem, Spot, near_enough
from zesty_veil.advise.match.recipe import Easel
from zesty_veil.advise.match.scheme import Laid, Scheme, coats_of, effort
from zesty_veil.advise.match.shortlist import near_mixtures
from zesty_veil.advise.match.tuning import Manner, Ways
from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lch
from zesty_veil.light.gamut import most_chroma
from zesty_veil.light.grid import Array
from zesty_veil.paint.kinds import SPECIAL
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import with_feather, with_span
from zesty_veil.plan.model import MOST_PASSES, Coat, Passage
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.thresholds import GREYISH_CHROMA, SKETCHED_L, WHITE_COVER_L
from zesty_veil.tr import tr

MOST_RAMP_TARGETS = 9
# How much the painter's effort counts: to come near, to weigh both, to be done soon.
_NEAR, _FAIR, _PLAIN = 0.15, 0.5, 1.6
# So many recipes of each way to lay are begun; so many of all are tuned, so many of those once
# more, and so many made plainer: of all orders of work, or of one that is given.
_BEGUN = 3
_ROUNDS, _ROUNDS_OF_ONE = (5, 2, 2), (3, 1, 1)
# So many mixtures are tried for each colour wanted, on each ground.
_MIXTURES = 12
# Brighter than this, or clearer by so much than screens are, nothing is that doesn't glow.
_BRIGHTEST, _CLEARER = 97.5, 10.0
# A far end this near to what is wanted, dE00, needs no films.
_STAYS = 2.0
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


@dataclass(frozen=True)
class RampWay:
    """Coats that lead to a ramp, from the ground up, and what they cost.

    delta_e : dE00 at each target. weighed : the same, and more where a clear colour has come dull;
    none where that is the same. sensitivity : by how much an ordinary hand strays on average,
    dE00. effort : as `recipe.effort`. start : which of the grounds it starts from, where there
    were several to choose from.
    """

    coats: tuple[Coat, ...]
    delta_e: tuple[float, ...]
    minutes: float
    pots: int
    sensitivity: float
    effort: float
    start: int = 0
    recipe: Scheme = field(default=(), compare=False, repr=False)
    weighed: tuple[float, ...] = field(default=(), compare=False, repr=False)

    @property
    def mean(self) -> float:
        """Mean dE00 over the targets."""
        return float(np.mean(self.delta_e))

    @property
    def off(self) -> float:
        """Root of the mean square of dE00, or half of the worst: no place may stay far off."""
        by = self.weighed or self.delta_e
        return max(float(np.sqrt(np.mean(np.square(by)))), max(by) / 2)

    @property
    def aims(self) -> Objectives:
        """What is made small."""
        return objectives(self.off, self.pots, self.minutes, self.sensitivity)


def ramp_ways(
    spots: Sequence[Spot],
    paints: Sequence[Paint],
    limits: Limits,
    look: ViewingConditions,
    should_continue: Callable[[], bool] = lambda: True,
    passage: Passage = ANYWHERE,
    only: Manner | None = None,
    over: tuple[Coat, ...] = (),
) -> Iterator[tuple[RampWay, ...]]:
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
    glows = any(_beyond_paint(spot.lab) for spot in spots)
    usable = [p for p in paints if p.kind not in SPECIAL or (glows and p.kind == "fluorescent")]
    options = _options(usable, [spot.lab for spot in spots], limits)
    if not options:
        return
    reliefs = sorted({spot.relief for spot in spots})
    # Over metal every film is worked out for straight beams too, so one such ground says it.
    ground = next((s.ground for s in spots if s.ground.mirror is not None), spots[0].ground)
    benches = {r: MatchContext(ground, paints, limits, look, r, passage) for r in reliefs}
    easel = Easel(
        RampProblem(spots, benches, {}, over).with_options(options), only in {"white", "over"}
    )
    there = near_enough(spots)
    # One colour may be there already, or so far away that nothing leads nearer.
    found: list[Scheme] = [()] if easel.last == 0 else []
    told: dict[Scheme, RampWay] = {recipe: _way(recipe, easel) for recipe in found}
    if not should_continue():
        return
    yield tuple(told.values())
    begun: list[Scheme] = []
    all_ways = _ways(easel, usable, only)
    for ways in all_ways:
        best: list[Scheme] = []
        for recipes in Laying(easel, ways, _FAIR).grown(should_continue):
            best = recipes
            yield tuple(told.values())
        begun += unlike(best)[:_BEGUN]
        if easel.last == 0:
            begun += _of_each_length(best)
    ends = dict.fromkeys(end for ways in all_ways for end in ways.towards)
    free = changed(all_ways[0], towards=tuple(ends), grounds=())
    fair = list(dict.fromkeys(begun))
    tuned, again, plainer = _rounds(only)
    stages = [(_NEAR, fair, tuned, 1), (_NEAR, found, again, 1), (_PLAIN, found, plainer, 1)]
    if easel.last == 0:
        stages = [(_NEAR, fair, len(fair), 2), (_PLAIN, found, len(fair), 1)]
    for thrift, among, count, sweeps in stages:
        laying = Laying(easel, free, thrift)
        for recipe in sorted(among, key=lambda r: easel.weight(r, thrift))[:count]:
            if not should_continue():
                return
            # A glow's many passes are put in where it pays most: into what is best by then.
            put_in = among is found or not limits.again
            done = laying.finished(recipe, should_continue, sweeps, put_in)
            if done not in found:
                found.append(done)
                told[done] = _way(done, easel)
            yield plainest_first([told[each] for each in _by_rule(found, easel)], there)


def _beyond_paint(lab: Array) -> bool:
    """Tell whether a colour is clearer or brighter than any screen has it: so are those that glow.

    lab : (3,) CIELAB.
    """
    L, C, h = lch(lab)
    return bool(L > _BRIGHTEST or most_chroma(np.minimum(L, 99.0), h) + _CLEARER < C)


def _of_each_length(recipes: Sequence[Scheme]) -> list[Scheme]:
    """Return the best recipe of each number of coats: at one place all of them are soon tuned."""
    return list({len(recipe): recipe for recipe in reversed(recipes) if recipe}.values())


def _by_rule(found: Sequence[Scheme], easel: Easel) -> list[Scheme]:
    """Return the recipes that break no painter's rule, or as few as any if all break some."""
    costs = [sum(b.cost for b in easel.breaches(recipe)) for recipe in found]
    return [r for r, cost in zip(found, costs, strict=True) if cost == min(costs)]


def _rounds(only: Manner | None) -> tuple[int, int, int]:
    """Return how many recipes are tuned, how many once more, and how many are made plainer.

    Where the order of work is given, the best recipes are near each other from the first.
    """
    return _ROUNDS if only is None else _ROUNDS_OF_ONE


def ramp_steps(places: int, limits: Limits, only: Manner | None = None) -> int:
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


def _ways(easel: Easel, paints: Sequence[Paint], only: Manner | None) -> list[Ways]:
    """Return how a ramp may be laid: from either end, from a middle tone, or by an order of work.

    white : white under all of it, if what is there is not white, then outward. sketch : white
    further and further in, then darker outward. inward, spot : dark first, then lighter steps.
    over : steps to either end, over what is there, which stays. beyond : beyond the first place
    alone, with a dark in the middle if need be.
    """
    if only == "light":
        return [Ways(("light",))]
    if only == "over":
        # Where the far end is wanted as it is, only lights are laid; nothing hides what is there.
        lights = Ways(("light",), whole=False)
        stays = easel.walk(()).off[easel.steps == easel.last].max() < _STAYS
        return [lights] if stays else [lights, changed(lights, towards=("far", "light"))]
    if only == "beyond":
        return [Ways(("far",), whole=False, bands=True)]
    if only in ("inward", "spot"):
        # Spots lie on a dark, too: where it is not there yet, it is laid first.
        return [Ways(("light",), tuple(dark_grounds(easel, paints)), not _bright(easel))]
    light = tuple(g for g in light_grounds(easel, paints) if not easel.breaches((g,), False))
    if only == "white":
        bare = _bright(easel) or not _glows(easel)
        return [Ways(("far",), _whites(light, paints), bare)]
    if only == "sketch":
        sketch, spared = sketches(easel, paints)
        return [Ways(("far",), sketch, not sketch, spared)]
    far = Ways(("far",), light, bands=easel.last > 1)
    if only == "far" or easel.last == 0:
        return [far]
    both = Ways(("far", "light"), light, bands=True)
    return [changed(far, touches=True), Ways(("light",), light), both]


def _whites(grounds: Sequence[Laid], paints: Sequence[Paint]) -> tuple[Laid, ...]:
    """Return the grounds that are white, and not only light."""
    named = {paint.name: paint for paint in paints}
    return tuple(g for g in grounds if white_ground(g.coat.mixture.parts, named))


def _glows(easel: Easel) -> bool:
    """Tell whether any colour is wanted for which white below pays: a light one, or a clear one."""
    L, C, _ = lch(easel.wanted).T
    return bool(((C > GREYISH_CHROMA) | (L > SKETCHED_L)).any())


def _bright(easel: Easel) -> bool:
    """Tell whether what is there is white, all along."""
    return bool((easel.walk(()).labs[:, 0] > WHITE_COVER_L).all())


def _options(paints: Sequence[Paint], wanted: Sequence[np.ndarray], limits: Limits) -> list[Coat]:
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


def _way(recipe: Scheme, easel: Easel) -> RampWay:
    """Return a recipe as coats with spans and feathers."""
    places = [step[0].place for step in easel.course.steps]
    coats = []
    for laid in recipe:
        start, end, feather = 0.0, 1.0, [0.0, 0.0]
        if laid.first > 0:
            start, feather[0] = places[laid.first], places[laid.first] - places[laid.first - 1]
        if laid.last < easel.last:
            end, feather[1] = places[laid.last], places[laid.last + 1] - places[laid.last]
        coats.append(with_feather(with_span(laid.coat, start, end), *feather))
    coats = joined_coats(coats)
    minutes = easel.course.bench.minutes(tuple(coats))
    walk = easel.walk(recipe)
    weighed, off = (tuple(float(v) for v in by) for by in (walk.off, easel.plain_off(walk.labs)))
    pots = len({coat.mixture for coat in coats_of(recipe)})
    return RampWay(
        tuple(coats), off, minutes, pots, easel.strays(recipe), effort(recipe), recipe=recipe,
        weighed=weighed,
    )  # fmt: skip
