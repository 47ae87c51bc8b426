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
    c7 = ((np.hypot(a1, b1) + np.hypot(a2, b2)) / 2) ** 7
    G = 0.5 * (1 - np.sqrt(c7 / (c7 + 25.0**7)))  # (4)
    a1, a2 = (1 + G) * a1, (1 + G) * a2
    C1, C2 = np.hypot(a1, b1), np.hypot(a2, b2)
    h1 = np.degrees(np.arctan2(b1, a1)) % 360
    h2 = np.degrees(np.arctan2(b2, a2)) % 360

    grey = C1 * C2 == 0
    dh = h2 - h1
    # Opposite hues differ by 180 exactly; the last bit of an arctangent must not decide.
    half = 180 + 1e-9
    dh = np.where(dh > half, dh - 360, np.where(dh < -half, dh + 360, dh))
    dh = np.where(grey, 0.0, dh)  # (10)
    dL, dC = L2 - L1, C2 - C1
    dH = 2 * np.sqrt(C1 * C2) * np.sin(np.radians(dh) / 2)  # (11)

    L, C = (L1 + L2) / 2, (C1 + C2) / 2
    total = h1 + h2
    wide = np.abs(h1 - h2) > half
    h = np.where(wide, np.where(total < 360, total + 360, total - 360), total) / 2
    h = np.where(grey, total, h)  # (14)

    T = (
        1
        - 0.17 * np.cos(np.radians(h - 30))
        + 0.24 * np.cos(np.radians(2 * h))
        + 0.32 * np.cos(np.radians(3 * h + 6))
        - 0.20 * np.cos(np.radians(4 * h - 63))
    )
    SL = 1 + 0.015 * (L - 50) ** 2 / np.sqrt(20 + (L - 50) ** 2)
    SC = 1 + 0.045 * C
    SH = 1 + 0.015 * C * T
    C7 = C**7
    RC = 2 * np.sqrt(C7 / (C7 + 25.0**7))
    RT = -np.sin(np.radians(60 * np.exp(-(((h - 275) / 25) ** 2)))) * RC
    l_, c_, h_ = dL / SL, dC / SC, dH / SH
    return np.asarray(np.sqrt(np.maximum(l_**2 + c_**2 + h_**2 + RT * c_ * h_, 0.0)))
