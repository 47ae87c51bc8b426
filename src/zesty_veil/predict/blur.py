"""A blur that keeps what is averaged, for eyes that squint and for corners where light is lost."""

from __future__ import annotations

from zesty_veil.light.grid import Array


def blurred(values: Array, radius: int, axes: tuple[int, ...] = (0, 1)) -> Array:
    """Return values averaged three times over boxes, which is nearly a Gaussian; (n, m).

    The deviation of that Gaussian is about the radius, in places; edges go on as they end.
    """
    from scipy.ndimage import uniform_filter1d  # noqa: PLC0415 - not needed where no form is shown

    for _ in range(3):
        for axis in axes:
            values = uniform_filter1d(values, 2 * radius + 1, axis, mode="nearest")
    return values
