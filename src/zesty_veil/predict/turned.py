"""Surfaces that are turned many ways at one place: what the eye makes of them together.

A spray reaches what faces its nozzle. On a round or folded form one place of the axis holds
surfaces that face it and others that turn away, and what the eye sees there is the mean of their
light, not the colour of a mean film: half white and half black are a grey of L 76, while half the
white paint all over covers as good as all of it.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec.structs import replace

from zesty_veil.light.cielab import lab, xyz_from_lab
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import weights
from zesty_veil.plan.model import Passage
from zesty_veil.predict.look import ViewingConditions


def nozzle_of(passage: Passage) -> float | None:
    """Return the angle of the first nozzle that a passage is sprayed with, or none."""
    coats = (*passage.ground.coats, *passage.coats)
    return next((coat.nozzle for coat in coats if coat.nozzle is not None), None)


def each_way(passage: Passage) -> tuple[Passage, ...]:
    """Return a passage once for each way that its surfaces are turned; itself if that is no matter.

    All of them have the same share of the area.
    """
    if not passage.turns or nozzle_of(passage) is None:
        return (passage,)
    return tuple(replace(passage, tilt=row, turns=()) for row in passage.turns)


def together(seen: Sequence[Array], look: ViewingConditions) -> Array:
    """Return what the eye makes of colours that lie beside each other in equal shares.

    seen : CIELAB (..., 3) each. Light adds up, so it is the mean of their XYZ.
    """
    if len(seen) == 1:
        return seen[0]
    white = weights(look.light, look.observer).sum(axis=0)
    light = np.mean([xyz_from_lab(each, white) for each in seen], axis=0)
    return np.asarray(lab(light, white))
