"""Films on top of each other, in optical contact.

References
----------
P. Kubelka, "New contributions to the optics of intensely light-scattering materials, Part II:
Nonhomogeneous layers", J. Opt. Soc. Am. 44 (1954), 330-335.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

import numpy as np

from zesty_veil.light.grid import Array

_TINY = np.finfo(np.float64).tiny


class Slab(NamedTuple):
    """A pile of films as one: reflectance from above and from below, and transmittance.

    Each is (...) float64 in 0-1. Transmittance is the same both ways (Kubelka 1954).
    """

    above: Array
    below: Array
    through: Array


def over(R0: Array, T: Array, R: Array) -> Array:
    """Return the internal reflectance of a film over something that reflects.

    Parameters
    ----------
    R0, T : (...) float64
        Of the film, from `film`; R0 + T <= 1.
    R : (...) float64
        Internal reflectance of what is below, 0-1.

    Returns
    -------
    (...) float64
        R0 + T^2 R / (1 - R0 R). As R <= 1 the denominator is never below T, which settles the
        edge where film and ground both send everything back.
    """
    between = np.asarray(1 - R0 * R)
    np.maximum(between, T, out=between)
    np.maximum(between, _TINY, out=between)
    out = np.asarray(T * T * R)
    out /= between
    out += R0
    return out


def stack(ground: Array, films: Iterable[tuple[Array, Array]]) -> Array:
    """Fold films upward over a ground.

    Parameters
    ----------
    ground : (...) float64
        Internal reflectance of the ground.
    films
        Pairs (R0, T) from the lowest to the highest; shapes broadcast.

    Returns
    -------
    (...) float64
        Internal reflectance seen from above.
    """
    R = np.asarray(ground, dtype=np.float64)
    for R0, T in films:
        R = over(R0, T, R)
    return R


def slab(R0: Array, T: Array) -> Slab:
    """Return one homogeneous film as a slab: the same from above and below."""
    return Slab(R0, R0, T)


def join(upper: Slab, lower: Slab) -> Slab:
    """Return two slabs in contact as one slab; Kubelka 1954, equations 3 and 4."""
    between = np.maximum(1 - upper.below * lower.above, _TINY)
    return Slab(
        above=upper.above + upper.through**2 * lower.above / between,
        below=lower.below + lower.through**2 * upper.below / between,
        through=upper.through * lower.through / between,
    )
