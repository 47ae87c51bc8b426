"""Metallic paint: leaves that lie flat and mirror, and what a film above leaves of their glint.

Leaves of an area q per volume send back m of the light that meets them. Part of that, d, leaves in
all directions and is seen from everywhere (shade): it takes part in the film like the scattering
of any pigment (`optics.film.Leaves`), so metal and pigment of one pot share the light without a
jump. The rest flashes at the angle of a mirror (glint) and adds up over the depth that a straight
beam reaches. Pigment that scatters between the leaves tumbles them and spreads their light, so d
rises toward 1. The numbers are from memory and common practice, not measured.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.optics.film import Leaves
from zesty_veil.optics.surface import FINISHES, fresnel

# Of what leaves send back, the part that flashes where nothing scatters between them.
_MIRRORED = 0.58
# How much brighter than a white diffuser a perfect mirror of leaves flashes at its angle.
FLASH = 1.3
# How fast a duller finish spreads the glint.
_FINISH_SCALE = 0.018


def leaves(q: float, mirror: Array, mu_s: Array) -> Leaves:
    """Return leaves as a film takes them.

    q : 1/mm, their area in a volume of neat paint; mirror : (36,) what they send back; mu_s :
    (..., 36) reduced scattering of the pigment between them in 1/mm.

    >>> import numpy as np
    >>> leaves(40.0, np.full(36, 0.9), np.zeros(36))[0].item()
    40.0
    """
    return Leaves(np.asarray(q), spread(q, mu_s) * mirror)


def spread(q: float, mu_s: Array) -> Array:
    """Return the part of their light that leaves spread in all directions.

    >>> import numpy as np
    >>> spread(40.0, np.array([0.0, 1e6])).round(2).tolist()
    [0.42, 1.0]
    """
    return np.asarray(1 - _MIRRORED * q / np.maximum(q + 2 * mu_s, 1e-300))


def direct(mu_a: Array, mu_s: Array, X: Array, q: float = 0.0) -> Array:
    """Return how much of a straight beam a film passes twice, in and out.

    What leaves stop on the way in they stop on the way out at the same places.

    >>> import numpy as np
    >>> direct(np.array(10.0), np.array(0.0), np.array(0.05)).round(4).item()
    0.3679
    """
    return np.asarray(np.exp(-(2 * (mu_a + mu_s) + q) * X))


def flash(q: float, mirror: Array, mu_a: Array, mu_s: Array, X: Array) -> Array:
    """Return what the leaves of a film send back at the angle of a mirror, seen from within.

    Two films with the halves of it come to the same, the lower seen through the upper.

    >>> import numpy as np
    >>> flash(40.0, np.array(1.0), np.array(0.0), np.array(0.0), np.array(0.0)).item()
    0.0
    """
    lost = q + 2 * (mu_a + mu_s)
    share = (1 - spread(q, mu_s)) * q / np.maximum(lost, 1e-300)
    return np.asarray(share * mirror * -np.expm1(-lost * X))


def kept_glint(finish: Array | float) -> Array:
    """Return the share of the glint that a surface of a finish (k_f) leaves in one direction.

    >>> from zesty_veil.optics.surface import FINISHES
    >>> kept_glint(FINISHES['gloss']).item()
    1.0
    """
    return np.asarray(np.exp(-np.maximum(finish - FINISHES["gloss"], 0.0) / _FINISH_SCALE))


def glint(mirror: Array, finish: Array) -> Array:
    """Return what the glint adds to the seen reflectance.

    Parameters
    ----------
    mirror : (..., 36) float64
        Reflectance of the leaves that is left in the direction of the mirror, seen from within.
    finish : (...) float64
        k_f of the surface.

    Returns
    -------
    (..., 36) float64
        May lift the sum above 1, as a flash is brighter than white.

    >>> import numpy as np
    >>> glint(np.zeros((1, 36)), np.array([0.0])).sum().item()  # no leaves, no glint
    0.0
    """
    return np.asarray(FLASH * _THROUGH * mirror * kept_glint(finish)[..., None])


_THROUGH = float((1 - fresnel(1.0)) ** 2)
