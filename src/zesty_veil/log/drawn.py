"""Paints as drawdowns: films over white and over black, sorted, and compared with each other."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch, luminous
from zesty_veil.light.grid import Array
from zesty_veil.light.value import value
from zesty_veil.log.judge import turns_of
from zesty_veil.paint.kinds import KINDS, USUAL_TOOL
from zesty_veil.paint.mixture import Mixture, Part, Thinner
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Ground, Passage, Primer
from zesty_veil.predict.drawdown import over_primers
from zesty_veil.predict.field import SITE_RELIEF
from zesty_veil.predict.lay import prefixes
from zesty_veil.predict.look import colours
from zesty_veil.predict.solid import judged_over, solid_after

DRAWDOWN_PASSES = 4
DRAWDOWN_PRIMERS: tuple[Primer, ...] = ("white", "black")
Order = Literal["kind", "rack", "name", "hue", "value", "hiding", "strength"]
ORDERS: tuple[Order, ...] = ("kind", "rack", "name", "hue", "value", "hiding", "strength")
_GREY = 8.0  # chroma below which a hue says nothing; common practice
_HIDES_DE = 2.0  # what is below shows no more at arm's length; common practice
_ALIKE, _SEEN = 3.0, 1.5


@dataclass(frozen=True)
class DrawdownMix:
    """How paint is laid for a drawdown: thinning, thinner, and tool, or each kind's usual one."""

    thinning: float = 0.0
    thinner: Thinner = "water"
    tool: str | None = None


class PaintDrawdown(NamedTuple):
    """A paint as a drawdown: lab (2, 5, 3), over white and over black, after 0 to 4 passes."""

    paint: Paint
    lab: Array

    @property
    def hiding(self) -> float:
        """Share of the difference between white and black that two passes hide, 0-1."""
        bare, two = (float(ciede2000(self.lab[0, n], self.lab[1, n])) for n in (0, 2))
        return 1 - two / bare

    @property
    def strength(self) -> float:
        """How far one pass moves white, as dE00."""
        return float(ciede2000(self.lab[0, 0], self.lab[0, 1]))

    @property
    def lch(self) -> Array:
        """L, C, h of two passes over white, (3,)."""
        return lch(self.lab[0, 2])

    @property
    def value(self) -> float:
        """Value 0-10 of two passes over white."""
        return float(value(luminous(self.lab[0, 2, 0])))

    def passes_to_solid(self) -> int | None:
        """Return after how many passes the eye sees no more change; None if in none.

        Over black where the paint is one that hides, else over white.
        """
        return solid_after(self.lab[DRAWDOWN_PRIMERS.index(judged_over(self.paint.kind))])

    def passes_to_hide(self) -> int | None:
        """Return after how many passes white and black look alike; None if four are too few."""
        for n in range(1, DRAWDOWN_PASSES + 1):
            if float(ciede2000(self.lab[0, n], self.lab[1, n])) <= _HIDES_DE:
                return n
        return None


def paint_drawdown(paint: Paint, laid: DrawdownMix) -> PaintDrawdown:
    """Return the drawdown of a paint."""
    tool = laid.tool or USUAL_TOOL[paint.kind]
    coat = Coat(Mixture((Part(paint.name),), laid.thinner, laid.thinning), tool)
    # A dry brush touches ridges alone, and is drawn there.
    relief = SITE_RELIEF[-1:] if tool == "drybrush" else np.zeros(1)
    held = {paint.name: paint}
    at_once = over_primers(coat, held, DRAWDOWN_PRIMERS, range(DRAWDOWN_PASSES + 1), relief)
    return PaintDrawdown(paint, one_by_one(coat, held, relief) if at_once is None else at_once)


def one_by_one(coat: Coat, paints: Mapping[str, Paint], relief: Array) -> Array:
    """Return the same as `over_primers`, (2, 5, 3), following every pass; for any paint."""
    rows = []
    for primer in DRAWDOWN_PRIMERS:
        passage = Passage("drawdown", ground=Ground(primer), coats=(coat,) * DRAWDOWN_PASSES)
        _, states = prefixes(passage, paints, np.zeros(1), relief)
        rows.append([colours(state)[0][0, 0] for state in states])
    return np.array(rows)


def ordered(found: Sequence[PaintDrawdown], order: Order) -> list[int]:
    """Return places of drawdowns, sorted: hues from red round, light to dark, strong to weak."""

    places = list(range(len(found)))
    if order == "name":
        return sorted(places, key=lambda i: found[i].paint.name.casefold())
    kinds = list(KINDS)
    keys: dict[str, Callable[[PaintDrawdown], tuple[float, ...]]] = {
        "kind": lambda one: (kinds.index(one.paint.kind),),
        "hue": _hue_key,
        "value": lambda one: (-one.value,),
        "hiding": lambda one: (-one.hiding,),
        "strength": lambda one: (-one.strength,),
    }
    key = keys.get(order)
    return places if key is None else sorted(places, key=lambda i: key(found[i]))


def _hue_key(one: PaintDrawdown) -> tuple[float, ...]:
    _, C, h = (float(v) for v in one.lch)
    # Reds begin a little below 0 degrees; greys come last.
    return (1.0 if C < _GREY else 0.0, (h + 20) % 360 if C >= _GREY else -one.value)


class Near(NamedTuple):
    """A paint near another: how far as films, and in words how it differs."""

    paint: Paint
    de: float
    words: str


def nearest_drawdowns(
    one: PaintDrawdown, others: Sequence[PaintDrawdown], count: int = 2
) -> tuple[Near, ...]:
    """Return the paints that are most like one, as films over white and over black.

    The distance is the mean dE00 over 1 to 4 passes on both, so that a paint that only looks alike
    in the pot is not taken for one that lies alike.
    """
    others = [other for other in others if other.paint.name != one.paint.name]
    if not others:
        return ()
    labs = np.array([other.lab[:, 1:] for other in others])
    de = ciede2000(one.lab[:, 1:], labs).mean(axis=(1, 2))
    best = np.argsort(de, kind="stable")[:count]
    return tuple(Near(others[i].paint, float(de[i]), _differs(one, others[i])) for i in best)


def _differs(one: PaintDrawdown, other: PaintDrawdown) -> str:
    (L, C, h), (L2, C2, h2) = (tuple(float(v) for v in x.lch) for x in (one, other))
    words = []
    if abs(L2 - L) >= _SEEN * 2:
        words.append("lighter" if L2 > L else "darker")
    if abs(C2 - C) >= _ALIKE * 2:
        words.append("stronger in colour" if C2 > C else "duller")
    turn = (h2 - h + 180) % 360 - 180
    if min(C, C2) >= _GREY and abs(turn) * min(C, C2) / 57.3 >= _ALIKE * 1.5:
        on, back = turns_of(h)
        words.append(on if turn > 0 else back)
    if abs(other.hiding - one.hiding) >= 0.1:
        words.append("hides more" if other.hiding > one.hiding else "hides less")
    if other.paint.kind != one.paint.kind:
        words.append(other.paint.kind)
    return ", ".join(words) or "much the same"
