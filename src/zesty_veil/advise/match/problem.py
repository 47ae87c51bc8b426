"""Candidates on the places of a ramp, as the judge asks for them, and what each is worth."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.candidate import Candidate, effort
from zesty_veil.advise.match.judge import (
    Breach,
    breaches,
    is_hidden,
    lies_thick,
    roughness,
    total_cost,
)
from zesty_veil.advise.match.places import State, WantedPlaces
from zesty_veil.light.grid import Array
from zesty_veil.plan.thickness import hides, neat_passes, neat_um
from zesty_veil.predict.recalled import alone


class Problem(WantedPlaces):
    """Colours wanted along a ramp, on which candidates are judged and weighed."""

    @cached_property
    def _breaches(self) -> dict[Candidate, list[Breach]]:
        return {}

    @cached_property
    def _rough(self) -> dict[Candidate, tuple[Breach, ...]]:
        return {}

    def breaches(self, candidate: Candidate, slow: bool = True) -> list[Breach]:
        """Return which rules a candidate breaks, as the judge tells; see `judge.breaches`."""
        if slow:
            return breaches(JudgedCandidate(self, candidate))
        if candidate not in self._breaches:
            self._breaches[candidate] = breaches(JudgedCandidate(self, candidate), slow=False)
        return self._breaches[candidate]

    def piled(self, candidate: Candidate) -> bool:
        """Tell whether the last coat of a candidate lies too thick, with those below it."""
        return lies_thick(JudgedCandidate(self, candidate), len(candidate) - 1)

    def hidden(self, candidate: Candidate, k: int) -> bool:
        """Tell whether nobody would miss a coat."""
        return is_hidden(JudgedCandidate(self, candidate), k)

    def weight(self, candidate: Candidate, effort_weight: float) -> float:
        """Return what is made small: how far off it is, and `effort_weight` times its effort."""
        state = self.state(candidate)
        return state.rms + effort_weight * self.effort(candidate)

    def effort(self, candidate: Candidate) -> float:
        """Return what a candidate costs the painter, and what it counts as that it is rough."""
        return effort(candidate) + total_cost(self.rough(candidate))

    def rough(self, candidate: Candidate) -> tuple[Breach, ...]:
        """Return what of a candidate painters would rather not lay."""
        if candidate not in self._rough:
            self._rough[candidate] = roughness(JudgedCandidate(self, candidate))
        return self._rough[candidate]

    def charge(self, candidate: Candidate, effort_weight: float) -> float:
        """Return the same, and what the rules that it breaks cost, but those that take long."""
        broken = total_cost(self.breaches(candidate, slow=False))
        return self.weight(candidate, effort_weight) + broken


class JudgedCandidate:
    """A candidate as the judge asks for it."""

    def __init__(self, places: WantedPlaces, candidate: Candidate) -> None:
        self._places, self.candidate = places, candidate
        self.wanted, self.last = places.wanted, places.last

    @cached_property
    def _states(self) -> list[State]:
        return self._places.state(self.candidate).each()

    def lines(self) -> Sequence[Sequence[int]]:
        return list(self._places.sites.values())

    def covered(self, coat: int) -> npt.NDArray[np.bool_]:
        return self._places.covered(self.candidate[coat])

    def labs(self, count: int) -> Array:
        return self._states[count].labs

    def off(self, count: int) -> Array:
        return self._states[count].off

    def by_step(self, squares: Array) -> Array:
        return self._places.by_step(squares)

    def without(self, coat: int) -> tuple[Array, Array]:
        state = self._places.state((*self.candidate[:coat], *self.candidate[coat + 1 :]))
        return state.labs, state.off

    def thickness(self, coat: int) -> tuple[float, int]:
        placed, paints = self.candidate[coat].coat, self._places.context.paints
        return neat_um(placed, paints), neat_passes(placed, paints)

    def under(self, step: int) -> float:
        return self._places.under[step]

    def hides(self, coat: int) -> bool:
        return hides(self.candidate[coat].coat, self._places.context.paints)

    def own(self, coat: int) -> tuple[float, float, float]:
        return alone(self.candidate[coat].coat, self._places.context.paints, "white")

    def light(self, coat: int) -> bool:
        return self._places.light(self.candidate[coat].coat)

    def tinted(self, coat: int) -> bool:
        return self._places.warm(self.candidate[coat].coat)

    def misfits(self, coat: int) -> npt.NDArray[np.bool_]:
        return self._places.misfit(self.candidate[coat].coat)
