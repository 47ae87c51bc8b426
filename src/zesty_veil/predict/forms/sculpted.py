"""A view of the painter's own sculpt as a form, and the axis of a passage over it."""

from __future__ import annotations

import zlib

import numpy as np

from zesty_veil.errors import SculptError
from zesty_veil.kept import kept_within
from zesty_veil.light.grid import Array
from zesty_veil.plan.model import Axis, Sculpt
from zesty_veil.predict.blur import blurred
from zesty_veil.predict.forms.surface import Form, Mask, grid, normals, relief
from zesty_veil.tr import tr

SIDE = 512
_STEPS = 65534
# Less than this of a view is too little to see a passage on.
_LEAST_SHARE = 0.01


def kept_view(name: str, height: Array, half_width_mm: float) -> Sculpt:
    """Return a view as a plan keeps it.

    Parameters
    ----------
    name
        What to call it.
    height : (n, n) float64
        In half widths; -inf where nothing is.
    half_width_mm
        Half the width of the view.

    Raises
    ------
    SculptError
        If next to nothing of the figure is in view.
    """
    mask = np.isfinite(height)
    if mask.mean() < _LEAST_SHARE:
        raise SculptError(tr("Next to nothing of the figure is in view; bring it into the frame."))
    low = float(height[mask].min())
    step = max(float(height[mask].max()) - low, 1e-6) / _STEPS
    numbers = np.zeros(height.shape, dtype="<u2")
    numbers[mask] = np.rint((height[mask] - low) / step).astype(np.uint16) + 1
    packed = zlib.compress(numbers.tobytes(), 9)
    return Sculpt(name, height.shape[0], packed, step, half_width_mm)


def unpacked(sculpt: Sculpt) -> tuple[Array, Mask]:
    """Return the height of a kept view in half widths, and where there is any; (side, side).

    Raises
    ------
    SculptError
        If what the plan holds is damaged.
    """
    wanted = sculpt.side * sculpt.side * 2
    unpacker = zlib.decompressobj()
    try:
        raw = unpacker.decompress(sculpt.heights, wanted + 1)
    except zlib.error:
        raw = b""
    if len(raw) != wanted:
        raise SculptError(
            tr("The sculpt '{0}' in this plan is damaged; take its view again.").format(sculpt.name)
        )
    numbers = np.frombuffer(raw, dtype="<u2").reshape(sculpt.side, sculpt.side)
    mask = numbers > 0
    if not mask.any():
        raise SculptError(
            tr("The sculpt '{0}' in this plan is empty; take its view again.").format(sculpt.name)
        )
    return np.where(mask, (numbers.astype(np.float64) - 1) * sculpt.step, 0.0), mask


@kept_within(24)
def _heights(sculpt: Sculpt) -> tuple[Array, Mask]:
    return unpacked(sculpt)


@kept_within(36)
def _native(sculpt: Sculpt) -> tuple[Mask, Array, Array]:
    height, mask = _heights(sculpt)
    return mask, height, normals(height, mask)


@kept_within(12)
def _rough(sculpt: Sculpt) -> Array:
    mask, height, _ = _native(sculpt)
    # The steps of the numbers and of the mesh's own facets are no relief.
    return relief(height, mask)


def sculpted(sculpt: Sculpt, axis: Axis, size: int, rough: bool = True) -> Form:
    """Return a kept view as a form of a size in pixels, with an axis over it.

    Without `rough` its relief stays flat, and its surfaces face as the mean of what lies under a
    pixel does: soon enough for whoever drags a light or an axis over it.

    Raises
    ------
    SculptError
        If what the plan holds is damaged.
    """
    if not rough and size < sculpt.side:
        return _smooth(sculpt, axis, size)
    mask, height, normal = _native(sculpt)
    uneven = _rough(sculpt) if rough else np.zeros_like(height)
    if size == sculpt.side:
        return Form(mask, height, normal, uneven, along(height, mask, axis))
    weight = _sized(mask.astype(np.float64)[..., None], size)
    inside = weight[..., 0] > 0.5
    share = np.maximum(weight, 1e-9)
    values = np.concatenate([height[..., None], uneven[..., None], normal], axis=-1)
    sized = _sized(values * mask[..., None], size) / share
    high = np.where(inside, sized[..., 0], 0.0)
    facing = np.where(inside[..., None], sized[..., 2:], [0.0, 0.0, 1.0])
    facing /= np.linalg.norm(facing, axis=-1, keepdims=True)
    return Form(
        inside,
        high,
        facing,
        np.where(inside, np.clip(sized[..., 1], -1, 1), 0.0),
        along(high, inside, axis),
    )


