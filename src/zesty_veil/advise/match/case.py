"""A candidate on its problem, as the judge asks for it."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.candidate import Candidate
from zesty_veil.light.grid import Array
from zesty_veil.plan.thickness import hides, neat_passes, neat_um
from zesty_veil.predict.recalled import alone

if TYPE_CHECKING:
    from zesty_veil.advise.match.problem import Problem, State


class JudgedCandidate:
    """A candidate as the judge asks for it."""

    def __init__(self, problem: Problem, candidate: Candidate) -> None:
        self._problem, self.candidate = problem, candidate
        self.wanted, self.last = problem.wanted, problem.last

    @cached_property
    def _states(self) -> list[State]:
        return self._problem.state(self.candidate).each()

    def lines(self) -> Sequence[Sequence[int]]:
        return list(self._problem.sites.values())

    def covered(self, coat: int) -> npt.NDArray[np.bool_]:
        return self._problem.covered(self.candidate[coat])

    def labs(self, count: int) -> Array:
        return self._states[count].labs

    def off(self, count: int) -> Array:
        return self._states[count].off

    def by_step(self, squares: Array) -> Array:
        return self._problem.by_step(squares)

    def without(self, coat: int) -> tuple[Array, Array]:
        state = self._problem.state((*self.candidate[:coat], *self.candidate[coat + 1 :]))
        return state.labs, state.off

    def thickness(self, coat: int) -> tuple[float, int]:
        placed, paints = self.candidate[coat].coat, self._problem.context.paints
        return neat_um(placed, paints), neat_passes(placed, paints)

    def under(self, step: int) -> float:
        return self._problem.under[step]

    def hides(self, coat: int) -> bool:
        return hides(self.candidate[coat].coat, self._problem.context.paints)

    def own(self, coat: int) -> tuple[float, float, float]:
        return alone(self.candidate[coat].coat, self._problem.context.paints, "white")

    def light(self, coat: int) -> bool:
        return self._problem.light(self.candidate[coat].coat)

    def tinted(self, coat: int) -> bool:
        return self._problem.warm(self.candidate[coat].coat)

    def misfits(self, coat: int) -> npt.NDArray[np.bool_]:
        return self._problem.misfit(self.candidate[coat].coat)
