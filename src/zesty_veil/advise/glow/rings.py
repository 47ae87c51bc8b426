"""Rings round a light: how much of it falls on a surface in each, and where each ends."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.kept import kept_within
from zesty_veil.light.grid import Array
from zesty_veil.plan.edits import set_glow
from zesty_veil.plan.glow import Glow, Surface
from zesty_veil.plan.model import Passage, Plan
from zesty_veil.predict.forms.lit import Lamp, distance, irradiance, reach_of
from zesty_veil.predict.forms.shapes import Shape, form, half_width_mm, lamp_before, shape_of
from zesty_veil.predict.forms.surface import Form
from zesty_veil.tr import tr

PIXELS = 160
# A shiny surface shows a light from further away, and most at its edges; common practice.
_REACH = {"matt": 1.0, "satin": 1.15, "gloss": 1.35}
_EDGES = {"matt": 0.1, "satin": 0.3, "gloss": 0.6}
_LEAST_PIXELS = 12
# A ring that begins further out than this is no ring of its own: the side away stands for it.
_LAST_START = 0.9


@dataclass(frozen=True)
class Ring:
    """One ring on one surface.

    number : from 1 at the light. start, end : on the passage's axis, 0-1. end_mm : its outer edge
    on the surface, from the place nearest to the light. share : of the surface that is in it.
    light : how much of the light falls on it on average, 0-1.
    """

    number: int
    start: float
    end: float
    end_mm: float
    share: float
    light: float


@dataclass(frozen=True)
class Ringed:
    """A surface with its rings from the light outward, and what is beyond them.

    away : where the part that the light does not reach begins, on the axis; 1 if there is none.
    length_mm : of the axis.
    """

    surface: Surface
    passage: int
    rings: tuple[Ring, ...]
    away: float
    length_mm: float


def ringed(plan: Plan, glow: Glow, surface: Surface) -> Ringed:
    """Return the rings of a light on one of its surfaces.

    Raises
    ------
    InputError
        If the light does not reach the surface at all.
    """
    index = next(i for i, p in enumerate(plan.passages) if p.name == surface.passage)
    rings, length_mm = _rings(*before(plan, glow, plan.passages[index]), surface, glow.rings)
    if not rings or rings[0].light <= 0:
        raise InputError(
            tr("The light does not reach {0}; bring it nearer, or widen its radius.").format(
                surface.passage
            )
        )
    return Ringed(surface, index, rings, rings[-1].end, length_mm)


@kept_within(1)
def _rings(
    lamp: Lamp, bare: Shape, half: float, surface: Surface, count: int
) -> tuple[tuple[Ring, ...], float]:
    """Return rings and length of the axis; kept, as only one light is dragged at a time."""
    made = form(bare, PIXELS)
    d, light = light_field(lamp, bare, surface)
    near, far = reach_of(d, made)
    rings: list[Ring] = []
    total = made.mask.sum()
    edges = np.linspace(0, lamp.radius, count + 1)
    for number, (inner, outer) in enumerate(pairwise(edges), 1):
        here = made.mask & (d > inner) & (d <= outer)
        if here.sum() < _LEAST_PIXELS:
            continue
        start, end = (float(np.clip((e - near) / (far - near), 0, 1)) for e in (inner, outer))
        if rings and start > _LAST_START:
            break
        mean = float(light[here].mean())
        # Painters keep the order of the rings, whatever a fold does in one of them.
        mean = min(mean, rings[-1].light) if rings else mean
        end_mm = end * (far - near) * half
        rings.append(Ring(number, start, end, end_mm, float(here.sum() / total), mean))
    return tuple(rings), (far - near) * half


@kept_within(12)
def light_field(lamp: Lamp, bare: Shape, surface: Surface) -> tuple[Array, Array]:
    """Return how far each place of a form is from a light, and how much of it is shown there.

    (n, n) each, n = `PIXELS`; kept, for the rings and for the picture.
    """
    made = form(bare, PIXELS)
    return distance(made, lamp), lit(made, lamp, surface)


def lit(made: Form, lamp: Lamp, surface: Surface) -> Array:
    """Return how much of a light a surface shows at each place, (n, n), 0-1."""
    reaches = replace(lamp, radius=lamp.radius * _REACH[surface.finish])
    edges = 1 + _EDGES[surface.finish] * np.maximum(made.relief, 0)
    return np.asarray(np.clip(irradiance(made, reaches) * edges, 0, 1))


def before(plan: Plan, glow: Glow, passage: Passage) -> tuple[Lamp, Shape, float]:
    """Return the light as it stands before a passage's form, the form, and half its width in mm."""
    lamp = lamp_before(set_glow(plan, glow), passage)
    assert lamp is not None
    shape = shape_of(plan, passage)
    return lamp, Shape(shape.name, shape.sculpt, shape.axis), half_width_mm(plan, passage)
