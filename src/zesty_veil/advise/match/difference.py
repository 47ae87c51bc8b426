"""How far colours are from a wanted one: exactly, and about, which is much sooner told."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array


def delta_e(lab: npt.NDArray[Any], target: npt.NDArray[Any]) -> Array:
    """Return how far colours (..., 3) are from wanted ones, whose shapes broadcast, dE00 (...)."""
    return ciede2000(lab, target)


def delta_e_approx(lab: npt.NDArray[Any], target: Array) -> npt.NDArray[Any]:
    """Return about how far colours (..., 3) are from one (3,): strong ones differ less to the eye.

    Good enough to tell the few that are worth measuring from the many that are not.
    """
    L, a, b = (np.abs(lab[..., i] - lab.dtype.type(target[i])) for i in range(3))
    weaker = lab.dtype.type(1 / (1 + 0.04 * np.hypot(target[1], target[2])))
    return np.asarray(L + (a + b) * weaker)