def coverage_of(sculpt: Sculpt, size: int) -> Array:
    """Return how much of each pixel of a picture of a size a kept view covers, (n, n) 0-1."""
    mask = _native(sculpt)[0].astype(np.float64)
    return mask if size == sculpt.side else np.clip(_sized(mask[..., None], size)[..., 0], 0, 1)


def _smooth(sculpt: Sculpt, axis: Axis, size: int) -> Form:
    """Return a kept view at a smaller size, without relief."""
    height, mask = _heights(sculpt)
    first = (np.arange(size) * sculpt.side) // size
    weight, total = (
        np.add.reduceat(np.add.reduceat(one, first, axis=0), first, axis=1)
        for one in (mask.astype(np.float64), np.where(mask, height, 0.0))
    )
    area = np.diff(first, append=sculpt.side)
    inside = weight > 0.5 * area[:, None] * area
    high = np.where(inside, total / np.maximum(weight, 1), 0.0)
    return Form(inside, high, normals(high, inside), np.zeros_like(high), along(high, inside, axis))


def _sized(values: Array, size: int) -> Array:
    """Return values (n, n, k) on a square of another size, between their neighbours."""
    count = values.shape[0]
    if size < count:
        # Averaged over the pixel that is to be, or fine detail would only be picked from.
        radius = round(count / size / 2 - 0.5)
        if radius > 0:
            values = blurred(values, radius)
    from scipy.ndimage import zoom  # noqa: PLC0415 - not needed where no form is shown

    factor = size / count
    return np.asarray(zoom(values, (factor, factor, 1), order=1, mode="nearest", grid_mode=True))


def along(height: Array, mask: Mask, axis: Axis) -> Array:
    """Return the distance from the light along an axis that lies on a surface, 0-1; (n, n)."""
    x, y = grid(height.shape[0])
    here = np.stack([x, y, height], axis=-1)
    start, end = (_on_surface(height, mask, place) for place in (axis.start, axis.end))
    across = end - start
    length = max(float(np.linalg.norm(across)), 1e-6)
    if axis.rings:
        u = np.linalg.norm(here - start, axis=-1) / length
    else:
        u = (here - start) @ (across / length**2)
    return np.asarray(np.where(mask, np.clip(u, 0, 1), 0.0))


def usual_axis(sculpt: Sculpt) -> Axis:
    """Return an axis from the highest to the lowest point of a kept view."""
    _, mask = _heights(sculpt)
    x, y = grid(sculpt.side)
    rows, columns = np.nonzero(mask)
    ends = []
    for row in (rows.min(), rows.max()):
        middle = columns[rows == row]
        column = middle[middle.size // 2]
        ends.append((round(float(x[row, column]), 3), round(float(y[row, column]), 3)))
    return Axis(ends[0], ends[1])


def axis_mm(sculpt: Sculpt, axis: Axis) -> float:
    """Return how long an axis over a kept view is, as the crow flies, in mm."""
    height, mask = _heights(sculpt)
    start, end = (_on_surface(height, mask, place) for place in (axis.start, axis.end))
    return float(np.linalg.norm(end - start)) * sculpt.half_width_mm


def _on_surface(height: Array, mask: Mask, place: tuple[float, float]) -> Array:
    """Return the point of a surface that is nearest to a place in the view, (3,)."""
    x, y = grid(height.shape[0])
    rows, columns = np.nonzero(mask)
    far = (x[rows, columns] - place[0]) ** 2 + (y[rows, columns] - place[1]) ** 2
    nearest = int(np.argmin(far))
    return np.array([*place, height[rows[nearest], columns[nearest]]])
