"""The one parser of colours: as they are written in a field or on the command line."""

from __future__ import annotations

import math
import re

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.light.srgb import lab_of, parsed
from zesty_veil.paint.laydown import Site
from zesty_veil.plan.model import Target
from zesty_veil.predict.named import named, region_of
from zesty_veil.tr import tr

_MOST_LETTERS = 200
# Paint that sends out light of its own is lighter than white, but not by more.
_MOST_L, _MOST_AB = 120.0, 200.0
_HEX = re.compile(r"#.*|[0-9a-fA-F]{6}")
_NUMBER = re.compile(r"[-+.,;\s\deE]*\d[-+.,;\s\deE]*")


def parse_colour(words: str, measured: bool = False) -> tuple[float, float, float]:
    """Return the CIELAB of a colour written as #rrggbb, as three numbers L a b, or in words.

    The numbers stand apart by commas, semicolons or spaces; where spaces part them, a comma may be
    the decimal point. What was `measured` is not said in words, which mean many colours.

    Raises
    ------
    InputError
        If it is written otherwise, or cannot be.
    """
    if len(words) > _MOST_LETTERS:
        raise InputError(
            tr("A colour of {0} letters is none; write #rrggbb, or L,a,b.").format(len(words))
        )
    text = words.strip()
    if _HEX.fullmatch(text):
        L, a, b = (float(v) for v in lab_of(parsed(text)))
        return L, a, b
    if measured or _NUMBER.fullmatch(text) or "," in text:
        return _lab(text)
    L, a, b = (float(v) for v in named(text))
    return L, a, b


def seen_in_words(words: str, predicted: tuple[float, float, float]) -> tuple[float, float, float]:
    """Return the colour that words mean and that is nearest to what was predicted, CIELAB.

    What is so called as it was predicted came out as predicted: words say no more.

    Raises
    ------
    InputError
        If no colour is so called.
    """
    region = region_of(words)
    if region is None:
        return parse_colour(words, measured=True)
    L, a, b = (round(float(v), 2) for v in region.nearest(np.array(predicted)))
    return L, a, b


def target_of(words: str, place: float, site: Site = "flat") -> Target:
    """Return a colour as it is written as a target; raises InputError as `parse_colour`."""
    L, a, b = (round(v, 2) for v in parse_colour(words))
    called = "" if region_of(words) is None else " ".join(words.split())
    return Target(round(place, 4), (L, a, b), site, called)


def _lab(text: str) -> tuple[float, float, float]:
    parts = text.replace(";", " ").split()
    if len(parts) == 1 or any(part.strip(",") == "" for part in parts):
        parts = [part.strip() for part in re.split("[,;]", text)]
    try:
        L, a, b = (float(part.strip(",").replace(",", ".")) for part in parts)
    except ValueError:
        raise InputError(
            tr("'{0}' is no colour; write #rrggbb, or L,a,b as three numbers.").format(text)
        ) from None
    if not (0 <= L <= _MOST_L and all(math.isfinite(v) and abs(v) <= _MOST_AB for v in (a, b))):
        raise InputError(
            tr("'{0}' is no colour; write L from 0 to {1:g}, then a and b within {2:g}.").format(
                text, _MOST_L, _MOST_AB
            )
        )
    return L, a, b
