"""The surface between paint and air, and its finish.

Light falls in at 45 degrees and is looked at straight from above, as instruments do it (45/0) and
as painters hold a figure under a lamp. From within, shallow light is thrown back whole, and steep
light by what a surface of index 1.5 sends back of it (Fresnel), averaged over the escape cone.

References
----------
J. L. Saunderson, "Calculation of the color of pigmented plastics", J. Opt. Soc. Am. 32 (1942),
727-736: for ground that spreads light evenly the formula below is his, with other constants.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.optics.bispectral import Bispectral, Donaldson, returned
from zesty_veil.optics.streams import COSINES, INDEX, SHARES, Sym

# Share of the light that the first surface sends to the eye, by finish; from memory.
FINISHES: dict[str, float] = {"gloss": 0.003, "satin": 0.02, "matt": 0.04}


def fresnel(cosine: Array | float, n: float = INDEX) -> Array:
    """Return what a surface sends back of light that meets it from within, unpolarised.

    cosine : (...) float64, of the angle inside; n : the index of what is inside.

    >>> fresnel(1.0).round(4).item()
    0.04
    """
    mu = np.asarray(cosine, dtype=np.float64)
    out = np.sqrt(np.maximum(1 - n * n * (1 - mu * mu), 0.0))
    across = (n * mu - out) / (n * mu + out)
    along = (mu - n * out) / (mu + n * out)
    return np.where(out > 0, (across**2 + along**2) / 2, 1.0)


def _cone() -> float:
    """Return what the surface sends back of steep diffuse light: the mean over the escape cone."""
    x, w = np.polynomial.legendre.leggauss(48)
    least = 2 * COSINES[1]
    mu = least + (1 - least) * (x + 1) / 2
    return float((mu * w * fresnel(mu)).sum() / (mu * w).sum())


# What steep light is thrown back of from within, and what passes at 45 degrees in and straight out.
INSIDE = _cone()
PASSES = float((1 - fresnel(np.sqrt(1 - 0.5 / INDEX**2))) * (1 - fresnel(1.0)))
# Of diffuse light from within: what the surface throws back.
K2 = SHARES[0] * INSIDE + SHARES[1]
OUT = PASSES / (INDEX**2 * SHARES[0])
_ABOVE = Sym(np.full(1, INSIDE), np.zeros(1), np.ones(1))


def seen(R: Sym, finish: Array | float) -> Array:
    """Return the reflectance seen from the air at 45/0, relative to a perfect diffuser.

    Parameters
    ----------
    R
        Internal reflectance.
    finish : (...) float64
        k_f, the part of the surface's reflection that reaches the eye; see `FINISHES`.

    >>> import numpy as np
    >>> from zesty_veil.optics.streams import lambertian
    >>> bool(seen(lambertian(np.array([0.5])), 0.0)[0] < 0.5)
    True
    """
    det = R.det()
    out = np.asarray(R.steep - det)
    out /= 1 - INSIDE * R.steep - R.shallow + INSIDE * det
    out *= OUT
    out += finish
    return out


def seen_bispectral(R: Bispectral, finish: Array) -> Donaldson:
    """Return what is seen where some films fluoresce; finish (...), R (..., 36).

    Light that the surface sends back excites again.

    >>> import numpy as np
    >>> from zesty_veil.optics.bispectral import plain, radiance_factor
    >>> from zesty_veil.optics.streams import lambertian
    >>> grey = lambertian(np.full(36, 0.5))
    >>> both = seen_bispectral(plain(grey), np.array(0.01))
    >>> bool(np.allclose(radiance_factor(both, np.ones(36)), seen(grey, 0.01)))
    True
    """
    k = finish[..., None]
    if not R.sources:
        none = np.zeros((*R.d.shape[:-1], 0, R.d.shape[-1]))
        return Donaldson(seen(R.d, k), none, none)
    up = returned(_ABOVE, R)
    return Donaldson(k + OUT * up.d.steep, OUT * up.U[..., 0, :], up.V[..., 0, :])


def internal(reflectance: Array, finish: Array | float) -> Array:
    """Return the internal reflectance of a ground that spreads light evenly, from what is seen.

    The inverse of `seen` of `streams.lambertian`. Seen reflectance below the finish itself cannot
    come from a surface of that finish and gives 0; more than can be seen gives 1.

    >>> import numpy as np
    >>> from zesty_veil.optics.streams import lambertian
    >>> R = internal(np.array([0.4]), 0.01)
    >>> seen(lambertian(R), 0.01).round(6).tolist()
    [0.4]
    """
    light = np.asarray(reflectance - finish, dtype=np.float64)
    R = light / (OUT * SHARES[0] + K2 * light)
    return np.asarray(np.clip(R, 0.0, 1.0))
