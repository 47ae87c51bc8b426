"""A mesh of triangles seen from one side: the height of its nearest surface at each pixel.

Triangles are taken whichever way round they are, since only what is nearest to the eye counts;
so a mesh with flipped faces or holes is drawn as far as it goes.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from zesty_veil.light.grid import Array

Faces = npt.NDArray[np.int32]

# So many triangles are worked on at once, and so many pixels that they might cover.
_TRIANGLES = 1 << 17
_PIXELS = 1 << 21


@dataclass(frozen=True)
class Mesh:
    """Triangles in space.

    vertices : (n, 3) float32, x to the right, y upward, z towards the eye; in mm.
    faces : (m, 3) int32, corners by their row in `vertices`.
    """

    vertices: npt.NDArray[np.float32]
    faces: Faces

    @property
    def middle(self) -> Array:
        """The middle of the box round it, (3,)."""
        low, high = self.vertices.min(axis=0), self.vertices.max(axis=0)
        return np.asarray((low.astype(np.float64) + high) / 2)

    @property
    def radius(self) -> float:
        """How far its farthest corner is from its middle, in mm."""
        return float(np.linalg.norm(self.vertices - self.middle, axis=1).max())


@dataclass(frozen=True)
class View:
    """From where a mesh is seen.

    turn : (3, 3), rows are the directions to the right, upward and to the eye.
    middle : x and y of the view's middle from the mesh's own, after the turn, in mm.
    half_width : of the view, in mm.
    """

    turn: tuple[tuple[float, float, float], ...]
    middle: tuple[float, float]
    half_width: float


def turned(across: float, up: float, roll: float = 0.0) -> tuple[tuple[float, float, float], ...]:
    """Return the turn of a figure that stands on its z axis, by degrees.

    With no turn its front (towards -y) faces the eye and its z points upward, which is how most
    figures are stored. `across` turns it round its own axis, `up` tips its top towards the eye,
    `roll` leans it in the picture.
    """
    a, b, c = (np.radians(angle) for angle in (across, up, roll))
    stand = np.array([[1.0, 0, 0], [0, 0, 1], [0, -1, 0]])
    spin = np.array([[np.cos(a), 0, np.sin(a)], [0, 1, 0], [-np.sin(a), 0, np.cos(a)]])
    tip = np.array([[1.0, 0, 0], [0, np.cos(b), -np.sin(b)], [0, np.sin(b), np.cos(b)]])
    lean = np.array([[np.cos(c), -np.sin(c), 0], [np.sin(c), np.cos(c), 0], [0, 0, 1]])
    turn = lean @ tip @ spin @ stand
    return tuple((float(x), float(y), float(z)) for x, y, z in turn)


def heights(mesh: Mesh, view: View, size: int) -> Array:
    """Return the height of the nearest surface at the middle of each pixel.

    Parameters
    ----------
    mesh, view
        What is seen, and from where.
    size
        Of the square picture, in pixels.

    Returns
    -------
    (size, size) float64, rows from the top, in half widths of the view from the mesh's middle;
    -inf where nothing is.
    """
    height = np.full((size, size), -np.inf)
    for _ in drawing(mesh, view, height):
        pass
    return height


def drawing(mesh: Mesh, view: View, height: Array) -> Iterator[float]:
    """Draw as `heights` does into an array (n, n) of -inf, yielding the share that is done."""
    size = height.shape[0]
    turn = np.array(view.turn)
    seen = (mesh.vertices - mesh.middle) @ turn.T / view.half_width
    shift = np.array(view.middle) / view.half_width
    # Pixel units: the middle of the pixel in row i and column j is at (j, i).
    x = (seen[:, 0] - shift[0] + 1) * size / 2 - 0.5
    y = (1 - seen[:, 1] + shift[1]) * size / 2 - 0.5
    corners = np.stack([x, y, seen[:, 2]], axis=1)
    nearest = height.reshape(-1)
    for first in range(0, len(mesh.faces), _TRIANGLES):
        _draw(corners[mesh.faces[first : first + _TRIANGLES]], size, nearest)
        yield min((first + _TRIANGLES) / len(mesh.faces), 1.0)


def _draw(triangles: Array, size: int, nearest: Array) -> None:
    """Put triangles, (n, 3, 3) in pixels, where they are nearer than what is there."""
    low = np.ceil(triangles[:, :, :2].min(axis=1) - 1e-9)
    high = np.floor(triangles[:, :, :2].max(axis=1) + 1e-9)
    low, high = np.maximum(low, 0), np.minimum(high, size - 1)
    # Most triangles of a fine sculpt lie between the middles of pixels, and are done with here.
    there = np.flatnonzero((high >= low).all(axis=1))
    low, span = low[there], (high - low + 1)[there]
    # Triangles whose boxes are about as wide and high are tried on the same grid of pixels.
    steps = np.ceil(np.log2(span)).astype(np.intp)
    kinds, kind = np.unique(steps[:, 0] * 32 + steps[:, 1], return_inverse=True)
    for i, code in enumerate(kinds):
        wide, high_ = 1 << int(code // 32), 1 << int(code % 32)
        which = np.flatnonzero(kind == i)
        across, down = (g.ravel() for g in np.meshgrid(np.arange(wide), np.arange(high_)))
        most = max(_PIXELS // across.size, 1)
        for first in range(0, which.size, most):
            some = which[first : first + most]
            _try(triangles[there[some]], low[some], across, down, size, nearest)


def _try(
    triangles: Array,
    low: Array,
    across: npt.NDArray[np.intp],
    down: npt.NDArray[np.intp],
    size: int,
    nearest: Array,
) -> None:
    """Try triangles on a grid of pixels from `low` each, and keep what is inside and nearest."""
    px = low[:, :1] + across
    py = low[:, 1:] + down
    (ax, ay, az), (bx, by, bz), (cx, cy, cz) = (triangles[:, i, :, None].swapaxes(0, 1)
                                                for i in range(3))  # fmt: skip
    whole = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay)
    # A triangle seen on edge covers nothing.
    over = np.where(whole == 0, np.inf, whole)
    b = ((px - ax) * (cy - ay) - (cx - ax) * (py - ay)) / over
    c = ((bx - ax) * (py - ay) - (px - ax) * (by - ay)) / over
    inside = (b >= -1e-9) & (c >= -1e-9) & (b + c <= 1 + 1e-9) & (whole != 0)
    inside &= (px < size) & (py < size)
    z = az + b * (bz - az) + c * (cz - az)
    at = (py * size + px)[inside].astype(np.intp)
    np.maximum.at(nearest, at, z[inside])


def coarse(mesh: Mesh, cells: int = 72) -> Mesh:
    """Return a mesh with its corners drawn together in cells of a grid, to turn it by.

    Triangles whose corners fall together are gone. A mesh that is coarse already stays as it is.
    """
    if len(mesh.faces) <= 2 * cells * cells:
        return mesh
    low = mesh.vertices.min(axis=0)
    width = max(float((mesh.vertices.max(axis=0) - low).max()) / cells, 1e-9)
    cell = ((mesh.vertices - low) / width).astype(np.int64)
    code = (cell[:, 0] * (cells + 2) + cell[:, 1]) * (cells + 2) + cell[:, 2]
    _, first, belongs = np.unique(code, return_index=True, return_inverse=True)
    faces = belongs[mesh.faces].astype(np.int32)
    apart = (
        (faces[:, 0] != faces[:, 1])
        & (faces[:, 1] != faces[:, 2])
        & (faces[:, 2] != faces[:, 0])
    )  # fmt: skip
    faces = np.unique(np.sort(faces[apart], axis=1), axis=0)
    return Mesh(mesh.vertices[first], faces.astype(np.int32))
