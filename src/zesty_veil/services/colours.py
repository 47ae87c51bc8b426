"""The one parser of colours: as they are written in a field or on the command line."""

from __future__ import annotations

import math

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import lab_of, parsed
from zesty_veil.predict.named import named
from zesty_veil.tr import tr

_MOST_LETTERS = 200


def parse_colour(words: str) -> Array:
    """Return the CIELAB of a colour written as #rrggbb, as three numbers L,a,b, or in words.

    Raises
    ------
    InputError
        If it is written otherwise.
    """
    if len(words) > _MOST_LETTERS:
        raise InputError(
            tr("A colour of {0} letters is none; write #rrggbb, or L,a,b.").format(len(words))
        )
    if words.strip().startswith("#"):
        return lab_of(parsed(words))
    if "," not in words:
        return named(words)
    try:
        numbers = [float(piece) for piece in words.split(",")]
    except ValueError:
        numbers = []
    if len(numbers) != 3 or not all(math.isfinite(v) and abs(v) <= 300 for v in numbers):
        raise InputError(
            tr("'{0}' is no colour; write #rrggbb, or L,a,b as three numbers.").format(words)
        )
    return np.array(numbers)
