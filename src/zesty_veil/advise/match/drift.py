"""Mixtures whose hue goes where painters do not want it; common practice."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from enum import Enum

import numpy as np
import numpy.typing as npt

from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import Array
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat
from zesty_veil.predict.recalled import alone

WHITE_ALONE, BLACK_ALONE = ("PW6",), ("PBk7",)
# So much of white in it lightens a mixture; so much of black shades it.
_LIGHTENED, _SHADED = 0.2, (0.04, 0.6)
# From this hue over white a green is a turquoise, in degrees.
_TURQUOISE = 190.0
# Reds by their hue over white, and yellows, in degrees.
_RED, _YELLOW = (5.0, 48.0), (78.0, 110.0)
_COLOURED = 30.0


# A pink: how light it is at least and how clear at most; its first hue, and over how many degrees.
_PINK_L, _PINK_CHROMA, _PINKS = 58.0, 36.0, (330.0, 105.0)


class Drift(Enum):
    """Where the hue of a mixture goes."""

    MINTY = "green lightened with white alone"
    CHALKY = "violet lightened with white alone"
    PINKED = "red lightened with white alone"
    SICKLY = "yellow shaded with black"


def pink_wanted(wanted: Array) -> npt.NDArray[np.bool_]:
    """Tell where pinks and skins are wanted, which are red with white in it; (..., 3) CIELAB."""
    L, C, h = np.moveaxis(lch(wanted), -1, 0)
    return np.asarray((L >= _PINK_L) & (C <= _PINK_CHROMA) & ((h - _PINKS[0]) % 360 <= _PINKS[1]))


def drift_of(parts: Sequence[Part], paints: Mapping[str, Paint]) -> Drift | None:
    """Return where the hue of a mixture goes, if it goes astray."""
    if len(parts) < 2:
        return None
    codes = {code for part in parts for code in paints[part.paint].pigments}
    white, black = (share_of(parts, paints, only) for only in (WHITE_ALONE, BLACK_ALONE))
    if _SHADED[0] <= black < _SHADED[1] and _hue_without(parts, paints, BLACK_ALONE, _YELLOW):
        return Drift.SICKLY
    if not _LIGHTENED <= white < 1:
        return None
    if "PG7" in codes and not codes & {"PY74", "PY42", "PY184"}:
        hue = alone(Coat(Mixture(tuple(parts))), paints, "white")[2]
        return Drift.MINTY if hue < _TURQUOISE else None
    if "PV23" in codes and "PR122" not in codes:
        return Drift.CHALKY
    if "PR254" in codes and _hue_without(parts, paints, WHITE_ALONE, _RED):
        return Drift.PINKED
    return None


def share_of(parts: Sequence[Part], paints: Mapping[str, Paint], only: tuple[str, ...]) -> float:
    """Return the share of a mixture's drops that are of paints of some pigments alone."""
    own = sum(part.parts for part in parts if paints[part.paint].pigments == only)
    return own / sum(part.parts for part in parts)


def _hue_without(
    parts: Sequence[Part],
    paints: Mapping[str, Paint],
    without: tuple[str, ...],
    hues: tuple[float, float],
) -> bool:
    """Tell whether a mixture without some of its paints is of some hues over white."""
    rest = tuple(part for part in parts if paints[part.paint].pigments != without)
    if not rest:
        return False
    _, chroma, hue = alone(Coat(Mixture(rest)), paints, "white")
    return chroma > _COLOURED and hues[0] <= hue < hues[1]
