"""Colours that the screen does not have, and the nearest one that it has.

At constant hue, the nearest by (dL / w)^2 + dC^2: lightness gives way before chroma does, and more
readily downward, so fluorescent paint stays vivid instead of paling to white. The screen's colours
of one hue are nearly a triangle, black, white and the most vivid between them; the nearest point of
a convex set keeps order, so what has more chroma never shows less of it.

References
----------
N. Katoh, M. Ito, "Gamut mapping for computer generated images (II)", Proc. IS&T/SID 4th Color
Imaging Conf. (1996), 126-129: the form of the distance; the weights here are our own.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

import numpy as np

from zesty_veil.light.grid import Array

# How far lightness goes for a unit of chroma, where the screen's colour is darker or lighter.
_DARKER, _LIGHTER = 0.5, 0.15
_HUES, _LEVELS = 180, 101
_MOST_CHROMA = 180.0
_HALVINGS, _ROUNDS = 12, 12
_GOLDEN = (np.sqrt(5) - 1) / 2

Inside = Callable[[Array], "np.ndarray[tuple[int, ...], np.dtype[np.bool_]]"]


class Gamut:
    """What a screen can show, as the most chroma at each hue and lightness.

    inside : tells which of some CIELAB colours (..., 3) the screen has.
    """

    def __init__(self, inside: Inside) -> None:
        hue = np.radians(np.arange(_HUES) * 360 / _HUES)[:, None]
        L = np.broadcast_to(np.linspace(0, 100, _LEVELS), (_HUES, _LEVELS))
        low, high = np.zeros(L.shape), np.full(L.shape, _MOST_CHROMA)
        for _ in range(_HALVINGS):
            middle = (low + high) / 2
            fits = inside(np.stack([L, middle * np.cos(hue), middle * np.sin(hue)], axis=-1))
            low, high = np.where(fits, middle, low), np.where(fits, high, middle)
        self._chroma = np.concatenate([low, low[:1]])
        self._vivid = self._chroma.argmax(axis=1) * 100 / (_LEVELS - 1)

    def chroma(self, L: Array, hue: Array) -> Array:
        """Return the most chroma that the screen has, of any shape; hue in degrees, 0-360."""
        i, j = hue * (_HUES / 360), np.clip(L, 0, 100) * ((_LEVELS - 1) / 100)
        i0 = np.minimum(i.astype(np.intp), _HUES - 1)
        j0 = np.minimum(j.astype(np.intp), _LEVELS - 2)
        u, v = i - i0, j - j0
        table = self._chroma
        low = table[i0, j0] * (1 - v) + table[i0, j0 + 1] * v
        high = table[i0 + 1, j0] * (1 - v) + table[i0 + 1, j0 + 1] * v
        return np.asarray(low * (1 - u) + high * u)

    def nearest(self, colour: Array) -> Array:
        """Return the nearest colours that the screen has of CIELAB (n, 3) that it does not have."""
        L, a, b = np.moveaxis(colour, -1, 0)
        C = np.hypot(a, b)
        hue = np.degrees(np.arctan2(b, a)) % 360
        i = hue * (_HUES / 360)
        i0 = np.minimum(i.astype(np.intp), _HUES - 1)
        vivid = self._vivid[i0] + (i - i0) * (self._vivid[i0 + 1] - self._vivid[i0])
        weight = np.where(vivid < L, _DARKER, _LIGHTER)

        def cost(level: Array) -> Array:
            short = np.maximum(C - self.chroma(level, hue), 0)
            return np.asarray(((L - level) / weight) ** 2 + short**2)

        # Between its own lightness, or the nearest that there is, and that of the most vivid.
        start, end = np.clip(L, 0, 100), vivid
        low, high = start, end
        one, other = high - _GOLDEN * (high - low), low + _GOLDEN * (high - low)
        first, second = cost(one), cost(other)
        for _ in range(_ROUNDS):
            left = first < second
            low, high = np.where(left, low, one), np.where(left, other, high)
            new = np.where(left, high - _GOLDEN * (high - low), low + _GOLDEN * (high - low))
            value = cost(new)
            one, other = np.where(left, new, other), np.where(left, one, new)
            first, second = np.where(left, value, second), np.where(left, first, value)
        level = (low + high) / 2
        kept = np.minimum(C, self.chroma(level, hue))
        share = kept / np.where(C > 0, C, 1.0)
        return np.stack([level, share * a, share * b], axis=-1)


@lru_cache(maxsize=4)
def gamut(inside: Inside) -> Gamut:
    """Return the gamut of a screen; the same object for the same screen.

    >>> import numpy as np
    >>> screen = gamut(lambda lab: np.abs(lab[..., 1:]).max(axis=-1) < 40)
    >>> isinstance(screen, Gamut)
    True
    """
    return Gamut(inside)
