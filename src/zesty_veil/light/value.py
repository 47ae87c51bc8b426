"""Value: the painter's grey scale from 0 (black) to 10 (white).

References
----------
ASTM D1535-08, Standard practice for specifying color by the Munsell system (the polynomial).
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import Array

_COEFFICIENTS = (0.00081939, -0.020484, 0.23352, -0.22533, 1.1914, 0.0)
_STEPS = 6


def luminance(value: Array) -> Array:
    """Return the luminous reflectance Y (1 = perfect diffuser) of a value; any shape.

    >>> import numpy as np
    >>> float(luminance(np.array(5.0)).round(4))
    0.1927
    """
    return np.asarray(np.polyval(_COEFFICIENTS, value)) / 100


def value(Y: Array) -> Array:
    """Return the value of a luminous reflectance, the inverse of `luminance`.

    Parameters
    ----------
    Y : (...) float64
        1 = perfect diffuser. Negative Y counts as 0; Y may exceed 1 (fluorescence).

    Returns
    -------
    (...) float64
        Value to about 1e-12; 0 at Y = 0, 10 at Y = 1.

    >>> import numpy as np
    >>> float(value(luminance(np.array(5.0))).round(3))
    5.0
    """
    y = np.maximum(np.asarray(Y, dtype=np.float64), 0.0) * 100
    slope = np.polyder(_COEFFICIENTS)
    v = 10 * np.sqrt(y / 100)
    # Newton's method; the polynomial rises everywhere, and the square root starts close.
    for _ in range(_STEPS):
        v = np.maximum(v - (np.polyval(_COEFFICIENTS, v) - y) / np.polyval(slope, v), 0.0)
    return np.asarray(v)
