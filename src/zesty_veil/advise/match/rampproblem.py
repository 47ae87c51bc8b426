"""What a ramp is matched on: its places in order, each with its ground, sites and wishes."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby

import numpy as np

from zesty_veil.advise.match.bank import Bank
from zesty_veil.advise.match.context import MatchContext
from zesty_veil.advise.match.difference import delta_e
from zesty_veil.light.grid import Array
from zesty_veil.plan.model import Coat
from zesty_veil.predict.layer import StackOptics, joined_stacks
from zesty_veil.predict.look import colours

# So many stacks are worked out at once.
_BLOCK = 1000

Stacks = Sequence[tuple[Coat, ...]]


@dataclass(frozen=True, eq=False)
class Spot:
    """A colour wanted on one site of one place.

    place : on the axis, 0-1. lab : (3,), CIELAB wanted. ground : what is there, of leading shape
    (1, 1). relief : from -1 (recess) to 1 (ridge).
    """

    place: float
    lab: Array
    ground: StackOptics
    relief: float = 0.0


def even(
    ground: StackOptics, places: Sequence[float], labs: Array, relief: float = 0.0
) -> tuple[Spot, ...]:
    """Return colours wanted (n, 3) at places (n,) on a ground that is the same all along."""
    spots = zip(places, labs, strict=True)
    return tuple(Spot(float(place), lab, ground, relief) for place, lab in spots)


class RampProblem:
    """Spots by their places, with a bench for each relief, so that layers are worked out once.

    Parameters
    ----------
    spots
        In rising order of place; those of one place are one step.
    benches
        By relief.
    options
        By relief, the coats to choose from; the same coats in the same order.
    over
        Coats that will lie over all in the end; every colour is looked at through them.
    """

    def __init__(
        self,
        spots: Sequence[Spot],
        benches: dict[float, MatchContext],
        options: dict[float, Bank],
        over: tuple[Coat, ...] = (),
    ) -> None:
        self.spots, self.benches, self.options, self.over = spots, benches, options, over
        self.steps = [list(each) for _, each in groupby(spots, key=lambda spot: spot.place)]

    @property
    def bench(self) -> MatchContext:
        """One of the benches; minutes and limits are the same on all."""
        return next(iter(self.benches.values()))

    @property
    def coats(self) -> tuple[Coat, ...]:
        """The coats to choose from."""
        return next(iter(self.options.values())).coats

    def backwards(self) -> RampProblem:
        """Return the course from the far end to the light."""
        return RampProblem(self.spots[::-1], self.benches, self.options, self.over)

    def with_options(self, coats: Sequence[Coat]) -> RampProblem:
        """Return the course with other coats to choose from."""
        options = {relief: bench.bank(coats) for relief, bench in self.benches.items()}
        return RampProblem(self.spots, self.benches, options, self.over)

    def seen(self, state: StackOptics, spot: Spot) -> Array:
        """Return CIELAB of stacks (n, k) on a spot as they will be seen in the end, (n, k, 3)."""
        bench = self.benches[spot.relief]
        return colours(bench.on(self.over, state), bench.look)[0]

    def stood(self, stacks: Stacks, spot: Spot) -> StackOptics:
        """Return stacks on the ground of a spot as one state (n, 1)."""
        bench = self.benches[spot.relief]
        states = [bench.on(coats, spot.ground) for coats in stacks]
        return joined_stacks(states)

    def every_option(
        self, stood: StackOptics, spot: Spot, should_continue: Callable[[], bool]
    ) -> Array:
        """Return CIELAB of every option on every one of some stacks (n, 1), as (n, options, 3).

        When it is not wanted any more, the rest of them stay black.
        """
        count = stood.finish.shape[0]
        labs = np.zeros((count, len(self.coats), 3))
        # A few stacks at a time stay in the processor's cache.
        step = max(_BLOCK // len(self.coats), 1)
        for first in range(0, count, step):
            if not should_continue():
                break
            some = slice(first, first + step)
            options, bench = self.options[spot.relief], self.benches[spot.relief]
            for numbers, lab in options.labs_on(
                stood.some(some), bench.look, bench.each(self.over)
            ):
                labs[some, numbers] = lab
        return labs

    def delta_e(self, coats: tuple[Coat, ...], spot: Spot) -> float:
        """Return how far coats are from what is wanted on a spot, dE00."""
        bench = self.benches[spot.relief]
        return float(delta_e(self.seen(bench.on(coats, spot.ground), spot)[0, 0], spot.lab))

    def errors(
        self, coats: tuple[Coat, ...], looked: Sequence[int], at: int, banks: dict[float, Bank]
    ) -> Array:
        """Return the sum of squared dE00 with each coat of some banks in place of one coat.

        Parameters
        ----------
        coats, looked
            A stack, and after how many of its coats each step is looked at.
        at
            Which of its coats is swapped.
        banks
            By relief, the same coats in the same order.

        Returns
        -------
        (coats of a bank,) float64
        """
        count = len(next(iter(banks.values())).coats)
        total = np.zeros(count)
        for spots in self._alike(looked):
            first, _ = spots[0]
            bench, bank = self.benches[first.relief], banks[first.relief]
            above = [(spot, after) for spot, after in spots if after > at]
            total += sum(self.delta_e(coats[:n], spot) ** 2 for spot, n in spots if n <= at)
            if not above:
                continue
            below = bench.on(coats[:at], first.ground)
            for numbers, laid in bank.all_on(below):
                state, done = laid, at + 1
                for spot, after in above:
                    state = bench.on(coats[done:after], state)
                    done = max(done, after)
                    total[numbers] += delta_e(self.seen(state, spot), spot.lab)[0] ** 2
        return total

    def _alike(self, looked: Sequence[int]) -> Iterator[list[tuple[Spot, int]]]:
        """Yield spots of one ground and relief together: one fold of a stack serves them all."""
        groups: list[list[tuple[Spot, int]]] = []
        for step, after in zip(self.steps, looked, strict=True):
            for spot in step:
                for group in groups:
                    one = group[0][0]
                    if one.ground is spot.ground and one.relief == spot.relief:
                        group.append((spot, after))
                        break
                else:
                    groups.append([(spot, after)])
        yield from groups
