"""What is found on the figure: a colour was measured, and nobody knows what lies below it."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from zesty_veil.light.cielab import xyz_from_lab
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import weights
from zesty_veil.light.recovery import recover_reflectance
from zesty_veil.optics.surface import FINISHES, internal


@lru_cache(maxsize=256)
def measured_ground(lab: tuple[float, float, float]) -> tuple[Array, float]:
    """Return the reflectance inside an opaque matt surface of a colour, and its finish.

    Parameters
    ----------
    lab
        CIELAB, measured in daylight (D65, 2 degrees).

    Returns
    -------
    (36,) float64, float
        Of all reflectances of that colour the smoothest. A surface sends at least its finish to
        the eye: a colour too dark for a matt one is taken to be glossier.
    """
    eye = weights("D65", 2)
    seen = recover_reflectance(xyz_from_lab(np.array(lab), eye.sum(axis=0)), eye)
    finish = min(FINISHES["matt"], 0.9 * float(seen.min()))
    R = internal(seen, finish)
    R.flags.writeable = False
    return R, finish
