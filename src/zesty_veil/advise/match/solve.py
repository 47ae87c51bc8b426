"""A wish for colours on a passage, and the ways there: one call for one colour or a ramp.

It is what the command line, the window and the planner of glows ask.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from dataclasses import replace as changed

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.context import MatchContext
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.ramp import RampWay, ramp_steps
from zesty_veil.advise.match.rampproblem import Spot
from zesty_veil.advise.match.rescue import (
    MOST_COVERS,
    covers,
    now_on,
    rescue_ramps,
    rescue_ways,
)
from zesty_veil.advise.match.search import Matcher, Way
from zesty_veil.advise.match.starts import ramps_from, ways_from
from zesty_veil.advise.match.tuning import Manner
from zesty_veil.advise.match.waywords import way_words
from zesty_veil.advise.match.whynot import WhyNot, why_not
from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.paint.kinds import SPECIAL
from zesty_veil.paint.laydown import RELIEF
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Ground, Passage, Target
from zesty_veil.predict.evenfeather import even_feather
from zesty_veil.predict.field import predict
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.thresholds import MET_DE00
from zesty_veil.tr import tr

# By itself a colour this near is reached; more than so many coats for it alone is not looked for.
_NEAR, _ALONE = 1.5, 3


@dataclass(frozen=True)
class MatchRequest:
    """What is wanted, where, from what, with what.

    bases : what may be started from; each a passage with only those coats that stay. held : the
    paints of those coats. targets : of one place or more, up to `MOST_TARGETS` places.
    rescue : whether covering first is compared with going on; for one base. catalogue : paints
    that might be bought, where nothing comes near. towards : the end of a ramp that later coats
    draw back to, if only one will do. reasons : whether to find out why nothing comes nearer.
    over : coats that lie over all of a ramp in the end; they are part of every answer.
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


