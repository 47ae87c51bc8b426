"""Candidates for a ramp, grown coat by coat as painters lay them.

As every coat must bring each place that it covers nearer to what is wanted, few coats are worth
looking at, and a beam finds its way without throwing away what would pay later; what does not pay
at once, white or a warm tone below, is what it starts from.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.belonging import dulls
from zesty_veil.advise.match.candidate import Candidate, PlacedCoat, coats_of, effort
from zesty_veil.advise.match.problem import Problem
from zesty_veil.advise.match.stacks import joined
from zesty_veil.advise.match.tuning import Allowed, Go, Tuning
from zesty_veil.light.grid import Array
from zesty_veil.thresholds import DARKER_L, LIFTS_L, NEARER_DE00, PILED_UM, STRONG_CHROMA

# So many candidates go on, of those that have come equally far, and of all.
_ALIKE, _MOST = 2, 30
_TRIED, _BY_ENDS = 40, 8
# At a single place, several strengths of a mixture may go on.
_STRENGTHS = 3
_BEYOND, _TIE = 99, 1e-4
# From this share of what may lie on a place on, each more counts by so much, dE.
_HALF_FULL, _THICK = 0.45, 4.0


class Beam(Tuning):
    """A search on an problem that grows candidates from nothing, or from what may lie below."""

    def __init__(self, problem: Problem, allowed: Allowed, effort_weight: float) -> None:
        super().__init__(problem, allowed, effort_weight)
        # (options,): the chroma that one has of its own, solid over white, and if that is a colour.
        self.own = self.efforts.of(problem.chroma(self.efforts.mixtures))
        self.tinted = self.own > STRONG_CHROMA
        # What candidates come to, L, a, b and how far off, (spots, 4), before it is told exactly.
        self._ends: dict[Candidate, Array] = {}
        self._weights: dict[Candidate, float] = {}

    def grown(self, go: Go) -> Iterator[list[Candidate]]:
        """Yield the best candidates so far, coat by coat."""
        beam: list[Candidate] = [(ground,) for ground in self.allowed.grounds]
        if self.allowed.bare or not beam:
            beam.insert(0, ())
        beam = [r for r in beam if self.context.fits(coats_of(r))]
        every: list[Candidate] = list(beam)
        for _ in range(self.context.limits.coats + 2):
            if not go():
                return
            fresh = self._next(beam)
            if not fresh:
                break
            every += fresh
            beam = self._various(fresh)
            yield self._best(every)

    def _best(self, candidates: Sequence[Candidate]) -> list[Candidate]:
        return sorted(candidates, key=self._weight)

    def _end(self, candidate: Candidate) -> tuple[Array, Array]:
        """Return what a candidate comes to, (spots, 3), and how far that is off, (spots,)."""
        labs = self._ends.get(candidate)
        if labs is None:
            state = self.problem.state(candidate)
            return state.labs, state.off
        return labs[:, :3], labs[:, 3]

    def _weight(self, candidate: Candidate) -> float:
        """Return the weight of a candidate, without walking through it."""
        if candidate not in self._weights:
            labs, off = self._end(candidate)
            # Of what is as good, what lies in the middle of the words that were said.
            tie = _TIE * self.problem.beside(labs)
            self._weights[candidate] = _rms(off) + self.effort_weight * effort(candidate) + tie
        return self._weights[candidate]

    def _various(self, candidates: Sequence[Candidate]) -> list[Candidate]:
        """Return the best candidates of each reach in turn, so that none crowds out the others."""
        reaches: dict[tuple[int, int], list[Candidate]] = {}
        for candidate in sorted(candidates, key=self._promise):
            reaches.setdefault(_reach(candidate), []).append(candidate)
        ranks = [
            (rank, self._promise(candidate), k, candidate)
            for k, alike in enumerate(reaches.values())
            for rank, candidate in enumerate(self._apart(alike))
        ]
        return [candidate for *_, candidate in sorted(ranks, key=lambda each: each[:3])][:_MOST]

    def _apart(self, alike: Sequence[Candidate]) -> Sequence[Candidate]:
        """Return the first of one reach; at a single place they may be of like pots."""
        if self.problem.last == 0:
            return alike[: _ALIKE * _MOST]
        return unlike(alike)[:_ALIKE]

    def _promise(self, candidate: Candidate) -> float:
        """Return what is made small among candidates that are not done: as `weight`, but lenient.

        Steps that later coats may still cover count little, unless they are too dark by now.
        """
        problem = self.problem
        labs, off = self._end(candidate)
        first, last = _reach(candidate)
        more = problem.last > 0
        open_far = (problem.steps > first) & ("far" in self.allowed.towards) & more
        open_light = (problem.steps < last) & ("light" in self.allowed.towards) & more
        dark = np.maximum(problem.wanted[:, 0] - labs[:, 0], 0.0)
        late = np.where(open_light, 0.15 * off, 0.15 * off + 0.5 * dark)
        some = np.where(open_far | open_light, np.minimum(late, off), off)
        # What is laid thick by now leaves little for the coats that are still to come.
        thick = max(problem.thickness(candidate) / PILED_UM - _HALF_FULL, 0.0) * (problem.last > 0)
        return _rms(some) + self.effort_weight * effort(candidate) + _THICK * thick

    def _next(self, beam: Sequence[Candidate]) -> list[Candidate]:
        """Return candidates with one coat more, the best first."""
        problem, last = self.problem, self.problem.last
        states = [problem.state(candidate) for candidate in beam]
        labs = self._every_option(beam)  # (n, spots, options, 3)
        off = problem.options_off(labs, range(len(problem.spots)))
        now = np.array([state.off for state in states])
        light = np.array([state.labs[:, 0] for state in states])
        # (steps, n, options) and (steps, n)
        after = problem.by_step(np.moveaxis(off**2, 1, 0))
        before = problem.by_step(now.T**2)[..., None]
        dark = (labs[..., 0] < problem.wanted[None, :, None, 0] - DARKER_L) & (
            labs[..., 0] < light[..., None] - 0.5
        )
        was = np.array([state.labs for state in states])[:, :, None]
        bad = dark | dulls(self.own, was, labs, problem.wanted[None, :, None])
        wrong = np.array([bad[:, problem.steps == s].any(axis=1) for s in range(last + 1)])
        odd = np.array([self.misfit[problem.steps == s].any(axis=0) for s in range(last + 1)])
        rise = labs[..., 0] - light[..., None] > LIFTS_L
        lifted = np.array([rise[:, problem.steps == s].any(axis=1) for s in range(last + 1)])
        good = ((after <= before + NEARER_DE00) | self.light & (self.tinted | lifted)) & ~wrong
        gain = before**2 - after**2
        reaches = np.array([_reach(candidate) for candidate in beam], dtype=np.intp)
        costs = np.stack([self.efforts.on(candidate) for candidate in beam])
        found: list[tuple[float, int, int, tuple[int, int]]] = []
        for ends in self.intervals():
            some = slice(ends[0], ends[1] + 1)
            allowed = good[some].all(axis=0) & (gain[some] > 0).any(axis=0)
            # What lies further in than its last step may be hidden by lighter coats.
            hidden = ends[0] == 0 and "light" in self.allowed.towards
            allowed &= ~odd[ends[1] if hidden else ends[0] : ends[1] + 1].any(axis=0)
            allowed &= np.array([_further_in(candidate, ends, last) for candidate in beam])[:, None]
            squares = self._left(before, after, ends, reaches)
            weight = np.sqrt(squares) + self.effort_weight * costs
            weight[~allowed] = np.inf
            flat = np.argpartition(weight, min(_TRIED, weight.size - 1), axis=None)[:_TRIED]
            for k in flat:
                n, m = divmod(int(k), weight.shape[1])
                if np.isfinite(weight[n, m]):
                    found.append((float(weight[n, m]), n, m, ends))
        fresh = self._taken(beam, sorted(found))
        for candidate, n, m in fresh:
            on = problem.covered(candidate[-1])[:, None]
            now_n = np.column_stack([states[n].labs, now[n]])
            self._ends[candidate] = np.where(
                on, np.column_stack([labs[n, :, m], off[n, :, m]]), now_n
            )
        return [candidate for candidate, _, _ in fresh]

    def _left(
        self, before: Array, after: Array, ends: tuple[int, int], reaches: npt.NDArray[np.intp]
    ) -> Array:
        """Return mean squares over the steps with each option over some of them, as `_promise`.

        before, after : (steps, n, 1) and (steps, n, options). reaches : (n, 2). Returns
        (n, options).
        """
        last = self.problem.last
        first, end = np.maximum(reaches[:, 0], ends[0]), np.minimum(reaches[:, 1], ends[1])
        out = np.zeros(after.shape[1:])
        for step in range(last + 1):
            off = after[step] if ends[0] <= step <= ends[1] else before[step]
            # A step that a coat after this one may still cover counts little.
            more = ("far" in self.allowed.towards) & (step > first)
            more |= ("light" in self.allowed.towards) & (step < end)
            out += (np.where(more & (last > 0), 0.15, 1.0)[:, None] * off) ** 2
        return out / (last + 1)

    def _taken(
        self, beam: Sequence[Candidate], found: Sequence[tuple[float, int, int, tuple[int, int]]]
    ) -> list[tuple[Candidate, int, int]]:
        """Return the best of the coats found, some over every reach, as candidates.

        Each with the number of the one it was laid on, and of the coat.
        """
        out: list[tuple[Candidate, int, int]] = []
        counts: dict[tuple[object, ...], int] = {}
        strengths = _STRENGTHS if self.problem.last == 0 else 1
        for _, n, m, ends in found:
            coat = self.coats[m]
            same, alike = (n, ends, coat.mixture.parts), (ends, _reach(beam[n]))
            if counts.get(same, 0) >= strengths or counts.get(alike, 0) >= strengths * _BY_ENDS:
                continue
            candidate = (*beam[n], PlacedCoat(coat, *ends))
            if not self.context.fits(coats_of(candidate)) or self.problem.piled(candidate):
                continue
            counts[same] = counts.get(same, 0) + 1
            counts[alike] = counts.get(alike, 0) + 1
            out.append((candidate, n, m))
        return out

    def _every_option(self, beam: Sequence[Candidate]) -> npt.NDArray[np.float32]:
        """Return CIELAB of every option on every spot of every candidate, (n, spots, options, 3).

        Roughly, within dE 0.01: it only tells what is worth going on with.
        """
        problem = self.problem
        count = len(problem.spots)
        out = np.empty((len(beam) * count, len(self.coats), 3), dtype=np.float32)
        for relief, bank in self.banks.items():
            sites, context = problem.sites[relief], problem.contexts[relief]
            stacks = joined([problem.state(candidate).stacks[relief] for candidate in beam])
            over = context.each(problem.over)
            every = [over] * stacks.count
            for rows, numbers, labs in stacks.every(bank, context.look, every, rough=True):
                where = [row // len(sites) * count + sites[row % len(sites)] for row in rows]
                there = np.array(where)
                out[np.ix_(there, numbers)] = labs
        return out.reshape(len(beam), count, len(self.coats), 3)


def _rms(off: Array) -> float:
    return math.sqrt(float(off @ off) / off.size)


def _reach(candidate: Candidate) -> tuple[int, int]:
    """Return how far in coats have come from both ends.

    Steps up to the first are covered by no later coat that draws back to the far end, and those
    from the second on by none that draws back to the light.
    """
    placed = [each for each in candidate if not each.ground]
    return max((e.first for e in placed), default=-1), min(
        (e.last for e in placed), default=_BEYOND
    )


def unlike(candidates: Sequence[Candidate]) -> list[Candidate]:
    """Return candidates without those of the same pots as one before."""
    seen: set[tuple[object, ...]] = set()
    out = []
    for candidate in candidates:
        pots = tuple((placed.coat.mixture.parts, placed.interval) for placed in candidate)
        if pots not in seen:
            seen.add(pots)
            out.append(candidate)
    return out


def _further_in(candidate: Candidate, ends: tuple[int, int], last: int) -> bool:
    """Tell whether a coat over some steps begins further in than all before it on that side."""
    below = [placed for placed in candidate if not placed.ground]
    if ends == (0, last):
        return last == 0 or not below
    if ends[0] > 0:
        return all(placed.first < ends[0] for placed in below if placed.last >= ends[1])
    return all(placed.last > ends[1] for placed in below if placed.first == 0)
