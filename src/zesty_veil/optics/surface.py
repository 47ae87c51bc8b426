"""The surface between paint and air, and its finish.

References
----------
J. L. Saunderson, "Calculation of the color of pigmented plastics", J. Opt. Soc. Am. 32 (1942).
k1 = 0.04 and k2 = 0.596 are the Fresnel reflectances for index 1.5 at normal incidence from air
and for diffuse light from within.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.optics.bispectral import Bispectral, plain, returned

K1 = 0.04
K2 = 0.596

# Share of the light that the first surface sends to the eye, by finish; from memory.
FINISHES: dict[str, float] = {"gloss": 0.003, "satin": 0.02, "matt": 0.04}


def seen(R: Array, finish: Array | float) -> Array:
    """Return the reflectance seen from the air.

    Parameters
    ----------
    R : (...) float64
        Internal reflectance, 0-1.
    finish : (...) float64
        k_f, the part of the surface's reflection that reaches the eye; see `FINISHES`.

    Returns
    -------
    (...) float64
        k_f + (1 - k1)(1 - k2) R / (1 - k2 R); at most k_f + 0.96.
    """
    out: Array = finish + (1 - K1) * (1 - K2) * R / (1 - K2 * R)
    return out


def seen_bispectral(R: Bispectral, finish: Array) -> Bispectral:
    """Return the reflectance seen from the air where some films fluoresce; shapes as `seen`.

    Light that the surface sends back excites again.
    """
    if not R.sources:
        return plain(seen(R.d, finish[..., None]))
    up = returned(np.full(R.d.shape[-1], K2), R)
    out = (1 - K1) * (1 - K2)
    return Bispectral(finish[..., None] + out * up.d, out * up.U, up.V)


def internal(reflectance: Array, finish: Array | float) -> Array:
    """Return the internal reflectance of what is seen, the inverse of `seen`.

    Seen reflectance below the finish itself cannot come from a surface of that finish and gives 0;
    above k_f + 0.96 it gives 1.
    """
    light = np.asarray(reflectance - finish, dtype=np.float64)
    R = light / ((1 - K1) * (1 - K2) + K2 * light)
    return np.asarray(np.clip(R, 0.0, 1.0))
