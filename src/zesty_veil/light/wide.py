"""Colours on a wide-gamut screen: Display P3, which has about half as many again as sRGB.

References
----------
SMPTE EG 432-1:2010: the primaries. IEC 61966-2-1:1999: the transfer curve and the white, D65.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.cielab import xyz_from_lab
from zesty_veil.light.grid import Array
from zesty_veil.light.screen import gamut
from zesty_veil.light.srgb import encode

# CIE x, y of red, green and blue, and of white.
PRIMARIES = ((0.680, 0.320), (0.265, 0.690), (0.150, 0.060))
WHITE = (0.3127, 0.3290)
_SLACK = 1e-4


def xyz_of_xy(xy: tuple[float, float]) -> Array:
    """Return XYZ, (3,) with Y = 1, of CIE x and y.

    >>> xyz_of_xy((0.3127, 0.3290)).round(4).tolist()
    [0.9505, 1.0, 1.0891]
    """
    x, y = xy
    return np.array([x / y, 1.0, (1 - x - y) / y])


def to_xyz() -> Array:
    """Return the matrix from linear Display P3 to XYZ (Y = 1 for white), (3, 3).

    >>> import numpy as np
    >>> (to_xyz() @ np.ones(3)).round(3).tolist()
    [0.95, 1.0, 1.089]
    """
    columns = np.stack([xyz_of_xy(xy) for xy in PRIMARIES], axis=1)
    return np.asarray(columns * np.linalg.solve(columns, xyz_of_xy(WHITE)))


_MATRIX = np.linalg.inv(to_xyz())
_WHITE_XYZ = xyz_of_xy(WHITE)


def _linear(colour: Array) -> Array:
    return np.asarray(xyz_from_lab(colour, _WHITE_XYZ) @ _MATRIX.T)


def _has(colour: Array) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
    linear = _linear(colour)
    return np.asarray(((linear >= -_SLACK) & (linear <= 1 + _SLACK)).all(axis=-1))


def display_p3(colour: Array) -> tuple[Array, np.ndarray[tuple[int, ...], np.dtype[np.bool_]]]:
    """Return encoded Display P3 (..., 3) in 0-1 of CIELAB (..., 3); all as `light.srgb.srgb`.

    >>> import numpy as np
    >>> rgb, inside = display_p3(np.array([60.0, 80.0, 70.0]))
    >>> bool(inside)
    False
    """
    inside = _has(colour)
    linear = _linear(colour)
    if not inside.all():
        linear[~inside] = _linear(gamut(_has).nearest(colour[~inside]))
    return encode(linear), inside