@dataclass(frozen=True)
class MatchAnswer:
    """Coats on one of the bases, from what stays upward, and what they cost.

    delta_e : dE00 at each target, by place and then from recess to ridge. sensitivity : by how much
    an ordinary hand strays, dE00. covers : whether nothing of what was there shows through. lab :
    where they lead, if only one colour is wanted. words : what the way does, as a sentence.
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


def in_order(targets: Sequence[Target]) -> tuple[Target, ...]:
    """Return targets from the light on, at each place from recess to ridge."""
    return tuple(sorted(targets, key=lambda t: (t.place, RELIEF[t.site])))


def spots_on(base: Passage, targets: Sequence[Target], held: Sequence[Paint]) -> tuple[Spot, ...]:
    """Return targets, in order, with what is there on a passage at their places."""
    paints = {paint.name: paint for paint in held}
    known: dict[float, list[StackOptics]] = {}
    out = []
    for target in in_order(targets):
        relief = RELIEF[target.site]
        state = now_on(base, paints, target.place, relief)
        # Where the ground is the same all along, one object says so, and one search serves all.
        alike = [s for s in known.get(relief, []) if _same(s, state)]
        if not alike:
            known.setdefault(relief, []).append(state)
        ground = alike[0] if alike else state
        out.append(Spot(target.place, np.array(target.lab), ground, relief))
    return tuple(out)


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
    starts = [spots_on(base, wish.targets, wish.held) for base in wish.bases]
    search = _one if len(wish.targets) == 1 else _many
    best: tuple[MatchAnswer, ...] = ()
    for count, (ways, steps) in enumerate(search(wish, starts, should_continue), 1):
        best = ways
        yield Answers(best, min(count / steps, 0.97))
    if not should_continue():
        return
    if not best:
        raise InputError(
            tr("There is nothing to lay; allow more paints, tools, minutes or passes.")
        )
    why = hindrance(wish, best[0], should_continue, starts) if wish.reasons else (None, None)
    if should_continue():
        yield Answers(best, 1.0, *why)


def _one(
    wish: MatchRequest, starts: Sequence[Sequence[Spot]], should_continue: Callable[[], bool]
) -> Iterator[tuple[tuple[MatchAnswer, ...], int]]:
    matchers = [_matcher(wish, spots[0]) for spots in starts]
    target = starts[0][0].lab
    steps = matchers[0].steps * len(matchers)
    found = ways_from(matchers, target, should_continue)
    if wish.rescue:
        steps *= 1 + MOST_COVERS
        found = rescue_ways(matchers[0], target, should_continue)
    for ways in found:
        yield tuple(_from_way(way, matchers[way.start].bench) for way in ways), steps


def _many(
    wish: MatchRequest, starts: Sequence[Sequence[Spot]], should_continue: Callable[[], bool]
) -> Iterator[tuple[tuple[MatchAnswer, ...], int]]:
    places = len({spot.place for spot in starts[0]})
    steps = ramp_steps(places, wish.limits, wish.towards) * len(starts)
    base, how = wish.bases[0], (wish.paints, wish.limits, wish.look, should_continue)
    found = ramps_from(starts, *how, base, wish.towards, wish.over)
    if wish.rescue:
        steps *= 1 + MOST_COVERS
        found = rescue_ramps(starts[0], *how, base)
    known: dict[RampWay, MatchAnswer] = {}
    for ways in found:
        for way in ways:
            if way not in known:
                known[way] = _from_ramp(way, starts, wish)
        yield tuple(known[way] for way in ways), steps


def _matcher(wish: MatchRequest, spot: Spot) -> Matcher:
    how = (wish.paints, wish.limits, wish.look)
    return Matcher(spot.ground, *how, spot.relief, wish.bases[0])


def _from_way(way: Way, bench: MatchContext) -> MatchAnswer:
    hides = covers(bench, way.coats)
    costs = (way.minutes, way.pots, way.sensitivity)
    words = way_words(way.coats, bench.paints)
    return MatchAnswer(way.coats, way.start, (way.delta_e,), *costs, hides, way.lab, words)


def _from_ramp(way: RampWay, starts: Sequence[Sequence[Spot]], wish: MatchRequest) -> MatchAnswer:
    base = 0 if wish.rescue else way.start
    spot = starts[base][0]
    bench = _matcher(wish, spot).bench
    whole = tuple(coat for coat in way.coats if coat.span == (0.0, 1.0))
    hides = covers(bench, whole)
    coats = _spaced(wish, wish.bases[base], (*way.coats, *wish.over))
    off = _off(wish, wish.bases[base], coats)
    minutes, pots = bench.minutes(coats), len({coat.mixture for coat in coats})
    words = way_words(way.coats, bench.paints)
    return MatchAnswer(coats, base, off, minutes, pots, way.sensitivity, hides, words=words)


def _off(wish: MatchRequest, base: Passage, coats: tuple[Coat, ...]) -> tuple[float, ...]:
    """Return how far coats on a passage are from each target, feathers and all.

    On a short passage the soft edge of a stroke reaches the next place.
    """
    paints = {paint.name: paint for paint in (*wish.held, *wish.paints)}
    whole = replace(base, coats=(*base.coats, *coats))
    targets = in_order(wish.targets)
    reliefs = sorted({RELIEF[target.site] for target in targets})
    places = np.array([target.place for target in targets])
    seen = predict(whole, paints, places, np.array(reliefs), wish.look).lab
    rows = zip(seen, targets, strict=True)
    return tuple(
        float(ciede2000(row[reliefs.index(RELIEF[target.site])], np.array(target.lab)))
        for row, target in rows
    )


def _spaced(wish: MatchRequest, base: Passage, coats: tuple[Coat, ...]) -> tuple[Coat, ...]:
    """Return coats whose passes share the feathers so that colours run evenly between targets."""
    paints = {paint.name: paint for paint in (*wish.held, *wish.paints)}
    whole = replace(base, coats=(*base.coats, *coats))
    first = len(base.coats)
    return tuple(
        even_feather(whole, first + i, paints, wish.look) if coat.feather != (0.0, 0.0) else coat
        for i, coat in enumerate(coats)
    )


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
    known = starts or [spots_on(base, wish.targets, wish.held) for base in wish.bases]
    why = _why(wish, known[answer.base][worst], should_continue)
    return (None, None) if why is None else (why, in_order(wish.targets)[worst])


def _why(wish: MatchRequest, spot: Spot, should_continue: Callable[[], bool]) -> WhyNot | None:
    """Return what stands in the way of one spot by itself."""
    limits = changed(wish.limits, coats=min(wish.limits.coats, _ALONE))
    # A ramp is laid without special paints, so without those it is what stands in the way; they
    # may still be what helps.
    special = [p for p in wish.paints if p.kind in SPECIAL and len(wish.targets) > 1]
    plain = tuple(p for p in wish.paints if p not in special)
    matcher = _matcher(changed(wish, limits=limits, paints=plain), spot)
    catalogue = (*(p for p in special if p.kind == "fluorescent"), *wish.catalogue)
    alone = None
    for best in matcher.ways(spot.lab, should_continue):
        alone = best[0]
        if alone.delta_e <= _NEAR:
            break
    if alone is None or not should_continue():
        return None
    if alone.delta_e <= MET_DE00:
        words = (
            f"By itself it would come within dE {alone.delta_e:.1f}; the coats that lead to its "
            "neighbours stand in the way. Allow more coats."
        )
        return WhyNot((0.0, 0.0, 0.0), (words,))
    white = now_on(Passage("white", ground=Ground("white")), {}, spot.place, spot.relief)
    return why_not(matcher, alone, spot.lab, white, catalogue, should_continue)


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
    spots = spots_on(base, wish.targets, wish.held)
    off, strays, whole = [], [], tuple(coat for coat in coats if coat.span == (0.0, 1.0))
    for spot in spots:
        bench = _matcher(wish, spot).bench
        here = tuple(c for c in coats if c.span[0] <= spot.place <= c.span[1])
        lab = colours(bench.on(here, spot.ground), wish.look)[0][0, 0]
        off.append(float(ciede2000(lab, spot.lab)))
        strays.append(bench.sensitivity(here, spot.ground))
    first = wish.bases.index(base) if base in wish.bases else 0
    pots = len({coat.mixture for coat in coats})
    return MatchAnswer(
        coats, first, tuple(off), bench.minutes(coats), pots, float(np.mean(strays)),
        covers(bench, whole), words=way_words(coats, bench.paints),
    )  # fmt: skip
