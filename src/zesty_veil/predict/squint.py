"""Squinting: what is left of a picture when the eye blurs it at arm's length.

Light is averaged, not its encoded values: a few bright spots in the dark stay bright.
"""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt

from zesty_veil.light.grid import Array
from zesty_veil.predict.blur import blurred

# An eye that squints tells apart about this much, and a figure is held this far away; common
# practice.
SQUINT_ARCMIN = 4.0
ARMS_LENGTH_MM = 600.0
# From where figures are looked at: in the hand, at arm's length, over a table, in a cabinet.
DISTANCES_MM = (300.0, ARMS_LENGTH_MM, 1200.0, 2500.0)

# The screen's curve, near enough for averaging.
_GAMMA = 2.2


def blur_mm(distance_mm: float = ARMS_LENGTH_MM) -> float:
    """Return how far a squinting eye blurs a figure held at a distance, in mm of the figure."""
    return distance_mm * math.tan(math.radians(SQUINT_ARCMIN / 60))


def along_axis(rgb: Array, length_mm: float, distance_mm: float = ARMS_LENGTH_MM) -> Array:
    """Return a ribbon as a squinting eye sees it; (n, ..., 3) encoded sRGB along an axis in mm."""
    radius = max(round(blur_mm(distance_mm) / length_mm * rgb.shape[0]), 1)
    flat = (rgb**_GAMMA).reshape(rgb.shape[0], -1)
    soft = np.maximum(blurred(flat, radius, (0,)), 0) ** (1 / _GAMMA)
    return np.asarray(np.clip(soft.reshape(rgb.shape), 0, 1))


def over_form(
    pixels: npt.NDArray[np.uint8],
    length_mm: float,
    surround: float,
    distance_mm: float = ARMS_LENGTH_MM,
) -> npt.NDArray[np.uint8]:
    """Return a picture of a form as a squinting eye sees it.

    Parameters
    ----------
    pixels : (n, n, 4) uint8
        RGBA; the form's passage is about as long as the picture is high.
    length_mm
        Of the passage.
    surround
        Encoded grey, 0-1, of the field round the form, into which its edge blurs.
    distance_mm
        How far the eye is.
    """
    radius = max(round(blur_mm(distance_mm) / length_mm * pixels.shape[0]), 1)
    covers = pixels[..., 3:] / 255
    light = (pixels[..., :3] / 255) ** _GAMMA * covers + surround**_GAMMA * (1 - covers)
    soft = np.stack([blurred(light[..., i], radius, (0, 1)) for i in range(3)], axis=-1)
    out = np.full_like(pixels, 255)
    out[..., :3] = (np.clip(soft, 0, 1) ** (1 / _GAMMA) * 255 + 0.5).astype(np.uint8)
    return out
