"""How long a coat takes: painting it and letting it dry. Common practice, in minutes."""

from __future__ import annotations

from typing import NamedTuple

from zesty_veil.plan.model import Coat, Passage


class Minutes(NamedTuple):
    """A span of time as painters say it: from, to."""

    least: float
    most: float


_LAYER = Minutes(5, 10)
_GLAZE = Minutes(2, 5)
_WASH = Minutes(45, 60)
_SPRAY = Minutes(30, 60)
_DRY = Minutes(1, 2)
_AIRBRUSH = Minutes(2, 5)
_BY_TOOL = {
    "loaded": _LAYER,
    "glaze": _GLAZE,
    "wash": _WASH,
    "contrast": _WASH,
    "drybrush": _DRY,
    "sponge": _LAYER,
    "flecks": _LAYER,
    "stipple": _LAYER,
    "airbrush": _AIRBRUSH,
    "spray": _SPRAY,
}
# Painting speed per pass: a fixed start (loading, blotting) and a pace over the area.
_START_MIN = 0.3
_PACE_MM2_PER_MIN = {"loaded": 250.0, "glaze": 200.0, "wash": 600.0, "contrast": 500.0}
_USUAL_PACE = 400.0


def drying_minutes(coat: Coat) -> Minutes:
    """Return how long each pass of a coat must wait before the next film, without a hairdryer.

    Medium holds its water longer: each part of it adds a quarter, up to twice the time.
    """
    least, most = _BY_TOOL[coat.tool]
    slower = 1.0
    if coat.mixture.thinner != "water":
        slower = 1 + min(0.25 * coat.mixture.thinning, 1.0)
    return Minutes(least * slower, most * slower)


def painting_minutes(coat: Coat, passage: Passage) -> float:
    """Return the minutes of brush work of all passes of a coat."""
    start, end = coat.span
    share = min(end - start + sum(coat.feather) / 2, 1.0)
    pace = _PACE_MM2_PER_MIN.get(coat.tool, _USUAL_PACE)
    return coat.passes * (_START_MIN + share * passage.area_mm2 / pace)


def whole(coat: Coat, passage: Passage) -> float:
    """Return the minutes of a coat from the first stroke until the next coat may go on."""
    wait = drying_minutes(coat)
    return painting_minutes(coat, passage) + coat.passes * (wait.least + wait.most) / 2
