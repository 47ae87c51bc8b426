"""What a ramp is matched on: its places in order, each with its ground, sites and wishes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import groupby

from zesty_veil.advise.match.bank import Bank
from zesty_veil.advise.match.context import MatchContext
from zesty_veil.light.grid import Array
from zesty_veil.light.region import Region
from zesty_veil.plan.model import Coat
from zesty_veil.predict.layer import StackOptics
from zesty_veil.thresholds import CLOSE_DE00, MET_DE00, WORDY_DE00


@dataclass(frozen=True, eq=False)
class Spot:
    """A colour wanted on one site of one place.

    place : on the axis, 0-1. lab : (3,), CIELAB wanted. ground : what is there, of leading shape
    (1, 1). relief : from -1 (recess) to 1 (ridge). region : all that would do, where it was wanted
    in words.
    """

    place: float
    lab: Array
    ground: StackOptics
    relief: float = 0.0
    region: Region | None = None


def near_enough(spots: Sequence[Spot]) -> float:
    """Return how far off counts as there, dE00: a colour in words must be so called."""
    if all(spot.region is not None for spot in spots):
        return WORDY_DE00
    return CLOSE_DE00 if len({spot.place for spot in spots}) == 1 else MET_DE00


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

    def with_options(self, coats: Sequence[Coat]) -> RampProblem:
        """Return the course with other coats to choose from."""
        options = {relief: bench.bank(coats) for relief, bench in self.benches.items()}
        return RampProblem(self.spots, self.benches, options, self.over)
