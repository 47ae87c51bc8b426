"""A colour as somebody types it: #rrggbb, or L a b."""

from __future__ import annotations

import math

from zesty_veil.errors import InputError
from zesty_veil.light.srgb import lab_of, parsed
from zesty_veil.tr import tr

_MOST_LETTERS = 200


def colour_of(words: str) -> tuple[float, float, float]:
    """Return CIELAB of a colour written as #rrggbb or as three numbers, L a b.

    Raises
    ------
    InputError
        If it is written otherwise, or cannot be.
    """
    if len(words) > _MOST_LETTERS:
        raise InputError(
            tr("A colour of {0} letters is none; write #rrggbb, or L a b.").format(len(words))
        )
    text = words.strip()
    parts = text.replace(";", " ").split()
    if len(parts) == 1 and "," in text and not text.startswith("#"):
        parts = text.split(",")
    if len(parts) == 3:
        try:
            # A comma may be the decimal point where the numbers are parted by spaces.
            L, a, b = (float(part.strip(",").replace(",", ".")) for part in parts)
        except ValueError:
            L, a, b = math.nan, 0.0, 0.0
        if 0 <= L <= 100 and all(math.isfinite(v) and abs(v) <= 200 for v in (a, b)):
            return L, a, b
        raise InputError(
            tr("“{0}” is no colour: write L from 0 to 100, then a and b within 200.").format(text)
        )
    L, a, b = (float(v) for v in lab_of(parsed(text)))
    return L, a, b
