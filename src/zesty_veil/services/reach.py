"""Which colours the paints of a rack come to: what a colour is picked from. No Qt."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from zesty_veil.advise.match.bank import bank
from zesty_veil.light.grid import Array
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Ground, Passage
from zesty_veil.predict.lay import laid_up
from zesty_veil.predict.look import ViewingConditions

_PASSES = (1, 3, 9)  # a film that shows what is below, one between, and the paint itself
_THINNED = 4.0
_MIDDLE = 0.5
# Half a unit of lightness and chroma: what is so near to the edge can be reachable by mixing.
_SLACK = 0.5
_HALVINGS = 12


@dataclass(frozen=True)
class Reaching:
    """The paints that are asked about."""

    paints: tuple[Paint, ...]


@dataclass(frozen=True, eq=False)
class Reach:
    """What some paints come to, over white and over black, mixed and alone.

    planes : (f, 4), the faces of the body of their colours in CIELAB by daylight. own : by paint,
    the CIELAB of nine passes over white, which is what a painter calls its own colour.
    """

    asked: Reaching
    planes: Array
    own: dict[str, tuple[float, float, float]]

    def has(self, lab: Array) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
        """Tell which of some CIELAB colours (..., 3) are in reach; bool (...)."""
        return np.asarray(self.beyond(lab) <= 0)

    def beyond(self, lab: Array) -> Array:
        """Return how far some CIELAB colours (..., 3) lie beyond the edge; less than 0 inside."""
        faces = lab @ self.planes[:, :3].T + self.planes[:, 3]
        return np.asarray(faces.max(axis=-1) - _SLACK)

    def nearest(self, lab: Array) -> Array:
        """Return a colour (3,) in reach: of the same hue, and as light and as strong as can be."""
        L = np.linspace(0, 100, 201)
        greys = np.stack([L, np.zeros(201), np.zeros(201)], axis=-1)
        inside = L[self.has(greys)]
        if not inside.size:
            return lab
        grey = np.array([np.clip(lab[0], inside.min(), inside.max()), 0.0, 0.0])
        wanted = np.array([grey[0], lab[1], lab[2]])
        low, high = 0.0, 1.0
        if bool(self.has(wanted)):
            return wanted
        for _ in range(_HALVINGS):
            middle = (low + high) / 2
            if bool(self.has(grey + middle * (wanted - grey))):
                low = middle
            else:
                high = middle
        near: Array = grey + low * (wanted - grey)
        return near


def reachable(asked: Reaching, should_continue: Callable[[], bool]) -> Iterator[Reach]:
    """Yield what paints come to: 1, 3 and 9 passes neat and 1 thinned, over white and black."""
    # Half a second of start-up for those who pick no colour, if it stood above.
    from scipy.spatial import ConvexHull  # noqa: PLC0415

    rack = {paint.name: paint for paint in asked.paints}
    labs: list[Array] = []
    own: dict[str, tuple[float, float, float]] = {}
    for primer in ("white", "black"):
        passage = Passage("", ground=Ground(primer))
        below = laid_up(passage, (), rack, np.array([_MIDDLE]), np.zeros(1))
        coats = [coat for paint in asked.paints for coat in _coats(paint)]
        if not should_continue():
            return
        options = bank(coats, rack, 0.0, passage, place=_MIDDLE)
        seen = np.full((len(coats), 3), np.nan)
        for numbers, colours in options.labs_on(below, ViewingConditions()):
            seen[numbers] = colours[0]
        labs.append(seen)
        if primer == "white":
            each = seen.reshape(len(asked.paints), len(_PASSES) + 1, 3)[:, len(_PASSES) - 1]
            own = {
                paint.name: (float(lab[0]), float(lab[1]), float(lab[2]))
                for paint, lab in zip(asked.paints, each, strict=True)
            }
    # The primers themselves are there without any paint; the body is never flat.
    grounds = np.array([[95.0, 0.0, 2.0], [12.0, 0.0, 0.0], [50.0, 1.0, 0.0], [50.0, 0.0, -1.0]])
    points = np.concatenate([grounds, *labs])
    hull = ConvexHull(points[np.isfinite(points).all(axis=1)], qhull_options="QJ")
    yield Reach(asked, hull.equations, own)


def _coats(paint: Paint) -> list[Coat]:
    neat, thin = Mixture((Part(paint.name),)), Mixture((Part(paint.name),), "water", _THINNED)
    return [Coat(neat, "loaded", passes) for passes in _PASSES] + [Coat(thin, "loaded", 1)]
