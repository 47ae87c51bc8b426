"""Pigments: absorption and scattering spectra from a few shapes of band.

The shapes and strengths are invented for the demo rack: band places from memory, then fitted to
targets of how such pigments look by tools/tune_materials.py. Paints that a painter has measured
carry their own spectra and need no pigment here.
"""

from __future__ import annotations

from functools import cache

import msgspec
import numpy as np

from zesty_veil import data
from zesty_veil.light.grid import Array, wavelengths

# The strengths in pigments.json are per neat loaded coat, which is this thick.
NEAT_COAT_MM = 0.050


class Band(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One absorption band: a sigmoid edge (absorbs below it) or a Gaussian peak; nm."""

    width: float
    strength: float
    edge: float | None = None
    peak: float | None = None

    def spectrum(self, nm: Array) -> Array:
        """Return the band's absorption, same shape as `nm`, per neat loaded coat."""
        if self.edge is not None:
            return self.strength / (1 + np.exp((nm - self.edge) / self.width))
        return self.strength * np.exp(-0.5 * ((nm - (self.peak or 0.0)) / self.width) ** 2)


class Pigment(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A pigment by its Colour Index code.

    `scatters` is reduced scattering at 550 nm, which falls with wavelength to the power -`falls`.
    """

    name: str
    absorbs: tuple[Band, ...]
    flat: float
    scatters: float
    falls: float

    def mu_a(self) -> Array:
        """Return absorption at full strength, (36,) float64 in 1/mm of neat wet paint."""
        nm = wavelengths()
        total = np.full_like(nm, self.flat)
        for band in self.absorbs:
            total += band.spectrum(nm)
        return total / NEAT_COAT_MM

    def mu_s(self) -> Array:
        """Return reduced scattering at full strength, (36,) float64 in 1/mm of neat wet paint."""
        return self.scatters * (wavelengths() / 550) ** -self.falls / NEAT_COAT_MM


@cache
def pigments() -> dict[str, Pigment]:
    """Return the shipped pigments by Colour Index code."""
    return msgspec.json.decode(data.read("pigments.json"), type=dict[str, Pigment])
