"""What colours a painted light wants on each surface, ring by ring.

A surface sends back its own spectrum times the light that falls on it: light on a coloured surface
gives the product, not the light's colour laid on top. What comes is brought into what paint can
show: nothing may outshine the source, and the eye takes the light for somewhat white.
"""

from __future__ import annotations

from dataclasses import dataclass
from dataclasses import replace as dataclass_replace

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.glow.rings import Ringed, ringed
from zesty_veil.light.adapt import adapted
from zesty_veil.light.cielab import lab, lab_from_lch, lch, luminous, xyz_from_lab
from zesty_veil.light.gamut import most_chroma
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import power, weights, white
from zesty_veil.light.planck import lamp_weights, planckian
from zesty_veil.light.recovery import recover_reflectance
from zesty_veil.light.value import luminance, value
from zesty_veil.plan.glow import Glow, Surface
from zesty_veil.plan.model import Plan, Target
from zesty_veil.predict.field import predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.thresholds import AWAY_FROM, AWAY_VALUE

# How far an eye among fires takes their light for white; from memory.
_ADAPTS = 0.35
# The lightest that a source is painted, and by how much what it lights must stay darker.
SOURCE_VALUE, UNDER_SOURCE = 9.6, 0.6
# A second light falls on so much of the axis at its far end.
_SECOND_SHARE = 0.15
# It is cooler than the first one is near it, and wins over what it falls on as that does outward.
SECOND_LIGHT = 0.3
# What the surface of paint sends back whatever lies in it, between satin and matt.
_SURFACE = 0.03
# From this share of the light on its own colour wins in full.
_REACHED = 0.02
# A light whose colour is this share of the strongest there is has a glow as strong as paint.
_COLOURED = 0.6
# How light a dark surface is painted in a glow that wins, at its edge and at its heart, in L; how
# near to the strongest chroma there is; and a middle grey.
_COLD_HUES, _COLD_CHROMA = (115.0, 265.0), 58.0
# How light the core of a glow is, in L, and of what chroma; a fire's hue there. From this dial on
# it is so in full. Outward a light turns so far to a deeper hue, in degrees: a fire to red, others
# to blue.
_HOT_L, _HOT_CHROMA, _HOT_WINS = 87.0, 28.0, 0.3
_TURNS, _DEEP = 22.0, {True: 30.0, False: 290.0}
_FIRE_HUE, _FIRE_CHROMA = 86.0, 62.0
# How light the side away may be where it begins and at its end, so that a glow reads, in values.
_AWAY_VALUES = (AWAY_VALUE + 0.2, AWAY_VALUE - 1.4)
# No coat is laid over all that is there for less than this in value.
_AS_IT_IS = 0.5
_LIFTED, _PUSHED, _MIDDLE = (22.0, 78.0), 0.85, 0.35


@dataclass(frozen=True)
class Lit:
    """A surface with what is wanted on it, from the light outward, the side away last.

    targets : one for each ring at its middle, one in the gap if there is a second light, and one
    away. values : of each, 0-10. exposure :
    how much all light is lowered, so that nothing outshines the source.
    """

    ringed: Ringed
    targets: tuple[Target, ...]
    values: tuple[float, ...]
    exposure: float

    @property
    def gap(self) -> float | None:
        """By how many values the gap is darker than what is beside it; none without one."""
        if len(self.targets) < len(self.ringed.rings) + 2:
            return None
        return min(max(self.values[:-2]), self.values[-1]) - self.values[-2]


def light_of(glow: Glow) -> Array:
    """Return the relative spectral power of a glow's light, (36,)."""
    if glow.colour is None:
        return planckian(glow.kelvin)
    return np.asarray(own_spectrum(glow.colour) * power("D65"))


def own_spectrum(colour: tuple[float, float, float]) -> Array:
    """Return the smoothest reflectance of a colour by daylight, (36,)."""
    eye = weights()
    return recover_reflectance(xyz_from_lab(np.array(colour), eye.sum(axis=0)), eye)


