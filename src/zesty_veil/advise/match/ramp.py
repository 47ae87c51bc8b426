"""Match along the axis: wanted colours from light to far, and nested coats that lead to them.

Painters lay no recipe for each place. They lay one stack, of which each coat reaches less far than
the one before: where the first ends the colour is the first one wanted, and so on. So the colours
wanted are what the same stack comes to after more and more of its coats, and one search along the
stack serves all of them. It is tried both ways: nested towards the far end, as flames are painted,
and towards the light.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.bank import Bank, first_coats, mixed_coats
from zesty_veil.advise.match.far import far, roughly
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.polish import MINUTE_DE00, Bench
from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array
from zesty_veil.optics.bispectral import Bispectral
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import with_feather, with_span
from zesty_veil.plan.model import Coat
from zesty_veil.predict.layer import State
from zesty_veil.predict.look import Look, colours

MOST_TARGETS = 9
Towards = Literal["far", "light"]
_BEAM = 7  # of each number of coats and of mixes
# Of each chain so many next coats are measured, and so many kept, without mixing and with.
_MEASURED, _PER_CHAIN = 80, 10
# A step from one colour to the next may take so many coats.
_COATS_A_STEP = 2
_TUNED = 4
# Paints of so many chains are looked at, and so many of them mixed with each other.
_USED, _MIXED = 60, 14
_ALWAYS = (("PW6",), ("PBk7",))
_SWEEPS = 3
_SPECIAL = frozenset({"fluorescent", "metallic", "varnish"})


@dataclass(frozen=True)
class RampWay:
    """Nested coats that lead to a ramp, from the ground up, and what they cost.

    off : dE00 at each target. towards : the end that later coats draw back to.
    """

    coats: tuple[Coat, ...]
    off: tuple[float, ...]
    towards: Towards
    minutes: float
    pots: int

    @property
    def mean(self) -> float:
        """Mean dE00 over the targets."""
        return float(np.mean(self.off))


@dataclass(frozen=True)
class _Chain:
    """Coats so far, and after how many of them each target up to now is looked at."""

    coats: tuple[Coat, ...] = ()
    looked: tuple[int, ...] = ()
    error: float = 0.0  # sum of squares

    def looked_at(self, far: float) -> _Chain:
        """Return the chain with one target more, looked at after all of its coats."""
        return _Chain(self.coats, (*self.looked, len(self.coats)), self.error + far**2)


def ramp_ways(
    ground: State,
    paints: Sequence[Paint],
    limits: Limits,
    look: Look,
    places: Sequence[float],
    wanted_labs: Array,
    wanted: Callable[[], bool] = lambda: True,
) -> Iterator[tuple[RampWay, ...]]:
    """Yield ways to a ramp, better and better, the best first.

    Parameters
    ----------
    ground
        Of leading shape (1, 1), the same all along.
    paints, limits, look
        What may be used and done, and how it is looked at.
    places : (n,)
        On the axis, rising, 0-1; at most `MOST_TARGETS`.
    wanted_labs : (n, 3) float64
        CIELAB wanted there.
    wanted
        Asked between the steps; when it says no, nothing more is yielded.

    Raises
    ------
    InputError
        If there is no target, or too many, or their places do not rise.
    """
    if not 1 <= len(places) <= MOST_TARGETS:
        raise InputError(f"A ramp has from 1 to {MOST_TARGETS} targets; this has {len(places)}.")
    if any(b <= a for a, b in pairwise(places)):
        raise InputError("The places of a ramp's targets must rise from the light to the far end.")
    bench = Bench(ground, paints, limits, look)
    usable = [paint for paint in paints if paint.kind not in _SPECIAL]
    single = first_coats(usable, limits.tools)
    if not single:
        return
    options = bench.bank(single)
    directions: tuple[Towards, ...] = ("far", "light") if len(places) > 1 else ("far",)
    ordered = {d: wanted_labs if d == "far" else wanted_labs[::-1] for d in directions}
    chains = {d: _chains(bench, options, ordered[d], wanted) for d in directions}
    if limits.mixes and wanted():
        # Of all pairs only those are mixed whose paints have shown that they are of use.
        of_use = _of_use([chain for each in chains.values() for chain in each[:_USED]], usable)
        options = bench.bank([*single, *mixed_coats(of_use, limits.tools)])
        chains = {d: _chains(bench, options, ordered[d], wanted) for d in directions}
    found: list[RampWay] = []
    for towards in directions:
        for chain in chains[towards][:_TUNED]:
            if not wanted():
                return
            tuned = _tuned(chain, bench, options, ordered[towards], wanted)
            way = _way(tuned, bench, places, ordered[towards], towards)
            if way not in found:
                found.append(way)
            found.sort(key=lambda way: way.mean + MINUTE_DE00 * way.minutes)
            yield tuple(found)


def _of_use(chains: Sequence[_Chain], paints: Sequence[Paint]) -> list[Paint]:
    """Return the paints that chains use most, in the order of the rack, and white and black."""
    count = Counter(part.paint for chain in chains for c in chain.coats for part in c.mixture.parts)
    often = {name for name, _ in count.most_common(_MIXED)}
    return [p for p in paints if p.name in often or p.pigments in _ALWAYS]


def _chains(bench: Bench, options: Bank, labs: Array, wanted: Callable[[], bool]) -> list[_Chain]:
    """Return the best chains over all targets, by a beam along the stack."""
    beam, states = [_Chain()], bench.ground
    for target in labs:
        lab = colours(states, bench.look)[0][:, 0]
        off = far(lab, target)
        every = [chain.looked_at(float(e)) for chain, e in zip(beam, off, strict=True)]
        unlooked, stood = beam, states
        for _ in range(_COATS_A_STEP):
            if not wanted():
                return []
            grown = _grown(unlooked, stood, bench, options, target)
            every += [chain.looked_at(e) for chain, e in grown]
            # A second coat of the step goes on what the first one makes room for.
            unlooked = _various([chain for chain, _ in grown], _BEAM)
            if not unlooked:
                break
            stood = _stood(unlooked, bench)
        every.sort(key=lambda chain: chain.error + MINUTE_DE00 * _minutes(chain, bench))
        beam = _various(every, _BEAM)
        states = _stood(beam, bench)
    return beam


def _grown(
    chains: list[_Chain], states: State, bench: Bench, options: Bank, target: Array
) -> list[tuple[_Chain, float]]:
    """Return chains with one coat more and how far each is from a target, the best first."""
    out: list[tuple[float, int, _Chain, float]] = []
    before = np.array([chain.error for chain in chains])[:, None]
    for numbers, state in options.all_on(states):
        labs = colours(state, bench.look)[0]
        minutes = MINUTE_DE00 * options.cost.minutes[numbers]
        rough = roughly(labs, target)
        mixed = options.cost.mixes[numbers] > 0
        # The best of each chain, with and without mixing: what is best now may use up too much.
        for some in (np.flatnonzero(~mixed), np.flatnonzero(mixed)):
            if some.size == 0:
                continue
            near = some[_least(rough[:, some], _MEASURED)]  # (chains, measured)
            off = far(np.take_along_axis(labs, near[..., None], axis=1), target)
            cost = before + off**2 + minutes[near]
            for row, best in enumerate(_least(cost, _PER_CHAIN)):
                chain = chains[row]
                for k in best:
                    coats = (*chain.coats, options.coats[numbers[near[row, k]]])
                    if bench.fits(coats):
                        longer = _Chain(coats, chain.looked, chain.error)
                        out.append((float(cost[row, k]), len(out), longer, float(off[row, k])))
    out.sort(key=lambda each: each[:2])
    return [(chain, off) for _, _, chain, off in out]


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


def _stood(chains: Sequence[_Chain], bench: Bench) -> State:
    """Return the stacks of chains as one state (n, 1)."""
    states = [bench.on(chain.coats, bench.ground) for chain in chains]
    R = Bispectral(*(np.concatenate(x) for x in zip(*(s.R for s in states), strict=True)))
    return State(R, np.concatenate([s.finish for s in states]), None)


def _minutes(chain: _Chain, bench: Bench) -> float:
    return bench.minutes(chain.coats)


def _errors(
    chain: _Chain, at: int, coats: Bank, bench: Bench, labs: Array
) -> tuple[Array, np.ndarray]:
    """Return the sum of squares over all targets with each of a bank's plain coats at a place."""
    states = bench.on(chain.coats[:at], bench.ground)
    total = np.zeros(0)
    below = 0.0
    for target, looked in zip(labs, chain.looked, strict=True):
        if looked <= at:
            lab = colours(bench.on(chain.coats[:looked], bench.ground), bench.look)[0][0, 0]
            below += float(far(lab, target)) ** 2
    numbers, state = coats.all_on(states)[0]
    total = np.full(numbers.size, below)
    done = at + 1
    for target, looked in zip(labs, chain.looked, strict=True):
        if looked > at:
            state = bench.on(chain.coats[done:looked], state)
            done = max(done, looked)
            lab = colours(state, bench.look)[0]
            total += far(lab, target)[0] ** 2
    return total, numbers


