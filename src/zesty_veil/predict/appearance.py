"""How bright a colour seems in its surround, as the painter would say it: as a value.

A black surround makes a light area look brighter. CIECAM16 says by how much; here its lightness J
is put into the painter's scale: the value of the grey that looks as light in a middle surround.
"""

from __future__ import annotations

from functools import cache
from typing import Literal

import numpy as np

from zesty_veil.light.ciecam16 import Viewing, ciecam16
from zesty_veil.light.cielab import luminous, xyz, xyz_from_lab
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import weights
from zesty_veil.light.value import luminance
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, spectrum
from zesty_veil.thresholds import (
    GREAT_GAIN_VALUES,
    NO_GAIN_COLOUR,
    NO_GAIN_VALUES,
    SMALL_GAIN_VALUES,
)
from zesty_veil.tr import tr

SurroundName = Literal["black", "grey", "white", "complementary"]
SURROUND_LUMINANCE: dict[SurroundName, float | None] = {
    "black": 0.03,
    "grey": 0.2,
    "white": 0.85,
    "complementary": None,
}
_MIDDLE = 0.2
# Less than this is grey, whatever lies beside.
_COLOURED_M = 6.0


def background(surround: SurroundName, Y: float) -> float:
    """Return the luminous reflectance of a surround round a colour of luminance Y.

    A complementary surround has the opposite hue at the same lightness.
    """
    level = SURROUND_LUMINANCE[surround]
    return max(Y, 1e-3) if level is None else level


def appearance(
    state: StackOptics, look: ViewingConditions, Y_b: float, beside: Array | None = None
) -> Array:
    """Return J, M and h (..., 3) of a stack with a surround of luminous reflectance Y_b.

    beside : (3,) CIELAB of the surround, if its hue is to count as well.
    """
    eye = weights(look.light, look.observer)
    white = eye.sum(axis=0)
    near = None if beside is None else xyz_from_lab(beside, white)
    return ciecam16(xyz(spectrum(state, look), eye), white, Viewing(Y_b), near)


def complement_of(lab: Array) -> Array:
    """Return the opposite of colours, as painters put it beside them: (3,) CIELAB of their mean."""
    mean = np.asarray(lab).reshape(-1, 3).mean(axis=0)
    return np.array([mean[0], -mean[1], -mean[2]])


def livelier(state: StackOptics, look: ViewingConditions, beside: Array) -> Array:
    """Return how much more colourful a stack seems beside a colour than beside a grey as light.

    beside : (3,) CIELAB. Returns (...), 0.2 for a fifth more; 0 where there is hardly a colour.
    """
    Y_b = max(float(luminous(np.array(beside[0]))), 1e-3)
    with_it = appearance(state, look, Y_b, beside)[..., 1]
    grey = appearance(state, look, Y_b)[..., 1]
    return np.where(grey > _COLOURED_M, with_it / np.maximum(grey, 1e-6) - 1, 0.0)


def colour_gain_words(gain: float) -> str:
    """Return what a surround does to a colour: 'its colour seems stronger (+14 %)'.

    Nothing where that is not worth words.
    """
    if abs(gain) < NO_GAIN_COLOUR:
        return ""
    how = tr("stronger") if gain > 0 else tr("weaker")
    return tr("its colour seems {0} ({1:+.0f} %)").format(how, 100 * gain)


def seeming_value(J: Array) -> Array:
    """Return the value of the grey that looks as light in a middle surround; any shape."""
    lightness, values = _greys()
    return np.interp(J, lightness, values)


def gain_words(value: float, seems: float) -> str:
    """Return what a surround does to how light a colour seems: 'a little lighter here (+0.4)'."""
    gain = seems - value
    if abs(gain) < NO_GAIN_VALUES:
        return "as light here as it is"
    how = (
        "much "
        if abs(gain) > GREAT_GAIN_VALUES
        else "a little "
        if abs(gain) < SMALL_GAIN_VALUES
        else ""
    )
    return f"{how}{'lighter' if gain > 0 else 'darker'} here ({gain:+.1f})"


@cache
def _greys() -> tuple[Array, Array]:
    values = np.linspace(0, 12, 241)
    white = weights().sum(axis=0)
    J = ciecam16(luminance(values)[:, None] * white, white, Viewing(_MIDDLE))[:, 0]
    return J, values
