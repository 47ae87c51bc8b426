"""How a stack is looked at: light, observer, finish and angle."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from zesty_veil.light.adapt import by_day
from zesty_veil.light.cielab import lab, xyz
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import power, weights
from zesty_veil.light.srgb import srgb
from zesty_veil.optics.bispectral import radiance_factor
from zesty_veil.optics.flakes import glint
from zesty_veil.optics.surface import FINISHES, seen_bispectral
from zesty_veil.predict.layer import StackOptics

Finish = Literal["as painted", "gloss", "satin", "matt", "wet"]
FINISH_CHOICES: tuple[Finish, ...] = ("as painted", "gloss", "satin", "matt", "wet")
Angle = Literal["shade", "glint"]


@dataclass(frozen=True)
class ViewingConditions:
    """Under which light, by which observer (2 or 10 degrees), with which finish, at which angle.

    A finish other than "as painted" is a varnish over everything, or paint that is still wet,
    which shines like gloss and is milky. Metal flakes show in the glint and not in the shade.
    """

    light: str = "D65"
    observer: int = 2
    finish: Finish = "as painted"
    angle: Angle = "shade"


DAYLIGHT = ViewingConditions()
_BLOCK = 16_384


def on_screen(
    colour: Array, look: ViewingConditions = DAYLIGHT
) -> tuple[Array, np.ndarray[tuple[int, ...], np.dtype[np.bool_]]]:
    """Return encoded sRGB (..., 3) of CIELAB under a look's light, and what of it a screen has."""
    return srgb(by_day(colour, look.light, look.observer))


def seen_surface(state: StackOptics, finish: Finish) -> Array:
    """Return the k_f of a stack as it is looked at, (...) float64."""
    if finish == "as painted":
        return state.finish
    return np.full_like(state.finish, FINISHES["gloss" if finish == "wet" else finish])


def spectrum(state: StackOptics, look: ViewingConditions) -> Array:
    """Return the radiance factor of a stack seen from the air, (..., 36) float64."""
    k = seen_surface(state, look.finish)
    out = radiance_factor(seen_bispectral(state.R, k), power(look.light))
    if look.angle == "glint" and state.mirror is not None:
        out = out + glint(state.mirror, k)
    return out


def colours(state: StackOptics, look: ViewingConditions = DAYLIGHT) -> tuple[Array, Array]:
    """Return CIELAB (..., 3) and luminous reflectance Y (...) of a stack seen from the air."""
    eye = weights(look.light, look.observer)
    if state.finish.ndim == 0:
        tristimulus = xyz(spectrum(state, look), eye)
        return lab(tristimulus, eye.sum(axis=0)), tristimulus[..., 1]
    step = max(_BLOCK // max(state.R.d.steep[:1].size, 1), 1)
    # A few places at a time stay in the processor's cache.
    parts = [
        xyz(spectrum(state.some(slice(first, first + step)), look), eye)
        for first in range(0, state.finish.shape[0], step)
    ]
    tristimulus = np.concatenate(parts)
    return lab(tristimulus, eye.sum(axis=0)), tristimulus[..., 1]
