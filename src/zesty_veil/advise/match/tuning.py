"""Candidates are tuned: coats swapped, thinned, moved, put in and taken away while it helps."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from dataclasses import replace as changed
from typing import Literal

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.bank import Bank
from zesty_veil.advise.match.candidate import (
    Candidate,
    Efforts,
    PlacedCoat,
    by_ends,
    coats_of,
    on_step,
)
from zesty_veil.advise.match.judge import Breach, Rule
from zesty_veil.advise.match.problem import Problem
from zesty_veil.advise.match.shortlist import light_mixtures
from zesty_veil.light.grid import Array
from zesty_veil.plan.thickness import hides

Go = Callable[[], bool]
Towards = Literal["far", "light"]
# An end that later coats draw back to, or an order of work that painters of glows keep to.
WorkOrder = Literal["far", "light", "white", "sketch", "inward", "spot", "over", "beyond"]
_TUNED_OVER = 6
_SWEEPS = 2
_GROUND_WATER = 2.0  # parts to one, beyond which a ground grounds nothing
_WIDE = 3  # steps that a band covers at most


@dataclass(frozen=True)
class Allowed:
    """What may be laid along a ramp.

    towards : the ends that later coats may draw back to. grounds : coats that may lie below all
    others for their sake. bare : whether it may do without one. untouched : how many steps at
    the far end stay as they are. whole : whether a coat may lie over all. bands : whether one may
    lie in the middle alone, as a yellow that stops where violet begins. touches : whether such a
    one may lie at the light.
    """

    towards: tuple[Towards, ...]
    grounds: tuple[PlacedCoat, ...] = ()
    bare: bool = True
    untouched: int = 0
    whole: bool = True
    bands: bool = False
    touches: bool = False


class Tuning:
    """A candidate is bettered on an problem by one change at a time.

    Parameters
    ----------
    problem
        What is wanted.
    ways
        What may be laid.
    effort_weight
        How much the painter's effort counts.
    """

    def __init__(self, problem: Problem, allowed: Allowed, effort_weight: float) -> None:
        self.problem, self.allowed, self.effort_weight = problem, allowed, effort_weight
        self.context, self.coats, self.banks = problem.context, problem.coats, problem.banks
        self.efforts = Efforts(self.coats)
        mixtures = self.efforts.mixtures
        # (options,): whether an option may lie below others for their sake.
        self.light = self.efforts.of(light_mixtures(mixtures, self.context.paints))
        # (spots, options): whether an option does not belong where it would lie.
        self.misfit = self.efforts.of(problem.misfits(mixtures))

    def intervals(self) -> list[tuple[int, int]]:
        """Return the first and the last step of all that a coat may be laid over."""
        last = self.problem.last - self.allowed.untouched
        out = [(0, last)] if self.allowed.whole or last == 0 else []
        if "far" in self.allowed.towards:
            out += [(k, last) for k in range(1, last + 1)]
        if "light" in self.allowed.towards:
            out += [(0, k) for k in range(last)]
        if self.allowed.bands:
            first = 0 if self.allowed.touches else 1
            out += [(i, k) for i in range(first, last) for k in range(i, min(i + _WIDE, last))]
        return out

    def tuned(
        self, candidate: Candidate, go: Go, sweeps: int = _SWEEPS, put_in: bool = True
    ) -> Candidate:
        """Return a candidate with coats swapped, thinned, moved and taken away as long as it helps.

        put_in : whether coats may be put in as well, which takes longest.
        """
        for _ in range(sweeps):
            before = candidate
            for k in reversed(range(len(candidate))):
                if not go():
                    return candidate
                if k < len(candidate):
                    candidate = self._without(candidate, k)
                if k < len(candidate):
                    candidate = self._swapped(candidate, k, self.banks)
                    fine = {
                        relief: context.tuned(candidate[k].coat)
                        for relief, context in self.problem.contexts.items()
                    }
                    candidate = self._swapped(candidate, k, fine)
                    candidate = self._moved(candidate, k)
            for k in range(len(candidate) + 1):
                if go():
                    candidate = self._turned_round(candidate, k)
                    candidate = self._inserted(candidate, k) if put_in else candidate
            if candidate == before:
                break
        return candidate

    def finished(
        self, candidate: Candidate, go: Go, sweeps: int = _SWEEPS, put_in: bool = True
    ) -> Candidate:
        """Return a candidate tuned, without coats of which nobody would see anything."""
        candidate = self.tuned(candidate, go, sweeps, put_in)
        k = len(candidate)
        while k > 0 and go():
            k -= 1
            less = (*candidate[:k], *candidate[k + 1 :])
            if self._keeps_ground(less, candidate) and self.problem.hidden(candidate, k):
                candidate = less
        return by_ends(candidate)

    def better(self, candidate: Candidate, now: Candidate) -> bool:
        """Tell whether a candidate is allowed, and better than another one."""
        problem = self.problem
        return (
            self.context.fits(coats_of(candidate))
            and self._keeps_ground(candidate, now)
            and self._weight_of(candidate) < problem.weight(now, self.effort_weight) - 1e-9
            and _kinds(problem.breaches(candidate, False)) <= _kinds(problem.breaches(now, False))
        )

    def _weight_of(self, candidate: Candidate) -> float:
        return self.problem.weight(candidate, self.effort_weight)

    def _keeps_ground(self, candidate: Candidate, now: Candidate) -> bool:
        """Tell whether one still begins with a ground, where one that does must.

        For a light ground another light coat will do.
        """
        if self.allowed.bare or not now or not now[0].ground:
            return True
        light = self.problem.light
        return bool(candidate) and (
            candidate[0].ground or (light(now[0].coat) and light(candidate[0].coat))
        )

    def _without(self, candidate: Candidate, k: int) -> Candidate:
        less = (*candidate[:k], *candidate[k + 1 :])
        return less if less and self.better(less, candidate) else candidate

    def _moved(self, candidate: Candidate, k: int) -> Candidate:
        placed, best = candidate[k], candidate
        for ends in self.intervals():
            near = abs(ends[0] - placed.first) <= 1 and abs(ends[1] - placed.last) <= 1
            if ends == placed.interval or not near:
                continue
            tried = (
                *candidate[:k],
                changed(placed, first=ends[0], last=ends[1]),
                *candidate[k + 1 :],
            )
            if self.better(tried, best):
                best = tried
        return best

    def _turned_round(self, candidate: Candidate, k: int) -> Candidate:
        """Return a candidate with coat `k` before the one below it, if that is better."""
        if not 0 < k < len(candidate) or candidate[k - 1].ground:
            return candidate
        tried = (*candidate[: k - 1], candidate[k], candidate[k - 1], *candidate[k + 1 :])
        return tried if self.better(tried, candidate) else candidate

    def _inserted(self, candidate: Candidate, k: int) -> Candidate:
        """Return one with the coat that helps most put in after some of its coats, if any does."""
        problem, best, limits = self.problem, candidate, self.context.limits
        if not limits.again and len(candidate) >= limits.coats:
            return candidate
        squares = self._squares(candidate, k, k, self.banks)
        now = problem.state(candidate).off ** 2
        cost = self.effort_weight * self.efforts.on(candidate)
        order: list[tuple[float, int, tuple[int, int]]] = []
        for ends in self.intervals():
            on = (problem.steps >= ends[0]) & (problem.steps <= ends[1])
            total = np.where(on[:, None], squares, now[:, None]).mean(axis=0)
            weight = np.sqrt(total) + cost
            seen = on & ~self._hidden(candidate[k:])
            weight[self.misfit[seen].any(axis=0)] = np.inf
            order += [(float(weight[m]), int(m), ends) for m in np.argsort(weight)[:_TUNED_OVER]]
        for weight_of, m, ends in sorted(order)[:_TUNED_OVER]:
            if weight_of >= self._weight_of(candidate) - 1e-9:
                break
            tried = (*candidate[:k], PlacedCoat(self.coats[m], *ends), *candidate[k:])
            if self.better(tried, best):
                return tried
        return best

    def _hidden(self, above: Candidate) -> npt.NDArray[np.bool_]:
        """Return on which spots some coats hide what lies below, (spots,), as the judge tells."""
        problem, out = self.problem, np.zeros(len(self.problem.spots), dtype=bool)
        for placed in above:
            if problem.last and hides(placed.coat, self.context.paints):
                out |= problem.covered(placed)
        return out

    def _squares(self, candidate: Candidate, k: int, after: int, banks: dict[float, Bank]) -> Array:
        """Return about the squares of dE00 with each coat of banks between `k` and `after`.

        Returns (spots, options).
        """
        problem = self.problem
        options = next(iter(banks.values())).coats
        squares = np.empty((len(problem.spots), len(options)))
        squares[:] = problem.state(candidate).off[:, None] ** 2
        below, above = problem.state(candidate[:k]).stacks, candidate[after:]
        for relief, bank in banks.items():
            # Where the coat that it takes the place of did not lie, it does not lie either.
            sites = problem.sites[relief]
            at = [
                row
                for row, i in enumerate(sites)
                if after == k or candidate[k].covers(int(problem.steps[i]))
            ]
            context = problem.contexts[relief]
            over = [
                context.each((*on_step(above, int(problem.steps[sites[row]])), *problem.over))
                for row in at
            ]
            here = below[relief].some(at)
            for rows, numbers, labs in here.every(bank, context.look, over, rough=True):
                there = np.array([sites[at[row]] for row in rows])
                squares[np.ix_(there, numbers)] = problem.options_off(labs, there.tolist()) ** 2
        return squares

    def _swapped(self, candidate: Candidate, k: int, banks: dict[float, Bank]) -> Candidate:
        """Return one with a coat swapped for whatever of some banks is best in its place."""
        placed = candidate[k]
        options = next(iter(banks.values())).coats
        squares = self._squares(candidate, k, k + 1, banks)
        efforts = self.efforts if banks is self.banks else Efforts(options)
        rest = (*candidate[:k], *candidate[k + 1 :])
        weight = np.sqrt(squares.mean(axis=0)) + self.effort_weight * efforts.on(rest)
        if banks is self.banks:
            seen = self.problem.covered(placed) & ~self._hidden(candidate[k + 1 :])
            weight[self.misfit[seen].any(axis=0)] = np.inf
        for m in np.argsort(weight, kind="stable")[:_TUNED_OVER]:
            if weight[m] >= self._weight_of(candidate) - 1e-9:
                break
            coat = options[int(m)]
            # What takes a ground's place is of the same paints, a little thinner at most, or it is
            # laid by the rules for all others.
            like = coat.mixture.parts == placed.coat.mixture.parts
            ground = placed.ground and like and coat.mixture.thinning <= _GROUND_WATER
            tried = (*candidate[:k], changed(placed, coat=coat, ground=ground), *candidate[k + 1 :])
            if self.better(tried, candidate):
                return tried
        return candidate


def _kinds(found: Sequence[Breach]) -> Counter[Rule]:
    """Return how often each rule is broken, whichever coat it is."""
    return Counter(breach.rule for breach in found)
