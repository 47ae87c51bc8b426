"""Colours as an eye sees them that takes something else than daylight for white.

References
----------
Bradford: K. M. Lam, thesis, University of Bradford (1985); as in CIE 159:2004 and ICC.1:2010
annex E, the linear form.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.cielab import lab, xyz_from_lab
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import white as white_of
from zesty_veil.light.shapes import ending_in

BRADFORD: Array = np.array(
    [[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]]
)


def adapted(tristimulus: Array, white: Array, to: Array) -> Array:
    """Return XYZ under one white as it looks under another, (..., 3); whites (3,) float64.

    >>> import numpy as np
    >>> from zesty_veil.light.illuminant import white
    >>> adapted(white('A'), white('A'), white('D65')).round(2).tolist()
    [0.95, 1.0, 1.09]
    """
    gain = (BRADFORD @ to) / (BRADFORD @ white)
    return np.asarray(tristimulus @ BRADFORD.T * gain @ np.linalg.inv(BRADFORD).T)


def by_day(colour: Array, light: str, observer: int = 2) -> Array:
    """Return CIELAB seen under a light as a screen whose white is daylight must show it.

    CIELAB divides X, Y and Z by those of the white, which is no adaptation that an eye knows: a
    deep blue under a warm bulb comes out as much as dE 14 from what is seen.

    Parameters
    ----------
    colour : (..., 3) float64
        Relative to the white of the light.
    light, observer
        As `illuminant.white`.

    Returns
    -------
    (..., 3) float64
        Relative to the white of D65 for the observer of 2 degrees.

    >>> import numpy as np
    >>> by_day(np.array([50.0, 0.0, 0.0]), 'A').round(6).tolist()
    [50.0, 0.0, 0.0]
    """
    ending_in(3, "CIELAB", colour)
    own, day = white_of(light, observer), white_of()
    if (own == day).all():
        return colour
    return lab(adapted(xyz_from_lab(colour, own), own, day), day)
