"""Shapes of arrays, checked where they come into a room: broadcasting hides a wrong one."""

from __future__ import annotations

from zesty_veil.light.grid import Array


def ending_in(last: int, what: str, *arrays: Array) -> None:
    """Refuse arrays whose last axis is not so long.

    Raises
    ------
    ValueError
        With what was given, and what is wanted.

    >>> import numpy as np
    >>> ending_in(3, "CIELAB", np.zeros((4, 3)))
    >>> ending_in(3, "CIELAB", np.zeros((3, 4)))
    Traceback (most recent call last):
    ...
    ValueError: CIELAB must be of shape (..., 3), not (3, 4).
    """
    for array in arrays:
        if array.ndim < 1 or array.shape[-1] != last:
            raise ValueError(f"{what} must be of shape (..., {last}), not {array.shape}.")


def flat_places(**arrays: Array) -> None:
    """Refuse arrays that are not of one axis: places, or reliefs.

    Raises
    ------
    ValueError
        With which, and what was given.

    >>> import numpy as np
    >>> flat_places(u=np.zeros(4), relief=np.zeros((1, 2)))
    Traceback (most recent call last):
    ...
    ValueError: relief must be of shape (n,), not (1, 2).
    """
    for name, array in arrays.items():
        if array.ndim != 1:
            raise ValueError(f"{name} must be of shape (n,), not {array.shape}.")
