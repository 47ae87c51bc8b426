"""From words to a colour: the middle of what painters would call by them."""

from __future__ import annotations

from functools import cache

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lab_from_lch, luminous
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import has
from zesty_veil.light.value import value
from zesty_veil.predict.colournames import called
from zesty_veil.predict.words import describe
from zesty_veil.tr import tr

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