def _tuned(
    chain: _Chain, bench: Bench, options: Bank, labs: Array, wanted: Callable[[], bool]
) -> _Chain:
    """Return a chain with each coat in turn swapped and tuned until that helps no more."""
    for _ in range(_SWEEPS):
        before = chain
        for at in range(len(chain.coats)):
            for bank in (options, bench.tuned(chain.coats[at])):
                if not wanted():
                    return chain
                chain = _better(chain, at, bank, bench, labs)
        if chain == before:
            break
    return chain


def _better(chain: _Chain, at: int, bank: Bank, bench: Bench, labs: Array) -> _Chain:
    error, numbers = _errors(chain, at, bank, bench, labs)
    cost = error + MINUTE_DE00 * bank.cost.minutes[numbers]
    now = chain.error + MINUTE_DE00 * bench.minutes(chain.coats[at : at + 1])
    for k in np.argsort(cost, kind="stable")[:50]:
        if cost[k] >= now - 1e-9:
            break
        coats = (*chain.coats[:at], bank.coats[numbers[k]], *chain.coats[at + 1 :])
        if bench.fits(coats):
            return _Chain(coats, chain.looked, float(error[k]))
    return chain


def _way(
    chain: _Chain, bench: Bench, places: Sequence[float], labs: Array, towards: Towards
) -> RampWay:
    """Return a chain as coats with spans and feathers."""
    count = len(places)
    along = [float(p) if towards == "far" else 1 - float(p) for p in places]
    along = along if towards == "far" else along[::-1]
    coats = []
    for i, coat in enumerate(chain.coats):
        first = next(k for k, looked in enumerate(chain.looked) if looked > i)
        start = 0.0 if first == 0 else along[first]
        feather = 0.0 if first == 0 else along[first] - along[first - 1]
        if towards == "far":
            coats.append(with_feather(with_span(coat, start, 1.0), feather, 0.0))
        else:
            coats.append(with_feather(with_span(coat, 0.0, 1.0 - start), 0.0, feather))
    off = []
    for target, looked in zip(labs, chain.looked, strict=True):
        lab = colours(bench.on(chain.coats[:looked], bench.ground), bench.look)[0][0, 0]
        off.append(float(far(lab, target)))
    assert len(off) == count
    if towards == "light":
        off.reverse()
    minutes = bench.minutes(chain.coats)
    return RampWay(tuple(coats), tuple(off), towards, minutes, len({c.mixture for c in coats}))
