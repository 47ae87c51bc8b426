"""How a form's surfaces face a nozzle: what a spray finds on the form, and on the section."""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.predict.forms.surface import Form

# A nozzle is held somewhat before the figure, so that what faces the painter gets some of it:
# this much towards the eye for each part upward; common practice.
_BEFORE = 0.5
_LEAST_PIXELS = 50
_TILTS, _WAYS = 25, 5
# A film changes colour less the thicker it is, so the thin places of a ring weigh more in its mean
# colour than in its mean thickness: shares are averaged as 1 - exp(-_HIDES * share).
_HIDES = 1.0


def facing(normal: Array, nozzle: float) -> Array:
    """Return the cosine between surfaces and a nozzle; (...) of (..., 3).

    The nozzle's angle is in degrees from straight above, in the plane of the picture, to the
    right if above 0.
    """
    angle = np.radians(nozzle)
    towards = np.array([np.sin(angle), np.cos(angle), _BEFORE])
    return np.asarray(normal @ (towards / np.linalg.norm(towards)))


def turns(form: Form, nozzle: float) -> tuple[tuple[float, ...], ...]:
    """Return how a form's surfaces are turned to a nozzle along its axis.

    For each of `_WAYS` equal shares of the surface, from what faces it least, the angles from
    straight above in degrees at `_TILTS` places spread evenly; none of a form too small to tell.
    """
    u = form.u[form.mask]
    if u.size < _LEAST_PIXELS:
        return ()
    got = np.maximum(facing(form.normal[form.mask], nozzle), 0)
    order = np.argsort(got)
    u, got = u[order], got[order]
    places = np.linspace(0, 1, _TILTS)
    near = np.maximum(1 - np.abs(u[:, None] - places) * (_TILTS - 1), 0)
    count = near.sum(axis=0)
    known = count > 0.5
    near, count = near[:, known], count[known]
    # How much of each share a pixel takes: it may lie on a border between two.
    after = np.cumsum(near, axis=0) / count
    before = after - near / count
    out = []
    for k in range(_WAYS):
        low, high = k / _WAYS, (k + 1) / _WAYS
        share = np.maximum(np.minimum(after, high) - np.maximum(before, low), 0)
        mean = (share * got[:, None]).sum(axis=0) * _WAYS
        angle = np.degrees(np.arccos(np.clip(mean, 0, 1)))
        row = np.interp(places, places[known], angle)
        out.append(tuple(float(a) for a in np.round(row + nozzle, 1)))
    return tuple(out)


def tilt(form: Form, nozzle: float) -> tuple[float, ...]:
    """Return the tilts along the axis by which a section is sprayed as its form is.

    The form's surfaces face the nozzle by their mean at each place of the axis; that is told as
    angles from straight above, in degrees, at places spread evenly. It stands for what is asked of
    one film; what is seen goes by `turns`.
    """
    every = turns(form, nozzle)
    if not every:
        return nozzle, nozzle + 90
    got = np.cos(np.radians(np.array(every) - nozzle))
    mean = -np.log(np.exp(-_HIDES * got).mean(axis=0)) / _HIDES
    return tuple(float(a) for a in np.rint(np.degrees(np.arccos(np.clip(mean, 0, 1)))) + nozzle)
