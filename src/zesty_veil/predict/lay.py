"""One coat after the other on a passage: what it lays down, and the stack it makes."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from zesty_veil.light.grid import BANDS, Array
from zesty_veil.optics.film import film
from zesty_veil.optics.stack import over
from zesty_veil.paint.laydown import covered, pool, reach
from zesty_veil.paint.mixture import blend, dry_share, pooling, strength
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.primer import PRIMER_FINISH, primer
from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.spread import passes_along

# A dry film this thick (mm) hides most of the finish of what is below; from memory.
_FINISH_FILM_MM = 0.006

# So many numbers at a time stay in the processor's cache; larger arrays wait for memory.
_BLOCK = 16_384


class State(NamedTuple):
    """A stack seen from inside: internal reflectance (n, m, 36) and finish k_f (n, m)."""

    R: Array
    finish: Array


class Laydown(NamedTuple):
    """What the passes of a coat lay down.

    Where pass p touches at place i and relief j, it leaves `along[p, i] * across[j]` mm of wet
    film; it touches the share `cover[j]` of the area.
    """

    along: Array  # (passes, n) 0-1
    across: Array  # (m,) mm
    cover: Array  # (m,) 0-1


class Thickness(NamedTuple):
    """How thick a coat lies on average, (n, m) float64 in mm."""

    neat: Array  # counted as neat paint, which is what colours
    dry: Array  # after the water has left, which is what is drawn


def bare(passage: Passage, u: Array, relief: Array) -> State:
    """Return the ground of a passage before the first coat."""
    R = np.broadcast_to(primer(passage.ground.primer), (u.size, relief.size, BANDS))
    return State(R, np.full((u.size, relief.size), PRIMER_FINISH))


def laid(coat: Coat, length_mm: float, u: Array, relief: Array) -> Laydown:
    """Return what a coat lays down at places `u` (n,) and reliefs (m,) of an axis in mm."""
    tool = tools()[coat.tool]
    factor = pool(pooling(tool.pooling, coat.mixture), relief) * reach(coat.sites, relief)
    return Laydown(
        passes_along(coat, u, length_mm),
        tool.wet_film_um / 1000 * factor,
        covered(tool, relief),
    )


def thickness(coat: Coat, length_mm: float, u: Array, relief: Array) -> Thickness:
    """Return how thick a coat lies on average at places `u` (n,) and reliefs (m,)."""
    down = laid(coat, length_mm, u, relief)
    wet = down.along.sum(axis=0)[:, None] * (down.across * down.cover)
    return Thickness(wet * strength(coat.mixture), wet * dry_share(coat.mixture))


def lay(
    state: State,
    coat: Coat,
    paints: Mapping[str, Paint],
    length_mm: float,
    u: Array,
    relief: Array,
) -> State:
    """Return a stack with one more coat on it.

    Passes that cover everything are one thicker film (films of one paint add up exactly). Passes
    that touch part of the area are averaged one by one, as the eye does at arm's length.

    Raises
    ------
    PaintError, InputError
        As `paint.mixture.blend`.
    """
    mix = blend(coat.mixture, paints)
    share, dry = strength(coat.mixture), dry_share(coat.mixture)
    along, across, cover = laid(coat, length_mm, u, relief)
    if (cover == 1).all():
        along = along.sum(axis=0, keepdims=True)
    R, finish = state
    for single in along:
        # Most of a coat lies in full or not at all: each thickness is worked out once.
        levels, place = np.unique(single, return_inverse=True)
        films = film(mix.K, mix.S, (levels[:, None] * across * share)[..., None])
        R = _covered(R, films, place, cover)
        hides = -np.expm1(-single[:, None] * across * (dry / _FINISH_FILM_MM)) * cover
        finish = finish + hides * (mix.finish - finish)
    return State(R, finish)


def _covered(
    R: Array, films: tuple[Array, Array], place: npt.NDArray[np.intp], cover: Array
) -> Array:
    """Return R (n, m, 36) under films (levels, m, 36), each place under the level it names."""
    R0, T = films
    everywhere = bool((cover == 1).all())
    out = np.empty(R.shape)
    step = max(_BLOCK // (R.shape[1] * BANDS), 1)
    for first in range(0, R.shape[0], step):
        block = slice(first, first + step)
        below, levels = R[block], place[block]
        above = over(R0[levels], T[levels], below)
        if not everywhere:
            above = below + cover[:, None] * (above - below)
        out[block] = above
    return out
