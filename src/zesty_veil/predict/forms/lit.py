"""How much of a painted light falls on each place of a form.

What faces the light squarely gets the most of it (the cosine law), what is farther off gets less,
and what stands in between casts a shadow. Places are in half widths of the form: x to the right, y
upward, z towards the eye.

References
----------
The cosine and inverse square laws: J. H. Lambert, Photometria (1760).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from zesty_veil.light.grid import Array
from zesty_veil.plan.glow import Falloff, Place3
from zesty_veil.predict.forms.surface import Form, grid

# With the inverse square the light is full as near as this share of its radius, and at the radius
# a twenty-fifth is left, which paint shows as nothing.
_FULL = 0.2
_ALONG = 9
_MARCH = 48
_BIAS_PX, _OFF_PX = 1.0, 1.5


@dataclass(frozen=True)
class Lamp:
    """A light that is painted: a point, or a line such as a blade.

    place, end : of a point light `end` is none. radius : how far it reaches. falloff : in even
    steps from full at the light to nothing at the radius, or by the inverse square. inside : it
    glows from within the figure, and nothing stands in its way.
    """

    place: Place3
    radius: float
    end: Place3 | None = None
    falloff: Falloff = "steps"
    inside: bool = False

    def points(self) -> Array:
        """Return the points that it is made of, (k, 3)."""
        start = np.array([self.place], dtype=np.float64)
        if self.end is None:
            return start
        t = np.linspace(0, 1, _ALONG)[:, None]
        return np.asarray(start + t * (np.array(self.end) - start))


def distance(form: Form, lamp: Lamp) -> Array:
    """Return how far each place is from the nearest point of a light, (n, n) in half widths."""
    P = places_of(form)
    return np.asarray(
        np.min([np.linalg.norm(point - P, axis=-1) for point in lamp.points()], axis=0)
    )


def from_light(form: Form, lamp: Lamp) -> Array:
    """Return the axis away from a light, (n, n): 0 at the nearest place of a form, 1 farthest."""
    d = distance(form, lamp)
    near, far = reach_of(d, form)
    return np.asarray(np.where(form.mask, np.clip((d - near) / max(far - near, 1e-9), 0, 1), 0.0))


def reach_of(d: Array, form: Form) -> tuple[float, float]:
    """Return the least and the greatest distance to a light on a form."""
    inside = d[form.mask]
    return (float(inside.min()), float(inside.max())) if inside.size else (0.0, 1.0)


def irradiance(form: Form, lamp: Lamp) -> Array:
    """Return how much light falls on each place of a form, (n, n), 0-1; 0 outside the form."""
    P = places_of(form)
    total = np.zeros(form.mask.shape)
    points = lamp.points()
    for point in points:
        towards = point - P
        d = np.maximum(np.linalg.norm(towards, axis=-1), 1e-9)
        cosine = np.einsum("ijk,ijk->ij", form.normal, towards) / d
        if lamp.inside:
            # Light from within leaves a surface that is turned from it, too.
            cosine = np.abs(cosine)
        arrives = np.maximum(cosine, 0.0) * _fall(d, lamp)
        if not lamp.inside:
            lit = form.mask & (arrives > 1e-6)
            arrives[lit] *= ~shaded(form, point, lit)
        total += arrives
    return np.asarray(np.where(form.mask, total / len(points), 0.0))


def shaded(form: Form, point: Array, where: npt.NDArray[np.bool_]) -> npt.NDArray[np.bool_]:
    """Tell which of some places (n, n) of a form a point cannot see, (k,) in their order."""
    size = form.mask.shape[0]
    step = 2 / size
    # A little off the surface, or a steep one would shade itself by its own pixels.
    start = places_of(form)[where] + _OFF_PX * step * form.normal[where]
    towards = point - start
    across = np.linalg.norm(towards[:, :2], axis=1)
    first = np.minimum(_BIAS_PX * step / np.maximum(across, 1e-9), 1.0)
    # In pixels of a picture with a border of nothing all round.
    scale = np.array([1 / step, -1 / step, 1.0])
    begin = (start * scale + (size / 2 + 1, size / 2 + 1, 0)).astype(np.float32)
    along = (towards * scale).astype(np.float32)
    height = np.full((size + 2, size + 2), -np.inf, dtype=np.float32)
    height[1:-1, 1:-1] = np.where(form.mask, form.height, -np.inf)
    flat, most = height.ravel(), np.float32(size + 1)
    dark = np.zeros(begin.shape[0], dtype=bool)
    for k in range(_MARCH):
        t = (first + (1 - first) * k / _MARCH).astype(np.float32)
        column, row, z = (begin[:, i] + t * along[:, i] for i in range(3))
        np.clip(column, 0, most, out=column)
        np.clip(row, 0, most, out=row)
        dark |= flat[row.astype(np.int32) * (size + 2) + column.astype(np.int32)] > z
    return dark


def _fall(d: Array, lamp: Lamp) -> Array:
    """Return what is left of a light at distances."""
    if lamp.falloff == "steps":
        return np.asarray(np.clip(1 - d / lamp.radius, 0.0, 1.0))
    return np.asarray(np.minimum((_FULL * lamp.radius / d) ** 2, 1.0))


def places_of(form: Form) -> Array:
    """Return the place of each pixel of a form, (n, n, 3) in half widths."""
    x, y = grid(form.mask.shape[0])
    return np.stack([x, y, form.height], axis=-1)
