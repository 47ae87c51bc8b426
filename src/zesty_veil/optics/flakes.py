"""Metallic paint: flakes that mirror, and what a film above leaves of their glint.

Flakes lie flat in the middle of their film and cover a share 1 - exp(-q X) of what is below. Seen
away from the mirror's angle they are a dull grey of their metal's tint (shade); at that angle they
flash (glint). The numbers are from memory and common practice, not measured.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.optics.surface import FINISHES, K1

# Of what a layer of flakes reflects, the part that leaves in all directions.
DULL = 0.22
# How much brighter than a white diffuser a perfect mirror of flakes flashes at its angle.
FLASH = 1.3
# How fast a duller finish spreads the glint.
_FINISH_SCALE = 0.018


def covered(q: float, X: Array) -> Array:
    """Return the share of the area that flakes cover; q in 1/mm, X in mm; same shape as X."""
    return np.asarray(-np.expm1(-q * X))


def direct(K: Array, S: Array, X: Array) -> Array:
    """Return how much of a straight beam a film passes twice, in and out.

    The two-flux K and S are for diffuse light: K = 2 mu_a and S = 3/4 mu_s', so a straight beam
    loses exp(-(mu_a + mu_s') X) each way.
    """
    return np.asarray(np.exp(-(K + 8 / 3 * S) * X))


def kept(finish: Array | float) -> Array:
    """Return the share of the glint that a surface of a finish (k_f) leaves in one direction."""
    return np.asarray(np.exp(-np.maximum(finish - FINISHES["gloss"], 0.0) / _FINISH_SCALE))


def glint(mirror: Array, finish: Array) -> Array:
    """Return what the glint adds to the seen reflectance.

    Parameters
    ----------
    mirror : (..., 36) float64
        Reflectance of the flakes that is left in the direction of the mirror, seen from within.
    finish : (...) float64
        k_f of the surface.

    Returns
    -------
    (..., 36) float64
        May lift the sum above 1, as a flash is brighter than white.
    """
    return np.asarray(FLASH * (1 - K1) ** 2 * mirror * kept(finish)[..., None])
