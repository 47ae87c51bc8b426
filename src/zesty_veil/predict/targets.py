"""Wanted colours at places of a passage, and how far the prediction is from them."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.paint.laydown import SITES
from zesty_veil.plan.model import Passage
from zesty_veil.predict.field import Field


class Missed(NamedTuple):
    """How far a passage is from its targets, dE00 each, in their order; and the worst of them."""

    by: tuple[float, ...]
    worst: int


def missed(passage: Passage, field: Field) -> Missed | None:
    """Return how far a field is from a passage's targets, or nothing if it has none.

    The field has the three sites as its reliefs.
    """
    if not passage.targets:
        return None
    by = []
    for target in passage.targets:
        colours = field.lab[:, SITES.index(target.site)]
        here = np.array([np.interp(target.place, field.u, colours[:, i]) for i in range(3)])
        by.append(float(ciede2000(here, np.array(target.lab))))
    return Missed(tuple(by), int(np.argmax(by)))
