"""The shadow that one form casts on another that stands in the light behind it.

A form stands as it is seen from the front, and as deep behind its middle as before it.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.plan.glow import Place3
from zesty_veil.predict.forms.lit import Lamp, places_of
from zesty_veil.predict.forms.shapes import Shape, form
from zesty_veil.predict.forms.surface import Form

_PIXELS, _MARCH, _CORNERS = 96, 64, 48


@dataclass(frozen=True)
class Blocker:
    """A form that stands in the light of another one.

    place : of its middle, in half widths of the other one. scale : its half width over that one's.
    """

    shape: Shape
    place: Place3
    scale: float


def in_shadow(made: Form, lamp: Lamp, blocker: Blocker) -> Array:
    """Return how much of a light is hidden from each place of a form, (n, n), 0-1.

    0 outside the form, and everywhere for a light from within.
    """
    out = np.zeros(made.mask.shape)
    if lamp.inside:
        return out
    points = lamp.points()
    out[made.mask] = np.mean([_hidden(made, point, blocker) for point in points], axis=0)
    return out


def outline(shape: Shape) -> Array:
    """Return the corners of what a form hides of what is behind it, (k, 2) in its half widths."""
    made = form(shape, _PIXELS, rough=False)
    x, y = (each[made.mask] for each in np.moveaxis(places_of(made)[..., :2], -1, 0))
    corners = []
    for angle in np.linspace(0, 2 * np.pi, _CORNERS, endpoint=False):
        far = int(np.argmax(x * np.cos(angle) + y * np.sin(angle)))
        corners.append((x[far], y[far]))
    return np.array(corners)


def _hidden(made: Form, point: Array, blocker: Blocker) -> Array:
    """Return whether a form hides a point from the places of another one, (k,) 0 or 1."""
    shape = form(blocker.shape, _PIXELS, rough=False)
    deep = np.where(shape.mask, np.maximum(shape.height, 2 / _PIXELS), -1.0)
    # Places and the light in half widths of what stands between them, from its middle.
    start = (places_of(made)[made.mask] - blocker.place) / blocker.scale
    along = (point - blocker.place) / blocker.scale - start
    first, last = _within(start, along, np.array([1.0, 1.0, max(float(deep.max()), 1e-9)]))
    out = np.zeros(len(start))
    (met,) = np.nonzero(first < last)
    for k in range(_MARCH):
        t = first[met] + (last[met] - first[met]) * (k + 0.5) / _MARCH
        x, y, z = (start[met] + t[:, None] * along[met]).T
        column, row = ((_PIXELS * (1 + each) / 2).astype(np.intp) for each in (x, -y))
        column, row = (np.clip(each, 0, _PIXELS - 1) for each in (column, row))
        out[met[np.abs(z) < deep[row, column]]] = 1.0
    return out


def _within(start: Array, along: Array, half: Array) -> tuple[Array, Array]:
    """Return where rays enter and leave a box of half its sides, as shares of them, (k,) each."""
    steps = np.where(np.abs(along) < 1e-12, 1e-12, along)
    near, far = (-half - start) / steps, (half - start) / steps
    first = np.minimum(near, far).max(axis=1)
    last = np.maximum(near, far).min(axis=1)
    return np.clip(first, 0, 1), np.clip(last, 0, 1)
