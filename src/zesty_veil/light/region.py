"""A part of CIELAB that one word means: from here to there in lightness, chroma and hue."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from zesty_veil.light.cielab import lab_from_lch, lch
from zesty_veil.light.grid import Array

# Paint is no purer than this; what is called by a hue alone may be as pure as this.
PUREST = 150.0


class Region(NamedTuple):
    """Limits of L, C and h in degrees, both included; the hue may run through 0.

    >>> yellow = Region((72.0, 100.0), (60.0, 150.0), (82.0, 100.0))
    >>> yellow.nearest(np.array([80.0, 0.0, 70.0])).round(1).tolist()
    [80.0, 0.0, 70.0]
    >>> lch(yellow.nearest(np.array([60.0, 0.0, 50.0]))).round(1).tolist()
    [72.0, 60.0, 90.0]
    """

    L: tuple[float, float]
    C: tuple[float, float]
    h: tuple[float, float]

    def middle(self, lab: Array, named: Array) -> Array:
        """Return what is meant most of all, (3,): of a bare hue any clear colour in its middle.

        lab : (3,), what it is compared with. named : (3,), the middle of other words.
        """
        if self.C[1] < PUREST:
            return named
        L, C, _ = lch(lab)
        return lab_from_lch(np.array([L, C, sum(self.h) / 2]))

    def nearest(self, lab: Array) -> Array:
        """Return the colour of the region that is nearest to each of some, (..., 3) CIELAB.

        Nearest in each of L, C and h; what lies inside is returned as it is.
        """
        seen = lch(lab)
        middle, half = sum(self.h) / 2, (self.h[1] - self.h[0]) / 2
        turn = (seen[..., 2] - middle + 180) % 360 - 180
        kept = [
            np.clip(seen[..., 0], *self.L),
            np.clip(seen[..., 1], *self.C),
            middle + np.clip(turn, -half, half),
        ]
        return lab_from_lch(np.stack(kept, axis=-1))
