"""What tests of the craft share: reading a field of one place."""

from __future__ import annotations

from collections.abc import Callable

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.paint import Paint
from zesty_veil.predict.field import Field

FLAT = SITES.index("flat")
Seen = Callable[..., Field]
PaintOf = Callable[[str, str], Paint]
Name = Callable[[str, str], str]


def flat(field: Field) -> tuple[float, float, float]:
    """Return L, C, h on the flat."""
    L, C, h = (float(v) for v in field.lch[0, FLAT])
    return L, C, h


def recess_to_ridge(field: Field) -> float:
    """Return how much recess and ridge differ, dE00."""
    return float(ciede2000(field.lab[0, 0], field.lab[0, 2]))
