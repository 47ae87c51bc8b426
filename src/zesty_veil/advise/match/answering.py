"""A recipe as it is laid on its base: with even feathers, soft ends, and what it comes to there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace as changed
from functools import partial

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.along import falling, farthest_along, in_order
from zesty_veil.advise.match.blending import harsh_at, softened
from zesty_veil.advise.match.context import MatchContext
from zesty_veil.advise.match.difference import and_dull, clear_chroma
from zesty_veil.advise.match.recipe import MatchRequest, Recipe
from zesty_veil.advise.match.rescue import (
    covers,
    now_on,
)
from zesty_veil.advise.match.spots import Spot
from zesty_veil.advise.match.waywords import rough_words, way_words
from zesty_veil.light.grid import Array
from zesty_veil.paint.laydown import RELIEF
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Ground, Lab, Passage, Target
from zesty_veil.plan.thickness import um_at
from zesty_veil.predict.contribution import contribution
from zesty_veil.predict.field import predict
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.named import region_of
from zesty_veil.predict.targets import off_target
from zesty_veil.thresholds import HIDDEN_DE00

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


def _there(base: Passage, now: Sequence[Lab], number: int) -> Passage:
    """Return a passage as it is at one of its targets, by what is known of it."""
    return replace(base, ground=Ground("white", measured=now[number]), coats=()) if now else base


def context_of(request: MatchRequest, spot: Spot) -> MatchContext:
    how = (request.paints, request.limits, request.look)
    return MatchContext(spot.ground, *how, spot.relief, request.bases[0])


def answered(
    found: Recipe, starts: Sequence[Sequence[Spot]], request: MatchRequest, soft: bool
) -> Recipe:
    """Return a recipe as it is laid on its base: with even feathers, and if `soft` soft ends."""
    here, limits = request.bases[found.base], request.limits
    context = context_of(request, starts[found.base][0])
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


def weighed(request: MatchRequest, base: Passage, coats: tuple[Coat, ...]) -> Recipe:
    """Return coats that somebody chose as a recipe for what is wanted, on a passage as base."""
    spots = spots_on(base, request.targets, request.held, request.now)
    strays = []
    for spot in spots:
        context = context_of(request, spot)
        here = tuple(c for c in coats if c.span[0] <= spot.place <= c.span[1])
        strays.append(context.sensitivity(here, spot.ground))
    words, there = way_words(coats, context.paints), changed(request, bases=(base,))
    chosen = Recipe(coats, (), 0.0, 0, float(np.mean(strays)), words=words)
    number = request.bases.index(base) if base in request.bases else 0
    return changed(_laid(there, chosen, coats, context, soft=True), base=number)


def _same(one: StackOptics, other: StackOptics) -> bool:
    if (one.mirror is None) != (other.mirror is None) or one.R.sources != other.R.sources:
        return False
    entries = [(*state.R.d, state.R.U, state.R.V, state.finish) for state in (one, other)]
    pairs = list(zip(*entries, strict=True))
    if one.mirror is not None and other.mirror is not None:
        pairs.append((one.mirror, other.mirror))
    return all(np.array_equal(a, b) for a, b in pairs)
