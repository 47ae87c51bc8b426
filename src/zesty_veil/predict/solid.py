"""When a paint looks solid: one more pass would change next to nothing.

Depth goes on for long after that: a transparent red is solid to the eye in three coats and reaches
its own depth in twenty. Painters stop at the first; common practice.
"""

from __future__ import annotations

from typing import Literal

import numpy as np

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.paint.kinds import Kind
from zesty_veil.thresholds import CLOSE_DE00, LEAST_SHARE_OF_PASS

# What hides is judged over black, which it is laid to cover; what is clear over white, which it is
# laid to tint. Common practice.
_HIDING = frozenset({"opaque", "metallic"})


def judged_over(kind: Kind) -> Literal["white", "black"]:
    """Return over which primer a kind of paint is judged solid."""
    return "black" if kind in _HIDING else "white"


def solid_after(labs: Array) -> int | None:
    """Return after how many passes paint is solid to the eye.

    Parameters
    ----------
    labs : (p + 1, 3) float64
        CIELAB after 0, 1, ... p passes.

    Returns
    -------
    int or None
        The fewest passes, none if they were too few to tell.
    """
    for n in range(1, len(labs) - 1):
        more = float(ciede2000(labs[n], labs[n + 1]))
        if more < CLOSE_DE00 and more < LEAST_SHARE_OF_PASS * float(ciede2000(labs[0], labs[n])):
            return n
    # What changes nothing from the first is as it will be.
    return 0 if len(labs) > 1 and float(np.ptp(np.asarray(ciede2000(labs[0], labs)))) == 0 else None