def lit_colours(glow: Glow, surface: Surface, light: Array) -> Array:
    """Return the XYZ of a surface under a light and the ambient, (n, 3), not exposed yet.

    Parameters
    ----------
    light : (n,) float64
        How much of the light falls on it, 0-1.
    """
    R = own_spectrum(surface.own)
    lamp = lamp_weights(light_of(glow))
    ambient = glow.ambient * (R @ weights())
    full = glow.strength * (R @ lamp)
    seen = ambient + light[:, None] * full
    # The eye takes a mean of day and fire for white.
    whites = (1 - _ADAPTS) * white() + _ADAPTS * lamp.sum(axis=0)
    return np.asarray(adapted(seen, whites, white()))


def won(glow: Glow, labs: Array, light: Array) -> Array:
    """Return CIELAB with the light's own colour winning, as far as the glow has it win.

    Painters keep a glow saturated outward, and near it they let it win over what it falls on: at
    the full dial a surface takes the light's hue, as strong as paint is, and as light as a middle
    surface would be there. Common practice.

    Parameters
    ----------
    labs : (n, 3) float64
        What a surface comes to by light alone.
    light : (n,) float64
        How much of the light falls there, 0-1; where none does, nothing changes.
    """
    if not glow.wins:
        return labs
    own = lch(np.array(glow.colour) if glow.colour else lab(lit_by_itself(glow), white()))
    strongest = float(most_chroma(np.array(own[0]), np.array(own[2])))
    strength = min(1.0, float(own[1]) / max(_COLOURED * strongest, 1.0))
    L = labs[:, 0]
    reached = np.clip(light / _REACHED, 0, 1)
    # On a dark surface a glow still shows: painters lighten it as if it were a middle one.
    lifted = np.maximum(L, _LIFTED[0] + (_LIFTED[1] - _LIFTED[0]) * light**0.6)
    deeper = _DEEP[glow.colour is None] - own[2]
    deeper = float(np.clip((deeper + 180) % 360 - 180, -_TURNS, _TURNS))
    hue = own[2] + deeper * np.clip(1 - light / max(glow.core[2], 1e-9), 0, 1)
    chroma = strength * np.minimum(_PUSHED * most_chroma(lifted, hue), _paintable(lifted, hue))
    pushed = np.stack([lifted, chroma, hue], axis=-1)
    share = (glow.wins * reached)[:, None]
    out = (1 - share) * labs + share * lab_from_lch(pushed)
    heat = (_heat(glow, light) * min(1.0, glow.wins / _HOT_WINS))[:, None]
    return np.asarray((1 - heat) * out + heat * _hot(glow, own, strength))


def _heat(glow: Glow, light: Array) -> Array:
    """Return how much of what is lit is as hot as the light itself, 0-1, (n,)."""
    full, begins, _ = glow.core
    t = np.clip((light - begins) / max(full - begins, 1e-9), 0, 1)
    return np.asarray(t * t * (3 - 2 * t))


def _hot(glow: Glow, own: Array, strength: float) -> Array:
    """Return what is painted nearest to a light, (3,) CIELAB: nearly white, and of its hue.

    Nearest to a fire it is yellow. Common practice.
    """
    hue, most = (_FIRE_HUE, _FIRE_CHROMA) if glow.colour is None else (float(own[2]), _HOT_CHROMA)
    paintable = _paintable(np.array([_HOT_L]), np.array([hue]))[0]
    chroma = min(
        strength * most, float(paintable), float(most_chroma(np.array(_HOT_L), np.array(hue)))
    )
    return lab_from_lch(np.array([_HOT_L, chroma, hue]))


def _paintable(lightness: Array, hue: Array) -> Array:
    """Return the chroma that paints reach where screens reach more: greens to blues; from memory.

    Paints of these hues lose their colour in white much sooner than light does.
    """
    cold = (hue > _COLD_HUES[0]) & (hue < _COLD_HUES[1])
    return np.where(cold, _COLD_CHROMA - np.maximum(lightness - 70.0, 0.0), np.inf)


