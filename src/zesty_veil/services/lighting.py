"""What a light does to the forms, and the coats for it, away from the interface thread. No Qt."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from dataclasses import replace as changed
from functools import lru_cache

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace

from zesty_veil.advise.glow.painted import Painted
from zesty_veil.advise.glow.painting import (
    School,
    changes,
    painted,
    with_hindrances,
    with_painting,
)
from zesty_veil.advise.glow.rings import PIXELS, Before, before, light_field
from zesty_veil.advise.glow.wanted import (
    SECOND_LIGHT,
    Lit,
    both_lights,
    other_light,
    over_colours,
    shown,
    wanted,
    won,
)
from zesty_veil.advise.glow.warnings import Warned, after_coats, before_coats
from zesty_veil.advise.match.limits import Limits
from zesty_veil.light.cielab import lab
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import white
from zesty_veil.light.srgb import srgb
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.glow import Glow, Place3, Surface
from zesty_veil.plan.model import Plan
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.forms.edges import laid_over
from zesty_veil.predict.forms.lit import distance, reach_of
from zesty_veil.predict.forms.shadow import outline
from zesty_veil.predict.forms.shapes import form
from zesty_veil.predict.look import ViewingConditions

_FLAT = np.zeros(1)
_LIGHTS, _FAR, _SHOWN = 65, 65, 257
# At so many places it is asked what is painted by now, where a light falls on that.
_THERE = 17
# Half the width of a ring's line in pixels, its grey, and how much of it covers what lies below.
_HALF_LINE, _LINE, _LINE_SHARE = 0.65, 0.86, 0.9
# Between folds that stand apart the distance jumps by more rings a pixel, and no line runs there.
_CLIFF = 0.6
# How much of the work is done when the coats are found; the rest is to say what could be better.
_LAID = 0.85


@dataclass(frozen=True)
class LightRequest:
    """A light before the forms of a plan, one of them in view."""

    plan: Plan
    glow: Glow
    surface: int
    size: int = PIXELS  # of the picture
    keep: bool = False  # whether it falls on what is painted there by now


@dataclass(frozen=True, eq=False)
class ShadowSeen:
    """What stands in the light before a form in view: its name, where it is, and its outline.

    outline : (k, 2), from its middle, in half widths of the form in view.
    """

    of: str
    place: Place3
    outline: Array


@dataclass(frozen=True, eq=False)
class LightSeen:
    """What the light wants everywhere, and how the form in view looks in it.

    picture : (n, n, 4) RGBA. source_value : the greatest value on the source as it is painted
    now; 0 where nothing is painted as it. warned : what would go wrong about it. shadow : what
    stands in the light before the form in view.
    """

    asked: LightRequest
    lits: tuple[Lit, ...]
    picture: npt.NDArray[np.uint8]
    source_value: float
    warned: tuple[Warned, ...]
    shadow: ShadowSeen | None = None


def lighting(asked: LightRequest, should_continue: Callable[[], bool]) -> Iterator[LightSeen]:
    """Yield what a light wants.

    Raises
    ------
    InputError
        If it does not reach a surface.
    """
    lits = wanted(asked.plan, asked.glow, asked.keep)
    source, brightest = None, 0.0
    if asked.glow.source:
        names = [passage.name for passage in asked.plan.passages]
        source = names.index(asked.glow.source)
        brightest = _brightest(asked.plan, source)
    warned = tuple(before_coats(lits, source, brightest))
    picture, shadow = _picture(asked, lits[asked.surface]), _shadow_seen(asked)
    yield LightSeen(asked, lits, picture, brightest, warned, shadow)


def _shadow_seen(asked: LightRequest) -> ShadowSeen | None:
    surface = asked.glow.surfaces[asked.surface]
    blocker = before(asked.plan, asked.glow, surface).blocker
    if blocker is None or surface.shadow is None or surface.inside:
        return None
    corners = blocker.scale * outline(blocker.shape)
    return ShadowSeen(surface.shadow.of, blocker.place, corners)


def _brightest(plan: Plan, passage: int) -> float:
    """Return the greatest value on a passage as it is painted now."""
    look = ViewingConditions(plan.light)
    now = predict(plan.passages[passage], plan.rack(), axis(33), _FLAT, look)
    return float(now.value.max())


def _picture(asked: LightRequest, on: Lit) -> npt.NDArray[np.uint8]:
    """Return the form in view under the light, with the edges of the rings."""
    surface = asked.glow.surfaces[asked.surface]
    of = before(asked.plan, asked.glow, surface)
    lamp, bare = of.lamp, of.bare
    made = form(bare, asked.size)
    d, light = distance(made, lamp), _light(of, made.mask)
    near, far = reach_of(d, made)
    u = np.clip((d[made.mask] - near) / (far - near), 0, 1)
    table = _colours(asked, surface, on)
    lit_at, far_at = (np.rint(each * (_SHOWN - 1)).astype(np.intp) for each in (light, u))
    rgb = table[lit_at, far_at]
    rings = np.minimum(d / lamp.radius * asked.glow.rings, asked.glow.rings + 0.5)
    line = _lines(rings)[made.mask][:, None]
    rgb = rgb * (1 - line) + _LINE * line
    pixels = np.full((rgb.shape[0], 4), 255, dtype=np.uint8)
    pixels[:, :3] = np.clip(rgb, 0, 1) * 255 + 0.5
    out = np.zeros((asked.size, asked.size, 4), dtype=np.uint8)
    laid_over(out, pixels, bare)
    return out


def _light(of: Before, mask: npt.NDArray[np.bool_]) -> Array:
    """Return how much light each pixel of a form shows, (k,), from the field of the rings.

    That one is kept, and what throws a shadow is the same in any size; between its places light is
    blended, so that shadows have no stairs.
    """
    there = light_field(of)
    field, size = there.light * (1 - there.hidden), mask.shape[0]
    if size == PIXELS:
        return np.asarray(field[mask])
    across = _blends(PIXELS, size)
    inside = form(of.bare, PIXELS).mask.astype(np.float32)
    seen, share = ((across @ each @ across.T)[mask] for each in (field.astype(np.float32), inside))
    return np.asarray(np.clip(seen / np.maximum(share, 1e-3), 0, 1))


@lru_cache(4)
def _blends(coarse: int, fine: int) -> npt.NDArray[np.float32]:
    """Return what blends values at the middles of cells into finer ones, (fine, coarse)."""
    at = np.clip((np.arange(fine) + 0.5) * coarse / fine - 0.5, 0, coarse - 1)
    gaps = np.abs(at[:, None] - np.arange(coarse))
    return np.asarray(np.maximum(1 - gaps, 0), dtype=np.float32)


def _colours(asked: LightRequest, surface: Surface, on: Lit) -> Array:
    """Return what light and place make of a surface, (`_SHOWN`, `_SHOWN`, 3) encoded sRGB.

    A picture has many more pixels than there are colours to tell apart between them.
    """
    glow, lights = asked.glow, np.linspace(0, 1, _LIGHTS)
    light, u = np.meshgrid(lights, np.linspace(0, 1, _FAR), indexing="ij")
    if asked.keep and glow.second is None:
        both = _over_there(asked, surface, on.ringed.passage, lights)
    else:
        both = both_lights(glow, surface, light.ravel(), u.ravel(), on.ringed.away)
    seen = shown(on.exposure * both)
    first = np.where(u.ravel() <= on.ringed.away, light.ravel(), 0.0)
    labs = won(glow, lab(seen, white()), first if glow.second is not None else light.ravel())
    if glow.second is not None:
        beyond = np.where(u.ravel() > on.ringed.away + glow.gap, SECOND_LIGHT, 0.0)
        labs = won(other_light(glow), labs, beyond)
    few = np.asarray(srgb(labs)[0]).reshape(_LIGHTS, _FAR, 3)
    # Blended so finely that the next entry is nowhere told from this one.
    down, along = _ends(_LIGHTS), _ends(_FAR)
    return np.asarray(np.einsum("il,lfc,jf->ijc", down, few, along, optimize=True))


def _over_there(asked: LightRequest, surface: Surface, passage: int, lights: Array) -> Array:
    """Return the XYZ of what is painted on a passage with light on top, (`_LIGHTS` `_FAR`, 3)."""
    look, plan = ViewingConditions(asked.plan.light), asked.plan
    now = predict(plan.passages[passage], plan.rack(), axis(_THERE), _FLAT, look).lab[:, 0]
    some = [
        over_colours(asked.glow, replace(surface, own=tuple(float(v) for v in own)), lights)
        for own in now
    ]
    blend = np.maximum(1 - np.abs(np.linspace(0, _THERE - 1, _FAR)[:, None] - np.arange(_THERE)), 0)
    return np.asarray(np.einsum("fk,klx->lfx", blend, np.array(some)).reshape(-1, 3))


@lru_cache(2)
def _ends(count: int) -> Array:
    """Return what blends values from end to end into `_SHOWN`, (`_SHOWN`, count)."""
    at = np.linspace(0, count - 1, _SHOWN)
    return np.asarray(np.maximum(1 - np.abs(at[:, None] - np.arange(count)), 0))


def _lines(rings: Array) -> Array:
    """Return how much of each pixel the lines between rings take, (n, n) 0-1, without stairs."""
    down, across = np.gradient(rings)
    steep = np.maximum(np.hypot(down, across), 1e-9)
    off = np.abs(rings - np.rint(rings)) / steep
    inside = (rings > 0.5) & (steep < _CLIFF)
    return np.where(inside, np.clip(_HALF_LINE + 0.5 - off, 0, 1), 0.0) * _LINE_SHARE


@dataclass(frozen=True)
class Painting:
    """A glow to be painted, and how painters go about it."""

    plan: Plan
    glow: Glow
    school: School
    flame: str | None
    paints: tuple[Paint, ...]
    limits: Limits
    keep: bool = False


@dataclass(frozen=True, eq=False)
class FoundCoats:
    """The coats so far.

    achieved : for each passage what they come to at its targets, (targets, 3) sRGB. share : how
    much of the search is done, 0-1. plan : with the coats in it, when all are found; what stands in
    the way and could be better comes after that, in `warned`. changes : what writing it changes, by
    passage.
    """

    painting: Painting
    passages: tuple[Painted, ...]
    achieved: tuple[Array | None, ...]
    share: float
    plan: Plan | None = None
    warned: tuple[Warned, ...] = ()
    changes: tuple[str, ...] = ()

    @property
    def done(self) -> bool:
        """Whether all coats are found."""
        return self.plan is not None


def paint_lights(asked: Painting, should_continue: Callable[[], bool]) -> Iterator[FoundCoats]:
    """Yield the coats for a glow, passage by passage."""
    paints = asked.plan.rack() | {paint.name: paint for paint in asked.paints}
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
        asked.keep,
    )
    found: tuple[Painted, ...] = ()
    known: tuple[Array | None, ...] = ()
    for found in every:
        # A passage is shown when the next one is begun, with all that was found for it.
        if len(found) - 1 > len(known):
            known = _achieved(found[:-1], asked.plan, paints, look)
        share = (len(found) - 1 + found[-1].share) / count
        yield FoundCoats(asked, found[:-1], known, _LAID * share)
    if not should_continue() or not found:
        return
    plan = with_painting(asked.plan, asked.glow, found, asked.paints)
    known = _achieved(found, asked.plan, paints, look)
    said = tuple(changes(asked.plan, one) for one in found)
    now = FoundCoats(asked, found, known, _LAID, plan, (), said)
    yield now
    how = (asked.school, asked.paints, asked.limits, should_continue)
    for k, some in enumerate(with_hindrances(asked.plan, found, *how), 1):
        found = some
        yield changed(now, passages=found, share=_LAID + (0.98 - _LAID) * k / count)
    if should_continue():
        warned = tuple(after_coats(plan, found, asked.paints))
        yield changed(now, passages=found, share=1.0, warned=warned)


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
