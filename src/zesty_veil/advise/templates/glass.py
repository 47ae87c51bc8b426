"""A vial of glass: liquid in three steps up to a hard surface line, the empty part dark, gloss.

70:30, 40:60 and pure colour from the surface down, the lightest just below it, the line where it
ends hard, and two coats of gloss at last: common practice.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.drift import drift_of
from zesty_veil.advise.templates.laying import alone_over_white, white_of
from zesty_veil.advise.templates.model import (
    FIGURES,
    LARGE,
    PRIMER,
    Answered,
    Asks,
    Template,
    TemplateMade,
    plan_with,
)
from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lch
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.tr import tr

# Where the liquid ends, and from where down its steps lie; drops of light paint to colour in each.
_SURFACE = 0.66
_STEPS = ((0.0, 0.66, 7.0, 3.0), (0.0, 0.42, 4.0, 6.0), (0.0, 0.2, 0.0, 1.0))
_LINE = (0.62, 0.66)
_SOFT = 0.12
_WITHIN, _LIGHT = 50.0, 80.0
_DARK = 30.0


def _vial(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    length, area = answers.size()
    light, colour = _pots(answers)
    dark = _dark(answers.paints)
    white = white_of(answers)
    coats = [_upto(Coat(Mixture((Part(white.name),), "water", 1.0), "loaded", 2), 0, _SURFACE)]
    for start, end, drops, own in _STEPS:
        parts = (Part(light.name, drops), Part(colour.name, own)) if drops else (Part(colour.name),)
        tool, passes = ("loaded", 2) if end == _SURFACE else ("glaze", 3)
        laid = Coat(Mixture(parts, "water", 0.5), tool, passes)
        coats.append(_upto(laid, start, end, 0.0 if end == _SURFACE else _SOFT))
    line = Coat(Mixture((Part(light.name),), "water", 1.0), "loaded", 1)
    coats.append(replace(edits.with_span(line, *_LINE), meant="edge", feather=(0.06, 0.0)))
    if answers["primer"] != "black" and dark is not None:
        empty = Coat(Mixture((Part(dark.name),), "water", 0.5), "loaded", 2)
        coats.insert(0, replace(edits.with_span(empty, _SURFACE, 1.0), meant="edge"))
    assumed = [
        tr("The axis runs from the bottom of the glass up to its stopper."),
        tr("The liquid fills two thirds and ends in a hard line; the empty part is black."),
        tr("It is lightest just below the surface, where the light leaves it."),
    ]
    gloss = [p for p in answers.paints if p.kind == "varnish"]
    if gloss:
        shine = min(gloss, key=lambda paint: paint.finish)
        coats.append(Coat(Mixture((Part(shine.name),)), "loaded", 2))
    else:
        assumed.append(tr("Two coats of gloss varnish would end it; the rack has none."))
    passage = Passage(tr("vial"), length, area, answers.ground(), tuple(coats), form="orb")
    if go():
        plan = plan_with(tr("Vial of glass"), answers, (passage,))
        yield TemplateMade(1.0, plan, tuple(assumed))


def _upto(coat: Coat, start: float, end: float, soft: float = 0.0) -> Coat:
    meant = "" if soft else "edge"
    return replace(edits.with_feather(edits.with_span(coat, start, end), 0.0, soft), meant=meant)


def _pots(answers: Answered) -> tuple[Paint, Paint]:
    """Return a light pot and the liquid's colour, which go together; InputError if none do."""
    hue = float(lch(np.array(answers.lab("colour")))[2])
    looks = {p.name: alone_over_white(p) for p in answers.paints}
    named = {p.name: p for p in answers.paints}

    def turn(paint: Paint) -> float:
        return abs((looks[paint.name][2] - hue + 180) % 360 - 180)

    strong = [
        p for p in answers.paints
        if p.kind in {"transparent", "opaque", "ink"} and turn(p) < _WITHIN
        and looks[p.name][1] > _DARK and looks[p.name][0] < _LIGHT
    ]  # fmt: skip
    strong.sort(key=lambda p: turn(p) - looks[p.name][1] / 4)
    lights = [p for p in answers.paints if p.kind == "opaque" and looks[p.name][0] >= _LIGHT]
    lights.sort(key=lambda p: looks[p.name][1] > _DARK)
    for colour in strong:
        for light in lights:
            parts = (Part(light.name, 7.0), Part(colour.name, 3.0))
            if drift_of(parts, named) is None:
                return light, colour
    what = tr("a clear paint of that colour, and a white or ivory to lighten it")
    raise InputError(tr("What is wanting is {0}; add one to the rack.").format(what))


def _dark(paints: Sequence[Paint]) -> Paint | None:
    dark = [p for p in paints if p.kind == "opaque" and alone_over_white(p)[0] < _DARK]
    return min(dark, key=lambda p: alone_over_white(p)[1], default=None)


VIAL = Template(
    "vial", "Vial or glass", "liquid in steps, gloss over it", (
        Asks("colour", "Which colour is the liquid?", "green", colour=True),
        LARGE, PRIMER, FIGURES,
    ), _vial,
)  # fmt: skip
