"""The field of a passage: predicted colours over axis x relief."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import Array
from zesty_veil.light.shapes import flat_places
from zesty_veil.light.value import value
from zesty_veil.paint.laydown import RELIEF, SITES
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.lay import laid_up
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import DAYLIGHT, ViewingConditions, colours, on_screen
from zesty_veil.predict.turned import each_way, together

SITE_RELIEF: Array = np.array([RELIEF[site] for site in SITES])


@dataclass(frozen=True)
class Field:
    """Predicted colours of a passage.

    u : (n,), places on the axis; relief : (m,), -1 to 1; lab : (n, m, 3); value : (n, m), 0-10.
    """

    u: Array
    relief: Array
    lab: Array
    value: Array
    look: ViewingConditions

    @cached_property
    def _on_screen(self) -> tuple[Array, np.ndarray[tuple[int, ...], np.dtype[np.bool_]]]:
        return on_screen(self.lab, self.look)

    @property
    def rgb(self) -> Array:
        """Encoded sRGB in 0-1, (n, m, 3); worked out when it is asked for."""
        return self._on_screen[0]

    @property
    def in_gamut(self) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
        """Whether a screen has that colour, (n, m)."""
        return self._on_screen[1]

    @property
    def lch(self) -> Array:
        """Lightness, chroma and hue, (n, m, 3)."""
        return lch(self.lab)


def axis(count: int) -> Array:
    """Return evenly spaced places on the axis, both ends included, (count,) float64."""
    return np.linspace(0.0, 1.0, count)


def fold(
    passage: Passage,
    coats: Sequence[Coat],
    paints: Mapping[str, Paint],
    u: Array,
    relief: Array,
    look: ViewingConditions = DAYLIGHT,
    rough: bool = False,
) -> StackOptics:
    """Return the stack of some coats over the ground of a passage.

    What is looked at wet has a last pass that is milky still. With `rough` it is in single
    precision.
    """
    return laid_up(passage, coats, paints, u, relief, look.finish == "wet", rough)


def field_of(
    state: StackOptics, u: Array, relief: Array, look: ViewingConditions = DAYLIGHT
) -> Field:
    """Return the field of a stack that is folded already."""
    colour, Y = colours(state, look)
    return Field(u, relief, colour, value(Y), look)


def predict(
    passage: Passage,
    paints: Mapping[str, Paint],
    u: Array,
    relief: Array = SITE_RELIEF,
    look: ViewingConditions = DAYLIGHT,
) -> Field:
    """Return the predicted colours of a passage.

    Where its surfaces are turned many ways to a spray, they are what the eye makes of them all.

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
    look
        Light, observer, finish and angle.

    Raises
    ------
    PaintError, InputError
        If a coat names a paint that is not there, or a light that is not known.
    """
    flat_places(u=u, relief=relief)
    seen = [
        colours(fold(one, one.coats, paints, u, relief, look), look) for one in each_way(passage)
    ]
    colour = together([each for each, _ in seen], look)
    Y = np.mean([each for _, each in seen], axis=0)
    return Field(u, relief, colour, value(Y), look)
