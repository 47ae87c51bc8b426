"""Where things stand on the section, in pixels, without Qt: strata, handles, labels, hits.

Thick base coats would dwarf the glazes that matter, so heights go with the square root of the
film, and every stratum has a least height; the true micrometres stand in the readout.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np
import numpy.typing as npt

from zesty_veil.light.grid import Array
from zesty_veil.plan.model import Coat

Grip = Literal["start", "end", "feather start", "feather end", "body"]

LEAST_PX = 11.0
MOST_PX = 104.0
_REACH_PX = 11.0
_SEEN_PX = 0.5
_INSIDE = 11.0  # what is written on a film keeps so far from both ends
# An outline leaves out the places that lie closer than this to the line between its corners:
# stroking is most of what a section costs, and a tenth of a pixel is not seen.
_STRAIGHT_PX = 0.1
_LONGEST = 64


@dataclass(frozen=True)
class Box:
    """A rectangle in pixels."""

    x: float
    y: float
    width: float
    height: float

    @property
    def right(self) -> float:
        """X of the right edge."""
        return self.x + self.width

    @property
    def bottom(self) -> float:
        """Y of the lower edge."""
        return self.y + self.height

    def holds(self, x: float, y: float) -> bool:
        """Tell whether a point is inside."""
        return self.x <= x < self.right and self.y <= y < self.bottom


@dataclass(frozen=True)
class Stratum:
    """One coat on the section: its lower and upper edge over the axis."""

    lower: Array  # (n,) y in pixels, downwards
    upper: Array  # (n,)


@dataclass(frozen=True)
class Strata:
    """All coats of a passage on the section."""

    box: Box
    u: Array  # (n,)
    strata: tuple[Stratum, ...]

    @cached_property
    def corners(self) -> npt.NDArray[np.bool_]:
        """Which places an outline needs, (coats, n): the others lie on the line between them."""
        edges = np.array([(one.upper, one.lower) for one in self.strata])
        return corners(self.u, edges, _STRAIGHT_PX)

    def outline(self, index: int) -> list[tuple[float, float]]:
        """Return the corners of a stratum where it has any thickness; none if it has nowhere."""
        stratum = self.strata[index]
        there = np.flatnonzero(stratum.lower - stratum.upper > 0.25)
        if not there.size:
            return []
        first, last = max(there[0] - 1, 0), min(there[-1] + 1, self.u.size - 1)
        needed = self.corners[index].copy()
        needed[[first, last]] = True
        needed[:first] = needed[last + 1 :] = False
        at = np.flatnonzero(needed)
        xs = (self.box.x + self.u[at] * self.box.width).tolist()
        upper = list(zip(xs, stratum.upper[at].tolist(), strict=True))
        return upper + list(zip(xs, stratum.lower[at].tolist(), strict=True))[::-1]

    def x(self, u: float) -> float:
        """Return the x of a place on the axis."""
        return self.box.x + u * self.box.width

    def place(self, x: float) -> float:
        """Return the place on the axis of an x, held to 0-1."""
        return min(max((x - self.box.x) / self.box.width, 0.0), 1.0)

    def middle(self, index: int, u: float) -> float:
        """Return the y halfway up a stratum at a place."""
        stratum = self.strata[index]
        return float(np.interp(u, self.u, (stratum.lower + stratum.upper) / 2))

    def at_far_end(self, index: int) -> float | None:
        """Return the y halfway up a stratum at the far end; none if it does not reach there."""
        one = self.strata[index]
        upper, lower = float(one.upper[-1]), float(one.lower[-1])
        return (upper + lower) / 2 if lower - upper > _SEEN_PX else None

    def widest(self, index: int) -> tuple[float, float, float] | None:
        """Return the middle of a stratum where it is highest, x, y and height; none if nowhere."""
        one = self.strata[index]
        height = one.lower - one.upper
        if not height.size or float(height.max()) <= _SEEN_PX:
            return None
        # Of places alike the one in the middle, so that numbers do not stand in a column.
        among = np.flatnonzero(height >= 0.98 * height.max())
        at = int(among[among.size // 2])
        y = float(one.lower[at] + one.upper[at]) / 2
        x = min(max(self.x(float(self.u[at])), self.box.x + _INSIDE), self.box.right - _INSIDE)
        return x, y, float(height[at])

    def under(self, x: float, y: float) -> int | None:
        """Return the coat whose stratum is at a point."""
        if not self.box.x <= x <= self.box.right:
            return None
        u = self.place(x)
        for index in reversed(range(len(self.strata))):
            stratum = self.strata[index]
            upper = float(np.interp(u, self.u, stratum.upper))
            lower = float(np.interp(u, self.u, stratum.lower))
            if upper <= y <= lower and lower - upper > 0.5:
                return index
        return None


def strata(films_um: Sequence[Array], u: Array, box: Box) -> Strata:
    """Lay out strata from the ground upward.

    Parameters
    ----------
    films_um
        Per coat (n,) film thickness in micrometres.
    u : (n,) float64
        Places on the axis.
    box
        Where they may stand; the ground is its lower edge.
    """
    if not films_um:
        return Strata(box, u, ())
    roots = np.sqrt(np.maximum(np.array(films_um), 0.0))
    tops = np.maximum(roots.max(axis=1), 1e-9)
    heights = roots * (_heights(tops, roots, box.height) / tops)[:, None]
    uppers = box.bottom - np.cumsum(heights, axis=0)
    return Strata(
        box, u, tuple(Stratum(up + high, up) for up, high in zip(uppers, heights, strict=True))
    )


def _heights(tops: Array, roots: Array, room: float) -> Array:
    """Return the greatest height of each stratum, as large as the pile's room allows, (coats,)."""
    least = min(LEAST_PX, room / tops.size)

    def tried(scale: float) -> Array:
        return np.clip(tops * scale, least, MOST_PX)

    low, high = 0.0, MOST_PX / float(tops.min())
    for _ in range(30):
        middle = (low + high) / 2
        pile = float(((tried(middle) / tops)[:, None] * roots).sum(axis=0).max())
        low, high = (middle, high) if pile <= room else (low, middle)
    return tried(low)


