"""What a light does to the forms, and the coats for it, away from the interface thread. No Qt."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.glow.painting import Painted, School, painted
from zesty_veil.advise.glow.rings import PIXELS, before, field
from zesty_veil.advise.glow.wanted import Lit, lit_colours, shown, wanted
from zesty_veil.advise.match.limits import Limits
from zesty_veil.light.cielab import lab
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import white
from zesty_veil.light.srgb import srgb
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.glow import Glow
from zesty_veil.plan.model import Plan
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.forms.shapes import form
from zesty_veil.predict.look import Look

_FLAT = np.zeros(1)


@dataclass(frozen=True)
class Asked:
    """A light before the forms of a plan, one of them in view."""

    plan: Plan
    glow: Glow
    surface: int


@dataclass(frozen=True, eq=False)
class Seen:
    """What the light wants everywhere, and how the form in view looks in it.

    picture : (n, n, 4) RGBA. source_value : the greatest value on the source as it is painted now.
    """

    asked: Asked
    lits: tuple[Lit, ...]
    picture: npt.NDArray[np.uint8]
    source_value: float


def lighting(asked: Asked, still: Callable[[], bool]) -> Iterator[Seen]:
    """Yield what a light wants.

    Raises
    ------
    InputError
        If it does not reach a surface.
    """
    lits = wanted(asked.plan, asked.glow)
    source = next(p for p in asked.plan.passages if p.name == asked.glow.source)
    painted_now = predict(source, asked.plan.rack(), axis(33), _FLAT, Look(asked.plan.light))
    brightest = float(painted_now.value.max())
    yield Seen(asked, lits, _picture(asked, lits[asked.surface]), brightest)


def _picture(asked: Asked, on: Lit) -> npt.NDArray[np.uint8]:
    """Return the form in view under the light, with the edges of the rings."""
    surface = asked.glow.surfaces[asked.surface]
    lamp, bare, _ = before(asked.plan, asked.glow, asked.plan.passages[on.ringed.passage])
    made = form(bare, PIXELS)
    d, light = field(lamp, bare, surface)
    seen = shown(on.exposure * lit_colours(asked.glow, surface, light[made.mask]))
    rgb = srgb(lab(seen, white()))[0]
    pixels = np.zeros((PIXELS, PIXELS, 4), dtype=np.uint8)
    pixels[made.mask, :3] = (rgb * 255 + 0.5).astype(np.uint8)
    pixels[made.mask, 3] = 255
    ring = np.ceil(d / lamp.radius * asked.glow.rings)
    ring = np.minimum(ring, asked.glow.rings + 1)
    edge = np.zeros(made.mask.shape, dtype=bool)
    edge[:, 1:] |= ring[:, 1:] != ring[:, :-1]
    edge[1:] |= ring[1:] != ring[:-1]
    pixels[edge & made.mask, :3] = 0xD0
    return pixels


@dataclass(frozen=True)
class Painting:
    """A glow to be painted, and how painters go about it."""

    plan: Plan
    glow: Glow
    school: School
    flame: str | None
    paints: tuple[Paint, ...]
    limits: Limits


@dataclass(frozen=True, eq=False)
class Found:
    """The coats so far: for each passage what they come to at its targets, (targets, 3) sRGB."""

    painting: Painting
    passages: tuple[Painted, ...]
    achieved: tuple[Array | None, ...]
    done: bool


def painting(asked: Painting, still: Callable[[], bool]) -> Iterator[Found]:
    """Yield the coats for a glow, passage by passage."""
    paints = {paint.name: paint for paint in asked.paints}
    look, shown_now = Look(asked.plan.light), 0
    every = painted(
        asked.plan, asked.glow, asked.school, asked.paints, asked.limits, asked.flame, still
    )
    found: tuple[Painted, ...] = ()
    for found in every:
        # A passage is shown when the next one is begun, with all that was found for it.
        if len(found) - 1 > shown_now:
            shown_now = len(found) - 1
            yield Found(asked, found[:-1], _achieved(found[:-1], asked.plan, paints, look), False)
    if still() and found:
        yield Found(asked, found, _achieved(found, asked.plan, paints, look), True)


def _achieved(
    found: tuple[Painted, ...], plan: Plan, paints: dict[str, Paint], look: Look
) -> tuple[Array | None, ...]:
    out: list[Array | None] = []
    for one in found:
        if one.answer is None:
            out.append(None)
            continue
        u = np.array([target.place for target in one.targets])
        passage = one.on(plan.passages[one.passage])
        out.append(predict(passage, paints, u, _FLAT, look).rgb[:, 0])
    return tuple(out)
