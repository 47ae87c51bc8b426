"""How far colours are from a wanted one: exactly, and about, which is much sooner told."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.thresholds import CLEAR_CHROMA, CLEAR_SHARE, DULL_CHROMA


def delta_e(lab: npt.NDArray[Any], target: npt.NDArray[Any]) -> Array:
    """Return how far colours (..., 3) are from wanted ones, whose shapes broadcast, dE00 (...)."""
    return ciede2000(lab, target)


def clear_chroma(wanted: Array) -> Array:
    """Return the least chroma that wanted colours (..., 3) must come with; 0 where any will do."""
    C = np.hypot(wanted[..., 1], wanted[..., 2])
    return np.where(C >= CLEAR_CHROMA, CLEAR_SHARE * C, 0.0)


def and_dull(off: Array, lab: npt.NDArray[Any], clear: Array | float) -> Array:
    """Return how far off colours (..., 3) are, dE00 (...), and as much more as they are dull.

    Painters see at once when a clear colour has come dull, more than dE00 says.

    off : how far off they are, dE00. clear : as `clear_chroma`.
    """
    dull = np.maximum(clear - np.hypot(lab[..., 1], lab[..., 2]), 0) / DULL_CHROMA
    return np.asarray(np.hypot(off, dull))


def delta_e_approx(lab: npt.NDArray[Any], target: Array) -> npt.NDArray[Any]:
    """Return about how far colours (..., 3) are from wanted ones: strong ones differ less.

    Good enough to tell the few that are worth measuring from the many that are not.
    """
    target = target.astype(lab.dtype)
    L, a, b = (np.abs(lab[..., i] - target[..., i]) for i in range(3))
    weaker = 1 / (1 + lab.dtype.type(0.04) * np.hypot(target[..., 1], target[..., 2]))
    return np.asarray(L + (a + b) * weaker)
