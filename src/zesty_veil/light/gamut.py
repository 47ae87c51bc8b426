"""How strong a colour of some lightness and hue can be on a screen; about what paint can be."""

from __future__ import annotations

import numpy as np

from zesty_veil.light.cielab import lab_from_lch
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import has

_STRONGEST, _ROUNDS = 140.0, 24


def most_chroma(lightness: Array, hue: Array) -> Array:
    """Return the greatest chroma in sRGB at CIELAB lightness and hue (degrees), any one shape.

    >>> import numpy as np
    >>> most_chroma(np.array([50.0, 99.9]), np.array([30.0, 30.0])).round(-1).tolist()
    [90.0, 0.0]
    """
    low, high = np.zeros(lightness.shape), np.full(lightness.shape, _STRONGEST)
    for _ in range(_ROUNDS):
        middle = (low + high) / 2
        inside = has(lab_from_lch(np.stack([lightness, middle, hue], axis=-1)))
        low, high = np.where(inside, middle, low), np.where(inside, high, middle)
    return low
