"""The shapes that the program makes, each from a few lines of arithmetic."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.kept import kept_within
from zesty_veil.light.grid import Array
from zesty_veil.plan.model import Axis, Passage, Plan, Sculpt
from zesty_veil.predict.forms.lit import Lamp, from_light
from zesty_veil.predict.forms.sculpted import sculpted
from zesty_veil.predict.forms.surface import Form, Mask, grid, surface
from zesty_veil.tr import tr

_AREA_PIXELS = 96


class Made(NamedTuple):
    """A form as it is made: height, what belongs to it, and how far it is from the light."""

    height: Array
    mask: Mask
    u: Array


def flame(size: int) -> Made:
    """Tongues of flame: the light is at the foot, the tips are ridges."""
    x, y = grid(size)
    height = np.full_like(x, -1.0)
    reach = np.zeros_like(x)
    for middle, width, top, lean, phase in (
        (0.0, 0.34, 0.92, 0.12, 0.0),
        (-0.34, 0.26, 0.55, -0.10, 1.3),
        (0.36, 0.27, 0.68, 0.14, 2.1),
        (-0.14, 0.20, 0.28, -0.05, 0.7),
        (0.18, 0.18, 0.36, 0.06, 3.0),
    ):
        t = np.clip((y + 0.95) / (top + 0.95), 0, 1)  # 0 at the foot, 1 at the tip
        sway = middle + lean * t * t + 0.07 * np.sin(4.2 * t + phase) * t
        half = width * np.sqrt(np.clip(1 - t, 0, 1)) * (0.72 + 0.5 * t * (1 - t)) + 1e-6
        across = (x - sway) / half
        body = np.where(
            (np.abs(across) < 1) & (y > -0.95) & (y < top),
            width * 0.9 * np.sqrt(np.clip(1 - across**2, 0, 1)) + 0.22 * t,
            -1.0,
        )
        reach = np.where(body > height, t, reach)
        height = np.maximum(height, body)
    mask = height > -0.5
    # Recesses between tongues are nearer to the heat than their crests.
    return Made(height, mask, 0.98 * reach)


def facet(size: int) -> Made:
    """A cut crystal: flat panels that meet in edges; the light is at its heart."""
    x, y = grid(size)
    outline = np.full_like(x, np.inf)
    panels = np.full_like(x, np.inf)
    for i in range(6):
        angle = np.pi / 6 + i * np.pi / 3
        c, s = np.cos(angle), np.sin(angle) * 0.72
        along = x * c + y * s
        outline = np.minimum(outline, 0.66 - along)
        slope = 0.55 + 0.28 * np.cos(2.3 * i)
        panels = np.minimum(panels, 0.62 - slope * along)
    height = np.minimum(panels, 0.50)
    return Made(height, outline > 0, np.hypot(x, y * 0.8) / 0.8)


def blade(size: int) -> Made:
    """A blade with a middle ridge: the light is at the hilt."""
    x, y = grid(size)
    t = np.clip((y + 0.95) / 1.9, 0, 1)
    half = 0.30 * (1 - 0.55 * t) * np.sqrt(np.clip((1 - t) / 0.16, 0, 1))
    across = np.abs(x) / np.maximum(half, 1e-6)
    mask = (across < 1) & (np.abs(y) < 0.95)
    height = 0.24 * (1 - across) * np.minimum(half / 0.30 + 0.2, 1)
    return Made(height, mask, t)


def folds(size: int) -> Made:
    """Folds of a cloak that fall from the shoulder: the light comes from the left."""
    x, y = grid(size)
    t = (y + 1) / 2
    spread = 0.62 + 0.3 * (1 - t)
    edge = np.abs(x) / spread
    wave = x / spread * 3.4 * np.pi / 2 + 0.5 * np.sin(1.6 * y)
    height = 0.16 * np.cos(wave) * (0.45 + 0.55 * (1 - t)) + 0.05 * np.cos(2.2 * wave + 1)
    height = height + 0.25 * np.sqrt(np.clip(1 - edge**2, 0, 1))
    mask = (edge < 1) & (np.abs(y) < 0.92 + 0.03 * np.cos(wave))
    return Made(height, mask, (x + spread) / (2 * spread))


def plate(size: int) -> Made:
    """A bowed plate of armour with a rim and rivets: the light comes from the lower left."""
    x, y = grid(size)
    edge = (np.abs(x) / 0.78) ** 4 + (np.abs(y) / 0.86) ** 4
    height = 0.35 * np.sqrt(np.clip(1 - 0.7 * (x / 0.9) ** 2 - 0.4 * (y / 1.0) ** 2, 0, 1))
    rim = 1 / (1 + np.exp(-(edge - 0.62) / 0.03))
    height = height + 0.045 * rim
    for px, py in ((-0.52, 0.6), (0.52, 0.6), (-0.52, -0.6), (0.52, -0.6), (0, 0.66), (0, -0.66)):
        far = np.hypot(x - px, y - py) / 0.075
        height = height + 0.05 * np.sqrt(np.clip(1 - far**2, 0, 1))
    return Made(height, edge < 1, np.hypot(x + 0.7, y + 0.75) / 2.0)


def orb(size: int) -> Made:
    """An orb or a vial: the light is at its upper left."""
    x, y = grid(size)
    radius = 0.84
    far = np.hypot(x, y)
    height = np.sqrt(np.clip(radius**2 - far**2, 0, None))
    from_light = np.sqrt((x + 0.42) ** 2 + (y - 0.42) ** 2 + (height - 0.6) ** 2)
    return Made(height, far < radius, from_light / 1.55)


def hood(size: int) -> Made:
    """A hood with a face in it: the light is below the chin."""
    x, y = grid(size)
    egg = np.hypot(x / 0.72, (y - 0.02) / 0.92)
    height = 0.6 * np.sqrt(np.clip(1 - egg**2, 0, 1))
    opening = np.hypot(x / 0.42, (y + 0.16) / 0.58)
    hollow = 1 / (1 + np.exp((opening - 1) / 0.045))
    height = height - 0.26 * hollow
    face = np.hypot(x / 0.36, (y + 0.2) / 0.5)
    height = height + hollow * 0.24 * np.sqrt(np.clip(1 - face**2, 0, 1))
    nose = np.exp(-((x / 0.055) ** 2) - ((y + 0.2) / 0.13) ** 2)
    brow = np.exp(-((x / 0.25) ** 2) - ((y - 0.02) / 0.06) ** 2)
    eyes = sum(np.exp(-(((x - s) / 0.07) ** 2) - ((y + 0.08) / 0.05) ** 2) for s in (-0.14, 0.14))
    mouth = np.exp(-((x / 0.12) ** 2) - ((y + 0.43) / 0.025) ** 2)
    height = height + hollow * (0.11 * nose + 0.05 * brow - 0.07 * eyes - 0.03 * mouth)
    creases = 0.02 * np.cos(9 * np.arctan2(y + 0.9, x)) * (1 - hollow)
    return Made(height + creases, egg < 1, np.hypot(x, y + 0.85) / 1.75)


FORMS: dict[str, tuple[str, Callable[[int], Made]]] = {
    "flame": ("tongues of flame", flame),
    "facet": ("facet crystal", facet),
    "blade": ("blade with a ridge", blade),
    "folds": ("cloak folds", folds),
    "plate": ("armour plate with rivets", plate),
    "orb": ("orb or vial", orb),
    "hood": ("hood with a face", hood),
}


@dataclass(frozen=True)
class Shape:
    """Which form: one of `FORMS` by its name, or a sculpt with an axis over it.

    With a light before it the axis runs away from that, from the nearest place to the farthest.
    """

    name: str
    sculpt: Sculpt | None = None
    axis: Axis | None = None
    light: Lamp | None = None


def shape_of(plan: Plan, passage: Passage) -> Shape:
    """Return the shape that a passage of a plan is seen on."""
    light = lamp_before(plan, passage)
    for sculpt in plan.sculpts:
        if sculpt.name == passage.form:
            return Shape(sculpt.name, sculpt, passage.axis, light)
    return Shape(passage.form, light=light)


def lamp_before(plan: Plan, passage: Passage) -> Lamp | None:
    """Return the plan's light as it stands before the form of a passage, if it lights it.

    Its radius is in half widths of the form as they are on this passage.
    """
    glow = plan.glow
    if glow is None:
        return None
    for lit in glow.surfaces:
        if lit.passage == passage.name:
            radius = glow.radius_mm / half_width_mm(plan, passage)
            return Lamp(lit.place, radius, lit.end, glow.falloff, lit.inside)
    return None


def half_width_mm(plan: Plan, passage: Passage) -> float:
    """Return how large half the width of a passage's form is."""
    for sculpt in plan.sculpts:
        if sculpt.name == passage.form:
            return sculpt.half_width_mm
    # A form of the program is as large as gives the passage its area.
    share = float(form(passage.form, _AREA_PIXELS, rough=False).mask.mean())
    return float(np.sqrt(passage.area_mm2 / (4 * share)))


@kept_within(64)
def form(shape: Shape | str, size: int, rough: bool = True) -> Form:
    """Return a form at a size in pixels, its arrays read-only.

    Where only the way its surfaces face is asked for, it needs no relief (not `rough`).

    Raises
    ------
    InputError
        If there is no form of that name.
    SculptError
        If the plan's sculpt is damaged.
    """
    shape = Shape(shape) if isinstance(shape, str) else shape
    if shape.sculpt is not None:
        made = sculpted(shape.sculpt, shape.axis or Axis(), size, rough)
    elif shape.name in FORMS:
        made = surface(*FORMS[shape.name][1](size), rough)
    else:
        raise InputError(
            tr("There is no form '{0}'; use one of {1}.").format(shape.name, ", ".join(FORMS))
        )
    if shape.light is not None:
        made = replace(made, u=from_light(made, shape.light))
    for array in (made.mask, made.height, made.normal, made.relief, made.u):
        array.setflags(write=False)
    return made
