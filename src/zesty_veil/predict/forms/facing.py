"""How a form's surfaces face a nozzle: what a spray finds on the form, and on the section."""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.plan.model import Passage
from zesty_veil.predict.forms.surface import Form

# A nozzle is held somewhat before the figure, so that what faces the painter gets some of it:
# this much towards the eye for each part upward; common practice.
_BEFORE = 0.5
_LEAST_PIXELS = 50
_BINS = 24


def nozzle_of(passage: Passage) -> float | None:
    """Return the angle of the first nozzle that a passage is sprayed with, or none."""
    coats = (*passage.ground.coats, *passage.coats)
    return next((coat.nozzle for coat in coats if coat.nozzle is not None), None)


def facing(normal: Array, nozzle: float) -> Array:
    """Return the cosine between surfaces and a nozzle; (...) of (..., 3).

    The nozzle's angle is in degrees from straight above, in the plane of the picture, to the
    right if above 0.
    """
    angle = np.radians(nozzle)
    towards = np.array([np.sin(angle), np.cos(angle), _BEFORE])
    return np.asarray(normal @ (towards / np.linalg.norm(towards)))


def tilt(form: Form, nozzle: float) -> tuple[float, float]:
    """Return the tilt at light and far end by which a section is sprayed as its form is.

    The form's surfaces face the nozzle by their mean at each place of the axis; a line of angles
    is fitted to that and given from straight above, in degrees.
    """
    u = form.u[form.mask]
    if u.size < _LEAST_PIXELS:
        return nozzle, nozzle + 90
    got = np.maximum(facing(form.normal[form.mask], nozzle), 0)
    bin_ = np.minimum((u * _BINS).astype(np.intp), _BINS - 1)
    count = np.bincount(bin_, minlength=_BINS)
    mean = np.bincount(bin_, weights=got, minlength=_BINS) / np.maximum(count, 1)
    angle = np.degrees(np.arccos(np.clip(mean, 0, 1)))
    middle = (np.arange(_BINS) + 0.5) / _BINS
    if (count > 0).sum() < 2:
        return nozzle + float(angle[count > 0][0]), nozzle + float(angle[count > 0][0])
    slope, start = np.polyfit(middle, angle, 1, w=np.sqrt(count))
    light, far = np.clip(np.rint([start, start + slope]), 0, 90) + nozzle
    return float(light), float(far)