def corners(u: Array, edges: Array, within: float) -> npt.NDArray[np.bool_]:
    """Return the places that lines through them need to stay near edges.

    Parameters
    ----------
    u : (n,) float64
        Places, rising.
    edges : (m, k, n) float64
        Of each of m shapes k edges over these places; a shape has one choice for all its edges.
    within
        How far an edge may be from the line, in its own unit.

    Returns
    -------
    (m, n) bool, true at both ends.
    """
    count, n = edges.shape[0], u.size
    kept = np.zeros((count, n), dtype=bool)
    kept[:, [0, -1]] = True
    straight = np.zeros((count, n), dtype=bool)  # from this place to the next, already settled
    step = _LONGEST
    while step >= 1:
        knots = np.append(np.arange(0, n - 1, step), n - 1)
        left = np.clip(np.searchsorted(knots, np.arange(n), side="right") - 1, 0, knots.size - 2)
        a, b = knots[left], knots[left + 1]
        part = (u - u[a]) / (u[b] - u[a])
        off = np.abs(edges - edges[..., a] * (1 - part) - edges[..., b] * part).max(axis=1)
        new = np.maximum.reduceat(off, knots[:-1], axis=-1) <= within
        new &= ~straight[:, knots[:-1]]
        kept[:, knots[:-1]] |= new
        kept[:, knots[1:]] |= new
        straight |= new[:, left]
        step //= 2
    return kept


def grips(layout: Strata, index: int, coat: Coat) -> dict[Grip, tuple[float, float]]:
    """Return where the ends and feather toes of a coat are taken hold of."""
    start, end = coat.span
    light, far = coat.feather
    toe_start, toe_end = max(start - light, 0.0), min(end + far, 1.0)
    floor = layout.strata[index].lower
    return {
        "start": (layout.x(start), layout.middle(index, start)),
        "end": (layout.x(end), layout.middle(index, end)),
        "feather start": (layout.x(toe_start), float(np.interp(toe_start, layout.u, floor))),
        "feather end": (layout.x(toe_end), float(np.interp(toe_end, layout.u, floor))),
    }


def grip_at(
    layout: Strata, coats: Sequence[Coat], selected: int | None, x: float, y: float
) -> tuple[int, Grip] | None:
    """Return the coat and the grip at a point, or nothing.

    The coat in hand comes first, with its feather toes; of the others only the ends are offered.
    An end at the very edge of the passage gives way to its feather only if the feather is drawn
    elsewhere.
    """
    best: tuple[float, int, Grip] | None = None
    for index in range(len(layout.strata)):
        for grip, (gx, gy) in grips(layout, index, coats[index]).items():
            if index != selected and grip.startswith("feather"):
                continue
            distance = float(np.hypot(gx - x, gy - y))
            # The coat in hand wins over its neighbours, and an end over a toe at the same place.
            weighted = (
                distance
                - (4 if index == selected else 0)
                + (2 if grip.startswith("feather") else 0)
            )
            if distance <= _REACH_PX and (best is None or weighted < best[0]):
                best = (weighted, index, grip)
    if best is not None:
        return best[1], best[2]
    under = layout.under(x, y)
    return None if under is None else (under, "body")


def label_anchor(layout: Strata, index: int) -> float:
    """Return where the label of a stratum would like to stand: beside its film at the far end.

    One that does not reach so far stands between its neighbours there; so labels keep the order
    of the films, and their leaders never cross.
    """
    stratum = layout.strata[index]
    return float(stratum.lower[-1] + stratum.upper[-1]) / 2


def label_rows(anchors: Sequence[float], height: float, top: float, bottom: float) -> list[float]:
    """Return the y of each label's middle: near its anchor, in order, none over another.

    Parameters
    ----------
    anchors
        Wanted y of each label, from the lowest coat to the highest (so y falls).
    height
        Height of one label.
    top, bottom
        The gutter.
    """
    count = len(anchors)
    if not count:
        return []
    height = min(height, (bottom - top) / count)
    rows = []
    ceiling = bottom - height / 2
    for anchor in anchors:
        y = min(anchor, ceiling)
        rows.append(y)
        ceiling = y - height
    floor = top + height / 2
    for i in reversed(range(count)):
        rows[i] = max(rows[i], floor)
        floor = rows[i] + height
    return rows