def lit_by_itself(glow: Glow) -> Array:
    """Return the XYZ of the light itself, as a middle grey shows it to an eye beside it, (3,)."""
    lamp = lamp_weights(light_of(glow))
    whites = (1 - _ADAPTS) * white() + _ADAPTS * lamp.sum(axis=0)
    return np.asarray(adapted(_MIDDLE * lamp.sum(axis=0), whites, white()))


def second_colours(glow: Glow, surface: Surface) -> Array:
    """Return the XYZ of a surface under the second light and the ambient, (3,), not exposed yet."""
    if glow.second is None:
        return np.asarray(lit_colours(glow, surface, np.zeros(1))[0])
    return np.asarray(lit_colours(other_light(glow), surface, np.ones(1))[0])


def other_light(glow: Glow) -> Glow:
    """Return a glow whose light is the second one."""
    return replace(glow, colour=glow.second, strength=glow.second_strength)


def both_lights(glow: Glow, surface: Surface, light: Array, u: Array, away: float) -> Array:
    """Return the XYZ of places of a surface, in both lights if there are two, (n, 3).

    Parameters
    ----------
    light, u : (n,) float64
        How much of the first light falls there, 0-1, and where it is on the axis.
    away
        Where the rings end on the axis; the gap follows, and then the second light.
    """
    if glow.second is None:
        return lit_colours(glow, surface, light)
    seen = lit_colours(glow, surface, np.where(u <= away, light, 0.0))
    dark = lit_colours(glow, surface, np.zeros(1))
    share = np.clip((u - away - glow.gap) / (_SECOND_SHARE / 2), 0, 1)[:, None]
    return np.asarray(seen + share * (second_colours(glow, surface) - dark))


def wanted(plan: Plan, glow: Glow, there: bool = False) -> tuple[Lit, ...]:
    """Return what a glow wants on each of its surfaces.

    there : whether it falls on what is painted there by now, place by place, which stays as it is
    where no light falls, or a shade darker; else on each surface's own colour.

    Raises
    ------
    InputError
        If the light does not reach one of them.
    """
    on = [_parted(ringed(plan, glow, surface), glow) for surface in glow.surfaces]
    seen = []
    for each in on:
        dark = [0.0] if glow.second is None else [0.0, 0.0]
        light = np.array([ring.light for ring in each.rings] + dark)
        if there:
            seen.append(_over(plan, glow, each, light))
            continue
        colours = lit_colours(glow, each.surface, light)
        colours[-1] = second_colours(glow, each.surface)
        seen.append(colours)
    brightest = max((float(each[:, 1].max()) for each in seen), default=0.0)
    most = float(luminance(np.array(SOURCE_VALUE - UNDER_SOURCE)))
    exposure = min(1.0, most / max(brightest, 1e-9))
    return tuple(
        _lit(each, _shown_labs(glow, each, exposure * colours), exposure, glow, there)
        for each, colours in zip(on, seen, strict=True)
    )


def _over(plan: Plan, glow: Glow, on: Ringed, light: Array) -> Array:
    """Return the XYZ of what is painted on a surface, in the light, (n, 3), not exposed yet.

    Where no light falls it is wanted as it is; the side away no lighter than lets a glow read.
    """
    passage = plan.passages[on.passage]
    places = [(ring.start + ring.end) / 2 for ring in on.rings]
    places += [1.0] if glow.second is None else [on.away + glow.gap / 2, 1.0]
    look = ViewingConditions(plan.light)
    now = predict(passage, plan.rack(), np.array(places), np.zeros(1), look).lab[:, 0]
    out = []
    for own, share in zip(now, light, strict=True):
        L, a, b = (float(v) for v in own)
        out.append(over_colours(glow, replace(on.surface, own=(L, a, b)), np.array([share]))[0])
    if glow.second is not None:
        out[-1] = second_colours(glow, on.surface)
    return np.array(out)


