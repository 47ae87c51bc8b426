"""Fire as a ramp of wanted colours, from its hottest place to its tips.

A glowing body has one colour for each temperature (Planck). It is far brighter than paint can be,
so the hottest place gets the lightest paint, and the order of hues and values is kept below it.

References
----------
Planckian colours: CIE 15:2018. The schools, the yellow of what glows too brightly, and how far
saturation is pushed: common practice.
"""

from __future__ import annotations

from typing import Literal, get_args

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.light.adapt import adapted
from zesty_veil.light.cielab import lab, lab_from_lch, lch
from zesty_veil.light.gamut import most_chroma
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import white
from zesty_veil.light.planck import lamp_white, planckian
from zesty_veil.tr import tr

FireSchool = Literal["deep", "sooty", "cold", "single"]
FIRE_SCHOOLS: tuple[FireSchool, ...] = get_args(FireSchool)
LEAST_FIRE_STEPS, MOST_FIRE_STEPS = 3, 9
HOT_K, COLD_K = 2200.0, 900.0
# The lightest paint, and the black of the tips, in L.
_LIGHTEST, _DARKEST = 97.0, 13.0
# Grey smoke at the very ends, and the brown of soot before it, in L; the light only falls.
_SMOKE, _SOOT = 30.0, 36.0
# Shares of the strongest chroma there is: near white, in the fire, and in the black.
_PALE, _PUSHED, _BLACK = 0.4, 0.9, 0.35
_YELLOW, _YELLOW_WITHIN, _CLEAREST = 90.0, 8.0, 0.99
# Painters push a fire's hues apart by so much, so that embers come out red and not brown.
_REDDER, _COOLING = 1.35, 0.6
# Of a painted fire the near white is short, and the clear yellow comes before a fifth of it.
_SOON = 1.15
# The hot part of a fire is wider than an even fall of lightness would have it: white, clear yellow.
_LIT = 1.15
# The cold school's hues along the fire: yellow, orange, magenta, violet, dark blue.
_COLD_AT = (0.0, 0.2, 0.38, 0.52, 0.78, 1.0)
_COLD_HUES = (95.0, 88.0, 58.0, -10.0, -48.0, -75.0)


def fire(
    school: FireSchool,
    steps: int = 6,
    hot: float = HOT_K,
    cold: float = COLD_K,
    hue: float = 140.0,
) -> Array:
    """Return a fire's colours from its hottest place to its tips, (steps, 3) CIELAB.

    Parameters
    ----------
    school
        deep: through red to black-red. sooty: orange, then straight to black, and smoke. cold:
        yellow, orange, magenta, violet, dark blue. single: one hue, from a tint to deep shade.
    steps
        From `LEAST_FIRE_STEPS` to `MOST_FIRE_STEPS`.
    hot, cold
        Temperatures of the hottest and the coldest place that glow, for deep and sooty; in K.
    hue
        CIELAB hue for single, in degrees.

    Raises
    ------
    InputError
        If one of them cannot be.
    """
    if school not in FIRE_SCHOOLS:
        raise InputError(
            tr("There is no school '{0}'; use one of {1}.").format(school, ", ".join(FIRE_SCHOOLS))
        )
    if not LEAST_FIRE_STEPS <= steps <= MOST_FIRE_STEPS:
        raise InputError(
            tr("A fire of {0} steps: it must have from {1} to {2}.").format(
                steps, LEAST_FIRE_STEPS, MOST_FIRE_STEPS
            )
        )
    if not hot > cold:
        raise InputError(
            tr("A fire from {0:g} to {1:g} K: it must be hottest at the light.").format(hot, cold)
        )
    t = np.linspace(0, 1, steps)
    if school in ("deep", "sooty"):
        return _burning(t, hot, cold, school == "sooty")
    L = _LIGHTEST + (_DARKEST - _LIGHTEST) * t
    if school == "cold":
        return _coloured(L, np.interp(t, _COLD_AT, _COLD_HUES))
    # The tints keep some yellow in them.
    toward = (_YELLOW - hue + 180) % 360 - 180
    return _coloured(L, hue + toward * 0.5 * np.clip((L - 55) / 45, 0, 1))


def fire_places(steps: int) -> Array:
    """Return where the colours of a painted fire stand on its axis, (steps,): yellow comes soon."""
    return np.asarray(np.linspace(0, 1, steps) ** _SOON)


def _burning(t: Array, hot: float, cold: float, sooty: bool) -> Array:
    """Return the colours of a fire that burns by its temperatures."""
    L = _LIGHTEST + (_DARKEST - _LIGHTEST) * t**_LIT
    if not sooty:
        # A flame cools quickly at first, and its tips hardly more.
        return _coloured(L, planckian_hue(hot + (cold - hot) * t**_COOLING, hot, L))
    # No red: it stops at orange, and what follows is soot and smoke.
    ends = 2 if t.size > LEAST_FIRE_STEPS else 1
    glows = t.size - ends
    L[:glows] = np.linspace(_LIGHTEST, 58.0, glows)
    orange = max(cold, hot - 700.0)
    out = _coloured(L, planckian_hue(np.linspace(hot, orange, t.size), hot, L))
    out[glows] = (_SOOT, 5.5, 9.0)
    if ends == 2:
        out[-1] = (_SMOKE, 0.5, 1.0)
    return out


def planckian_hue(kelvin: Array, hot: float, lightness: Array) -> Array:
    """Return the CIELAB hue of glowing bodies (n,) to an eye for which the hottest is white.

    What glows too brightly goes yellow before it goes white, as its long waves blind the eye
    first; so light colours are drawn towards yellow.
    """
    brightest = lamp_white(planckian(hot))
    hues = []
    for k in kelvin:
        seen = adapted(lamp_white(planckian(min(float(k), hot - 1))), brightest, white())
        hues.append(float(lch(lab(seen * 0.4, white()))[2]))
    hue = _YELLOW - _REDDER * (_YELLOW - np.array(hues))
    return np.asarray(hue + (_YELLOW - hue) * np.clip((lightness - 65) / 18, 0, 1))


def _coloured(L: Array, hue: Array) -> Array:
    """Return CIELAB of some lightness and hue, as strong as a painter would push them."""
    share = np.interp(L, (_DARKEST, 28.0, 85.0, _LIGHTEST), (_BLACK, _PUSHED, _PUSHED, _PALE))
    # No paint is as clear as a yellow.
    yellow = np.abs((hue - _YELLOW + 180) % 360 - 180) < _YELLOW_WITHIN
    share = np.where(yellow & (share == _PUSHED), _CLEAREST, share)
    chroma = share * most_chroma(L, hue)
    return np.asarray(lab_from_lch(np.stack([L, chroma, hue % 360], axis=-1)))
