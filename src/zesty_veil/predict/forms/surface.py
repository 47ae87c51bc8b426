"""A form as a surface seen from the front: height, normals, relief and distance to the light.

A form fills a square of -1 to 1 in x (to the right) and y (upward); height rises towards the eye.
Relief is where a brush would find recesses and ridges: how far the surface stands above its own
surroundings, measured over a few sizes of surroundings at once.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from zesty_veil.light.grid import Array
from zesty_veil.predict.blur import blurred

Mask = npt.NDArray[np.bool_]

# Sizes of the surroundings that relief looks at, as shares of the form's half width.
_SURROUNDINGS = (0.05, 0.12)
# Relief comes to 1 where a surface stands this many of its own usual deviations above them.
_FULL_RELIEF = 2.0


@dataclass(frozen=True)
class Form:
    """A shape to see a passage on; every array is (n, n), rows from the top.

    mask : what belongs to the form.
    height : towards the eye, in half widths of the form; 0 outside.
    normal : (n, n, 3), unit vectors x, y, z.
    relief : -1 (recess) to 1 (ridge), with a mean of about 0 over the form.
    u : distance to the light along the passage's axis, 0-1.
    """

    mask: Mask
    height: Array
    normal: Array
    relief: Array
    u: Array


def surface(height: Array, mask: Mask, u: Array, rough: bool = True) -> Form:
    """Return a form from its height; normals and relief follow from it.

    Parameters
    ----------
    height : (n, n) float64
    mask : (n, n) bool
    u : (n, n) float64
        Any distances; they are held to 0-1.
    rough
        Whether its relief is wanted; it stays flat otherwise.
    """
    height = np.where(mask, height, 0.0)
    u = np.clip(np.where(mask, u, 0), 0, 1)
    uneven = relief(height, mask) if rough else np.zeros_like(height)
    return Form(mask, height, normals(height, mask), uneven, u)


def grid(size: int) -> tuple[Array, Array]:
    """Return x and y of the middle of each pixel, (size, size) each."""
    along = (np.arange(size) + 0.5) / size * 2 - 1
    x, down = np.meshgrid(along, along)
    return x, -down


def normals(height: Array, mask: Mask | None = None) -> Array:
    """Return the unit normals of a height over the square, (n, n, 3), by central differences.

    With a mask (n, n), a pixel at its edge is measured from its neighbours inside it alone.
    """
    if mask is None:
        mask = np.ones(height.shape, dtype=bool)
    step = 2 / height.shape[0]
    down, across = (_slope(height, mask, axis, step) for axis in (0, 1))
    normal = np.stack([-across, down, np.ones_like(height)], axis=-1)
    return np.asarray(normal / np.linalg.norm(normal, axis=-1, keepdims=True))


def _slope(height: Array, mask: Mask, axis: int, step: float) -> Array:
    """Return how fast height rises along an axis: the mean of the slopes to both neighbours."""
    both = np.moveaxis(mask, axis, 0)
    rise = np.diff(np.moveaxis(height, axis, 0), axis=0) / step * (both[1:] & both[:-1])
    count = np.zeros(both.shape)
    total = np.zeros(both.shape)
    total[:-1] += rise
    total[1:] += rise
    count[:-1] += both[1:] & both[:-1]
    count[1:] += both[1:] & both[:-1]
    return np.moveaxis(total / np.maximum(count, 1), 0, axis)


def relief(height: Array, mask: Mask) -> Array:
    """Return how far a surface stands above or below its surroundings, -1 to 1; (n, n)."""
    weight = mask.astype(np.float64)
    total = np.zeros_like(height)
    for share in _SURROUNDINGS:
        radius = max(round(share * height.shape[0] / 2), 1)
        around = blurred(height * weight, radius) / np.maximum(blurred(weight, radius), 1e-9)
        # What lies around counts by how large it is: a wide hollow is deeper than a narrow one.
        total += (height - around) / share
    if not mask.any():
        return total * 0
    inside = total[mask]
    inside = inside - np.median(inside)
    spread = np.percentile(np.abs(inside), 90) * _FULL_RELIEF / 2
    # A smooth form has no relief to speak of, only the rounding of its edge.
    scaled = np.tanh((total - np.median(total[mask])) / max(float(spread), 0.02))
    out = np.where(mask, scaled - scaled[mask].mean(), 0.0)
    return np.asarray(np.clip(out, -1, 1))