def over_colours(glow: Glow, there: Surface, light: Array) -> Array:
    """Return the XYZ of what is painted in one place, `there.own`, with light on top, (n, 3).

    What is there stays, no lighter than lets a glow read; the light is added to it.
    """
    own = np.array(there.own)
    Y = float(luminous(own[0]))
    dark = float(luminance(np.array(AWAY_VALUE - 0.2)))
    dim = dark / Y if float(value(np.array(Y))) > AWAY_VALUE + _AS_IT_IS else 1.0
    seen = lit_colours(glow, there, np.append(light, 0.0))
    # What the surface itself sends back is in what is seen there by now; `shown` brings it back.
    below = np.maximum(dim * xyz_from_lab(own, white()) - _SURFACE * white(), 0) / (1 - _SURFACE)
    return np.asarray(below + seen[:-1] - seen[-1])


def shown(seen: Array) -> Array:
    """Return XYZ as paint can show it: its surface sends some light back, however dark it is."""
    return np.asarray(_SURFACE * white() + (1 - _SURFACE) * seen)


def _parted(on: Ringed, glow: Glow) -> Ringed:
    """Return a surface without the rings that a second light and the gap before it take."""
    if glow.second is None:
        return on
    most = 1 - _SECOND_SHARE - glow.gap
    kept = tuple(ring for ring in on.rings if ring.start < most) or on.rings[:1]
    end = min(kept[-1].end, most)
    last = dataclass_replace(kept[-1], end=end, end_mm=end * on.length_mm)
    return dataclass_replace(on, rings=(*kept[:-1], last), away=last.end)


def _shown_labs(glow: Glow, on: Ringed, seen: Array) -> Array:
    """Return CIELAB of what a surface is to show ring by ring and away, (n, 3)."""
    light = np.zeros(len(seen))
    light[: len(on.rings)] = [ring.light for ring in on.rings]
    labs = won(glow, lab(shown(seen), white()), light)
    if glow.second is not None:
        labs[-1] = won(other_light(glow), labs[-1:], np.array([SECOND_LIGHT]))[0]
    return labs


def _lit(on: Ringed, labs: Array, exposure: float, glow: Glow, there: bool) -> Lit:
    # The side away is wanted at the far end, which no ring's middle is.
    places = [(ring.start + ring.end) / 2 for ring in on.rings]
    if glow.second is not None:
        places.append(on.away + glow.gap / 2)
    places.append(1.0)
    if glow.second is None and not there:
        labs[:-1] = _dark_away(np.array(places[:-1]), labs[:-1], float(labs[-1, 0]))
    targets = []
    for place, colour in zip(places, labs, strict=True):
        L, a, b = (round(float(v), 2) for v in colour)
        targets.append(Target(round(float(place), 4), (L, a, b)))
    values = tuple(round(float(v), 3) for v in value(luminous(labs[:, 0])))
    return Lit(on, tuple(targets), values, exposure)


def _dark_away(places: Array, labs: Array, darkest: float) -> Array:
    """Return what rings want (n, 3), as dark on the side turned away as lets a glow read.

    darkest : L of what is there without the light; no ring is darker.
    """
    most = np.interp(places, (AWAY_FROM, 1.0), _AWAY_VALUES)
    now = value(luminous(labs[:, 0]))
    L = np.array([lab(luminance(np.array(v)) * white(), white())[0] for v in np.minimum(now, most)])
    dark = (places >= AWAY_FROM) & (now > most)
    out = lch(labs)
    L = np.maximum(L, np.minimum(darkest, labs[:, 0]))
    share = np.where(dark, L / np.maximum(out[:, 0], 1e-9), 1.0)
    return lab_from_lch(np.stack([share * out[:, 0], share * out[:, 1], out[:, 2]], axis=-1))
