"""Edges of forms without stairs: how much of each pixel a form covers, and its colour there."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from zesty_veil.kept import kept_within
from zesty_veil.light.grid import Array
from zesty_veil.predict.forms.sculpted import coverage_of
from zesty_veil.predict.forms.shapes import FORMS, Shape, form

# Small pictures are looked at in so many rows and columns of each pixel; in larger ones, where
# that takes too long and stairs are small, the mask is smoothed.
_FINER, _SMALL = 3, 320
_STEEP = 1.7
_ENDS = ((0, -2), (2, 0))
_ROUND = [(y, x) for y in (-1, 0, 1) for x in (-1, 0, 1) if (y, x) != (0, 0)]


class Edge(NamedTuple):
    """The pixels that a form covers in part.

    at : (k,) intp, in the flat picture. share : (k, 1) float64, how much of each is covered.
    row : (k,) intp, of which pixel of the form's mask each takes its colour: itself, or one beside.
    """

    at: npt.NDArray[np.intp]
    share: Array
    row: npt.NDArray[np.intp]


@kept_within(24)
def edge_of(worn: Shape | str, size: int) -> Edge:
    """Return the edge of a form in a picture of a size."""
    shape = Shape(worn) if isinstance(worn, str) else worn
    mask = form(shape, size).mask
    share = _share(shape, size, mask)
    share = np.where(mask, np.maximum(share, 0.5), np.minimum(share, 0.5))
    rows = np.where(mask, np.cumsum(mask.ravel()).reshape(mask.shape) - 1, -1)
    wide = np.pad(rows, 1, constant_values=-1)
    beside = rows.copy()
    for y, x in _ROUND:
        shifted = wide[1 + y : 1 + y + size, 1 + x : 1 + x + size]
        beside = np.where(beside < 0, shifted, beside)
    at = np.flatnonzero((share > 0.01) & (share < 0.99) & (beside >= 0))
    return Edge(at, share.ravel()[at, None], beside.ravel()[at])


def _share(shape: Shape, size: int, mask: npt.NDArray[np.bool_]) -> Array:
    if shape.sculpt is not None:
        return coverage_of(shape.sculpt, size)
    if size <= _SMALL:
        _, fine, _ = FORMS[shape.name][1](size * _FINER)
        parts = fine.reshape(size, _FINER, size, _FINER).astype(np.float64)
        return np.asarray(parts.mean(axis=(1, 3)))
    return np.clip((_softened(mask) - 0.5) * _STEEP + 0.5, 0, 1)


def _softened(mask: npt.NDArray[np.bool_]) -> Array:
    """Return a mask as the mean of what lies round each pixel, (n, n) 0-1.

    Not by scipy: whoever only predicts on the command line does without it.
    """
    soft = np.pad(mask.astype(np.float64), 1, mode="edge")
    for axis in (0, 1):
        first, last = (np.take(soft, range(a, soft.shape[axis] + b), axis) for a, b in _ENDS)
        middle = np.take(soft, range(1, soft.shape[axis] - 1), axis)
        soft = (first + 2 * middle + last) / 4
    return soft


def laid_over(out: npt.NDArray[np.uint8], pixels: npt.NDArray[np.uint8], worn: Shape | str) -> None:
    """Put a form over a picture, in place.

    Parameters
    ----------
    out : (n, n, 4) uint8
        The picture, RGBA.
    pixels : (k, 4) uint8
        Of the form's mask, in its order, without transparency.
    worn
        The form.
    """
    at, share, row = edge_of(worn, out.shape[0])
    flat = out.reshape(-1, 4)
    below = flat[at].astype(np.float64)
    out[form(worn, out.shape[0]).mask] = pixels
    left = below[:, 3:] / 255 * (1 - share)
    alpha = share + left
    mixed = (pixels[row, :3] * share + below[:, :3] * left) / np.maximum(alpha, 1e-6)
    flat[at] = (np.concatenate([mixed, 255 * alpha], axis=1) + 0.5).astype(np.uint8)
