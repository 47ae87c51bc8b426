"""How each paint of a rack would come out in one place: what the paint picker shows."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from zesty_veil.advise.match.bank import bank
from zesty_veil.light.grid import Array
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import usual_coat, with_passes
from zesty_veil.plan.model import Plan
from zesty_veil.predict.lay import laid_up
from zesty_veil.predict.look import ViewingConditions, on_screen

_PASSES = (1, 2)
_FLAT = 0.0


@dataclass(frozen=True)
class Picking:
    """A place of a passage where a coat of one of some paints is to lie.

    above : the coat over which it will lie; none for the ground. place : on the axis, 0-1.
    """

    plan: Plan
    passage: int
    above: int | None
    place: float
    paints: tuple[Paint, ...]
    look: ViewingConditions


@dataclass(frozen=True)
class Picked:
    """By paint, what is seen there with one and with two passes of it, (2, 3) encoded sRGB."""

    asked: Picking
    rgb: dict[str, Array]


def picked(asked: Picking, should_continue: Callable[[], bool]) -> Iterator[Picked]:
    """Yield how every paint would come out, under the coats that lie over it already.

    All of them go through the optics at once, as for a search.
    """
    passage = asked.plan.passages[asked.passage]
    rack = {**asked.plan.rack(), **{paint.name: paint for paint in asked.paints}}
    at = 0 if asked.above is None else asked.above + 1
    u, relief = np.array([asked.place]), np.array([_FLAT])
    below = laid_up(passage, passage.coats[:at], rack, u, relief)
    usual = [usual_coat(paint) for paint in asked.paints]
    coats = [with_passes(coat, passes) for coat in usual for passes in _PASSES]
    metal = below.mirror is not None
    options = bank(coats, rack, _FLAT, passage, metal, asked.place)
    over = [bank((coat,), rack, _FLAT, passage, metal, asked.place) for coat in passage.coats[at:]]
    labs = np.zeros((len(coats), 3))
    for numbers, found in options.labs_on(below, asked.look, over):
        if not should_continue():
            return
        labs[numbers] = found[0]
    rgb = on_screen(labs, asked.look)[0].reshape(len(usual), len(_PASSES), 3)
    yield Picked(asked, {p.name: one for p, one in zip(asked.paints, rgb, strict=True)})
