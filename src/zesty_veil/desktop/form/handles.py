"""What is set by hand on the form: the axis over a sculpt, and the nozzle of a sprayed ground.

No Qt here: places are x (to the right) and y (upward), -1 to 1 over the form's square.
"""

from __future__ import annotations

import math
from typing import Literal, NamedTuple

from zesty_veil.plan.model import Axis, Passage, Plan

Place = tuple[float, float]
Held = Literal["start", "end", "nozzle"]

# The nozzle stands this far from the middle.
NOZZLE_AT = 0.93
_REACH = 0.09
_DEGREES = 5.0


class Handles(NamedTuple):
    """What can be taken hold of on a passage's form."""

    axis: Axis | None  # only on a sculpt
    nozzle: float | None  # degrees from straight above, of the ground's spray

    @property
    def nozzle_place(self) -> Place | None:
        """Where the nozzle stands."""
        if self.nozzle is None:
            return None
        angle = math.radians(self.nozzle)
        return NOZZLE_AT * math.sin(angle), NOZZLE_AT * math.cos(angle)

    def at(self, place: Place) -> Held | None:
        """Return what is taken hold of at a place; on a sculpt, a new axis starts anywhere."""
        spots: list[tuple[Held, Place | None]] = [("nozzle", self.nozzle_place)]
        if self.axis is not None:
            spots += [("end", self.axis.end), ("start", self.axis.start)]
        near = [(math.dist(spot, place), held) for held, spot in spots if spot is not None]
        if near and min(near)[0] < _REACH:
            return min(near)[1]
        return None


def handles(plan: Plan, passage: Passage) -> Handles:
    """Return what can be taken hold of on the form of a passage."""
    sculpted = any(sculpt.name == passage.form for sculpt in plan.sculpts)
    nozzles = [c.nozzle for c in passage.ground.coats if c.nozzle is not None]
    return Handles(passage.axis if sculpted else None, nozzles[0] if nozzles else None)


def nozzle_at(place: Place, fine: bool = False) -> float:
    """Return the degrees of a nozzle dragged to a place, in steps of 5 or, if fine, of 1."""
    step = 1.0 if fine else _DEGREES
    return round(math.degrees(math.atan2(*place)) / step) * step + 0.0


def held_to_square(place: Place) -> Place:
    """Return a place brought inside the square."""
    x, y = (min(max(v, -1.0), 1.0) for v in place)
    return round(x, 3), round(y, 3)
