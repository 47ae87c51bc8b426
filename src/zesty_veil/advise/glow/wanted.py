"""What colours a painted light wants on each surface, ring by ring.

A surface sends back its own spectrum times the light that falls on it: light on a coloured surface
gives the product, not the light's colour laid on top. What comes is brought into what paint can
show: nothing may outshine the source, and the eye takes the light for somewhat white.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zesty_veil.advise.glow.rings import Ringed, ringed
from zesty_veil.light.adapt import adapted
from zesty_veil.light.cielab import lab, xyz_from_lab
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import power, weights, white
from zesty_veil.light.planck import lamp_weights, planckian
from zesty_veil.light.smoothest import smoothest
from zesty_veil.light.value import luminance, value
from zesty_veil.plan.glow import Glow, Surface
from zesty_veil.plan.model import Plan, Target

# How far an eye among fires takes their light for white; from memory.
_ADAPTS = 0.35
# The lightest that a source is painted, and by how much what it lights must stay darker.
SOURCE_VALUE, UNDER_SOURCE = 9.6, 0.6
# What the surface of paint sends back whatever lies in it, between satin and matt.
_SURFACE = 0.03


@dataclass(frozen=True)
class Lit:
    """A surface with what is wanted on it, from the light outward, the side away last.

    targets : one for each ring at its middle, and one away. values : of each, 0-10. exposure :
    how much all light is lowered, so that nothing outshines the source.
    """

    ringed: Ringed
    targets: tuple[Target, ...]
    values: tuple[float, ...]
    exposure: float


def light_of(glow: Glow) -> Array:
    """Return the relative spectral power of a glow's light, (36,)."""
    if glow.colour is None:
        return planckian(glow.kelvin)
    return np.asarray(own_spectrum(glow.colour) * power("D65"))


def own_spectrum(colour: tuple[float, float, float]) -> Array:
    """Return the smoothest reflectance of a colour by daylight, (36,)."""
    eye = weights()
    return smoothest(xyz_from_lab(np.array(colour), eye.sum(axis=0)), eye)


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


def wanted(plan: Plan, glow: Glow) -> tuple[Lit, ...]:
    """Return what a glow wants on each of its surfaces.

    Raises
    ------
    InputError
        If the light does not reach one of them.
    """
    on = [ringed(plan, glow, surface) for surface in glow.surfaces]
    seen = [
        lit_colours(glow, each.surface, np.array([ring.light for ring in each.rings] + [0.0]))
        for each in on
    ]
    brightest = max((float(each[:, 1].max()) for each in seen), default=0.0)
    most = float(luminance(np.array(SOURCE_VALUE - UNDER_SOURCE)))
    exposure = min(1.0, most / max(brightest, 1e-9))
    return tuple(
        _lit(each, shown(exposure * colours), exposure)
        for each, colours in zip(on, seen, strict=True)
    )


def shown(seen: Array) -> Array:
    """Return XYZ as paint can show it: its surface sends some light back, however dark it is."""
    return np.asarray(_SURFACE * white() + (1 - _SURFACE) * seen)


def _lit(on: Ringed, seen: Array, exposure: float) -> Lit:
    labs = lab(seen, white())
    # The side away is wanted at the far end, which no ring's middle is.
    places = [(ring.start + ring.end) / 2 for ring in on.rings] + [1.0]
    targets = []
    for place, colour in zip(places, labs, strict=True):
        L, a, b = (round(float(v), 2) for v in colour)
        targets.append(Target(round(float(place), 4), (L, a, b)))
    values = tuple(round(float(v), 3) for v in value(seen[:, 1]))
    return Lit(on, tuple(targets), values, exposure)
