"""Stacks along a ramp, grown coat by coat: each step comes to what is below it, and more."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.difference import delta_e, delta_e_approx
from zesty_veil.advise.match.rampproblem import RampProblem, Spot
from zesty_veil.advise.match.reach import Level, levels, nearest
from zesty_veil.light.grid import Array
from zesty_veil.plan.model import Coat
from zesty_veil.predict.layer import StackOptics

ChainsKnown = dict[tuple[int, float], list[Level]]
# Of each chain so many next coats are measured, and so many kept, without mixing and with.
_MEASURED, _PER_CHAIN = 80, 10
# A step from one colour to the next may take so many coats.
_COATS_A_STEP = 2
# Where all is wanted at one place, a stack for it may have so many coats.
_ONE_STEP = 3
_REACHED = 60


@dataclass(frozen=True)
class Chain:
    """Coats so far, and after how many of them each step up to now is looked at."""

    coats: tuple[Coat, ...] = ()
    looked: tuple[int, ...] = ()
    error: float = 0.0  # sum of squares

    def looked_at(self, squares: float) -> Chain:
        """Return the chain with one step more, looked at after all of its coats."""
        return Chain(self.coats, (*self.looked, len(self.coats)), self.error + squares)


def reached(
    course: RampProblem, known: ChainsKnown, should_continue: Callable[[], bool]
) -> list[Chain]:
    """Return chains over the first step, out of all that a few coats reach there.

    A beam goes coat by coat, and would throw away the white that a yellow needs below it. What is
    reached on a ground is kept in `known`. What comes near is looked up without what will lie
    over all, and then weighed with it.
    """
    step, bench = course.steps[0], course.bench
    depth = min(bench.limits.coats, _COATS_A_STEP if len(course.steps) > 1 else _ONE_STEP)
    spot, limits = step[0], replace(bench.limits, coats=depth)
    bank = course.options[spot.relief]
    key = (id(spot.ground), spot.relief)
    if key not in known:
        known[key] = list(levels(spot.ground, bank, limits, bench.look, should_continue))
    out = []
    for level in known[key]:
        stacks = [coats for _, coats in nearest(level, bank, spot.lab, _REACHED)]
        if not stacks:
            break
        squares = np.zeros(len(stacks))
        for each in step:
            labs = course.seen(course.stood(stacks, each), each)[:, 0]
            squares += delta_e(labs, each.lab) ** 2
        out += [Chain(c, (len(c),), float(s)) for c, s in zip(stacks, squares, strict=True)]
    return out


def chains_over(
    course: RampProblem, first: list[Chain], width: int, should_continue: Callable[[], bool]
) -> Iterator[list[Chain]]:
    """Yield the best chains over more and more of the steps, by a beam along the stack.

    `first` are chains over the first step, besides those that the beam finds; `width` of each
    number of coats and mixes go on.
    """
    beam = [Chain()]
    for number, step in enumerate(course.steps):
        error = np.zeros(len(beam))
        stood = [course.stood([chain.coats for chain in beam], spot) for spot in step]
        for spot, state in zip(step, stood, strict=True):
            error += delta_e(course.seen(state, spot)[:, 0], spot.lab) ** 2
        every = [chain.looked_at(float(e)) for chain, e in zip(beam, error, strict=True)]
        unlooked = beam
        for more in range(_COATS_A_STEP):
            if more:
                stood = [course.stood([c.coats for c in unlooked], spot) for spot in step]
            grown = _grown(unlooked, course, list(zip(step, stood, strict=True)), should_continue)
            if not should_continue():
                return
            every += [chain.looked_at(e) for chain, e in grown]
            # A second coat of the step goes on what the first one makes room for.
            unlooked = _various([chain for chain, _ in grown], width)
            if not unlooked:
                break
        every += first if number == 0 else []
        every.sort(key=lambda chain: chain.error + course.bench.effort(chain.coats))
        beam = _various(every, width)
        yield beam


def _grown(
    chains: list[Chain],
    course: RampProblem,
    stood: Sequence[tuple[Spot, StackOptics]],
    should_continue: Callable[[], bool],
) -> list[tuple[Chain, float]]:
    """Return chains with one coat more and the squares of how far each is off, the best first.

    `stood` is the spots of a step, each with the chains on its ground.
    """
    out: list[tuple[float, int, Chain, float]] = []
    before = np.array([chain.error for chain in chains])[:, None]
    bench, bank = course.bench, next(iter(course.options.values()))
    cost = bank.cost
    labs = [course.every_option(state, spot, should_continue) for spot, state in stood]
    added = np.stack([bench.added(chain.coats, bank) for chain in chains])
    rough = np.sum(
        [delta_e_approx(lab, s.lab) for lab, (s, _) in zip(labs, stood, strict=True)], axis=0
    )
    # The best of each chain, with and without mixing: what is best now may use up too much.
    for some in (np.flatnonzero(cost.mixes == 0), np.flatnonzero(cost.mixes > 0)):
        if some.size == 0:
            continue
        near = some[_least(rough[:, some], _MEASURED)]  # (chains, measured)
        squares = np.zeros(near.shape)
        for lab, (spot, _) in zip(labs, stood, strict=True):
            squares += delta_e(np.take_along_axis(lab, near[..., None], axis=1), spot.lab) ** 2
        total = before + squares + np.take_along_axis(added, near, axis=1)
        for row, best in enumerate(_least(total, _PER_CHAIN)):
            chain = chains[row]
            for k in best:
                coats = (*chain.coats, course.coats[near[row, k]])
                if bench.fits(coats):
                    longer = Chain(coats, chain.looked, chain.error)
                    out.append((float(total[row, k]), len(out), longer, float(squares[row, k])))
    out.sort(key=lambda each: each[:2])
    return [(chain, squares) for _, _, chain, squares in out]


def _least(values: Array, most: int) -> npt.NDArray[np.intp]:
    """Return where the least values of each row stand, (n, most at most), in rising order."""
    if values.shape[1] <= most:
        return np.tile(np.arange(values.shape[1]), (values.shape[0], 1))
    return np.sort(np.argpartition(values, most - 1, axis=1)[:, :most], axis=1)


def _various(chains: list[Chain], most: int) -> list[Chain]:
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
