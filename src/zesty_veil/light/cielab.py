"""CIE XYZ, CIELAB and its polar form LCh.

References
----------
CIE 15:2018, Colorimetry, equations 8.3 to 8.11. ISO/CIE 11664-4:2019.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import BANDS, Array
from zesty_veil.light.shapes import ending_in

_EPSILON = (6 / 29) ** 3
_SLOPE = 841 / 108


def xyz(reflectance: Array, weights: Array) -> Array:
    """Return the tristimulus values of a reflectance.

    Parameters
    ----------
    reflectance : (..., 36) float64
        Seen reflectance per band, 1 = perfect diffuser.
    weights : (36, 3) float64
        From `illuminant.weights`.

    Returns
    -------
    (..., 3) float64
        X, Y, Z with Y = 1 for a perfect diffuser.

    >>> import numpy as np
    >>> from zesty_veil.light.illuminant import weights
    >>> xyz(np.full(36, 0.5), weights())[1].round(3).item()
    0.5
    """
    ending_in(BANDS, "reflectance", reflectance)
    out: Array = reflectance @ weights
    return out


def lab(tristimulus: Array, white: Array) -> Array:
    """Return CIELAB of XYZ values relative to a white, all (..., 3) float64 in the same scale.

    >>> import numpy as np
    >>> lab(np.array([0.2, 0.2, 0.2]), np.ones(3)).round(2).tolist()
    [51.84, 0.0, 0.0]
    """
    ending_in(3, "XYZ", tristimulus, white)
    t = tristimulus / white
    f = np.where(t > _EPSILON, np.cbrt(t), _SLOPE * t + 4 / 29)
    fx, fy, fz = f[..., 0], f[..., 1], f[..., 2]
    return np.stack([116 * fy - 16, 500 * (fx - fy), 200 * (fy - fz)], axis=-1)


def xyz_from_lab(colour: Array, white: Array) -> Array:
    """Return XYZ of CIELAB values, the inverse of `lab`; (..., 3) float64.

    >>> import numpy as np
    >>> xyz_from_lab(np.array([100.0, 0.0, 0.0]), np.array([0.95, 1.0, 1.09])).round(3).tolist()
    [0.95, 1.0, 1.09]
    """
    ending_in(3, "CIELAB", colour)
    fy = (colour[..., 0] + 16) / 116
    f = np.stack([fy + colour[..., 1] / 500, fy, fy - colour[..., 2] / 200], axis=-1)
    out: Array = white * np.where(f > 6 / 29, f**3, (f - 4 / 29) / _SLOPE)
    return out


def luminous(L: Array) -> Array:
    """Return luminous reflectance Y (0-1) of CIELAB lightness (...), the inverse of L*.

    References
    ----------
    CIE 15:2018, 8.2.1: a cube above L* = 8, a straight line below.

    >>> import numpy as np
    >>> luminous(np.array([0.0, 50.0, 100.0])).round(3).tolist()
    [0.0, 0.184, 1.0]
    """
    L = np.asarray(L, dtype=np.float64)
    return np.where(L > 8, ((L + 16) / 116) ** 3, L * (27 / 24389))


def lch(colour: Array) -> Array:
    """Return L, C and h of CIELAB values.

    Parameters
    ----------
    colour : (..., 3) float64
        L, a, b.

    Returns
    -------
    (..., 3) float64
        Lightness, chroma, and hue angle in degrees from 0 to below 360.

    >>> import numpy as np
    >>> lch(np.array([50.0, 0.0, 20.0])).round(2).tolist()
    [50.0, 20.0, 90.0]
    """
    ending_in(3, "CIELAB", colour)
    a, b = colour[..., 1], colour[..., 2]
    hue = np.degrees(np.arctan2(b, a)) % 360
    return np.stack([colour[..., 0], np.hypot(a, b), np.where(hue >= 360, 0.0, hue)], axis=-1)


def lab_from_lch(colour: Array) -> Array:
    """Return CIELAB of L, C, h (degrees), the inverse of `lch`; (..., 3) float64.

    >>> import numpy as np
    >>> lab_from_lch(np.array([50.0, 20.0, 90.0])).round(2).tolist()
    [50.0, 0.0, 20.0]
    """
    ending_in(3, "L, C, h", colour)
    h = np.radians(colour[..., 2])
    c = colour[..., 1]
    return np.stack([colour[..., 0], c * np.cos(h), c * np.sin(h)], axis=-1)
