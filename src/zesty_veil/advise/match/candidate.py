"""Candidates for a recipe: coats, each over some steps of a ramp, and what effort they are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from typing import Any

import numpy as np
import numpy.typing as npt

from zesty_veil.light.grid import Array
from zesty_veil.plan.model import Coat

# What one costs, in the dE that it must save: each pass, each coat, each pot that is opened, each
# that is stirred of two, each time that the work turns back to the end where it was before.
_PASS, _COAT, _PAINT, _MIX, _TURN = 0.06, 0.1, 0.08, 0.12, 0.15
_BAND = 0.15  # and each that must be softened at both of its ends


@dataclass(frozen=True)
class PlacedCoat:
    """One coat over steps `first` to `last` of a ramp, both included.

    ground : whether it is there for what comes over it.
    """

    coat: Coat
    first: int
    last: int
    ground: bool = False

    def covers(self, step: int) -> bool:
        """Whether it lies on a step."""
        return self.first <= step <= self.last

    @property
    def interval(self) -> tuple[int, int]:
        """Its first and last step."""
        return self.first, self.last


Candidate = tuple[PlacedCoat, ...]


def coats_of(candidate: Candidate) -> tuple[Coat, ...]:
    """Return the coats of a candidate, from the ground up."""
    return tuple(placed.coat for placed in candidate)


def on_step(candidate: Candidate, step: int) -> tuple[Coat, ...]:
    """Return the coats that lie on a step."""
    return tuple(placed.coat for placed in candidate if placed.covers(step))


def by_ends(candidate: Candidate) -> Candidate:
    """Return one with coats of one end together, as far as they do not lie on each other."""
    out = list(candidate)
    for _ in candidate:
        for k in range(len(out) - 1):
            lower, upper = out[k], out[k + 1]
            apart = upper.last < lower.first or lower.last < upper.first
            tried = [*out[:k], upper, lower, *out[k + 2 :]]
            more = _turns(tuple(tried)) - _turns(tuple(out))
            inward = upper.last < lower.first and lower.first > 0
            if apart and (more < 0 or (more == 0 and inward)):
                out = tried
    return tuple(out)


@lru_cache(maxsize=5_000)
def effort(candidate: Candidate) -> float:
    """Return what a candidate costs the painter, in the dE that it must save."""
    coats = coats_of(candidate)
    pots = {coat.mixture.parts for coat in coats}
    paints = {part.paint for parts in pots for part in parts}
    passes = sum(coat.passes for coat in coats)
    mixed = sum(len(parts) > 1 for parts in pots)
    own = _PASS * passes + _COAT * len(coats) + _PAINT * len(paints) + _MIX * mixed
    return own + _TURN * max(_turns(candidate) - 1, 0) + _BAND * _bands(candidate)


def _bands(candidate: Candidate) -> int:
    """Return how many coats lie in the middle alone."""
    reach = max((placed.last for placed in candidate), default=0)
    return sum(placed.first > 0 and placed.last < reach for placed in candidate)


def _turns(candidate: Candidate) -> int:
    """Return how often the work goes from coats at one end to coats at the other."""
    reach = max((placed.last for placed in candidate), default=0)
    ends = [
        placed.first > 0
        for placed in candidate
        if not placed.ground and placed.interval != (0, reach)
    ]
    return sum(a != b for a, b in pairwise(ends))


class Efforts:
    """What each of some coats adds to the effort of a candidate, told for all of them at once."""

    def __init__(self, coats: Sequence[Coat]) -> None:
        self.mixtures = list(dict.fromkeys(coat.mixture.parts for coat in coats))
        numbers = {parts: k for k, parts in enumerate(self.mixtures)}
        paints = sorted({part.paint for parts in self.mixtures for part in parts})
        self._paints = {paint: k for k, paint in enumerate(paints)}
        # (mixtures, paints): how many parts of a mixture are of a paint.
        self._parts = np.zeros((len(self.mixtures), len(paints)))
        for k, parts in enumerate(self.mixtures):
            for part in parts:
                self._parts[k, self._paints[part.paint]] += 1
        self._mixed = np.array([_MIX * (len(parts) > 1) for parts in self.mixtures])
        self._numbers = numbers
        self._of = np.array([numbers[coat.mixture.parts] for coat in coats], dtype=np.intp)
        self._passes = _PASS * np.array([coat.passes for coat in coats], dtype=np.float64)

    def of(self, values: npt.NDArray[Any]) -> npt.NDArray[Any]:
        """Return what is told of each mixture for each coat; the last axis is spread."""
        return np.asarray(values[..., self._of])

    def on(self, candidate: Candidate) -> Array:
        """Return the effort of a candidate with one coat more, for each coat, (coats,)."""
        known = {coat.mixture.parts for coat in coats_of(candidate)}
        new = np.ones(len(self._paints))
        new[
            [self._paints[p.paint] for parts in known for p in parts if p.paint in self._paints]
        ] = 0
        stirred = self._mixed.copy()
        stirred[[self._numbers[parts] for parts in known if parts in self._numbers]] = 0
        added = _PAINT * (self._parts @ new) + stirred
        return np.asarray(self.of(added) + self._passes + effort(candidate) + _COAT)
