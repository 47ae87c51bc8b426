"""How bright a colour seems in its surround, as the painter would say it: as a value.

A black surround makes a light area look brighter. CIECAM16 says by how much; here its lightness J
is put into the painter's scale: the value of the grey that looks as light in a middle surround.
"""

from __future__ import annotations

from functools import cache
from typing import Literal

import numpy as np

from zesty_veil.light.ciecam16 import Viewing, ciecam16
from zesty_veil.light.cielab import xyz
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import weights
from zesty_veil.light.value import luminance
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, spectrum
from zesty_veil.thresholds import GREAT_GAIN_VALUES, NO_GAIN_VALUES, SMALL_GAIN_VALUES

SurroundName = Literal["black", "grey", "white", "complementary"]
SURROUND_LUMINANCE: dict[SurroundName, float | None] = {
    "black": 0.03,
    "grey": 0.2,
    "white": 0.85,
    "complementary": None,
}
_MIDDLE = 0.2


def background(surround: SurroundName, Y: float) -> float:
    """Return the luminous reflectance of a surround round a colour of luminance Y.

    A complementary surround has the opposite hue at the same lightness; CIECAM16 knows of it only
    that it is as light as the colour itself (see `light.ciecam16`).
    """
    level = SURROUND_LUMINANCE[surround]
    return max(Y, 1e-3) if level is None else level


def appearance(state: StackOptics, look: ViewingConditions, Y_b: float) -> Array:
    """Return J, M and h (..., 3) of a stack with a surround of luminous reflectance Y_b."""
    eye = weights(look.light, look.observer)
    return ciecam16(xyz(spectrum(state, look), eye), eye.sum(axis=0), Viewing(Y_b))


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
