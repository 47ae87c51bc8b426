"""Wanted colours at places of a passage, and how far the prediction is from them."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.paint.laydown import SITES
from zesty_veil.plan.model import Passage, Target
from zesty_veil.predict.field import Field
from zesty_veil.predict.named import region_of


class Missed(NamedTuple):
    """How far a passage is from its targets.

    by : dE00 of each target, in their order. worst : the one farthest off.
    line : (n,) dE00 along the axis from what is wanted between targets, which is mixed from its
    two neighbours; nan beyond the outermost, and none for a single one.
    """

    by: tuple[float, ...]
    worst: int
    line: Array | None

    def worst_place(self, passage: Passage, u: Array) -> tuple[float, float]:
        """Return the place farthest off, at a target or between two, and its dE00."""
        at, far = passage.targets[self.worst].place, self.by[self.worst]
        if self.line is not None and float(np.nanmax(self.line)) > far:
            index = int(np.nanargmax(self.line))
            return float(u[index]), float(self.line[index])
        return at, far


def off_target(target: Target, lab: Array) -> float:
    """Return how far a colour, (3,) CIELAB, is from a target, dE00; 0 if it is so called."""
    region = region_of(target.words) if target.words else None
    wanted = np.array(target.lab) if region is None else region.nearest(lab)
    return float(ciede2000(lab, wanted))


def missed(passage: Passage, field: Field) -> Missed | None:
    """Return how far a field is from a passage's targets, or nothing if it has none.

    The field has the three sites as its reliefs. The line is that of the flat.
    """
    if not passage.targets:
        return None
    by = []
    for target in passage.targets:
        colours = field.lab[:, SITES.index(target.site)]
        here = np.array([np.interp(target.place, field.u, colours[:, i]) for i in range(3)])
        by.append(off_target(target, here))
    return Missed(tuple(by), int(np.argmax(by)), _line(passage, field))


def _line(passage: Passage, field: Field) -> Array | None:
    flat = sorted((t for t in passage.targets if t.site == "flat"), key=lambda t: t.place)
    if len(flat) < 2 or flat[0].place == flat[-1].place:
        return None
    places = [t.place for t in flat]
    wanted = np.stack([np.interp(field.u, places, [t.lab[i] for t in flat]) for i in range(3)], -1)
    off = ciede2000(field.lab[:, SITES.index("flat")], wanted)
    between = (field.u >= places[0]) & (field.u <= places[-1])
    return np.where(between, off, np.nan) if between.any() else None
