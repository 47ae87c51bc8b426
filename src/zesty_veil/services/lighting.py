"""What a light does to the forms, and the coats for it, away from the interface thread. No Qt."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.glow.painting import Painted, School, painted, with_painting
from zesty_veil.advise.glow.rings import PIXELS, before, light_field
from zesty_veil.advise.glow.wanted import Lit, both_lights, shown, wanted
from zesty_veil.advise.glow.warnings import Warned, after_coats, before_coats
from zesty_veil.advise.match.limits import Limits
from zesty_veil.light.cielab import lab
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import white
from zesty_veil.light.srgb import srgb
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.glow import Glow
from zesty_veil.plan.model import Plan
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.forms.lit import reach_of
from zesty_veil.predict.forms.shapes import form
from zesty_veil.predict.look import ViewingConditions

_FLAT = np.zeros(1)


@dataclass(frozen=True)
class LightRequest:
    """A light before the forms of a plan, one of them in view."""

    plan: Plan
    glow: Glow
    surface: int


@dataclass(frozen=True, eq=False)
class LightSeen:
    """What the light wants everywhere, and how the form in view looks in it.

    picture : (n, n, 4) RGBA. source_value : the greatest value on the source as it is painted now.
    warned : what would go wrong about it.
    """

    asked: LightRequest
    lits: tuple[Lit, ...]
    picture: npt.NDArray[np.uint8]
    source_value: float
    warned: tuple[Warned, ...]


def lighting(asked: LightRequest, should_continue: Callable[[], bool]) -> Iterator[LightSeen]:
    """Yield what a light wants.

    Raises
    ------
    InputError
        If it does not reach a surface.
    """
    lits = wanted(asked.plan, asked.glow)
    names = [passage.name for passage in asked.plan.passages]
    source = names.index(asked.glow.source)
    light = asked.plan.passages[source]
    painted_now = predict(
        light, asked.plan.rack(), axis(33), _FLAT, ViewingConditions(asked.plan.light)
    )
    brightest = float(painted_now.value.max())
    warned = tuple(before_coats(lits, source, brightest))
    yield LightSeen(asked, lits, _picture(asked, lits[asked.surface]), brightest, warned)


def _picture(asked: LightRequest, on: Lit) -> npt.NDArray[np.uint8]:
    """Return the form in view under the light, with the edges of the rings."""
    surface = asked.glow.surfaces[asked.surface]
    lamp, bare, _ = before(asked.plan, asked.glow, asked.plan.passages[on.ringed.passage])
    made = form(bare, PIXELS)
    d, light = light_field(lamp, bare, surface)
    near, far = reach_of(d, made)
    u = (d[made.mask] - near) / (far - near)
    both = both_lights(asked.glow, surface, light[made.mask], u, on.ringed.away)
    seen = shown(on.exposure * both)
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
class FoundCoats:
    """The coats so far.

    achieved : for each passage what they come to at its targets, (targets, 3) sRGB. share : how
    much of the search is done, 0-1. plan : with the coats in it, when all are found; what could
    still be better about that is in `warned`.
    """

    painting: Painting
    passages: tuple[Painted, ...]
    achieved: tuple[Array | None, ...]
    share: float
    plan: Plan | None = None
    warned: tuple[Warned, ...] = ()

    @property
    def done(self) -> bool:
        """Whether all coats are found."""
        return self.plan is not None


def paint_lights(asked: Painting, should_continue: Callable[[], bool]) -> Iterator[FoundCoats]:
    """Yield the coats for a glow, passage by passage."""
    paints = {paint.name: paint for paint in asked.paints}
    look = ViewingConditions(asked.plan.light)
    count = len(asked.glow.surfaces) + (asked.flame is not None)
    every = painted(
        asked.plan,
        asked.glow,
        asked.school,
        asked.paints,
        asked.limits,
        asked.flame,
        should_continue,
    )
    found: tuple[Painted, ...] = ()
    known: tuple[Array | None, ...] = ()
    for found in every:
        # A passage is shown when the next one is begun, with all that was found for it.
        if len(found) - 1 > len(known):
            known = _achieved(found[:-1], asked.plan, paints, look)
        share = (len(found) - 1 + found[-1].share) / count
        yield FoundCoats(asked, found[:-1], known, 0.98 * share)
    if should_continue() and found:
        plan = with_painting(asked.plan, asked.glow, found, asked.paints)
        warned = tuple(after_coats(plan, found, asked.paints))
        known = _achieved(found, asked.plan, paints, look)
        if should_continue():
            yield FoundCoats(asked, found, known, 1.0, plan, warned)


def _achieved(
    found: tuple[Painted, ...], plan: Plan, paints: dict[str, Paint], look: ViewingConditions
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
