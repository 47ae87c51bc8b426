"""A request for colours on a passage, and the ways there: one call for one colour or a ramp.

It is what the command line, the window and the planner of glows ask.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace as changed
from functools import partial

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.along import cost_along, falling, farthest_along, in_order
from zesty_veil.advise.match.blending import harsh_at, softened
from zesty_veil.advise.match.context import MatchContext
from zesty_veil.advise.match.difference import and_dull, clear_chroma
from zesty_veil.advise.match.obstacle import Obstacle, Reason, WhyNot
from zesty_veil.advise.match.ramp import ramp_steps
from zesty_veil.advise.match.recipe import Answers, MatchRequest, Recipe
from zesty_veil.advise.match.rescue import (
    covered_starts,
    covers,
    now_on,
)
from zesty_veil.advise.match.spots import Spot, near_enough
from zesty_veil.advise.match.starts import SearchStart, ramps_from
from zesty_veil.advise.match.waywords import rough_words, way_words
from zesty_veil.advise.match.whynot import nearest_alone, why_not
from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array
from zesty_veil.paint.kinds import SPECIAL
from zesty_veil.paint.laydown import RELIEF
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Ground, Lab, Passage, Target
from zesty_veil.plan.thickness import um_at
from zesty_veil.predict.contribution import contribution
from zesty_veil.predict.field import predict
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.named import region_of
from zesty_veil.predict.targets import off_target
from zesty_veil.thresholds import AS_NEAR_DE00, HIDDEN_DE00, MET_DE00, RISES_VALUES
from zesty_veil.tr import tr

# By itself a colour this near is reached; more than so many coats for it alone is not looked for.
_NEAR, _ALONE = 1.5, 3
# So much of the work is done when all ways are found, but their ends are not soft yet.
_SOUGHT = 0.85
# For soft ends a way may lead so much farther from what is wanted, dE00; or, if need be, more.
_WORSE = (0.5, 1.2, 2.7, 4.0)


def spots_on(
    base: Passage, targets: Sequence[Target], held: Sequence[Paint], now: Sequence[Lab] = ()
) -> tuple[Spot, ...]:
    """Return targets, in order, with what is there on a passage at their places.

    now : the colours that are there, where no coats say so.
    """
    paints = {paint.name: paint for paint in held}
    known: dict[float, list[StackOptics]] = {}
    out = []
    for number, target in enumerate(in_order(targets)):
        relief = RELIEF[target.site]
        there = _there(base, now, number)
        state = now_on(there, paints, target.place, relief)
        # Where the ground is the same all along, one object says so, and one search serves all.
        alike = [s for s in known.get(relief, []) if _same(s, state)]
        if not alike:
            known.setdefault(relief, []).append(state)
        ground = alike[0] if alike else state
        region = region_of(target.words) if target.words else None
        under = um_at(there.coats, target.place, paints)
        out.append(Spot(target.place, np.array(target.lab), ground, relief, region, under))
    return tuple(out)


def _spots(request: MatchRequest) -> list[tuple[Spot, ...]]:
    """Return what is wanted on each of the bases; what is rescued has its paint whatever comes."""
    wanted = request.targets, request.held, request.now
    every = [spots_on(base, *wanted) for base in request.bases]
    if request.rescue:
        every = [tuple(changed(spot, under=0.0) for spot in spots) for spots in every]
    return every


def _there(base: Passage, now: Sequence[Lab], number: int) -> Passage:
    """Return a passage as it is at one of its targets, by what is known of it."""
    return replace(base, ground=Ground("white", measured=now[number]), coats=()) if now else base


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
            way: _answer(way, starts, request, soft=False) for way in ways if way not in known
        }
        best = tuple(known[way] for way in ways)
        yield Answers(best, min(count / steps, _SOUGHT))
    if not should_continue():
        return
    for k, way in enumerate(ways):
        best = (*best[:k], _answer(way, starts, request, soft=True), *best[k + 1 :])
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


def _context(request: MatchRequest, spot: Spot) -> MatchContext:
    how = (request.paints, request.limits, request.look)
    return MatchContext(spot.ground, *how, spot.relief, request.bases[0])


def _answer(
    found: Recipe, starts: Sequence[Sequence[Spot]], request: MatchRequest, soft: bool
) -> Recipe:
    """Return a recipe as it is laid on its base: with even feathers, and if `soft` soft ends."""
    here, limits = request.bases[found.base], request.limits
    context = _context(request, starts[found.base][0])
    coats = _softened(request, here, (*found.coats, *request.over), soft)
    if soft and limits.minutes is not None and context.minutes(coats) > limits.minutes:
        coats = _softened(request, here, (*found.coats, *request.over), False)
    if soft and len(request.targets) > 1 and not request.now:
        passage = replace(here, coats=(*here.coats, *coats), targets=in_order(request.targets))
        if not request.rescue:
            passage = falling(passage, len(here.coats), _all_paints(request), request.look)
        passage = _seen_alone(passage, len(here.coats), request)
        coats = passage.coats[len(here.coats) :]
    words = way_words(coats[: len(coats) - len(request.over)], context.paints)
    if len(request.targets) == 1:
        words = " ".join((words, *rough_words(breach.rule for breach in found.rough)))
    return changed(_laid(request, found, coats, context, soft), words=words)


def _seen_alone(passage: Passage, first: int, request: MatchRequest) -> Passage:
    """Return a passage without coats of which nothing shows, from number `first` on.

    A soft end is laid in thinner passes, and what shone through before may hide it then.
    """
    last = len(passage.coats) - len(request.over)
    for k in reversed(range(first, last)):
        if contribution(passage, _all_paints(request), k, request.look).most < HIDDEN_DE00:
            passage = replace(passage, coats=(*passage.coats[:k], *passage.coats[k + 1 :]))
    return passage


def _laid(
    request: MatchRequest, found: Recipe, coats: tuple[Coat, ...], context: MatchContext, soft: bool
) -> Recipe:
    """Return a recipe with other coats, and what they come to on its base.

    soft : whether to look between the targets, too, for which there must be coats all along.
    """
    here, targets = request.bases[found.base], in_order(request.targets)
    passage = replace(here, coats=(*here.coats, *coats), targets=targets)
    labs = _seen(request, passage)
    off = tuple(off_target(target, lab) for target, lab in zip(targets, labs, strict=True))
    worst, rises = max(off), 0.0
    if soft and len(targets) > 1 and not request.now:
        worst, rises = farthest_along(passage, _all_paints(request), request.look)
    return changed(
        found,
        coats=coats,
        delta_e=off,
        weighed=(),
        minutes=context.minutes(coats),
        pots=len({coat.mixture for coat in coats}),
        covers=covers(context, tuple(coat for coat in coats if coat.span == (0.0, 1.0))),
        lab=labs[0] if len(labs) == 1 else None,
        worst=worst,
        rises=rises,
    )


def _all_paints(request: MatchRequest) -> dict[str, Paint]:
    return {paint.name: paint for paint in (*request.held, *request.paints)}


def _seen(request: MatchRequest, whole: Passage) -> list[Array]:
    """Return what a passage comes to at each target, (3,) CIELAB, feathers and all.

    On a short passage the soft edge of a stroke reaches the next place.
    """
    paints = _all_paints(request)
    targets = in_order(request.targets)
    if request.now:
        laid = whole.coats[len(request.bases[0].coats) :]
        each = (replace(_there(whole, request.now, i), coats=laid) for i in range(len(targets)))
        return [
            predict(on, paints, np.array([t.place]), np.array([RELIEF[t.site]]), request.look).lab[
                0, 0
            ]
            for on, t in zip(each, targets, strict=True)
        ]
    reliefs = sorted({RELIEF[target.site] for target in targets})
    places = np.array([target.place for target in targets])
    seen = predict(whole, paints, places, np.array(reliefs), request.look).lab
    return [
        row[reliefs.index(RELIEF[target.site])] for row, target in zip(seen, targets, strict=True)
    ]


def _rms(request: MatchRequest, whole: Passage) -> float:
    """Return how far a passage is from all targets, root of the mean square, as `and_dull`."""
    squares = []
    for target, lab in zip(in_order(request.targets), _seen(request, whole), strict=True):
        clear = 0.0 if target.words else clear_chroma(np.array(target.lab))
        squares.append(and_dull(np.array(off_target(target, lab)), lab, clear) ** 2)
    return float(np.sqrt(np.mean(squares)))


def _near(request: MatchRequest, limit: float, whole: Passage) -> bool:
    return _rms(request, whole) <= limit


def _softened(
    request: MatchRequest, base: Passage, coats: tuple[Coat, ...], soft: bool
) -> tuple[Coat, ...]:
    """Return coats whose passes run evenly over their feathers, if `soft` in thinner ones."""
    paints = _all_paints(request)
    whole, first = replace(base, coats=(*base.coats, *coats)), len(base.coats)
    left = request.limits.passes - sum(coat.passes for coat in coats)
    before = _rms(request, whole)
    for i, coat in enumerate(coats, first):
        if coat.feather == (0.0, 0.0):
            continue
        for worse in _WORSE if soft else (0.0,):
            most = coat.passes + left if soft else 0
            near = partial(_near, request, before + worse)
            now = softened(whole, i, paints, request.look, most, near)
            tried = replace(whole, coats=(*whole.coats[:i], now, *whole.coats[i + 1 :]))
            if not (soft and harsh_at(tried, i, paints, request.look)):
                break
        whole, left = tried, left - (now.passes - coat.passes)
    return whole.coats[first:]


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
    context = _context(changed(request, limits=limits, paints=plain), spot)
    catalogue = (*(p for p in special if p.kind == "fluorescent"), *request.catalogue)
    alone = nearest_alone(context, spot, should_continue)
    if alone is None or not should_continue():
        return None
    if alone.mean <= MET_DE00:
        return WhyNot((0.0, 0.0, 0.0), (Obstacle(Reason.NEIGHBOURS, alone.mean),))
    white = now_on(Passage("white", ground=Ground("white")), {}, spot.place, spot.relief)
    return why_not(context, alone.coats, spot.lab, white, catalogue, should_continue)


def _same(one: StackOptics, other: StackOptics) -> bool:
    if (one.mirror is None) != (other.mirror is None) or one.R.sources != other.R.sources:
        return False
    entries = [(*state.R.d, state.R.U, state.R.V, state.finish) for state in (one, other)]
    pairs = list(zip(*entries, strict=True))
    if one.mirror is not None and other.mirror is not None:
        pairs.append((one.mirror, other.mirror))
    return all(np.array_equal(a, b) for a, b in pairs)


def weighed(request: MatchRequest, base: Passage, coats: tuple[Coat, ...]) -> Recipe:
    """Return coats that somebody chose as a recipe for what is wanted, on a passage as base."""
    spots = spots_on(base, request.targets, request.held, request.now)
    strays = []
    for spot in spots:
        context = _context(request, spot)
        here = tuple(c for c in coats if c.span[0] <= spot.place <= c.span[1])
        strays.append(context.sensitivity(here, spot.ground))
    words, there = way_words(coats, context.paints), changed(request, bases=(base,))
    chosen = Recipe(coats, (), 0.0, 0, float(np.mean(strays)), words=words)
    number = request.bases.index(base) if base in request.bases else 0
    return changed(_laid(there, chosen, coats, context, soft=True), base=number)
