"""What a ramp is matched on: its places in order, each with its ground, sites and wishes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from zesty_veil.light.grid import Array
from zesty_veil.light.region import Region
from zesty_veil.predict.layer import StackOptics
from zesty_veil.thresholds import CLOSE_DE00, MET_DE00, WORDY_DE00


@dataclass(frozen=True, eq=False)
class Spot:
    """A colour wanted on one site of one place.

    place : on the axis, 0-1. lab : (3,), CIELAB wanted. ground : what is there, of leading shape
    (1, 1). relief : from -1 (recess) to 1 (ridge). region : all that would do, where it was wanted
    in words. under : um of neat paint that lies there already.
    """

    place: float
    lab: Array
    ground: StackOptics
    relief: float = 0.0
    region: Region | None = None
    under: float = 0.0


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
