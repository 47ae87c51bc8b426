"""Which mixtures are worth trying on a ramp: of all pairs of paints, those that look like a step.

All pairs of a rack are far more than can be laid in a search. What a solid coat of each looks like
is told well enough by the two-flux theory, for all of them at once; what is kept is then worked
out as everywhere else.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.difference import delta_e_approx
from zesty_veil.light.cielab import lab, lch, xyz
from zesty_veil.light.grid import BANDS, Array
from zesty_veil.light.illuminant import weights
from zesty_veil.light.region import Region
from zesty_veil.optics.twoflux import two_flux_film
from zesty_veil.paint.mixture import Part
from zesty_veil.paint.paint import Paint, spectra
from zesty_veil.thresholds import GREYISH_CHROMA, WARM_GROUND_L, WHITE_COVER_L

# Whole drops, as painters count them; common practice.
DROPS = ((1, 1), (2, 1), (1, 2), (3, 1), (1, 3), (6, 1), (1, 6))
MIXABLE = frozenset({"opaque", "transparent", "ink"})
# Neat paint of two good coats in mm, and what lies below them.
_SOLID_MM, _BELOW = 0.06, (0.03, 0.85)
# What the surface of a dry film sends back.
_SURFACE = 0.03
# Hues of warm tones, from pink to yellow, in degrees.
_WARM_HUES = (-20.0, 110.0)

Parts = tuple[Part, ...]


def near_mixtures(
    paints: Sequence[Paint],
    wanted: Sequence[Array | Region],
    each: int,
    pairs: bool = True,
) -> list[Parts]:
    """Return mixtures of whole drops that look about like one of some colours.

    Parameters
    ----------
    paints
        That may be mixed.
    wanted : (3,) each
        CIELAB; or all that is called by some words.
    each
        How many are kept for each colour, and for each ground (black, white).
    pairs
        Whether paints may be mixed at all; otherwise single paints alone.

    Returns
    -------
    list of parts
        Of single paints and of pairs, none twice.
    """
    parts, labs = _looks(tuple(p for p in paints if p.kind in MIXABLE), pairs)
    kept: dict[Parts, None] = {}
    for colour in wanted:
        for ground in range(len(_BELOW)):
            seen = labs[ground]
            near = colour.nearest(seen) if isinstance(colour, Region) else colour
            off = delta_e_approx(seen, near)
            for k in np.argsort(off, kind="stable")[:each]:
                kept[parts[int(k)]] = None
    return list(kept)


@lru_cache(4)
def _looks(paints: tuple[Paint, ...], pairs: bool) -> tuple[tuple[Parts, ...], Array]:
    """Return all mixtures, and about what each looks like solid on each ground, (2, n, 3)."""
    parts: list[Parts] = [(Part(paint.name),) for paint in paints]
    for i in range(len(paints) if pairs else 0):
        for j in range(i + 1, len(paints)):
            parts += [(Part(paints[i].name, a), Part(paints[j].name, b)) for a, b in DROPS]
    return tuple(parts), solid_looks(parts, {paint.name: paint for paint in paints})


def solid_looks(parts: Sequence[Parts], paints: Mapping[str, Paint]) -> Array:
    """Return about what mixtures look like, laid solid over black and over white.

    Returns
    -------
    (2, mixtures, 3) float64, CIELAB by day
    """
    if len(parts) == 1:
        return _one_look(parts[0], tuple(paints[part.paint] for part in parts[0]))
    return _solid(parts, paints)


@lru_cache(2_000)
def _one_look(parts: Parts, own: tuple[Paint, ...]) -> Array:
    """Return the same of one mixture, which is asked for again and again."""
    look = _solid([parts], {paint.name: paint for paint in own})
    look.flags.writeable = False
    return look


def _solid(parts: Sequence[Parts], paints: Mapping[str, Paint]) -> Array:
    names = list(dict.fromkeys(part.paint for each in parts for part in each))
    column = {name: k for k, name in enumerate(names)}
    mu_a, mu_s = (np.empty((len(names), BANDS)) for _ in range(2))
    for name, k in column.items():
        mu_a[k], mu_s[k] = spectra(paints[name])
    shares = np.zeros((len(parts), len(names)))
    for row, each in enumerate(parts):
        for part in each:
            shares[row, column[part.paint]] += part.parts
    shares /= np.maximum(shares.sum(axis=1, keepdims=True), 1e-9)
    R0, T = two_flux_film(2 * shares @ mu_a, 0.75 * shares @ mu_s, np.array(_SOLID_MM))
    eye = weights()
    out = []
    for below in _BELOW:
        seen = R0 + T**2 * below / (1 - R0 * below)
        # Light is turned back inside by the surface, which deepens every colour.
        seen = _SURFACE + (1 - _SURFACE) * 0.42 * seen / (1 - 0.58 * seen)
        out.append(lab(xyz(seen, eye), eye.sum(axis=0)))
    return np.array(out)


def light_ground(parts: Parts, paints: Mapping[str, Paint]) -> bool:
    """Tell whether a mixture is white that hides, or a light warm tone over white."""
    return bool(light_mixtures([parts], paints)[0])


def light_mixtures(mixtures: Sequence[Parts], paints: Mapping[str, Paint]) -> npt.NDArray[np.bool_]:
    """Tell the same of some mixtures at once, (mixtures,)."""
    black, white = (lch(each) for each in solid_looks(mixtures, paints))
    hue = (white[:, 2] + 180) % 360 - 180
    warm = (_WARM_HUES[0] <= hue) & (hue <= _WARM_HUES[1]) & (white[:, 0] >= WARM_GROUND_L)
    grey = white[:, 1] < GREYISH_CHROMA
    return np.asarray(np.where(grey, black[:, 0] >= WHITE_COVER_L, warm))
