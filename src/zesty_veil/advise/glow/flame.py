"""The fire itself: what is wanted along it, its bright recesses and dark ridges, and specks."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import product

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.fire import FIRE_SCHOOLS, fire, fire_places
from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch
from zesty_veil.paint.laydown import RELIEF, Site
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.glow import Glow
from zesty_veil.plan.model import Coat, Passage, Plan, Target
from zesty_veil.predict.field import predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.recalled import alone
from zesty_veil.tr import tr

# A fire is painted in so many steps, white first.
FIRE_STEPS = 6
# Which hues of paints a fire takes, in degrees; of one hue, how far to both sides of it. Up to this
# chroma a thin film shows none. No fire's orange has magenta in it, and violet lies in its darks.
_FIRE_HUES = {"deep": ((15.0, 110.0), (285.0, 320.0)), "sooty": ((15.0, 110.0),)}
_ONE_HUE, _FAINT = 60.0, 15.0
# The specks of a cold fire: light blue, on the edges of the outermost tips; common practice.
_SPECK: tuple[float, float, float] = (76.0, -8.0, -26.0)
_SPECKS_FROM = 0.88
_PARTS, _PASSES = (2.0, 4.0, 6.0), (2, 4, 6)
# A fire is brightest in its recesses and darkest on its ridges, as if these were so much nearer to
# the light, or farther from it, than they are; common practice.
_SHIFT = 0.15
_SPANS: dict[Site, tuple[float, float]] = {"ridge": (0.3, 1.0), "recess": (0.0, 0.42)}
_FEATHER = 0.25
_OVER = (0.15, 0.25)
# What a touch must bring to be worth a pot, dE00.
_HELPS = 1.0


def flame_targets(plan: Plan, glow: Glow, school: str) -> tuple[Target, ...]:
    """Return what is wanted along a fire, in its school and its light's colour.

    `school` may be a fire of the plan's own, by its name.

    Raises
    ------
    InputError
        If there is no such fire.
    """
    own = next((each for each in plan.fires if each.name == school), None)
    if own is not None:
        made = np.array(own.colours)
    elif school not in FIRE_SCHOOLS:
        known = ", ".join((*FIRE_SCHOOLS, *(each.name for each in plan.fires)))
        raise InputError(tr("There is no fire '{0}'; use one of {1}.").format(school, known))
    elif glow.colour is not None:
        made = fire("single", FIRE_STEPS, hue=float(lch(np.array(glow.colour))[2]))
    else:
        made = fire(school, FIRE_STEPS)
    out = []
    places = fire_places(FIRE_STEPS) if own is None else np.linspace(0, 1, len(made))
    for place, lab in zip(places, made, strict=True):
        L, a, b = (round(float(v), 2) for v in lab)
        out.append(Target(round(float(place), 4), (L, a, b)))
    return tuple(out)


def fire_paints(school: str, paints: Sequence[Paint], hue: float = 0.0) -> tuple[Paint, ...]:
    """Return the paints that painters take for a school of fire, by the hue of a thin film.

    What shows hardly any hue belongs in all. hue : of a fire of one hue, in degrees.
    """
    if school == "single":
        ranges: tuple[tuple[float, float], ...] = ((hue - _ONE_HUE, hue + _ONE_HUE),)
    elif school in _FIRE_HUES:
        ranges = _FIRE_HUES[school]
    else:
        return tuple(paints)

    def belongs(paint: Paint) -> bool:
        thin = Coat(Mixture((Part(paint.name),), "water", 3.0), "loaded")
        _, C, h = alone(thin, {paint.name: paint}, "white")
        return C < _FAINT or any((h - low) % 360 <= high - low for low, high in ranges)

    return tuple(paint for paint in paints if belongs(paint))


def touches(fire: Passage, paints: Sequence[Paint], look: ViewingConditions) -> tuple[Coat, ...]:
    """Return last thin coats on a painted fire, on ridges and in recesses alone; none if none help.

    Ridges are glazed with what the fire's own farther parts are painted with. Recesses get a touch
    of white, and a thin transparent colour over it. Flats stay as they are.
    """
    rack = {paint.name: paint for paint in paints}
    own = [c.mixture.parts for c in fire.coats if not _whites(c.mixture.parts, rack)]
    dark = [
        (_touch(parts, 2.0 * strength, passes, "ridge"),)
        for parts in dict.fromkeys(own)
        for strength, passes in product((1, 2), (1, 2, 3))
    ]
    out = _nearest_touch(fire, dark, rack, look, "ridge")
    white = next((p for p in paints if p.kind == "opaque" and p.pigments == ("PW6",)), None)
    if white is not None:
        light = [
            (
                _touch((Part(white.name),), 1.0, whites, "recess"),
                _over((Part(paint.name),), thinning, passes),
            )
            for paint in paints
            if paint.kind == "transparent"
            for whites, thinning, passes in product((1, 2, 3), (2.0, 4.0), (1, 2, 3))
        ]
        on = replace(fire, coats=(*fire.coats, *out))
        out = (*out, *_nearest_touch(on, light, rack, look, "recess"))
    return out


def _touch(parts: tuple[Part, ...], thinning: float, passes: int, site: Site) -> Coat:
    start, end = _SPANS[site]
    feather = (_FEATHER, 0.0) if site == "ridge" else (0.0, _FEATHER)
    span = (round(start + feather[0], 4), round(end - feather[1], 4))
    return Coat(Mixture(parts, "water", thinning), "glaze", passes, span, feather, (site,))


def _over(parts: tuple[Part, ...], thinning: float, passes: int) -> Coat:
    """Return a glaze over a touch of white in the recesses, where that thins out."""
    coat = _touch(parts, thinning, passes, "recess")
    return replace(coat, span=_OVER, feather=(_OVER[0], _FEATHER))


def _nearest_touch(
    fire: Passage,
    touches: Sequence[tuple[Coat, ...]],
    rack: Mapping[str, Paint],
    look: ViewingConditions,
    site: Site,
) -> tuple[Coat, ...]:
    """Return the coats that bring a site nearest to how a shifted flat looks, if any help."""
    places = np.linspace(*_SPANS[site], 9)[1:-1]
    shifted = np.clip(places + (_SHIFT if site == "ridge" else -_SHIFT), 0, 1)
    relief = np.array([RELIEF[site]])
    wanted = predict(fire, rack, shifted, np.zeros(1), look).lab[:, 0]

    def off(coats: tuple[Coat, ...]) -> float:
        one = replace(fire, coats=(*fire.coats, *coats))
        far = ciede2000(predict(one, rack, places, relief, look).lab[:, 0], wanted)
        # The worst place counts too: a touch that ends in a chalky edge is none.
        return float(far.mean() + far.max()) / 2

    best = min(touches, key=off, default=())
    return best if off(best) < off(()) - _HELPS else ()


def _whites(parts: tuple[Part, ...], rack: Mapping[str, Paint]) -> bool:
    return any("PW6" in rack[part.paint].pigments for part in parts)


def specks(
    fire: Passage, paints: Sequence[Paint], look: ViewingConditions
) -> tuple[Coat, Target, float] | None:
    """Return light-blue specks for a painted fire, what is wanted of them, and how far off, dE00.

    They are stippled in white with a little of one paint; of all paints, parts and passes those
    are taken that come nearest. None if there is no white, or nothing to put in it.
    """
    white = next((p for p in paints if p.kind == "opaque" and p.pigments == ("PW6",)), None)
    if white is None:
        return None
    rack, tip, ridge = {paint.name: paint for paint in paints}, np.ones(1), np.ones(1)
    best: tuple[float, Coat] | None = None
    for paint in paints:
        if paint.kind not in {"transparent", "opaque"} or paint is white:
            continue
        for parts, passes in product(_PARTS, _PASSES):
            mixture = Mixture((Part(white.name, parts), Part(paint.name)), "water", 0.5)
            coat = Coat(mixture, "stipple", passes, (_SPECKS_FROM, 1.0), sites=("ridge",))
            with_it = replace(fire, coats=(*fire.coats, coat))
            seen = predict(with_it, rack, tip, ridge, look).lab[0, 0]
            off = float(ciede2000(seen, np.array(_SPECK)))
            if best is None or off < best[0]:
                best = off, coat
    return None if best is None else (best[1], Target(1.0, _SPECK, "ridge"), best[0])
