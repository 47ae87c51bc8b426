"""Colours read from a picture along a line, seen against what in it is white."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import decode, encode, lab_of

# White in a picture stands for white paint, which sends back this much; common practice.
WHITE_PAINT = 0.9
# Colours are averaged over this share of the picture's smaller side, as a pixel is mostly noise.
_RADIUS = 0.008
_DARKEST_WHITE = 0.05

Pixels = npt.NDArray[np.uint8]
PicturePoint = tuple[float, float]


def read_along(
    pixels: Pixels, start: PicturePoint, end: PicturePoint, count: int, white: PicturePoint | None
) -> Array:
    """Return CIELAB at evenly spaced points of a line through a picture, (count, 3).

    Parameters
    ----------
    pixels : (h, w, 3) uint8
        Encoded sRGB.
    start, end, white
        x and y as shares of width and height, 0-1; `white` is what in the picture is white, or
        none to take the picture's colours as they are.
    count
        At least 1.

    Raises
    ------
    InputError
        If what is said to be white is nearly black.

    >>> import numpy as np
    >>> grey = np.full((8, 8, 3), 119, dtype=np.uint8)
    >>> read_along(grey, (0.1, 0.5), (0.9, 0.5), 2, None)[:, 0].round(0).tolist()
    [50.0, 50.0]
    """
    light = 1.0 if white is None else _mean(pixels, white) / WHITE_PAINT
    if white is not None and float(np.min(light)) * WHITE_PAINT < _DARKEST_WHITE:
        raise InputError(
            "What was picked as white is nearly black; pick a white or light grey spot."
        )
    places = np.linspace(0, 1, count) if count > 1 else np.array([0.5])
    linear = np.array(
        [
            _mean(pixels, tuple(a + p * (b - a) for a, b in zip(start, end, strict=True)))
            for p in places
        ]
    )
    return lab_of(encode(np.clip(linear / light, 0, 1)))


def _mean(pixels: Pixels, point: PicturePoint) -> Array:
    """Return the mean linear colour round a point, (3,)."""
    height, width, _ = pixels.shape
    radius = max(round(_RADIUS * min(height, width)), 1)
    column, row = (
        min(max(round(share * (size - 1)), 0), size - 1)
        for share, size in zip(point, (width, height), strict=True)
    )
    part = pixels[
        max(row - radius, 0) : row + radius + 1, max(column - radius, 0) : column + radius + 1
    ]
    return np.asarray(decode(part / 255).reshape(-1, 3).mean(axis=0))
