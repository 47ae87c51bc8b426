"""Which pots belong in which colours: hues, opposites, earths, greys; common practice."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import lru_cache
from itertools import combinations
from typing import Any

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.drift import Drift, drift_of, pink_wanted
from zesty_veil.advise.match.shortlist import light_mixtures, solid_looks
from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import Array
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat
from zesty_veil.predict.recalled import alone
from zesty_veil.thresholds import (
    BELONGS_CHROMA,
    BELONGS_HUES,
    CLEAN_CHROMA,
    DULLS_CHROMA,
    EARTH_CHROMA,
    FACING_HUES,
    GREYISH_CHROMA,
    HUED_CHROMA,
    MILD_CHROMA,
    MILD_HUES,
    STRONG_CHROMA,
    WARM_UNDER_HUES,
    WHITE_COVER_L,
)

_Spots = npt.NDArray[np.bool_]
# Hues in degrees of greens, which dull all from pink to yellow, and of those.
_GREENS, _REDS = (115.0, 230.0), (340.0, 96.0)
_OLIVE_FROM = 100.0  # from this hue on an earth is an olive, which no bone has
_YELLOW_FROM = 95.0  # from this hue on a little green makes a yellow sharper
# Where an ivory ends, in chroma, and its hues; and up to which hue and lightness bones go on.
_IVORY_CHROMA, _IVORY_HUES, _BONE = 34.0, (55.0, 96.0), (104.0, 88.0)
# A mixture that keeps less than this of its duller pot's chroma is greyed; in films so thin.
_GREYED, _TINT_WATER = 0.78, 3.0
_BLACK_L = 25.0  # up to here a grey is a black
_NEUTRAL = 4.0  # up to this chroma a grey has no hue that shows in a mixture
_SHADES = {"wash", "contrast"}  # kinds that are there to darken and dull
# Of the lightness: from here on a chroma is strong, up to here a colour is a grey.
_STRONG_SHARE, _GREY_SHARE = 0.45, 0.35
# Hues of skins, leathers and earths, from pink to olive; and how light they are at least.
_EARTH_HUES, _EARTH_L, _EARTH_LIGHT = (20.0, 112.0), 30.0, 55.0
# How light a bright colour is over white, and a red where one brown alone is wanted of a rack that
# has browns; how light and strong a dark brown is at most.
_BRIGHT_L, _RED_L, _DARK_EARTH = 50.0, 35.0, (45.0, 30.0)


def opposites(
    mixtures: Sequence[tuple[Part, ...]],
    paints: Mapping[str, Paint],
    wanted: Array,
    clean: bool = False,
) -> npt.NDArray[np.bool_]:
    """Tell which mixtures are the opposite of some colours.

    clean : whether all is to stay clean; then greys are, too.
    wanted : (spots, 3) CIELAB. Returns (spots, mixtures).
    """
    own = lch(solid_looks(mixtures, paints)[1])
    want = lch(wanted)[:, None]
    coloured = want[..., 1] > HUED_CHROMA
    # A warm tone pays below its neighbours: yellow under green, pink under violet, not more.
    far = np.where(light_mixtures(mixtures, paints), WARM_UNDER_HUES, FACING_HUES)
    green = (_GREENS[0] <= own[:, 2]) & (own[:, 2] <= _GREENS[1])
    red = (want[..., 2] <= _REDS[1]) | (want[..., 2] >= _REDS[0])
    turned = apart(own[:, 2], want[..., 2])
    # A dark paint colours as much as a light one of more chroma.
    strong = (own[:, 1] > STRONG_CHROMA) | (own[:, 1] > _STRONG_SHARE * own[:, 0])
    against = ((turned > far) | red & green) & strong & coloured
    if clean:
        grey = (own[:, 1] < STRONG_CHROMA) & (own[:, 0] < WHITE_COVER_L)
        against |= grey & (want[..., 1] > STRONG_CHROMA)
    return np.asarray(against)


def odd_pots(
    mixtures: Sequence[tuple[Part, ...]], paints: Mapping[str, Paint], wanted: Array
) -> npt.NDArray[np.bool_]:
    """Tell which mixtures have a pot in them that does not belong in some colours.

    A pot of another hue does not; nor a skin, an earth or a grey in a clear colour, nor anything
    but ivories in an ivory, nor a light tone in a grey; nor two opposites in one pot where a hue
    is wanted, nor a mixture whose hue goes astray.

    wanted : (spots, 3) CIELAB. Returns (spots, mixtures).
    """
    want = lch(wanted)
    names = {part.paint for parts in mixtures for part in parts}
    odd = {name: _odd_pot(paints[name], want) for name in names}
    out = np.stack([np.any([odd[p.paint] for p in parts], axis=0) for parts in mixtures], axis=-1)
    grey = np.array([_greys_itself(parts, paints) for parts in mixtures])
    drifts = [drift_of(parts, paints) for parts in mixtures]
    astray = np.array(
        [drift not in (None, Drift.PINKED) or _blackened(parts, paints)
         for drift, parts in zip(drifts, mixtures, strict=True)]
    )  # fmt: skip
    pinked = np.array([drift is Drift.PINKED for drift in drifts]) & ~pink_wanted(wanted)[:, None]
    hued = (want[:, 1] > HUED_CHROMA)[:, None]
    browns = len(want) == 1 and any(_is_brown(paint) for paint in paints.values())
    least = _RED_L if browns else _BRIGHT_L
    bright = np.array([_bright(parts, paints, least) for parts in mixtures])
    # Nor is a light tone lost on black for a grey.
    L, C, h = lch(solid_looks(mixtures, paints)[1]).T
    warm = (_EARTH_HUES[0] <= h) & (h <= _EARTH_HUES[1])
    light_grey = (want[:, 1] <= GREYISH_CHROMA) & (want[:, 0] > _BLACK_L)
    lost = (L > _EARTH_LIGHT) & (want[:, 1, None] + EARTH_CHROMA / 3 < C) & (warm | ~hued)
    odd_ones = bright & _dark_earth(want)[:, None] | lost & light_grey[:, None]
    return np.asarray(out | astray | pinked | grey & hued | odd_ones)


def _bright(parts: tuple[Part, ...], paints: Mapping[str, Paint], least: float) -> bool:
    """Tell whether a mixture is bright and clear, so that only a lost film of it is brown.

    Inks may warm a brown.
    """
    L, C, _ = lch(solid_looks([parts], paints)[1, 0])
    ink = all(paints[part.paint].kind == "ink" for part in parts)
    return bool(least <= L and C >= CLEAN_CHROMA and not ink)


def _is_brown(paint: Paint) -> bool:
    L, C, h = _look(paint)
    earth = GREYISH_CHROMA < C < EARTH_CHROMA and _EARTH_HUES[0] <= h <= _EARTH_HUES[1]
    return paint.kind == "opaque" and _DARK_EARTH[0] >= L and earth


def _dark_earth(want: Array) -> _Spots:
    """Tell where a dark brown is wanted: that is of brown pots, not of orange lost on black."""
    L, C, h = want.T
    earth = (_EARTH_HUES[0] <= h) & (h <= _EARTH_HUES[1])
    return np.asarray((_DARK_EARTH[0] >= L) & (_DARK_EARTH[1] >= C) & earth)


def dulls(own: Array, was: Array, now: npt.NDArray[Any], wanted: Array) -> _Spots:
    """Tell where a coat of a clear colour takes the colour from what is to be grey.

    A grey is of greys, or of opposites stirred to one: no clear film is laid to dull another.

    own : (...,) chroma of coats. was, now, wanted : (..., 3) CIELAB before, after, and in the end.
    """
    chroma = [np.hypot(each[..., 1], each[..., 2]) for each in (was, now, wanted)]
    takes = chroma[1] < chroma[0] - DULLS_CHROMA
    return np.asarray((own > STRONG_CHROMA) & (chroma[2] <= HUED_CHROMA) & takes)


def _greys_itself(parts: tuple[Part, ...], paints: Mapping[str, Paint]) -> bool:
    """Tell whether the pots of a mixture are opposites, which stirred together make a grey."""
    if len(parts) < 2:
        return False
    tints = [_tint((Part(part.paint),), paints) for part in parts]
    coloured = [(C, h) for _, C, h in tints if C > STRONG_CHROMA]
    facing = any(
        apart(a, np.array(b)) > FACING_HUES for (_, a), (_, b) in combinations(coloured, 2)
    )
    return facing and _tint(parts, paints)[1] < _GREYED * min(C for C, _ in coloured)


def _blackened(parts: tuple[Part, ...], paints: Mapping[str, Paint]) -> bool:
    """Tell whether a skin tone or a light earth is stirred with black, as nobody does."""
    looks = [_look(paints[part.paint]) for part in parts]
    earths = [
        _EARTH_LIGHT <= L < WHITE_COVER_L
        and GREYISH_CHROMA < C < EARTH_CHROMA
        and _EARTH_HUES[0] <= h <= _EARTH_HUES[1]
        for L, C, h in looks
    ]
    return any(earths) and any(L <= _BLACK_L and C < GREYISH_CHROMA for L, C, _ in looks)


def _tint(parts: tuple[Part, ...], paints: Mapping[str, Paint]) -> tuple[float, float, float]:
    """Return L, C, h of a mixture in a thin film over white, where dark paints show their hue."""
    return alone(Coat(Mixture(parts, "water", _TINT_WATER), "loaded"), paints, "white")


def _odd_pot(paint: Paint, want: Array) -> _Spots:
    """Tell where a pot does not belong, (spots,); want : (spots, 3) L, C, h."""
    L, C, h = _look(paint)
    if L >= WHITE_COVER_L and C < _IVORY_CHROMA:
        return np.zeros(len(want), dtype=bool)
    grey, warm = min(GREYISH_CHROMA, _GREY_SHARE * L) >= C, _EARTH_HUES[0] <= h <= _EARTH_HUES[1]
    # No bone is mixed with green, grey or violet, nor with a strong colour.
    pale = warm and h <= _OLIVE_FROM and C <= EARTH_CHROMA - GREYISH_CHROMA / 2
    odd = _in_ivory(want) & (grey or not pale)
    if grey:  # a clear colour is darkened with black or a wash, and with no grey or umber
        odd |= (want[:, 1] > CLEAN_CHROMA) & (L > _BLACK_L and paint.kind not in _SHADES)
        # No brown is a grey.
        odd |= (want[:, 1] <= _NEUTRAL) & (C > _NEUTRAL) & warm & (paint.kind == "opaque")
        # It takes all light from a light clear colour, and a brownish one dulls a cold one.
        odd |= (want[:, 1] > CLEAN_CHROMA) & (want[:, 0] > _EARTH_LIGHT)
        odd |= (want[:, 1] > STRONG_CHROMA) & (C > _NEUTRAL) & (apart(h, want[:, 2]) > MILD_HUES)
    else:
        turned = apart(h, want[:, 2])
        odd |= (want[:, 1] > BELONGS_CHROMA) & (turned > BELONGS_HUES)
        odd |= (want[:, 1] > MILD_CHROMA) & (turned > MILD_HUES)
        if paint.kind in _SHADES:  # soot and smoke are of grey washes
            odd |= want[:, 1] <= HUED_CHROMA
        if _GREENS[0] <= h < _GREENS[1]:  # nobody makes a brown or an orange of green
            reddish = (want[:, 2] >= _REDS[0]) | (want[:, 2] < _YELLOW_FROM)
            odd |= (want[:, 1] > MILD_CHROMA) & reddish
        if warm and C < EARTH_CHROMA and L > _EARTH_L:
            odd |= (want[:, 1] > CLEAN_CHROMA) | (want[:, 1] > MILD_CHROMA) & (
                turned > BELONGS_HUES
            )
    return np.asarray(odd)


def _in_ivory(want: Array) -> _Spots:
    L, C, h = want.T
    warm = (_IVORY_HUES[0] <= h) & (h <= np.where(_BONE[1] > L, _BONE[0], _IVORY_HUES[1]))
    return np.asarray((L >= WHITE_COVER_L) & (C < _IVORY_CHROMA) & (C > GREYISH_CHROMA / 2) & warm)


def apart(hue: Array | float, other: Array) -> Array:
    """Return how far hues are from each other, in degrees."""
    return np.asarray(np.abs((other - hue + 180) % 360 - 180))


@lru_cache(1_000)
def _look(paint: Paint) -> tuple[float, float, float]:
    """Return L, C, h of a paint laid solid over white."""
    L, C, h = (float(v) for v in lch(solid_looks([(Part(paint.name),)], {paint.name: paint})[1, 0]))
    return L, C, h
