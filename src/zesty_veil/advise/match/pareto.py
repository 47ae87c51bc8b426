"""Which ways are worth choosing between.

References
----------
The idea of keeping what is best under some of several aims is Pareto's: a way is left out only if
another is at least as good in everything and better in something.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Protocol, TypeVar

import numpy as np

from zesty_veil.plan.model import Coat
from zesty_veil.thresholds import AS_NEAR_DE00

Objectives = tuple[float, int, float, float, float]
MOST_WAYS = 8
# A way that is farther off than the nearest by more than this is no way there.
_WORSE = 8.0
# Nearer by less than this, dE00, is seen by nobody.
_SEEN = 0.5


class Weighed(Protocol):
    """What can be weighed against others: coats, and what is to be small about them."""

    @property
    def coats(self) -> tuple[Coat, ...]:
        """The coats, from the ground up."""

    @property
    def aims(self) -> Objectives:
        """What is made small; see `objectives`."""


T = TypeVar("T", bound=Weighed)


def objectives(
    delta_e: float, pots: int, minutes: float, sensitivity: float, rough: float
) -> Objectives:
    """Return what is made small, rounded to what a painter would notice.

    Nobody sees half a dE, but everybody would rather stir one pot than two. rough : as
    `Problem.rough`.
    """
    return float(np.ceil(2 * delta_e) / 2), pots, round(minutes), round(sensitivity, 1), rough


class Laboured(Weighed, Protocol):
    """What can be weighed, and also costs the painter some effort."""

    @property
    def off(self) -> float:
        """How far it is from what is wanted, dE00; a place that stays far off counts more."""

    @property
    def effort(self) -> float:
        """What it costs the painter, as `candidate.effort`."""

    @property
    def beside(self) -> float:
        """How far it is from the middle of what was said in words, dE00; 0 if nothing was."""


L = TypeVar("L", bound=Laboured)


def plainest_first(ways: Iterable[L], there: float) -> tuple[L, ...]:
    """Return the ways worth choosing, the plainest of those first that are there.

    Those are there that are no farther off than `there`, dE00, or within dE 1 of the nearest; the
    others follow, the nearest first.
    """
    kept = list(pareto_front(ways))
    best = min((way.off for way in kept), default=0.0)
    near = [way for way in kept if way.off <= max(best + AS_NEAR_DE00, there)]
    plain = sorted(near, key=lambda way: (round(way.effort, 6), way.beside))
    return (*plain, *(way for way in kept if way not in near))


def closer_but_more(ways: Sequence[Laboured]) -> list[bool]:
    """Tell of each way whether it is closer than the first, which is the plainest, and more work.

    What nobody would see closer, within half a dE00, is not.
    """
    return [way.off < ways[0].off - _SEEN and way.effort > ways[0].effort for way in ways]


def pareto_front(ways: Iterable[T]) -> tuple[T, ...]:
    """Return the ways than which no other is at least as good in everything, the nearest first.

    Those that are far worse than the nearest are left out.
    """
    every = sorted(ways, key=lambda way: (way.aims, len(way.coats)))
    kept: list[T] = []
    for way in every:
        if way.aims[0] > every[0].aims[0] + _WORSE:
            break
        if not any(
            all(a <= b for a, b in zip(other.aims, way.aims, strict=True)) for other in kept
        ):
            kept.append(way)
    return tuple(kept[:MOST_WAYS])
