"""A painted light and what it falls on: frozen documents, part of a plan."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from typing import Annotated, Literal, get_args

import msgspec
from msgspec.structs import replace

from zesty_veil.light.planck import COLDEST_K, HOTTEST_K
from zesty_veil.limits import MOST_LAB, MOST_LETTERS, at_most, between, from_to, limit_faults
from zesty_veil.tr import tr

_Far = Annotated[float, between(-MOST_LAB, MOST_LAB)]
Place3 = tuple[_Far, _Far, _Far]
Falloff = Literal["steps", "inverse square"]
FALLOFFS: tuple[Falloff, ...] = get_args(Falloff)
LitFinish = Literal["matt", "satin", "gloss"]
LEAST_RINGS, MOST_RINGS = 3, 7
MOST_RADIUS_MM = 500.0
LEAST_COLOURS, MOST_COLOURS = 2, 9
# Shares of the axis that a gap between two lights may take.
LEAST_GAP, MOST_GAP = 0.05, 0.5

# The hot core of some sources, and how far out their hue turns; common practice.
CORES: dict[str, tuple[float, float, float]] = {
    "fire": (0.46, 0.32, 0.0),
    "lamp": (0.52, 0.38, 0.06),
    "eyes": (0.42, 0.24, 0.2),
    "spell": (0.36, 0.2, 0.16),
}


class Fire(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A fire of the painter's own: its colours (CIELAB) from the hottest place to the tips."""

    name: Annotated[str, at_most(MOST_LETTERS, "its name")]
    colours: Annotated[tuple[Place3, ...], from_to(LEAST_COLOURS, MOST_COLOURS, "its colours")]


class Shadow(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What a passage hides of the light from another one: it stands between the two.

    `place` is where the middle of its form stands before the form of the one behind, in half
    widths of that: x to the right, y upward, z towards the eye.
    """

    of: str
    place: Place3


class Surface(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A passage that the light falls on.

    `own` is its colour by daylight, before any light is painted (CIELAB). `place` is where the
    light is before its form, in half widths: x to the right, y upward, z towards the eye; with
    `end` it is a line from there. With `inside` it glows from within the form. `shadow` is that of
    a passage that stands in the light before it.
    """

    passage: str
    own: Place3
    finish: LitFinish = "matt"
    place: Place3 = (-0.7, 0.5, 0.7)
    end: Place3 | None = None
    inside: bool = False
    shadow: Shadow | None = None


class Glow(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A painted light.

    `source` is the passage that is the light; "" is a light off the figure, which nobody paints.
    Its colour is that of a fire of `kelvin`, or `colour` (CIELAB) if there is one. `wins` is how
    far the light's own colour wins over a surface's near it: 0 is the surface's colour times the
    light's, as light does it; 1 the light's own, as strong as paint is. `strength` is what white
    paint that faces it at its nearest sends back, with 1 as white by day; `ambient` is what it
    sends back of all other light. `second` is the colour of another light, from the other side,
    which falls on the far ends; a dark `gap` of that share of the axis keeps the two apart. `core`
    is how much of the light must fall on a place for it to be nearly white, to begin to be so, and
    from where on outward it turns to a deeper hue: `CORES` has what is usual of some sources.
    """

    source: str = ""
    surfaces: tuple[Surface, ...] = ()
    kelvin: Annotated[float, between(COLDEST_K, HOTTEST_K)] = 1900.0
    colour: Place3 | None = None
    radius_mm: Annotated[float, between(0.5, MOST_RADIUS_MM)] = 30.0
    strength: Annotated[float, between(0.05, 10)] = 2.5
    ambient: Annotated[float, between(0, 1)] = 0.05
    falloff: Falloff = "steps"
    rings: Annotated[int, between(LEAST_RINGS, MOST_RINGS)] = 5
    second: Place3 | None = None
    second_strength: Annotated[float, between(0.05, 10)] = 0.5
    gap: Annotated[float, between(LEAST_GAP, MOST_GAP)] = 0.2
    wins: Annotated[float, between(0, 1)] = 0.0
    core: tuple[
        Annotated[float, between(0, 1, "how much light makes nearly white")],
        Annotated[float, between(0, 1, "how much light begins to")],
        Annotated[float, between(0, 1, "how little light turns deeper")],
    ] = CORES["fire"]


def glow_faults(glow: Glow, passages: tuple[str, ...]) -> Iterator[str]:
    """Yield in sentences what is impossible about a glow in a plan of some passages."""
    names = [surface.passage for surface in glow.surfaces]
    if glow.source:
        names.insert(0, glow.source)
    for name in names:
        if name not in passages:
            yield tr("'{0}' is no passage of the plan; name one that is.").format(name)
    for name in sorted(name for name, count in Counter(names).items() if count > 1):
        yield tr(
            "'{0}' stands in it more than once; a passage is the light, or lit by it once."
        ).format(name)
    yield from limit_faults(glow, {"colour": "its colour", "second": "the second light's colour"})
    for surface in glow.surfaces:
        words = f"'{surface.passage}'"
        yield from limit_faults(surface, {"own": words, "place": words, "end": words})
        if surface.shadow is None:
            continue
        yield from limit_faults(surface.shadow, {"place": words})
        if surface.shadow.of not in passages or surface.shadow.of == surface.passage:
            yield tr(
                "'{0}' can't cast a shadow on {1}. Choose another passage of the plan."
            ).format(surface.shadow.of, words)


def fire_faults(fires: tuple[Fire, ...]) -> Iterator[str]:
    """Yield in sentences what is impossible about fires of the painter's own."""
    names = [fire.name for fire in fires]
    for name in sorted(name for name, count in Counter(names).items() if count > 1):
        yield tr("two are called '{0}'; give each its own name.").format(name)
    for fire in fires:
        if not fire.name.strip():
            yield tr("one has no name; give it one.")
        yield from (f"'{fire.name}': {fault}" for fault in limit_faults(fire))


def renamed(glow: Glow, old: str, name: str) -> Glow:
    """Return a glow with a passage called otherwise."""

    def other(surface: Surface) -> Surface:
        shadow = surface.shadow
        if shadow is not None and shadow.of == old:
            shadow = replace(shadow, of=name)
        passage = name if surface.passage == old else surface.passage
        return replace(surface, passage=passage, shadow=shadow)

    source = name if glow.source == old else glow.source
    return replace(glow, source=source, surfaces=tuple(map(other, glow.surfaces)))


def without(glow: Glow, gone: str) -> Glow | None:
    """Return a glow without a passage, or none if that was the light, or all it fell on."""
    if glow.source == gone:
        return None
    if not glow.source and [s.passage for s in glow.surfaces] == [gone]:
        return None
    surfaces = (
        replace(s, shadow=None) if s.shadow is not None and s.shadow.of == gone else s
        for s in glow.surfaces
        if s.passage != gone
    )
    return replace(glow, surfaces=tuple(surfaces))
