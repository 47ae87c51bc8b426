"""The CIEDE2000 colour difference.

References
----------
G. Sharma, W. Wu, E. N. Dalal, "The CIEDE2000 color-difference formula: implementation notes,
supplementary test data, and mathematical observations", Color Research and Application 30 (2005).
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.light.shapes import ending_in

_FAR = 25.0**7
_COS = {degrees: float(np.cos(np.radians(degrees))) for degrees in (6, 30, 63)}
_SIN = {degrees: float(np.sin(np.radians(degrees))) for degrees in (6, 30, 63)}


def ciede2000(one: Array, other: Array) -> Array:
    """Return dE00 between CIELAB values, with all parametric factors 1.

    Parameters
    ----------
    one, other : (..., 3) float64
        L, a, b; shapes broadcast.

    Returns
    -------
    (...) float64
        Difference; about 1 is just seen side by side. Symmetric in its arguments.

    >>> import numpy as np
    >>> one, other = np.array([50.0, 2.6772, -79.7751]), np.array([50.0, 0.0, -82.7485])
    >>> float(ciede2000(one, other).round(4))
    2.0425
    """
    ending_in(3, "CIELAB", one, other)
    L1, a1, b1 = one[..., 0], one[..., 1], one[..., 2]
    L2, a2, b2 = other[..., 0], other[..., 1], other[..., 2]
    c7 = _seventh((_length(a1, b1) + _length(a2, b2)) / 2)
    G = 0.5 * (1 - np.sqrt(c7 / (c7 + _FAR)))  # (4)
    a1, a2 = (1 + G) * a1, (1 + G) * a2
    C1, C2 = _length(a1, b1), _length(a2, b2)
    h1, h2 = _hue(a1, b1), _hue(a2, b2)

    CC = C1 * C2
    grey = CC == 0
    dh = h2 - h1
    # Opposite hues differ by 180 exactly; the last bit of an arctangent must not decide.
    half = 180 + 1e-9
    dh = np.where(dh > half, dh - 360, np.where(dh < -half, dh + 360, dh))
    dh = np.where(grey, 0.0, dh)  # (10)
    dL, dC = L2 - L1, C2 - C1
    dH = 2 * np.sqrt(CC) * np.sin(np.radians(dh) / 2)  # (11)

    L, C = (L1 + L2) / 2, (C1 + C2) / 2
    total = h1 + h2
    wide = np.abs(h1 - h2) > half
    h = np.where(wide, np.where(total < 360, total + 360, total - 360), total) / 2
    h = np.where(grey, total, h)  # (14)

    T = _weighting(np.radians(h))
    SL = 1 + 0.015 * (L - 50) ** 2 / np.sqrt(20 + (L - 50) ** 2)
    SC = 1 + 0.045 * C
    SH = 1 + 0.015 * C * T
    C7 = _seventh(C)
    RC = 2 * np.sqrt(C7 / (C7 + _FAR))
    RT = -np.sin(np.radians(60 * np.exp(-(((h - 275) / 25) ** 2)))) * RC
    l_, c_, h_ = dL / SL, dC / SC, dH / SH
    return np.asarray(np.sqrt(np.maximum(l_**2 + c_**2 + h_**2 + RT * c_ * h_, 0.0)))


def _length(a: Array, b: Array) -> Array:
    return np.asarray(np.sqrt(a * a + b * b))


def _seventh(x: Array) -> Array:
    """Return the seventh power, in four products: `**` takes ten times as long."""
    square = x * x
    return np.asarray(square * square * square * x)


def _hue(a: Array, b: Array) -> Array:
    """Return hue angles in degrees, from 0 to 360."""
    h = np.degrees(np.arctan2(b, a))
    return np.where(h < 0, h + 360, h)


def _weighting(h: Array) -> Array:
    """Return T (15) of mean hues in radians.

    Cosines of multiples of an angle are polynomials of its own cosine and sine.
    """
    c, s = np.cos(h), np.sin(h)
    c2, s2 = 2 * c * c - 1, 2 * s * c
    c3, s3 = c2 * c - s2 * s, s2 * c + c2 * s
    c4, s4 = 2 * c2 * c2 - 1, 2 * s2 * c2
    return np.asarray(
        1
        - 0.17 * (_COS[30] * c + _SIN[30] * s)
        + 0.24 * c2
        + 0.32 * (_COS[6] * c3 - _SIN[6] * s3)
        - 0.20 * (_COS[63] * c4 + _SIN[63] * s4)
    )
