"""Words for a colour: what a painter would call it.

The borders between words are common practice among painters, read on CIELAB hue and chroma.
"""

from __future__ import annotations

from collections.abc import Sequence

from zesty_veil.light.grid import Array

# Upper hue angle in degrees, the word when bright, the word when dark (a painter says brown for
# dark orange and olive for dark yellow), and the lightness at which the one becomes the other.
_HUES = (
    (6.0, "pink", "crimson", 55.0),
    (21.0, "pink-red", "crimson", 58.0),
    (43.0, "red", "deep red", 34.0),
    (54.0, "orange-red", "red-brown", 42.0),
    (74.0, "orange", "brown", 52.0),
    (86.0, "golden yellow", "ochre-brown", 62.0),
    (108.0, "yellow", "olive", 70.0),
    (118.0, "yellow-green", "olive-green", 60.0),
    (165.0, "green", "dark green", 30.0),
    (205.0, "turquoise", "deep turquoise", 30.0),
    (240.0, "cyan-blue", "petrol blue", 35.0),
    (282.0, "blue", "dark blue", 30.0),
    (302.0, "violet-blue", "dark violet-blue", 25.0),
    (328.0, "violet", "dark violet", 30.0),
    (345.0, "magenta", "plum", 35.0),
    (360.0, "pink", "crimson", 55.0),
)
# Warm hues of little chroma are browns and sands, whatever their exact hue.
_EARTH_HUES = (25.0, 92.0)
_EARTH_CHROMA = 30.0
_CHROMAS = ((14.0, "greyish"), (34.0, "muted"), (58.0, "clear"), (80.0, "strong"))
_CHANGES = (
    (1.0, "nothing that shows"),
    (3.0, "a hint"),
    (8.0, "a clear change"),
    (20.0, "a strong change"),
)
# Below this chroma a colour is a grey.
GREY_CHROMA = 6.0
_GREYS = (
    (0.8, "black"),
    (2.5, "near-black"),
    (4.5, "dark grey"),
    (7.0, "grey"),
    (8.4, "light grey"),
)


def hue_word(lch: Array | Sequence[float]) -> str:
    """Return the hue word of one colour, (3,) L, C, h; 'grey' words come from `describe`."""
    L, C, h = lch
    if _EARTH_CHROMA > C and _EARTH_HUES[0] <= h < _EARTH_HUES[1]:
        return "brown" if L < 62 else "sand" if L < 82 else "off-white"
    for upper, bright, dark, border in _HUES:
        if h < upper:
            return bright if border <= L else dark
    return _HUES[0][1]


def chroma_word(chroma: float) -> str:
    """Return the word for a chroma: greyish, muted, clear, strong or vivid."""
    for upper, word in _CHROMAS:
        if chroma < upper:
            return word
    return "vivid"


def change_word(difference: float) -> str:
    """Return the word for how much a colour changes, from dE00; common practice."""
    for upper, word in _CHANGES:
        if difference < upper:
            return word
    return "a great change"


def describe(lch: Array | Sequence[float], value: float) -> str:
    """Return the words for one colour without its value, as 'strong orange-red'.

    Parameters
    ----------
    lch : (3,) float64
        Lightness, chroma, hue angle in degrees.
    value
        0-10; names the greys.
    """
    if lch[1] < GREY_CHROMA:
        for upper, word in _GREYS:
            if value < upper:
                return word
        return "white"
    return f"{chroma_word(lch[1])} {hue_word(lch)}"
