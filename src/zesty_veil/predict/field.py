"""The field of a passage: predicted colours over axis x relief."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from zesty_veil.light.cielab import lab, lch, xyz
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import weights
from zesty_veil.light.srgb import srgb
from zesty_veil.light.value import value
from zesty_veil.optics.film import film
from zesty_veil.optics.stack import over
from zesty_veil.optics.surface import seen
from zesty_veil.paint.laydown import RELIEF, SITES, covered, pool, reach
from zesty_veil.paint.mixture import blend, dry_share, pooling, strength
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.primer import PRIMER_FINISH, primer
from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.spread import passes_along

SITE_RELIEF: Array = np.array([RELIEF[site] for site in SITES])

# A dry film this thick (mm) hides most of the finish of what is below; from memory.
_FINISH_FILM_MM = 0.006


class State(NamedTuple):
    """A stack seen from inside: internal reflectance (..., 36) and finish k_f (...)."""

    R: Array
    finish: Array


class Laid(NamedTuple):
    """What a coat lays down at each place, (n, m): share of a pass summed over passes, in mm."""

    neat: Array  # thickness counted as neat paint, which is what colours
    dry: Array  # thickness after the water has left, which is what is drawn


@dataclass(frozen=True)
class Field:
    """Predicted colours of a passage.

    u : (n,), places on the axis; relief : (m,), -1 to 1.
    lab : (n, m, 3); rgb : (n, m, 3) in 0-1; in_gamut : (n, m); value : (n, m), 0-10.
    """

    u: Array
    relief: Array
    lab: Array
    rgb: Array
    in_gamut: np.ndarray[tuple[int, ...], np.dtype[np.bool_]]
    value: Array

    @property
    def lch(self) -> Array:
        """Lightness, chroma and hue, (n, m, 3)."""
        return lch(self.lab)


def axis(count: int) -> Array:
    """Return evenly spaced places on the axis, both ends included, (count,) float64."""
    return np.linspace(0.0, 1.0, count)


def bare(passage: Passage, u: Array, relief: Array) -> State:
    """Return the ground of a passage before the first coat."""
    R = np.broadcast_to(primer(passage.ground.primer), (u.size, relief.size, 36))
    return State(R, np.full((u.size, relief.size), PRIMER_FINISH))


def laid(coat: Coat, length_mm: float, u: Array, relief: Array) -> tuple[Array, Array]:
    """Return a coat's film per pass and the share of the area that a pass covers.

    Parameters
    ----------
    coat
        What is laid.
    length_mm
        Length of the axis.
    u : (n,) float64
    relief : (m,) float64

    Returns
    -------
    film : (passes, n, m) float64
        Wet film in mm where a pass touches.
    cover : (m,) float64
        Share of the area that one pass touches.
    """
    tool = tools()[coat.tool]
    along = passes_along(coat, u, length_mm)
    across = pool(pooling(tool.pooling, coat.mixture), relief) * reach(coat.sites, relief)
    wet = tool.wet_film_um / 1000 * along[:, :, None] * across[None, None, :]
    return wet, covered(tool, relief)


def thickness(coat: Coat, length_mm: float, u: Array, relief: Array) -> Laid:
    """Return how thick a coat lies on average at each place, (n, m) float64 in mm."""
    wet, cover = laid(coat, length_mm, u, relief)
    total = wet.sum(axis=0) * cover
    return Laid(total * strength(coat.mixture), total * dry_share(coat.mixture))


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
    wet, cover = laid(coat, length_mm, u, relief)
    R, finish = state
    if (cover == 1).all():
        wet = wet.sum(axis=0, keepdims=True)
    for single in wet:
        R0, T = film(mix.K, mix.S, (single * share)[..., None])
        R = R + cover[:, None] * (over(R0, T, R) - R)
        hides = -np.expm1(-single * dry / _FINISH_FILM_MM) * cover
        finish = finish + hides * (mix.finish - finish)
    return State(R, finish)


def fold(
    passage: Passage, coats: Sequence[Coat], paints: Mapping[str, Paint], u: Array, relief: Array
) -> State:
    """Return the stack of some coats over the ground of a passage."""
    state = bare(passage, u, relief)
    for coat in coats:
        state = lay(state, coat, paints, passage.length_mm, u, relief)
    return state


def colours(state: State, light: str = "D65", observer: int = 2) -> tuple[Array, Array]:
    """Return CIELAB (..., 3) and luminous reflectance Y (...) of a stack seen from the air."""
    eye = weights(light, observer)
    tristimulus = xyz(seen(state.R, state.finish[..., None]), eye)
    return lab(tristimulus, eye.sum(axis=0)), tristimulus[..., 1]


def field_of(state: State, u: Array, relief: Array, light: str = "D65") -> Field:
    """Return the field of a stack that is folded already."""
    colour, Y = colours(state, light)
    rgb, inside = srgb(colour)
    return Field(u, relief, colour, rgb, inside, value(Y))


def predict(
    passage: Passage,
    paints: Mapping[str, Paint],
    u: Array,
    relief: Array = SITE_RELIEF,
    light: str = "D65",
) -> Field:
    """Return the predicted colours of a passage.

    Parameters
    ----------
    passage
        Ground and coats.
    paints
        The paints that the coats name.
    u : (n,) float64
        Places on the axis, 0-1.
    relief : (m,) float64
        Reliefs, -1 to 1; by default recess, flat and ridge.
    light
        The light it is seen under.

    Raises
    ------
    PaintError, InputError
        If a coat names a paint that is not there, or a light that is not known.
    """
    return field_of(fold(passage, passage.coats, paints, u, relief), u, relief, light)
