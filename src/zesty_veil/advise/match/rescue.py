"""Rescue: from what is on the figure now to what is wanted, by going on or by covering first."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from zesty_veil.advise.match.search import Matcher, Way
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import xyz_from_lab
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import weights
from zesty_veil.light.smoothest import smoothest
from zesty_veil.optics.bispectral import plain
from zesty_veil.optics.surface import FINISHES, internal
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.lay import ground, lay, prepare
from zesty_veil.predict.layer import State
from zesty_veil.predict.look import Look, colours

# What lies below cannot be told any more, dE00; common practice.
_HIDDEN = 2.0


@dataclass(frozen=True)
class Rescue:
    """The nearest way that goes on from what is there, and the nearest that covers it first."""

    going_on: Way | None
    covering: Way | None


def now_on(
    passage: Passage,
    paints: Mapping[str, Paint],
    place: float,
    relief: float = 0.0,
    coats: int | None = None,
) -> State:
    """Return what is on a place of a passage after some of its coats, of leading shape (1, 1)."""
    u, r = np.array([place]), np.array([relief])
    laid = passage.coats if coats is None else passage.coats[:coats]
    return lay(ground(passage, paints, u, r), prepare(laid, paints, passage, u, r))


def measured(colour: Array, look: Look, finish: str = "matt") -> State:
    """Return an opaque ground that looks like a measured colour, of leading shape (1, 1).

    Parameters
    ----------
    colour : (3,) float64
        CIELAB, measured under the look's light.
    look
        Whose light and observer count.
    finish
        Of what was measured; glossier, if the colour is too dark for it.
    """
    eye = weights(look.light, look.observer)
    seen = smoothest(xyz_from_lab(colour, eye.sum(axis=0)), eye)
    # A surface sends at least its finish to the eye: what is darker than that is glossier.
    k = min(FINISHES[finish], 0.9 * float(seen.min()))
    return State(plain(internal(seen, k)[None, None]), np.full((1, 1), k), None)


def rescue(
    matcher: Matcher, target: Array, wanted: Callable[[], bool] = lambda: True
) -> Rescue | None:
    """Return the best ways to a colour with and without covering first; none if not wanted."""
    found: dict[tuple[Coat, ...], Way] = {}
    for ways in matcher.ways(target, wanted):
        found.update({way.coats: way for way in ways})
    if not wanted():
        return None
    nearest: dict[bool, Way] = {}
    for way in sorted(found.values(), key=lambda way: (way.aims, way.off)):
        nearest.setdefault(covers(matcher, way.coats), way)
    return Rescue(nearest.get(False), nearest.get(True))


def covers(matcher: Matcher, coats: tuple[Coat, ...]) -> bool:
    """Tell whether coats hide what lies below them: over black and over white they look alike."""
    bench = matcher.bench
    shape = bench.ground.R.d.shape
    labs = []
    for R in (0.0, 0.9):
        below = State(plain(np.full(shape, R)), bench.ground.finish, None)
        labs.append(colours(bench.on(coats, below), bench.look)[0][0, 0])
    return float(ciede2000(labs[0], labs[1])) < _HIDDEN
