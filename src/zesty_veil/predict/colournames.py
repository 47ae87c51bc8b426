"""Colour words beyond those that predictions are told in: purple, gold, flesh, bone, pale blue ...

Words of the ISCC-NBS system stand for the centroids of their blocks (Kelly and Judd, NBS Special
Publication 440, 1976; in sRGB as Centore gives them, 2016), written down from memory. Painters'
own words, such as bone and flesh, are common practice. Modifiers change a word's colour as those
of the system change the hues: their usual steps in L and chroma, common practice too.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from zesty_veil.light.cielab import lab_from_lch, lch
from zesty_veil.light.grid import Array
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
    "pale green": "#8da399",
    "blue": "#0067a5", "vivid blue": "#00a1c2", "brilliant blue": "#4997d0",
    "deep blue": "#00416a", "light blue": "#70a3cc", "dark blue": "#00304e",
    "pale blue": "#91a3b0", "very pale blue": "#bcd4e6", "greyish blue": "#536878",
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
}  # fmt: skip
_LIKE = {
    "gray": "grey", "blue-grey": "blue grey", "bluish grey": "blue grey", "greenish": "green",
    "moderate": "", "medium": "", "bright": "brilliant", "dull": "greyish", "muted": "greyish",
    "intense": "vivid", "saturated": "vivid", "skin": "flesh", "golden": "gold",
}  # fmt: skip


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
    steps: list[_Step] = []
    for at in range(len(parts)):
        base = table.get(" ".join(parts[at:]))
        before = parts[:at]
        if base is None:
            continue
        very = 1.0
        for word in before:
            if word == "very":
                very = _VERY
                continue
            step = _MODIFIERS.get(word)
            if step is None:
                return None
            steps.append(_Step(step.L * very, step.chroma**very))
            very = 1.0
        return _changed(lab_of(parsed(base)), steps)
    return None


def _changed(lab: Array, steps: list[_Step]) -> Array:
    L, C, h = (float(v) for v in lch(lab))
    for step in steps:
        L, C = min(max(L + step.L, 3.0), 97.0), C * step.chroma
    out = lab_from_lch(np.array([L, C, h]))
    while not bool(has(out)) and C > 0.5:
        C *= 0.95  # no paint and no screen has it so strong
        out = lab_from_lch(np.array([L, C, h]))
    return out
