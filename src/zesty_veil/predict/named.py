"""From words to a colour: the middle of what painters would call by them."""

from __future__ import annotations

from functools import cache

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lab_from_lch, lch, luminous
from zesty_veil.light.grid import Array
from zesty_veil.light.region import PUREST, Region
from zesty_veil.light.srgb import has
from zesty_veil.light.value import value
from zesty_veil.predict.colournames import called, plain_hue, weakened
from zesty_veil.predict.words import describe
from zesty_veil.tr import tr

# Half of what a word means where nothing else is said, in L and in degrees of hue, of colours and
# of pale ones; and its chroma, in shares of the middle's. Common practice.
_HALF_L, _HALF_H, _HALF_PALE_H, _LEAST_C, _MOST_C = 9.0, 12.0, 20.0, 0.72, 1.6
_PALE_CHROMA, _MORE_C = 25.0, 6.0
# Up to which chroma a word is a grey's, of any hue; what more it may have, and half of its L.
_GREY_CHROMA, _MOST_GREY, _HALF_GREY_L = 4.0, 6.0, 7.0

_L, _C, _H = np.arange(4.0, 99.0, 4.0), np.arange(0.0, 110.0, 6.0), np.arange(0.0, 360.0, 4.0)


def named(words: str) -> Array:
    """Return the CIELAB, (3,), in the middle of what some words of `describe` mean.

    Words may be left out from the front: "orange" is any orange. Words that predictions are not
    told in, such as purple or pale blue, are looked up in a table.

    Raises
    ------
    InputError
        If no colour is so called.
    """
    asked = " ".join(words.casefold().split())
    found = [lab for words_, lab in _called() if words_ == asked]
    known = called(asked) if not found and asked else None
    if known is not None:
        return known
    if not found:
        found = [lab for words_, lab in _called() if words_.endswith(f" {asked}")]
    if not found or not asked:
        words = words.strip()
        raise InputError(
            tr(
                "'{0}' is no colour; write #rrggbb, L,a,b, or words: 'strong orange', 'pale blue'."
            ).format(words)
        )
    every = np.array(found)
    # The mean may itself have another name; the nearest to it that has this one does not.
    middle = every.mean(axis=0)
    return np.asarray(every[int(np.argmin(np.linalg.norm(every - middle, axis=1)))])


def region_of(words: str) -> Region | None:
    """Return what some words mean from where to where; none if no colour is so called.

    A hue by itself, such as yellow, is any clear colour of that hue. Other words mean what is about
    as light, as strong and of that hue.

    >>> region_of("yellow").h
    (82.0, 100.0)
    >>> region_of("#ffff00") is None
    True
    """
    asked = " ".join(words.casefold().replace("-", " ").split())
    hue = plain_hue(asked)
    if hue is not None:
        return hue
    try:
        middle = named(words)
    except InputError:
        return None
    L, C, h = (float(v) for v in lch(middle))
    half = _HALF_PALE_H if C < _PALE_CHROMA else _HALF_H
    hues, least, most = (h - half, h + half), C * _LEAST_C, max(C * _MOST_C, C + _MORE_C)
    hue = plain_hue(asked.split()[-1])
    if hue is not None and C >= _PALE_CHROMA:  # a red stays a red, however deep or strong
        hues = (min(hue.h[0], h - half / 2), max(hue.h[1], h + half / 2))
        least = min(max(least, hue.C[0]), C)
        most = most if weakened(asked) else PUREST
    half_L = _HALF_L
    if C < _GREY_CHROMA:
        hues, least, most, half_L = (h - 180, h + 180), 0.0, _MOST_GREY + C, _HALF_GREY_L
    return Region((L - half_L, L + half_L), (least, most), hues)


@cache
def _called() -> tuple[tuple[str, tuple[float, float, float]], ...]:
    """Return what each colour of a grid that a screen can show is called."""
    grid = np.stack(np.meshgrid(_L, _C, _H, indexing="ij"), axis=-1).reshape(-1, 3)
    lab = lab_from_lch(grid)
    inside = has(lab)
    values = value(luminous(lab[inside, 0]))
    # As plain numbers: a painter waits for the first word typed, and arrays are slow singly.
    every = (one.tolist() for one in (grid[inside], lab[inside], values))
    return tuple((describe(lch, v), (L, a, b)) for lch, (L, a, b), v in zip(*every, strict=True))
