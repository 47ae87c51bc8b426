"""Light of glowing bodies and of any lamp, and what it turns reflectance into.

References
----------
M. Planck, Ann. Phys. 309 (1901) 553. CIE 15:2018, 4.1.1 and 8.5: Planckian radiators, with
c2 = 0.014388 m K.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array, wavelengths
from zesty_veil.light.illuminant import power, weights

_C2_NM_K = 1.4388e7
# Colder bodies do not glow to the eye; hotter ones are no fire.
COLDEST_K, HOTTEST_K = 700.0, 20_000.0


def planckian(kelvin: float) -> Array:
    """Return the relative spectral power of a glowing body, (36,) float64 with mean 1.

    Raises
    ------
    InputError
        If it is colder than 700 K or hotter than 20 000 K.

    >>> light = planckian(1900.0)
    >>> bool(light[-1] > light[0])
    True
    """
    if not COLDEST_K <= kelvin <= HOTTEST_K:
        raise InputError(
            f"{kelvin:g} K is no temperature of a fire; use {COLDEST_K:g} to {HOTTEST_K:g}."
        )
    nm = wavelengths()
    # Relative to the longest band, so that nothing overflows when it is cold.
    exponent = _C2_NM_K / kelvin * (1 / nm - 1 / nm[-1])
    shape = (nm / nm[-1]) ** -5.0 * np.exp(-exponent)
    shape *= -np.expm1(-_C2_NM_K / (kelvin * nm[-1])) / -np.expm1(-_C2_NM_K / (kelvin * nm))
    return np.asarray(shape / shape.mean())


def lamp_weights(light: Array, observer: int = 2) -> Array:
    """Return what turns a reflectance seen under a lamp into XYZ.

    Parameters
    ----------
    light : (36,) float64
        Relative spectral power; smooth, as that of fires and of dyes is.
    observer
        2 or 10, in degrees.

    Returns
    -------
    (36, 3) float64
        Normalised so that a perfect diffuser has Y = 1.

    >>> lamp_weights(planckian(1900.0)).shape
    (36, 3)
    """
    # Illuminant A is as smooth, and its weights hold the eye's.
    out = weights("A", observer) * (light / power("A"))[:, None]
    return np.asarray(out / out[:, 1].sum())


def lamp_white(light: Array, observer: int = 2) -> Array:
    """Return the XYZ of a perfect diffuser under a lamp, (3,) with Y = 1.

    >>> x, y, z = lamp_white(planckian(1900.0))
    >>> bool(x > y > z)
    True
    """
    return np.asarray(lamp_weights(light, observer).sum(axis=0))
