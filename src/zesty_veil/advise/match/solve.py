"""A wish for colours on a passage, and the ways there: one call for one colour or a ramp.

It is what the command line, the window and the planner of glows ask.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from dataclasses import replace as changed
from functools import partial

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.along import cost_along, falling, farthest_along, in_order
from zesty_veil.advise.match.blending import harsh_at, softened
from zesty_veil.advise.match.context import MatchContext
from zesty_veil.advise.match.difference import and_dull, clear_chroma
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.ramp import RampWay, ramp_steps
from zesty_veil.advise.match.rampproblem import Spot
from zesty_veil.advise.match.rescue import (
    MOST_COVERS,
    covers,
    now_on,
    rescue_ramps,
)
from zesty_veil.advise.match.starts import ramps_from
from zesty_veil.advise.match.tuning import Manner
from zesty_veil.advise.match.waywords import way_words
from zesty_veil.advise.match.whynot import Obstacle, Reason, WhyNot, nearest_alone, why_not
from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array
from zesty_veil.paint.kinds import SPECIAL
from zesty_veil.paint.laydown import RELIEF
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Ground, Lab, Passage, Target
from zesty_veil.predict.field import predict
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.named import region_of
from zesty_veil.predict.targets import off_target
from zesty_veil.thresholds import MET_DE00, RISES_VALUES
from zesty_veil.tr import tr

# By itself a colour this near is reached; more than so many coats for it alone is not looked for.
_NEAR, _ALONE = 1.5, 3
# So much of the work is done when all ways are found, but their ends are not soft yet.
_SOUGHT = 0.85
# For soft ends a way may lead so much farther from what is wanted, dE00; or, if need be, more.
_WORSE = (0.5, 1.2, 2.7, 4.0)


@dataclass(frozen=True)
class MatchRequest:
    """What is wanted, where, from what, with what.

    bases : what may be started from; each a passage with only those coats that stay. held : the
    paints of those coats. targets : of one place or more, up to `MOST_TARGETS` places.
    rescue : whether covering first is compared with going on; for one base. catalogue : paints
    that might be bought, where nothing comes near. towards : the end of a ramp that later coats
    draw back to, if only one will do. reasons : whether to find out why nothing comes nearer.
    over : coats that lie over all of a ramp in the end; they are part of every answer. now : the
    colour that is there at each target, in their order, where that is all that is known of it.
    """

    bases: tuple[Passage, ...]
    held: tuple[Paint, ...]
    targets: tuple[Target, ...]
    paints: tuple[Paint, ...]
    limits: Limits
    look: ViewingConditions
    rescue: bool = False
    catalogue: tuple[Paint, ...] = ()
    towards: Manner | None = None
    reasons: bool = True
    over: tuple[Coat, ...] = ()
    now: tuple[Lab, ...] = ()


@dataclass(frozen=True)
class MatchAnswer:
    """Coats on one of the bases, from what stays upward, and what they cost.

    delta_e : dE00 at each target, by place and then from recess to ridge. sensitivity : by how much
    an ordinary hand strays, dE00. covers : whether nothing of what was there shows through. lab :
    where they lead, if only one colour is wanted. words : what the way does, as a sentence. worst :
    dE00 where it is farthest off, at a target or between two, along the whole axis. rises : by how
    many values it gets lighter again where it is to get darker all along.
    """

    coats: tuple[Coat, ...]
    base: int
    delta_e: tuple[float, ...]
    minutes: float
    pots: int
    sensitivity: float
    covers: bool
    lab: Array | None = None
    words: str = ""
    worst: float = 0.0
    rises: float = 0.0

    @property
    def mean(self) -> float:
        """Mean dE00 over the targets."""
        return float(np.mean(self.delta_e))


@dataclass(frozen=True)
class Answers:
    """The ways so far, the nearest first, and how much of the search is done, 0-1.

    why : in the end, why nothing comes nearer, and at which target.
    """

    ways: tuple[MatchAnswer, ...]
    share: float
    why: WhyNot | None = None
    where: Target | None = None


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
        state = now_on(_there(base, now, number), paints, target.place, relief)
        # Where the ground is the same all along, one object says so, and one search serves all.
        alike = [s for s in known.get(relief, []) if _same(s, state)]
        if not alike:
            known.setdefault(relief, []).append(state)
        ground = alike[0] if alike else state
        region = region_of(target.words) if target.words else None
        out.append(Spot(target.place, np.array(target.lab), ground, relief, region))
    return tuple(out)


def _there(base: Passage, now: Sequence[Lab], number: int) -> Passage:
    """Return a passage as it is at one of its targets, by what is known of it."""
    return replace(base, ground=Ground("white", measured=now[number]), coats=()) if now else base


def solve(
    wish: MatchRequest, should_continue: Callable[[], bool] = lambda: True
) -> Iterator[Answers]:
    """Yield ways to what is wished, better and better; the last says why there is none nearer.

    Raises
    ------
    InputError
        If nothing is wished, at too many places, or there is no paint or tool to do it with.
    """
    if not wish.targets:
        raise InputError(tr("This passage has no target yet; write a colour, or keep one with K."))
    starts = [spots_on(base, wish.targets, wish.held, wish.now) for base in wish.bases]
    best: tuple[MatchAnswer, ...] = ()
    ways: tuple[RampWay, ...] = ()
    known: dict[RampWay, MatchAnswer] = {}
    for count, (ways, steps) in enumerate(_searched(wish, starts, should_continue), 1):
        known |= {way: _answer(way, starts, wish, soft=False) for way in ways if way not in known}
        best = tuple(known[way] for way in ways)
        yield Answers(best, min(count / steps, _SOUGHT))
    if not should_continue():
        return
    for k, way in enumerate(ways):
        best = (*best[:k], _answer(way, starts, wish, soft=True), *best[k + 1 :])
        yield Answers(_falling_first(best), _SOUGHT + (0.97 - _SOUGHT) * (k + 1) / len(ways))
        if not should_continue():
            return
    best = _falling_first(best)
    if not best:
        raise InputError(
            tr("There is nothing to lay; allow more paints, tools, minutes or passes.")
        )
    why = hindrance(wish, best[0], should_continue, starts) if wish.reasons else (None, None)
    if should_continue():
        yield Answers(best, 1.0, *why)


def _falling_first(answers: tuple[MatchAnswer, ...]) -> tuple[MatchAnswer, ...]:
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
    wish: MatchRequest, starts: Sequence[Sequence[Spot]], should_continue: Callable[[], bool]
) -> Iterator[tuple[tuple[RampWay, ...], int]]:
    """Yield the ways so far, and in how many steps about all are found."""
    places = len({spot.place for spot in starts[0]})
    steps = ramp_steps(places, wish.limits, wish.towards) * len(starts)
    base, how = wish.bases[0], (wish.paints, wish.limits, wish.look, should_continue)
    found = ramps_from(starts, *how, base, wish.towards, wish.over)
    if wish.rescue:
        steps *= 1 + MOST_COVERS
        found = rescue_ramps(starts[0], *how, base)
    for ways in found:
        yield ways, steps


def _bench(wish: MatchRequest, spot: Spot) -> MatchContext:
    how = (wish.paints, wish.limits, wish.look)
    return MatchContext(spot.ground, *how, spot.relief, wish.bases[0])


def _answer(
    way: RampWay, starts: Sequence[Sequence[Spot]], wish: MatchRequest, soft: bool
) -> MatchAnswer:
    base = 0 if wish.rescue else way.start
    spot = starts[base][0]
    bench = _bench(wish, spot)
    whole = tuple(coat for coat in way.coats if coat.span == (0.0, 1.0))
    hides = covers(bench, whole)
    coats = _softened(wish, wish.bases[base], (*way.coats, *wish.over), soft)
    if soft and wish.limits.minutes is not None and bench.minutes(coats) > wish.limits.minutes:
        coats = _softened(wish, wish.bases[base], (*way.coats, *wish.over), False)
    targets = in_order(wish.targets)
    paints = {paint.name: paint for paint in (*wish.held, *wish.paints)}
    here = wish.bases[base]
    passage = replace(here, coats=(*here.coats, *coats), targets=targets)
    between = soft and len(targets) > 1 and not wish.now
    if between and not wish.rescue:
        passage = falling(passage, len(here.coats), paints, wish.look)
        coats = passage.coats[len(here.coats) :]
    labs = _seen(wish, passage)
    off = tuple(off_target(target, lab) for target, lab in zip(targets, labs, strict=True))
    minutes, pots = bench.minutes(coats), len({coat.mixture for coat in coats})
    words = way_words(way.coats, bench.paints)
    lab = labs[0] if len(labs) == 1 else None
    worst, rises = max(off), 0.0
    if between:
        worst, rises = farthest_along(passage, paints, wish.look)
    return MatchAnswer(
        coats, base, off, minutes, pots, way.sensitivity, hides, lab, words, worst, rises
    )


def _seen(wish: MatchRequest, whole: Passage) -> list[Array]:
    """Return what a passage comes to at each target, (3,) CIELAB, feathers and all.

    On a short passage the soft edge of a stroke reaches the next place.
    """
    paints = {paint.name: paint for paint in (*wish.held, *wish.paints)}
    targets = in_order(wish.targets)
    if wish.now:
        laid = whole.coats[len(wish.bases[0].coats) :]
        each = (replace(_there(whole, wish.now, i), coats=laid) for i in range(len(targets)))
        return [
            predict(on, paints, np.array([t.place]), np.array([RELIEF[t.site]]), wish.look).lab[
                0, 0
            ]
            for on, t in zip(each, targets, strict=True)
        ]
    reliefs = sorted({RELIEF[target.site] for target in targets})
    places = np.array([target.place for target in targets])
    seen = predict(whole, paints, places, np.array(reliefs), wish.look).lab
    return [
        row[reliefs.index(RELIEF[target.site])] for row, target in zip(seen, targets, strict=True)
    ]


def _rms(wish: MatchRequest, whole: Passage) -> float:
    """Return how far a passage is from all targets, root of the mean square, as `and_dull`."""
    squares = []
    for target, lab in zip(in_order(wish.targets), _seen(wish, whole), strict=True):
        clear = 0.0 if target.words else clear_chroma(np.array(target.lab))
        squares.append(and_dull(np.array(off_target(target, lab)), lab, clear) ** 2)
    return float(np.sqrt(np.mean(squares)))


def _near(wish: MatchRequest, limit: float, whole: Passage) -> bool:
    return _rms(wish, whole) <= limit


def _softened(
    wish: MatchRequest, base: Passage, coats: tuple[Coat, ...], soft: bool
) -> tuple[Coat, ...]:
    """Return coats whose passes run evenly over their feathers, if `soft` in thinner ones."""
    paints = {paint.name: paint for paint in (*wish.held, *wish.paints)}
    whole, first = replace(base, coats=(*base.coats, *coats)), len(base.coats)
    left = wish.limits.passes - sum(coat.passes for coat in coats)
    before = _rms(wish, whole)
    for i, coat in enumerate(coats, first):
        if coat.feather == (0.0, 0.0):
            continue
        for worse in _WORSE if soft else (0.0,):
            most = coat.passes + left if soft else 0
            near = partial(_near, wish, before + worse)
            now = softened(whole, i, paints, wish.look, most, near)
            tried = replace(whole, coats=(*whole.coats[:i], now, *whole.coats[i + 1 :]))
            if not (soft and harsh_at(tried, i, paints, wish.look)):
                break
        whole, left = tried, left - (now.passes - coat.passes)
    return whole.coats[first:]


def hindrance(
    wish: MatchRequest,
    answer: MatchAnswer,
    should_continue: Callable[[], bool] = lambda: True,
    starts: Sequence[Sequence[Spot]] | None = None,
) -> tuple[WhyNot, Target] | tuple[None, None]:
    """Return what stands in the way at the worst target of an answer, if that is far off, and it.

    starts : as `spots_on` tells of each base, where that is known.
    """
    worst = int(np.argmax(answer.delta_e))
    if answer.delta_e[worst] <= MET_DE00:
        return None, None
    known = starts or [spots_on(base, wish.targets, wish.held, wish.now) for base in wish.bases]
    why = _why(wish, known[answer.base][worst], should_continue)
    return (None, None) if why is None else (why, in_order(wish.targets)[worst])


def _why(wish: MatchRequest, spot: Spot, should_continue: Callable[[], bool]) -> WhyNot | None:
    """Return what stands in the way of one spot by itself."""
    limits = changed(wish.limits, coats=min(wish.limits.coats, _ALONE))
    # A ramp is laid without special paints, so without those it is what stands in the way; they
    # may still be what helps.
    special = [p for p in wish.paints if p.kind in SPECIAL and len(wish.targets) > 1]
    plain = tuple(p for p in wish.paints if p not in special)
    bench = _bench(changed(wish, limits=limits, paints=plain), spot)
    catalogue = (*(p for p in special if p.kind == "fluorescent"), *wish.catalogue)
    alone = nearest_alone(bench, spot, should_continue)
    if alone is None or not should_continue():
        return None
    if alone.mean <= MET_DE00:
        return WhyNot((0.0, 0.0, 0.0), (Obstacle(Reason.NEIGHBOURS, alone.mean),))
    white = now_on(Passage("white", ground=Ground("white")), {}, spot.place, spot.relief)
    return why_not(bench, alone.coats, spot.lab, white, catalogue, should_continue)


def _same(one: StackOptics, other: StackOptics) -> bool:
    if (one.mirror is None) != (other.mirror is None) or one.R.sources != other.R.sources:
        return False
    entries = [(*state.R.d, state.R.U, state.R.V, state.finish) for state in (one, other)]
    pairs = list(zip(*entries, strict=True))
    if one.mirror is not None and other.mirror is not None:
        pairs.append((one.mirror, other.mirror))
    return all(np.array_equal(a, b) for a, b in pairs)


def weighed(wish: MatchRequest, base: Passage, coats: tuple[Coat, ...]) -> MatchAnswer:
    """Return coats that somebody chose as an answer to a wish, on a passage to start from."""
    spots = spots_on(base, wish.targets, wish.held, wish.now)
    strays, whole = [], tuple(coat for coat in coats if coat.span == (0.0, 1.0))
    for spot in spots:
        bench = _bench(wish, spot)
        here = tuple(c for c in coats if c.span[0] <= spot.place <= c.span[1])
        strays.append(bench.sensitivity(here, spot.ground))
    painted = replace(base, coats=(*base.coats, *coats), targets=in_order(wish.targets))
    labs = _seen(wish, painted)
    off = tuple(off_target(target, lab) for target, lab in zip(painted.targets, labs, strict=True))
    worst, rises = farthest_along(
        painted, {p.name: p for p in (*wish.held, *wish.paints)}, wish.look
    )
    first = wish.bases.index(base) if base in wish.bases else 0
    pots = len({coat.mixture for coat in coats})
    return MatchAnswer(
        coats, first, off, bench.minutes(coats), pots, float(np.mean(strays)), covers(bench, whole),
        words=way_words(coats, bench.paints), worst=worst, rises=rises,
    )  # fmt: skip
