"""Lights off the figure and things that they fall on, for tests of Light."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import Qt

from zesty_veil.advise.glow.painted import Painted
from zesty_veil.advise.glow.painting import (
    USUAL_LIMITS,
    School,
    painted,
)
from zesty_veil.advise.glow.wanted import wanted
from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import Array
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.glow import Glow, Place3, Surface
from zesty_veil.plan.model import Ground, Passage, Plan, Primer

RACK = {paint.name: paint for paint in demo_rack()}
BLUE: Place3 = (45.0, 10.0, -60.0)
BLACK: Place3 = (12.0, 0.0, 0.0)
LEFT = Qt.MouseButton.LeftButton


def thing(primer: Primer = "black", *coats: str) -> Plan:
    laid = tuple(parse_coat(words, RACK) for words in coats)
    passage = Passage("thing", 30.0, 900.0, Ground(primer), laid, form="plate")
    return Plan("p", (passage,), demo_rack())


def lamp(wins: float = 1.0, own: Place3 = BLACK, **how: object) -> Glow:
    return Glow(
        "",
        (Surface("thing", own),),
        colour=BLUE,
        radius_mm=45.0,
        wins=wins,
        **how,  # type: ignore[arg-type]
    )


def coats_for(plan: Plan, glow: Glow, school: School, keep: bool = False) -> tuple[Painted, ...]:
    *_, done = painted(plan, glow, school, demo_rack(), USUAL_LIMITS, keep=keep)
    return done


def rings(glow: Glow) -> Array:
    return lch(np.array([target.lab for target in wanted(thing(), glow)[0].targets]))


def red_armour() -> Plan:
    return thing("black", "Pilot Red; water 0.5; passes 3", "Oxblood Wash; tool wash")
