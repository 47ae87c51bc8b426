"""What each coat adds: the difference it makes to what is seen at the end."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Passage
from zesty_veil.predict.field import SITE_RELIEF, axis
from zesty_veil.predict.folding import lay
from zesty_veil.predict.lay import prefixes
from zesty_veil.predict.look import DAYLIGHT, Look, colours

_PLACES = 41


class Contribution(NamedTuple):
    """What one coat adds, in dE00 between the plan with and without it."""

    most: float  # at the place and site where it shows most
    where: float  # that place on the axis, 0-1
    mean: float  # over the axis and the sites


def contributions(
    passage: Passage, paints: Mapping[str, Paint], look: Look = DAYLIGHT
) -> tuple[Contribution, ...]:
    """Return what each coat of a passage adds to the finished stack, in the order of the coats.

    Coats are worked out once, and the stack below each one is folded once and shared.
    """
    u, relief = axis(_PLACES), SITE_RELIEF
    coats, below = prefixes(passage, paints, u, relief)
    whole, _ = colours(below[-1], look)
    out = []
    for left_out in range(len(coats)):
        without = lay(below[left_out], coats[left_out + 1 :])
        out.append(_summary(ciede2000(whole, colours(without, look)[0]), u))
    return tuple(out)


def _summary(difference: Array, u: Array) -> Contribution:
    place = int(np.argmax(difference.max(axis=1)))
    return Contribution(float(difference.max()), float(u[place]), float(difference.mean()))
