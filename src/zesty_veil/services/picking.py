"""How each paint of a rack would come out in one place: what the paint picker shows."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from zesty_veil.advise.match.bank import bank
from zesty_veil.light.grid import Array
from zesty_veil.paint.laydown import RELIEF
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import swap_paint, usual_coat, with_parts, with_passes
from zesty_veil.plan.model import Coat, Plan
from zesty_veil.predict.lay import laid_up
from zesty_veil.predict.look import ViewingConditions, on_screen

_FLAT = 0.0


@dataclass(frozen=True)
class Picking:
    """A place of a passage where one of some paints is to lie: in a coat of its own, or in one.

    above : the coat over which a new one will lie; none for the ground. place : on the axis, 0-1.
    within : the coat into which the paint comes instead, in place of the paint `swapped`, or as a
    drop more without one.
    """

    plan: Plan
    passage: int
    above: int | None
    place: float
    paints: tuple[Paint, ...]
    look: ViewingConditions
    within: int | None = None
    swapped: str = ""


@dataclass(frozen=True)
class Picked:
    """By paint, what is seen there with it and with one pass more, (2, 3) encoded sRGB."""

    asked: Picking
    rgb: dict[str, Array]


def coat_with(coat: Coat, paint: Paint, swapped: str = "") -> Coat:
    """Return a coat with a paint in place of another, or with a drop of it more."""
    if swapped:
        return swap_paint(coat, swapped, paint.name)
    had = {part.paint: part.parts for part in coat.mixture.parts}
    return with_parts(coat, paint.name, had.get(paint.name, 0) + 1)


def picked(asked: Picking, should_continue: Callable[[], bool]) -> Iterator[Picked]:
    """Yield how paints would come out, under the coats that lie over them already.

    All of them go through the optics at once, as for a search; those that glow or glitter take
    longer and come after the others.
    """
    usual = [p for p in asked.paints if p.glow is None and p.flakes is None]
    special = [p for p in asked.paints if p.glow is not None or p.flakes is not None]
    found: dict[str, Array] = {}
    for paints in (usual, special):
        if paints and should_continue():
            found = {**found, **_shown(asked, paints)}
            yield Picked(asked, found)


def _shown(asked: Picking, paints: Sequence[Paint]) -> dict[str, Array]:
    passage = asked.plan.passages[asked.passage]
    rack = {**asked.plan.rack(), **{paint.name: paint for paint in paints}}
    if asked.within is None:
        first = last = 0 if asked.above is None else asked.above + 1
        usual = [usual_coat(paint) for paint in paints]
    else:
        first, last = asked.within, asked.within + 1
        usual = [coat_with(passage.coats[first], paint, asked.swapped) for paint in paints]
    site, place = _FLAT, asked.place
    if asked.within is not None:
        # Where the coat does not lie, all paints in it would look alike.
        site, place = _relief(passage.coats[first]), _reached(passage.coats[first], place)
    u, relief = np.array([place]), np.array([site])
    below = laid_up(passage, passage.coats[:first], rack, u, relief)
    coats = [with_passes(coat, coat.passes + more) for coat in usual for more in (0, 1)]
    metal = below.mirror is not None
    options = bank(coats, rack, site, passage, metal, place)
    above = passage.coats[last:]
    over = [bank((coat,), rack, site, passage, metal, place) for coat in above]
    labs = np.zeros((len(coats), 3))
    for numbers, seen in options.labs_on(below, asked.look, over):
        labs[numbers] = seen[0]
    rgb = on_screen(labs, asked.look)[0].reshape(len(usual), 2, 3)
    return {paint.name: one for paint, one in zip(paints, rgb, strict=True)}


def _relief(coat: Coat) -> float:
    """Return where a coat can be seen: on the flat, or where else it lies."""
    return _FLAT if "flat" in coat.sites or not coat.sites else RELIEF[coat.sites[0]]


def _reached(coat: Coat, place: float) -> float:
    """Return the place nearest to one at which a coat lies in full."""
    start, end = coat.span
    return min(max(place, start), end)
