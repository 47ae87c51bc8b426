"""A height drawn as grey clay under soft studio light, to turn a sculpt by."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from zesty_veil.light.grid import Array
from zesty_veil.predict.forms.surface import normals

# Soft light from the upper left: what comes from everywhere, and what from the lamp.
LAMP = np.array([-0.45, 0.62, 0.64]) / np.linalg.norm([-0.45, 0.62, 0.64])
AMBIENT = 0.55
_CLAY = 0.62


def studio(normal: Array) -> Array:
    """Return by how much studio light changes the encoded colour of surfaces; (...) of (..., 3).

    What faces the eye squarely stays as it is. The curve of the screen is close to a power of 2.2
    over all but the darkest tones.
    """
    facing = np.clip(normal @ LAMP, 0, 1)
    light = AMBIENT + (1 - AMBIENT) * facing / float(LAMP[2])
    return np.asarray(light ** (1 / 2.2))


def clay(height: Array) -> npt.NDArray[np.uint8]:
    """Return a height as RGBA pixels of grey clay; (n, n, 4) of (n, n), -inf where nothing is."""
    mask = np.isfinite(height)
    grey = np.clip(_CLAY * studio(normals(np.where(mask, height, 0.0), mask)), 0, 1)
    pixels = np.zeros((*height.shape, 4), dtype=np.uint8)
    pixels[..., :3] = (grey * 255 + 0.5).astype(np.uint8)[..., None]
    pixels[..., 3] = mask * 255
    return pixels
