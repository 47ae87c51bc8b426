"""Bench meters: what a driver of a real one fills in, and a simulated one that ships.

A meter must warm up, is calibrated on its white tile, and must lie flat on what it measures. The
simulated one has all of that: drift while it warms, noise, and an error where it does not lie
flat, so that the way of working can be learnt, and tested, without one.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.light.grid import BANDS, Array, wavelengths
from zesty_veil.tr import tr

# What a calibrated tile sends back: white ceramic, from memory.
TILE: Array = 0.87 - 0.04 * np.exp(-(wavelengths() - 380) / 25)


@dataclass(frozen=True)
class MeterState:
    """What a meter says of itself: seconds until it is warm, and whether it is calibrated."""

    warm_in_s: float
    calibrated: bool


class Meter(Protocol):
    """What the program asks of a meter; a driver of a real one has these three."""

    def state(self) -> MeterState:
        """Say whether it is ready."""
        ...

    def calibrate(self) -> None:
        """Measure its white tile; raises InputError if what lies there is no tile."""
        ...

    def measure(self) -> Array:
        """Return the reflectance seen, (36,); raises InputError if that cannot be trusted."""
        ...


class SimulatedMeter:
    """A meter over something of known reflectance.

    Parameters
    ----------
    clock
        Seconds; the lamp drifts with the time since the meter was made.
    seed
        Of its noise and its own error.
    """

    WARM_S = 60.0
    FORGETS_S = 1200.0  # a calibration holds for so long
    _NOISE, _OWN, _DRIFT = 0.0015, 0.003, 0.06

    def __init__(self, clock: Callable[[], float], seed: int = 1) -> None:
        self._clock, self._start = clock, clock()
        self._rng = np.random.default_rng(seed)
        # What this meter reads otherwise than another of its make: smooth over the spectrum.
        self._own = 1 + self._OWN * np.cos(wavelengths() / 90 + seed)
        self._under: Array = np.zeros(BANDS)
        self._distance_mm = 0.0
        self._gain: Array | None = None
        self._calibrated_at = -np.inf

    def put_on(self, reflectance: Array, distance_mm: float = 0.0) -> None:
        """Put the meter on something, so far away from lying flat."""
        self._under, self._distance_mm = np.asarray(reflectance), distance_mm

    def state(self) -> MeterState:
        """Say whether it is ready."""
        now = self._clock()
        fresh = self._gain is not None and now - self._calibrated_at < self.FORGETS_S
        return MeterState(max(0.0, self.WARM_S - (now - self._start)), fresh)

    def calibrate(self) -> None:
        """Measure the white tile, on which it must lie.

        Raises
        ------
        InputError
            If it is not warm, or lies on something else.
        """
        self._warm()
        raw = self._raw()
        if float(np.abs(raw / (TILE * self._lamp()) - 1).max()) > 0.2:
            raise InputError(
                tr(
                    "What lies under the meter is not its white tile; put it on the tile, "
                    "flat, and calibrate again."
                )
            )
        self._gain, self._calibrated_at = TILE / raw, self._clock()

    def measure(self) -> Array:
        """Return what lies under it, (36,), the mean of three flashes.

        Raises
        ------
        InputError
            If it is not warm, not calibrated, or does not lie flat.
        """
        self._warm()
        if self._gain is None or not self.state().calibrated:
            raise InputError(
                tr("The meter is not calibrated; put it on its white tile and calibrate.")
            )
        flashes = np.array([self._raw() * self._gain for _ in range(3)])
        # Away from the surface, light falls off and a part of the room's comes in: flashes differ.
        if float(flashes.std(axis=0).mean()) > 0.008 or self._distance_mm > 1.0:
            raise InputError(
                tr(
                    "The three flashes differ: the meter does not lie flat on the patch. Press "
                    "it down and measure again."
                )
            )
        return np.asarray(np.clip(flashes.mean(axis=0), 0.0, 1.5))

    def _warm(self) -> None:
        wait = self.state().warm_in_s
        if wait > 0:
            raise InputError(
                tr("The meter's lamp is not warm yet; wait {0:.0f} s.").format(np.ceil(wait))
            )

    def _lamp(self) -> float:
        """Return how bright the lamp is: it comes up as it warms, then drifts slowly."""
        t = self._clock() - self._start
        return float(1 - self._DRIFT * np.exp(-t / 20) + 0.004 * np.sin(t / 700))

    def _raw(self) -> Array:
        lost = 1 / (1 + 0.12 * self._distance_mm) ** 2
        room = 0.02 * self._distance_mm * (1 + 0.5 * self._rng.standard_normal())
        noise = self._rng.normal(0, self._NOISE, BANDS)
        return np.asarray((self._under * lost + room) * self._own * self._lamp() + noise)
