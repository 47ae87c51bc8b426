"""From millimetres on the card to pixels of the photograph, and back.

References
----------
R. Hartley, A. Zisserman, Multiple View Geometry in Computer Vision (Cambridge, 2nd ed. 2004),
section 4.1: a plane seen by a camera is mapped by a 3 x 3 matrix, which four points settle.
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from zesty_veil.bench.card import Area
from zesty_veil.light.grid import Array
from zesty_veil.tr import tr

PhotoPixels = npt.NDArray[np.uint8]


def homography(plane: Array, picture: Array) -> Array:
    """Return the (3, 3) matrix that takes four points of a plane to four of a picture.

    Parameters
    ----------
    plane, picture : (4, 2) float64
        No three of them on a line.

    Raises
    ------
    numpy.linalg.LinAlgError
        If three of them are.
    """
    rows, right = [], []
    for (x, y), (u, v) in zip(plane, picture, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    return np.append(np.linalg.solve(np.array(rows), np.array(right)), 1.0).reshape(3, 3)


def mapped(H: Array, points: Array) -> Array:
    """Return points (..., 2) taken through a homography."""
    flat = points @ H[:, :2].T + H[:, 2]
    return np.asarray(flat[..., :2] / flat[..., 2:])


def inside(area: Area, margin_mm: float, across: int, down: int) -> Array:
    """Return evenly spaced points within an area but for a margin, (down, across, 2) in mm."""
    x = np.linspace(area.x + margin_mm, area.x + area.width - margin_mm, across)
    y = np.linspace(area.y + margin_mm, area.y + area.height - margin_mm, down)
    return np.stack(np.meshgrid(x, y), axis=-1)


def sampled(pixels: PhotoPixels, H: Array, points: Array) -> Array:
    """Return the encoded colours 0-1 at points of the plane (..., 2), as (..., 3); nearest pixel.

    Raises
    ------
    IndexError
        If a point lies outside the picture.
    """
    at = np.rint(mapped(H, points)).astype(np.intp)
    height, width = pixels.shape[:2]
    if at.min() < 0 or (at[..., 0] >= width).any() or (at[..., 1] >= height).any():
        raise IndexError(tr("a point of the card lies outside the picture"))
    return np.asarray(pixels[at[..., 1], at[..., 0]] / 255.0)
