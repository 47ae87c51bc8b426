"""Colour words beyond those that predictions are told in: purple, gold, flesh, bone, pale blue ...

Words of the ISCC-NBS system stand for the centroids of their blocks (Kelly and Judd, NBS Special
Publication 440, 1976; in sRGB as Centore gives them, 2016), written down from memory. Painters'
own words, such as bone and flesh, are common practice. Modifiers change a word's colour as those
of the system change the hues: their usual steps in L and chroma, common practice too. Two hue words
mean what lies between them, nearer to the one that does not end in "ish".
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from zesty_veil.light.cielab import lab_from_lch, lch
from zesty_veil.light.grid import Array
from zesty_veil.light.region import PUREST, Region
from zesty_veil.light.srgb import has, lab_of, parsed

# ISCC-NBS: name, centroid.
_CENTROIDS = {
    "pink": "#dea5a4", "vivid pink": "#ffb5ba", "strong pink": "#ea9399", "deep pink": "#e4717a",
    "light pink": "#f9ccca", "dark pink": "#c08081", "pale pink": "#ead8d7",
    "red": "#bc3f4a", "vivid red": "#be0032", "deep red": "#841b2d", "dark red": "#722f37",
    "orange": "#ed872d", "vivid orange": "#f38400", "brilliant orange": "#fd943f",
    "deep orange": "#be6516", "light orange": "#fab57f", "brownish orange": "#ae6938",
    "brown": "#6f4e37", "strong brown": "#80461b", "deep brown": "#593319",
    "light brown": "#a67b5b", "dark brown": "#422518", "greyish brown": "#635147",
    "yellow": "#d4af37", "vivid yellow": "#f3c300", "brilliant yellow": "#fada5e",
    "deep yellow": "#af8d13", "light yellow": "#f8de7e", "dark yellow": "#ab9144",
    "pale yellow": "#f3e5ab",
    "olive": "#665d1e", "light olive": "#867e36", "dark olive": "#403d21",
    "olive green": "#4a5d23", "dark olive green": "#2b3d26",
    "yellow green": "#8a9a5b", "vivid yellow green": "#8db600", "light yellow green": "#c9dc89",
    "green": "#007959", "vivid green": "#008856", "brilliant green": "#3eb489",
    "deep green": "#00543d", "light green": "#6aab8e", "dark green": "#1b4d3e",
    "blue": "#0067a5", "vivid blue": "#00a1c2", "brilliant blue": "#4997d0",
    "deep blue": "#00416a", "light blue": "#70a3cc", "dark blue": "#00304e",
    "greyish blue": "#536878",
    "violet": "#604e97", "vivid violet": "#9065ca", "brilliant violet": "#7e73b8",
    "deep violet": "#32174d", "light violet": "#8c82b6", "dark violet": "#2f2140",
    "purple": "#875692", "vivid purple": "#9a4eae", "brilliant purple": "#d399e6",
    "deep purple": "#602f6b", "light purple": "#b695c0", "dark purple": "#563c5c",
    "purplish red": "#b3446c", "reddish purple": "#9e4f88",
    "white": "#f2f3f4", "light grey": "#b9b8b5", "grey": "#848482", "dark grey": "#555555",
    "black": "#222222",
}  # fmt: skip
# Painters' words; common practice.
_OWN = {
    "gold": "#c9a227", "brass": "#b5983f", "copper": "#b26a3c", "bronze": "#8a6a3a",
    "flesh": "#d9a07f", "bone": "#d9cfa8", "ivory": "#efe6cb", "cream": "#f3e7bd",
    "sand": "#cdb383", "ochre": "#b98a3a", "rust": "#8e4a2a", "leather": "#7a5236",
    "crimson": "#8f1730", "scarlet": "#c8321f", "magenta": "#b03074", "lilac": "#b9a2cf",
    "turquoise": "#1f9c97", "teal": "#1c6f73", "navy": "#1c2a4d", "sky blue": "#86b6d8",
    "blue grey": "#6f8090", "green grey": "#75827a", "warm grey": "#8e877d", "charcoal": "#38383a",
    "lime": "#a9d032", "acid green": "#bcd81f", "emerald": "#149a5f", "mint": "#a5dcc1",
    "sea green": "#2f8f76", "slate": "#58646f", "steel": "#7f8a96", "cyan": "#1ba4c8",
    "royal blue": "#2a4db0", "sky": "#86b6d8", "periwinkle": "#8e94d2", "indigo": "#362f78",
    "plum": "#66305a", "burgundy": "#651a31", "blood red": "#85121e", "brick": "#994636",
    "salmon": "#ec9179", "coral": "#ee7661", "peach": "#f5c09b", "khaki": "#a39b69",
    "olive drab": "#5e5f37", "chestnut": "#7b402b", "chocolate": "#4d2f23", "buff": "#d8bd8c",
    "golden yellow": "#eeb422",
    # Tints, as painters say it, and no greys as in the system.
    "pale blue": "#a9cfe8", "very pale blue": "#d0e4f2", "pale green": "#b5dcb0",
}  # fmt: skip
_LIKE = {
    "gray": "grey", "blue-grey": "blue grey", "moderate": "", "medium": "", "bright": "brilliant",
    "dull": "greyish", "muted": "greyish", "intense": "vivid", "saturated": "vivid",
    "skin": "flesh", "golden": "gold", "dirty": "greyish", "clear": "strong",
}  # fmt: skip
# A hue word that only leans another one: how it ends, and what it is of.
_LEANING = {
    "reddish": "red", "orangish": "orange", "orangey": "orange", "yellowish": "yellow",
    "greenish": "green", "bluish": "blue", "purplish": "purple", "violetish": "violet",
    "pinkish": "pink", "brownish": "brown",
}  # fmt: skip
_LEANS, _NAMES = 1.0, 2.0  # how much such a word counts, and one that names the colour


# What a hue means that is said by itself: limits of L, the least chroma, limits of h; common
# practice.
_HUES = {
    "yellow": (72, 96, 60, 82, 100), "golden yellow": (66, 88, 60, 74, 89),
    "orange": (56, 80, 58, 50, 72), "red": (34, 56, 48, 20, 42),
    "crimson": (22, 46, 38, 8, 26), "pink": (56, 85, 25, -20, 25),
    "magenta": (34, 60, 44, -26, 6), "purple": (22, 50, 30, 312, 338),
    "violet": (18, 48, 30, 298, 322), "blue": (24, 54, 36, 258, 298),
    "olive": (28, 52, 16, 86, 118), "rust": (32, 57, 30, 38, 60),
    "turquoise": (38, 74, 24, 178, 218), "green": (32, 66, 34, 126, 178),
    "white": (90, 100, 0, -180, 180), "black": (0, 26, 0, -180, 180),
}  # fmt: skip
_MOST_GREY = 6.0


class _Step(NamedTuple):
    """What a modifier does: adds to L, and multiplies the chroma."""

    L: float
    chroma: float


_MODIFIERS = {
    "pale": _Step(16.0, 0.45), "light": _Step(12.0, 0.8), "brilliant": _Step(7.0, 1.1),
    "vivid": _Step(0.0, 1.4), "strong": _Step(0.0, 1.2), "greyish": _Step(0.0, 0.45),
    "dark": _Step(-16.0, 0.8), "deep": _Step(-12.0, 1.05),
}  # fmt: skip
_VERY = 1.6
_WEAKENED = {"pale", "light", "greyish"}


def called(words: str) -> Array | None:
    """Return the CIELAB, (3,), of a word of the table with modifiers; none if it is no such word.

    >>> import numpy as np
    >>> called("purple").round(0).tolist()
    [44.0, 31.0, -25.0]
    >>> bool(called("very dark purple")[0] < called("dark purple")[0] < called("purple")[0])
    True
    >>> called("sideways") is None
    True
    """
    parts = [_LIKE.get(part, part) for part in words.casefold().replace("-", " ").split()]
    parts = [part for part in parts if part]
    table = {**_CENTROIDS, **_OWN}
    named: list[tuple[Array, float]] = []
    steps: list[_Step] = []
    very = 1.0
    while parts:
        # The longest name that begins here: "dark brown" is one of its own.
        for count in range(len(parts), 0, -1):
            base, leaning = table.get(" ".join(parts[:count])), _LEANING.get(parts[0])
            if base is not None:
                named.append((lab_of(parsed(base)), _NAMES))
                break
        else:
            count = 1
            step = _MODIFIERS.get(parts[0])
            if parts[0] == "very":
                very = _VERY
            elif leaning is not None:
                named.append((lab_of(parsed(table[leaning])), _LEANS))
            elif step is not None:
                steps.append(_Step(step.L * very, step.chroma**very))
                very = 1.0
            else:
                return None
        parts = parts[count:]
    if not 1 <= len(named) <= 2 or all(share == _LEANS for _, share in named):
        return None
    return _changed(_between(named), steps)


def weakened(words: str) -> bool:
    """Tell whether some words mean a colour that is weaker than its hue can be."""
    parts = words.casefold().replace("-", " ").split()
    return any(_LIKE.get(part, part) in _WEAKENED for part in parts)


def plain_hue(word: str) -> Region | None:
    """Return what the bare word for a hue means from where to where; none if it is none."""
    if word not in _HUES:
        return None
    darkest, lightest, chroma, first, last = (float(v) for v in _HUES[word])
    purest = PUREST if chroma else _MOST_GREY
    return Region((darkest, lightest), (chroma, purest), (first, last))


def _between(named: list[tuple[Array, float]]) -> Array:
    """Return what lies between colours by their shares, as strong as they are."""
    labs, shares = np.array([lab for lab, _ in named]), np.array([share for _, share in named])
    L, _, h = lch(np.average(labs, axis=0, weights=shares))
    return lab_from_lch(np.array([L, np.average(lch(labs)[:, 1], weights=shares), h]))


def _changed(lab: Array, steps: list[_Step]) -> Array:
    L, C, h = (float(v) for v in lch(lab))
    for step in steps:
        L, C = min(max(L + step.L, 3.0), 97.0), C * step.chroma
    out = lab_from_lch(np.array([L, C, h]))
    while not bool(has(out)) and C > 0.5:
        C *= 0.95  # no paint and no screen has it so strong
        out = lab_from_lch(np.array([L, C, h]))
    return out
