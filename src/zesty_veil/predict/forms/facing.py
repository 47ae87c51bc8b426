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
_TILTS = 17
# A film changes colour less the thicker it is, so the thin places of a ring weigh more in its mean
# colour than in its mean thickness: shares are averaged as 1 - exp(-_HIDES * share).
_HIDES = 1.0


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


def tilt(form: Form, nozzle: float) -> tuple[float, ...]:
    """Return the tilts along the axis by which a section is sprayed as its form is.

    The form's surfaces face the nozzle by their mean at each place of the axis; that is told as
    angles from straight above, in degrees, at places spread evenly. Where one place of the axis
    holds surfaces that face in many ways, a ribbon shows what they come to together.
    """
    u = form.u[form.mask]
    if u.size < _LEAST_PIXELS:
        return nozzle, nozzle + 90
    got = np.maximum(facing(form.normal[form.mask], nozzle), 0)
    places = np.linspace(0, 1, _TILTS)
    near = np.maximum(1 - np.abs(u[:, None] - places) * (_TILTS - 1), 0)
    count = near.sum(axis=0)
    known = count > 0.5
    hidden = 1 - np.exp(-_HIDES * got)
    mean = -np.log(1 - (near * hidden[:, None]).sum(axis=0)[known] / count[known]) / _HIDES
    angle = np.degrees(np.arccos(np.clip(mean, 0, 1)))
    every = np.interp(places, places[known], angle)
    return tuple(float(a) for a in np.rint(every) + nozzle)
