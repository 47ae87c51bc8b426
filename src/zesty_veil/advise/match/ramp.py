"""Match along the axis: wanted colours from light to far, and nested coats that lead to them.

Painters lay no recipe for each place. They lay one stack, of which each coat reaches less far than
the one before: where the first ends the colour is the first one wanted, and so on. So the colours
wanted are what the same stack comes to after more and more of its coats, and one search along the
stack serves all of them. It is tried both ways: nested towards the far end, as flames are painted,
and towards the light. Ridge and recess of a place are one step of it: the same coats lie on both.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.bank import Bank, first_coats, mixed_coats
from zesty_veil.advise.match.choosing import Aims, aims, worth_choosing
from zesty_veil.advise.match.course import Course, Spot
from zesty_veil.advise.match.far import far, roughly
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.polish import ANYWHERE, MINUTE_DE00, Bench
from zesty_veil.advise.match.reach import Level, levels, nearest
from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import with_feather, with_span
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.layer import State
from zesty_veil.predict.look import Look, colours

MOST_TARGETS = 9
Towards = Literal["far", "light"]
_Known = dict[tuple[int, float], list[Level]]
_BEAM = 7  # of each number of coats and of mixes
_NARROW = 4  # where it is only to show which paints are of use
# Of each chain so many next coats are measured, and so many kept, without mixing and with.
_MEASURED, _PER_CHAIN = 80, 10
# A step from one colour to the next may take so many coats.
_COATS_A_STEP = 2
# Where all is wanted at one place, a stack for it may have so many coats.
_ONE_STEP = 3
_REACHED = 60
_TUNED = 4
# Paints of so many chains are looked at, and so many of them mixed with each other.
_USED, _MIXED = 60, 14
_ALWAYS = (("PW6",), ("PBk7",))
_SWEEPS = 3
_SPECIAL = frozenset({"fluorescent", "metallic", "varnish"})


@dataclass(frozen=True)
class RampWay:
    """Nested coats that lead to a ramp, from the ground up, and what they cost.

    off : dE00 at each target. towards : the end that later coats draw back to. touchy : by how
    much an ordinary hand strays on average, dE00. start : which of the grounds it starts from,
    where there were several to choose from.
    """

    coats: tuple[Coat, ...]
    off: tuple[float, ...]
    towards: Towards
    minutes: float
    pots: int
    touchy: float
    start: int = 0

    @property
    def mean(self) -> float:
        """Mean dE00 over the targets."""
        return float(np.mean(self.off))

    @property
    def aims(self) -> Aims:
        """What is made small."""
        return aims(self.mean, self.pots, self.minutes, self.touchy)


@dataclass(frozen=True)
class _Chain:
    """Coats so far, and after how many of them each step up to now is looked at."""

    coats: tuple[Coat, ...] = ()
    looked: tuple[int, ...] = ()
    error: float = 0.0  # sum of squares

    def looked_at(self, squares: float) -> _Chain:
        """Return the chain with one step more, looked at after all of its coats."""
        return _Chain(self.coats, (*self.looked, len(self.coats)), self.error + squares)


def ramp_ways(
    spots: Sequence[Spot],
    paints: Sequence[Paint],
    limits: Limits,
    look: Look,
    wanted: Callable[[], bool] = lambda: True,
    passage: Passage = ANYWHERE,
    only: Towards | None = None,
) -> Iterator[tuple[RampWay, ...]]:
    """Yield the ways to a ramp found so far, none at first, then better and better, the best first.

    Parameters
    ----------
    spots
        What is wanted where, in rising order of place; of at most `MOST_TARGETS` places.
    paints, limits, look
        What may be used and done, and how it is looked at.
    wanted
        Asked between the steps; when it says no, nothing more is yielded.
    passage
        Whose size tells how long a coat takes.
    only
        The end that later coats draw back to; none to try both.

    Raises
    ------
    InputError
        If there is no target, or too many, or their places do not rise.
    """
    places = list(dict.fromkeys(spot.place for spot in spots))
    if not 1 <= len(places) <= MOST_TARGETS:
        raise InputError(f"A ramp has from 1 to {MOST_TARGETS} targets; this has {len(places)}.")
    sites = {(spot.place, spot.relief) for spot in spots}
    if places != sorted(places) or len(sites) < len(spots):
        raise InputError("The places of a ramp's targets must rise from the light to the far end.")
    usable = [paint for paint in paints if paint.kind not in _SPECIAL]
    single = first_coats(usable, limits.tools)
    if not single:
        return
    reliefs = sorted({spot.relief for spot in spots})
    # Over metal every film is worked out for straight beams too, so one such ground says it.
    ground = next((s.ground for s in spots if s.ground.mirror is not None), spots[0].ground)
    benches = {r: Bench(ground, paints, limits, look, r, passage) for r in reliefs}
    course = Course(spots, benches, {}).with_options(single)
    both: tuple[Towards, ...] = ("far", "light") if len(places) > 1 else ("far",)
    directions = both if only is None else (only,)
    known: _Known = {}
    first = {d: _reached(_in_order(course, d), known, wanted) for d in directions}
    chains: dict[Towards, list[_Chain]] = {}
    for towards in directions:
        width = _NARROW if limits.mixes else _BEAM
        for beam in _chains(_in_order(course, towards), first[towards], width, wanted):
            chains[towards] = beam
            yield ()
    if limits.mixes and wanted():
        # Of all pairs only those are mixed whose paints have shown that they are of use.
        of_use = _of_use([chain for each in chains.values() for chain in each[:_USED]], usable)
        course = course.with_options([*single, *mixed_coats(of_use, limits.tools)])
        for towards in directions:
            for beam in _chains(_in_order(course, towards), first[towards], _BEAM, wanted):
                chains[towards] = beam
                yield ()
    found: list[RampWay] = []
    for towards in directions:
        ordered = _in_order(course, towards)
        for chain in _worth_tuning(chains.get(towards, [])):
            if not wanted():
                return
            way = _way(_tuned(chain, ordered, wanted), ordered, towards)
            if way not in found:
                found.append(way)
            yield worth_choosing(found)


def ramp_steps(places: int, limits: Limits) -> int:
    """Return how often `ramp_ways` yields, about."""
    directions = 2 if places > 1 else 1
    return directions * (places * (2 if limits.mixes else 1) + _TUNED)


def _worth_tuning(chains: Sequence[_Chain]) -> list[_Chain]:
    """Return the best chains, and among them one of fewer coats, which some painters would take."""
    best = list(chains[:_TUNED])
    fewer = [chain for chain in chains if best and len(chain.coats) < len(best[0].coats)]
    if fewer and fewer[0] not in best:
        best[-1] = fewer[0]
    return best


def _in_order(course: Course, towards: Towards) -> Course:
    return course if towards == "far" else course.backwards()


def _of_use(chains: Sequence[_Chain], paints: Sequence[Paint]) -> list[Paint]:
    """Return the paints that chains use most, in the order of the rack, and white and black."""
    count = Counter(part.paint for chain in chains for c in chain.coats for part in c.mixture.parts)
    often = {name for name, _ in count.most_common(_MIXED)}
    return [p for p in paints if p.name in often or p.pigments in _ALWAYS]


def _reached(course: Course, known: _Known, wanted: Callable[[], bool]) -> list[_Chain]:
    """Return chains over the first step, out of all that a few coats reach there.

    A beam goes coat by coat, and would throw away the white that a yellow needs below it. What is
    reached on a ground is kept in `known`.
    """
    step, bench = course.steps[0], course.bench
    depth = min(bench.limits.coats, _COATS_A_STEP if len(course.steps) > 1 else _ONE_STEP)
    spot, limits = step[0], replace(bench.limits, coats=depth)
    bank = course.options[spot.relief]
    key = (id(spot.ground), spot.relief)
    if key not in known:
        known[key] = list(levels(spot.ground, bank, limits, bench.look, wanted))
    out = []
    for level in known[key]:
        stacks = [coats for _, coats in nearest(level, bank, spot.lab, _REACHED)]
        if not stacks:
            break
        squares = np.zeros(len(stacks))
        for each in step:
            labs = colours(course.stood(stacks, each), bench.look)[0][:, 0]
            squares += far(labs, each.lab) ** 2
        out += [_Chain(c, (len(c),), float(s)) for c, s in zip(stacks, squares, strict=True)]
    return out


def _chains(
    course: Course, first: list[_Chain], width: int, wanted: Callable[[], bool]
) -> Iterator[list[_Chain]]:
    """Yield the best chains over more and more of the steps, by a beam along the stack.

    `first` are chains over the first step, besides those that the beam finds; `width` of each
    number of coats and mixes go on.
    """
    beam = [_Chain()]
    for number, step in enumerate(course.steps):
        error = np.zeros(len(beam))
        stood = [course.stood([chain.coats for chain in beam], spot) for spot in step]
        for spot, state in zip(step, stood, strict=True):
            bench = course.benches[spot.relief]
            error += far(colours(state, bench.look)[0][:, 0], spot.lab) ** 2
        every = [chain.looked_at(float(e)) for chain, e in zip(beam, error, strict=True)]
        unlooked = beam
        for more in range(_COATS_A_STEP):
            if more:
                stood = [course.stood([c.coats for c in unlooked], spot) for spot in step]
            grown = _grown(unlooked, course, list(zip(step, stood, strict=True)), wanted)
            if not wanted():
                return
            every += [chain.looked_at(e) for chain, e in grown]
            # A second coat of the step goes on what the first one makes room for.
            unlooked = _various([chain for chain, _ in grown], width)
            if not unlooked:
                break
        every += first if number == 0 else []
        every.sort(key=lambda chain: chain.error + MINUTE_DE00 * course.bench.minutes(chain.coats))
        beam = _various(every, width)
        yield beam


def _grown(
    chains: list[_Chain],
    course: Course,
    stood: Sequence[tuple[Spot, State]],
    wanted: Callable[[], bool],
) -> list[tuple[_Chain, float]]:
    """Return chains with one coat more and the squares of how far each is off, the best first.

    `stood` is the spots of a step, each with the chains on its ground.
    """
    out: list[tuple[float, int, _Chain, float]] = []
    before = np.array([chain.error for chain in chains])[:, None]
    bench, cost = course.bench, next(iter(course.options.values())).cost
    labs = [course.every_option(state, spot, wanted) for spot, state in stood]
    rough = np.sum([roughly(lab, s.lab) for lab, (s, _) in zip(labs, stood, strict=True)], axis=0)
    # The best of each chain, with and without mixing: what is best now may use up too much.
    for some in (np.flatnonzero(cost.mixes == 0), np.flatnonzero(cost.mixes > 0)):
        if some.size == 0:
            continue
        near = some[_least(rough[:, some], _MEASURED)]  # (chains, measured)
        squares = np.zeros(near.shape)
        for lab, (spot, _) in zip(labs, stood, strict=True):
            squares += far(np.take_along_axis(lab, near[..., None], axis=1), spot.lab) ** 2
        total = before + squares + MINUTE_DE00 * cost.minutes[near]
        for row, best in enumerate(_least(total, _PER_CHAIN)):
            chain = chains[row]
            for k in best:
                coats = (*chain.coats, course.coats[near[row, k]])
                if bench.fits(coats):
                    longer = _Chain(coats, chain.looked, chain.error)
                    out.append((float(total[row, k]), len(out), longer, float(squares[row, k])))
    out.sort(key=lambda each: each[:2])
    return [(chain, squares) for _, _, chain, squares in out]


def _least(values: Array, most: int) -> npt.NDArray[np.intp]:
    """Return where the least values of each row stand, (n, most at most), in rising order."""
    if values.shape[1] <= most:
        return np.tile(np.arange(values.shape[1]), (values.shape[0], 1))
    return np.sort(np.argpartition(values, most - 1, axis=1)[:, :most], axis=1)


def _various(chains: list[_Chain], most: int) -> list[_Chain]:
    """Return the first chains of each number of coats and mixes, few that differ only in thinning.

    A chain that has used fewer of them may be worse so far, and still do better in the end.
    """
    seen: dict[tuple[object, ...], int] = {}
    counts: dict[tuple[int, int], int] = {}
    kept = []
    for chain in chains:
        paints = tuple(coat.mixture.parts for coat in chain.coats)
        count = len(chain.coats), sum(len(parts) > 1 for parts in paints)
        if seen.get(paints, 0) < 2 and counts.get(count, 0) < most:
            seen[paints] = seen.get(paints, 0) + 1
            counts[count] = counts.get(count, 0) + 1
            kept.append(chain)
    return kept


def _tuned(chain: _Chain, course: Course, wanted: Callable[[], bool]) -> _Chain:
    """Return a chain with each coat in turn swapped and tuned until that helps no more."""
    for _ in range(_SWEEPS):
        before = chain
        for at in range(len(chain.coats)):
            if not wanted():
                return chain
            chain = _better(chain, at, course.options, course)
            fine = {r: bench.tuned(chain.coats[at]) for r, bench in course.benches.items()}
            if not wanted():
                return chain
            chain = _better(chain, at, fine, course)
        if chain == before:
            break
    return chain


def _better(chain: _Chain, at: int, banks: dict[float, Bank], course: Course) -> _Chain:
    bench, bank = course.bench, next(iter(banks.values()))
    error = course.errors(chain.coats, chain.looked, at, banks)
    cost = error + MINUTE_DE00 * bank.cost.minutes
    now = chain.error + MINUTE_DE00 * bench.minutes(chain.coats[at : at + 1])
    for k in np.argsort(cost, kind="stable")[:50]:
        if cost[k] >= now - 1e-9:
            break
        coats = (*chain.coats[:at], bank.coats[k], *chain.coats[at + 1 :])
        if bench.fits(coats):
            return _Chain(coats, chain.looked, float(error[k]))
    return chain


def _way(chain: _Chain, course: Course, towards: Towards) -> RampWay:
    """Return a chain as coats with spans and feathers."""
    along = [step[0].place if towards == "far" else 1 - step[0].place for step in course.steps]
    coats = []
    for i, coat in enumerate(chain.coats):
        first = next(k for k, looked in enumerate(chain.looked) if looked > i)
        start = 0.0 if first == 0 else along[first]
        feather = 0.0 if first == 0 else along[first] - along[first - 1]
        if towards == "far":
            coats.append(with_feather(with_span(coat, start, 1.0), feather, 0.0))
        else:
            coats.append(with_feather(with_span(coat, 0.0, 1.0 - start), 0.0, feather))
    off = [
        course.off(chain.coats[:looked], spot)
        for step, looked in zip(course.steps, chain.looked, strict=True)
        for spot in step
    ]
    if towards == "light":
        off.reverse()
    touchy = np.mean(
        [
            course.benches[spot.relief].touchy(chain.coats[:looked], spot.ground)
            for step, looked in zip(course.steps, chain.looked, strict=True)
            for spot in step
        ]
    )
    minutes, pots = course.bench.minutes(tuple(coats)), len({coat.mixture for coat in coats})
    return RampWay(tuple(coats), tuple(off), towards, minutes, pots, float(touchy))
