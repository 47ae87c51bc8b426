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
from zesty_veil.predict.blur import blurred
from zesty_veil.predict.forms.lit import Lamp, distance, irradiance, reach_of
from zesty_veil.predict.forms.shadow import Blocker, in_shadow
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
    light : how much of the light falls on it on average, 0-1, beside the shadow of another passage.
    shadowed : how much of it lies in the shadow of another passage, 0-1.
    """

    number: int
    start: float
    end: float
    end_mm: float
    share: float
    light: float
    shadowed: float = 0.0


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
    rings, length_mm = _rings(before(plan, glow, surface), glow.rings)
    if not rings or rings[0].light <= 0:
        raise InputError(
            tr("The light does not reach {0}; bring it nearer, or widen its radius.").format(
                surface.passage
            )
        )
    return Ringed(surface, index, rings, rings[-1].end, length_mm)


@dataclass(frozen=True)
class Before:
    """A light as it stands before the form of one surface, whose half width is `half_mm`."""

    lamp: Lamp
    bare: Shape
    half_mm: float
    surface: Surface
    blocker: Blocker | None = None


@dataclass(frozen=True, eq=False)
class LightField:
    """What a light does at each place of a form, (n, n) each with n = `PIXELS`.

    far : how far it is off, in half widths. light : how much is shown there, 0-1, and hidden : how
    much of it another passage keeps away.
    """

    far: Array
    light: Array
    hidden: Array


@kept_within(1)
def _rings(of: Before, count: int) -> tuple[tuple[Ring, ...], float]:
    """Return rings and length of the axis; kept, as only one light is dragged at a time."""
    made, field = form(of.bare, PIXELS), light_field(of)
    near, far = reach_of(field.far, made)
    rings: list[Ring] = []
    total = made.mask.sum()
    edges = np.linspace(0, of.lamp.radius, count + 1)
    for number, (inner, outer) in enumerate(pairwise(edges), 1):
        here = made.mask & (field.far > inner) & (field.far <= outer)
        if here.sum() < _LEAST_PIXELS:
            continue
        start, end = (float(np.clip((e - near) / (far - near), 0, 1)) for e in (inner, outer))
        if rings and start > _LAST_START:
            break
        mean = float(field.light[here].mean())
        # Painters keep the order of the rings, whatever a fold does in one of them.
        mean = min(mean, rings[-1].light) if rings else mean
        end_mm = end * (far - near) * of.half_mm
        share, shadowed = float(here.sum() / total), float(field.hidden[here].mean())
        rings.append(Ring(number, start, end, end_mm, share, mean, shadowed))
    return tuple(rings), (far - near) * of.half_mm


@kept_within(12)
def light_field(of: Before) -> LightField:
    """Return what a light does on a form; kept, for the rings and for the picture."""
    made = form(of.bare, PIXELS)
    light, hidden = lit(made, of.lamp, of.surface), np.zeros(made.mask.shape)
    if of.blocker is not None:
        # No light is a point, so that no shadow's edge is sharper than this.
        hidden = blurred(in_shadow(made, of.lamp, of.blocker), 2)
    return LightField(distance(made, of.lamp), light, hidden)


def lit(made: Form, lamp: Lamp, surface: Surface) -> Array:
    """Return how much of a light a surface shows at each place, (n, n), 0-1."""
    reaches = replace(lamp, radius=lamp.radius * _REACH[surface.finish])
    edges = 1 + _EDGES[surface.finish] * np.maximum(made.relief, 0)
    return np.asarray(np.clip(irradiance(made, reaches) * edges, 0, 1))


def before(plan: Plan, glow: Glow, surface: Surface) -> Before:
    """Return the light as it stands before a surface's form, and what stands between them."""
    passages = {passage.name: passage for passage in plan.passages}
    passage = passages[surface.passage]
    lamp = lamp_before(set_glow(plan, glow), passage)
    assert lamp is not None
    half_mm, blocker = half_width_mm(plan, passage), None
    if surface.shadow is not None:
        other = passages[surface.shadow.of]
        scale = half_width_mm(plan, other) / half_mm
        blocker = Blocker(_bare(plan, other), surface.shadow.place, scale)
    return Before(lamp, _bare(plan, passage), half_mm, surface, blocker)


def _bare(plan: Plan, passage: Passage) -> Shape:
    shape = shape_of(plan, passage)
    return Shape(shape.name, shape.sculpt, shape.axis)
