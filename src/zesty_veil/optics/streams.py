"""Light inside paint in two directions: steep light that may leave, shallow light that may not.

Paint is denser than air. From within, only light inside a cone round the normal gets out through
the surface; all that is shallower is thrown back whole. What scatters in a film mostly becomes
shallow, so a film must know both kinds. Here each is one stream, up and down, parted at the
critical angle: the coarsest of the discrete ordinates that keeps the surface in sight.

Matrices over the two streams act on fluxes divided by the root of the stream's share of diffuse
light. So scaled, every film and ground that obeys reciprocity is symmetric: three numbers.

References
----------
K. Stamnes, R. A. Swanson, "A new look at the discrete ordinate method for radiative transfer
calculations in anisotropically scattering atmospheres", J. Atmos. Sci. 38 (1981), 387-399.
K. N. Liou, "Analytic two-stream and four-stream solutions for radiative transfer", J. Atmos. Sci.
31 (1974), 1473-1475.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, NamedTuple

import numpy as np

from zesty_veil.light.grid import Array

# Refractive index of dry acrylic binder, which all films of a stack share; common practice.
INDEX = 1.5

_CRITICAL = float(np.sqrt(1 - 1 / INDEX**2))
# Of each stream, steep first: the weight over cosines 0-1, the cosine, and the share of diffuse
# flux, which sums to 1.
WEIGHTS = (1 - _CRITICAL, _CRITICAL)
COSINES = ((1 + _CRITICAL) / 2, _CRITICAL / 2)
SHARES = tuple(2 * mu * w for mu, w in zip(COSINES, WEIGHTS, strict=True))
ROOTS: Array = np.sqrt(SHARES)
# A stream's weight by its cosine, as a root: how scattering takes from and gives to it.
TURNS: Array = np.sqrt(np.array(WEIGHTS) / np.array(COSINES))
# How much further onward than backward paint scatters once the peak straight on is left out, as
# reduced scattering does: by delta-Eddington g / (1 + g), 0.23 to 0.47 where g is 0.3 to 0.9. One
# value serves all paints, for fitted to each on its own it spoils mixtures; that this one serves
# best was found with true paints of such g. Above 0.39, steep light would send back less than none.
ONWARD = 0.28
# How that slope couples the streams, steep, mixed and shallow: by w mu, so that the part of an even
# flow that goes onward is kept whole.
_FLOW = np.sqrt(np.array(WEIGHTS) * np.array(COSINES))
_EVEN = sum(w * mu * mu for w, mu in zip(WEIGHTS, COSINES, strict=True))
SLOPE = tuple(float(x) / _EVEN for x in (_FLOW[0] ** 2, _FLOW[0] * _FLOW[1], _FLOW[1] ** 2))


class Sym(NamedTuple):
    """A symmetric matrix over the streams, [[steep, mixed], [mixed, shallow]], each (..., 36)."""

    steep: Array
    mixed: Array
    shallow: Array

    @property
    def shape(self) -> tuple[int, ...]:
        """Shape of the places and bands."""
        return self.steep.shape

    def each(self, act: Callable[[Array], Any]) -> Sym:
        """Return what an act makes of each entry."""
        return Sym(act(self.steep), act(self.mixed), act(self.shallow))

    def det(self) -> Array:
        """Return the determinant."""
        return np.asarray(self.steep * self.shallow - self.mixed * self.mixed)


def lambertian(reflectance: Array) -> Sym:
    """Return a ground that spreads what it sends back evenly.

    reflectance : (..., 36) float64, of diffuse light, 0-1.

    >>> import numpy as np
    >>> lambertian(np.full(36, 0.5)).shape
    (36,)
    """
    r = np.asarray(reflectance, dtype=np.float64)
    return Sym(r * SHARES[0], r * float(ROOTS[0] * ROOTS[1]), r * SHARES[1])


def diffuse(R: Sym) -> Array:
    """Return how much of diffuse light something sends back or lets through, (..., 36) 0-1.

    >>> import numpy as np
    >>> diffuse(lambertian(np.array([0.5]))).round(6).tolist()
    [0.5]
    """
    a, b = float(ROOTS[0]), float(ROOTS[1])
    return np.asarray(a * a * R.steep + 2 * a * b * R.mixed + b * b * R.shallow)
