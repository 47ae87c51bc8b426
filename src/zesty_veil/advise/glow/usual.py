"""A light to begin with: from what the plan says lights what, or off the figure."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec.structs import replace

from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lab_from_lch, lch
from zesty_veil.plan.glow import CORES, Glow, Place3, Shadow, Surface
from zesty_veil.plan.model import Passage, Plan
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.tr import tr

# Near a light painters let its own colour win somewhat.
USUAL_WINS = 0.4
# Hues of fires in degrees, and from which chroma on a light has a colour.
_FIRE, _COLOURED = (20.0, 105.0), 18.0


def glow_now(plan: Plan) -> Glow:
    """Return the plan's glow with every passage that its source lights, or one to begin with.

    Raises
    ------
    InputError
        If no passage is lit by another one.
    """
    if plan.glow is None:
        return usual_glow(plan)
    known = {surface.passage for surface in plan.glow.surfaces}
    source = plan.glow.source
    more = [p for p in plan.passages if source and p.lit_by == source and p.name not in known]
    surfaces = (*plan.glow.surfaces, *(_surface(p, plan) for p in more))
    return replace(plan.glow, surfaces=surfaces)


def usual_glow(plan: Plan) -> Glow:
    """Return a glow to begin with, from which passage lights which.

    Raises
    ------
    InputError
        If no passage is lit by another one.
    """
    source = next((p.lit_by for p in plan.passages if p.lit_by is not None), None)
    if source is None:
        raise InputError(
            tr(
                "No passage is lit by another; choose one under Passage > Lit by, or plan a light "
                "off the figure."
            )
        )
    lit = [p for p in plan.passages if p.lit_by == source]
    shines = next((p for p in plan.passages if p.name == source), None)
    colour = None if shines is None else _thrown(shines, plan)
    surfaces = tuple(_surface(p, plan) for p in lit)
    return with_colour(Glow(source, surfaces, wins=USUAL_WINS), colour)


def with_colour(glow: Glow, colour: Place3 | None) -> Glow:
    """Return a glow of another colour, whose core fades as is usual for that.

    A core that was chosen by hand, unlike the usual one of its colour, stays as it is.
    """
    core = usual_core(colour) if glow.core == usual_core(glow.colour) else glow.core
    return replace(glow, colour=colour, core=core)


def usual_core(colour: Place3 | None) -> tuple[float, float, float]:
    """Return how the core of a light of some colour fades: as of a fire if it is warm."""
    _, C, h = lch(np.array((0.0, 0.0, 0.0) if colour is None else colour))
    return CORES["fire" if C < _COLOURED or _FIRE[0] <= h <= _FIRE[1] else "lamp"]


def _thrown(passage: Passage, plan: Plan) -> Place3 | None:
    """Return the colour that a passage throws on others, by its clearest light part.

    None for a fire, whose colour is that of what glows, and for what is not painted yet.
    """
    if not passage.coats:
        return None
    field = predict(passage, plan.rack(), axis(17), np.zeros(1), ViewingConditions(plan.light))
    looks = field.lch[:, 0]
    light = looks[looks[:, 0] >= np.median(looks[:, 0])]
    L, C, h = (float(v) for v in light[int(np.argmax(light[:, 1]))])
    if C < _COLOURED or _FIRE[0] <= h <= _FIRE[1]:
        return None
    L, a, b = (round(float(v), 1) for v in lab_from_lch(np.array([max(L, 45.0), C, h])))
    return L, a, b


def off_figure(plan: Plan, passages: Sequence[int] | None = None) -> Glow:
    """Return a light off the figure to begin with, on some passages or on all.

    Raises
    ------
    InputError
        If there is no passage for it to fall on.
    """
    lit = range(len(plan.passages)) if passages is None else passages
    if not lit:
        raise InputError(tr("There is no passage for a light to fall on; add one."))
    surfaces = tuple(_surface(plan.passages[i], plan) for i in lit)
    return Glow("", surfaces, wins=USUAL_WINS)


def usual_shadow(surface: Surface, of: str) -> Shadow:
    """Return the shadow of a passage to begin with: it stands beside the way the light goes."""
    light = np.array(surface.place)
    towards = -light / max(float(np.linalg.norm(light)), 1e-9)
    beside = np.array([-towards[1], towards[0], 0.0])
    beside /= max(float(np.linalg.norm(beside)), 1e-9)
    if beside[1] > 0:
        beside = -beside  # what stands before something is mostly lower than it
    x, y, z = (round(float(v), 2) for v in light + 0.5 * towards + 0.8 * beside)
    return Shadow(of, (x, y, z))


def _surface(passage: Passage, plan: Plan) -> Surface:
    """Return a passage as a surface, with a colour of its own that is about its strongest."""
    field = predict(passage, plan.rack(), axis(9), np.zeros(1), ViewingConditions(plan.light))
    strongest = int(np.argmax(field.lch[:, 0, 1]))
    L, C, h = (float(v) for v in field.lch[strongest, 0])
    L, a, b = (round(float(v), 1) for v in lab_from_lch(np.array([max(L, 35.0), C, h])))
    return Surface(passage.name, (L, a, b))
