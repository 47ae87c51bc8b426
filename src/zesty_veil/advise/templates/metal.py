"""Tinted metal: gold, copper, heated steel, candy over silver. Orders are common practice.

Metal is best over a dark ground; gloss in the wash keeps the shine; steel that was heated runs
from straw through violet to blue; candy is clear colour over silver, and gloss over that.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.templates.laying import alone_over_white, film_of, nearest_paint
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
from zesty_veil.plan.edits import with_feather, with_span
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.contribution import contribution
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.thresholds import HIDDEN_DE00
from zesty_veil.tr import tr

# Hues of metals as they glint, in degrees, and of the colours that heat leaves on steel.
_GOLD, _COPPER = 88.0, 60.0
_STRAW, _VIOLET, _BLUE = 85.0, 315.0, 285.0
_CLEAR = ("transparent", "ink")
_CLEAR_OR_WASH = ("wash", "transparent", "ink", "contrast")
_SHADED, _BROWN, _VERDIGRIS = ("recess", "flat"), (35.0, 85.0), 165.0
_METALS = {
    "gold": "gold, with brown in its recesses",
    "copper": "copper, with a cold green in its recesses",
    "steel": "steel that was heated",
    "candy": "clear colour over silver",
}


def _metal(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    kind = answers["metal"]
    base = _metallic(answers, {"gold": _GOLD, "copper": _COPPER}.get(kind))
    coats = [Coat(Mixture((Part(base.name),), "water", 0.5), "loaded", 3)]
    assumed = [tr("The metal lies solid first; what tints it is clear, and it glints through.")]
    if answers["primer"] != "black":
        assumed.append(tr("Metal is best over black; this primer takes a pass more."))
    if kind in ("gold", "copper"):
        brown = _brown(answers)
        wash = Coat(Mixture((Part(brown.name),)), "wash" if brown.kind == "wash" else "glaze")
        coats.append(replace(wash, sites=_SHADED))
        if kind == "copper":
            what = tr("a green or turquoise, clear or as a wash")
            green = nearest_paint(answers, _VERDIGRIS, _CLEAR_OR_WASH, what, 60.0)
            coats.append(replace(film_of(green, "medium", 3.0, 2), sites=("recess",)))
        bright = replace(coats[0], passes=1, sites=("ridge",))
        shows = replace(_plate(answers, tuple(coats)), coats=(*coats, bright))
        named = {paint.name: paint for paint in answers.paints}
        if contribution(shows, named, len(coats)).most >= HIDDEN_DE00:
            coats.append(bright)
        assumed.append(tr("A brown wash lies in the recesses; what stands out stays metal."))
    elif kind == "steel":
        for hue, what, start in (
            (_STRAW, tr("a clear yellow"), 0.3),
            (_VIOLET, tr("a clear violet or magenta"), 0.5),
            (_BLUE, tr("a clear blue"), 0.72),
        ):
            heat = nearest_paint(answers, hue, _CLEAR, what, 50.0)
            laid = with_feather(with_span(film_of(heat, "medium", 4.0, 3), start, 1.0), 0.18, 0.0)
            coats.append(laid)
        assumed.append(tr("The axis runs from cold steel to where it was hottest."))
    else:
        hue = float(lch(np.array(answers.lab("colour")))[2])
        candy = nearest_paint(answers, hue, _CLEAR, tr("a clear paint or ink of that colour"))
        coats.append(film_of(candy, "medium", 3.0, 4))
        deeper = with_feather(with_span(film_of(candy, "medium", 3.0, 3), 0.55, 1.0), 0.4, 0.0)
        coats.append(deeper)
    gloss = [p for p in answers.paints if p.kind == "varnish"]
    if gloss:
        shine = min(gloss, key=lambda paint: paint.finish)
        coats.append(Coat(Mixture((Part(shine.name),)), "loaded", 1))
    else:
        assumed.append(tr("A gloss varnish would keep the shine; the rack has none."))
    passage = _plate(answers, tuple(coats))
    yield TemplateMade(1.0, plan_with(tr("Tinted metal"), answers, (passage,)), tuple(assumed))


def _plate(answers: Answered, coats: tuple[Coat, ...]) -> Passage:
    length, area = answers.size()
    return Passage(answers["metal"], length, area, answers.ground(), coats, form="plate")


def _brown(answers: Answered) -> Paint:
    """Return the brown that shades a metal, a wash if there is one; InputError if there is none."""
    for kinds in (("wash",), ("ink", "transparent")):
        browns = [
            (alone_over_white(p)[0], p) for p in answers.paints
            if p.kind in kinds and _BROWN[0] <= alone_over_white(p)[2] <= _BROWN[1]
        ]  # fmt: skip
        if browns:
            return min(browns, key=lambda each: each[0])[1]
    raise InputError(tr("What is wanting is a brown wash or ink; add one to the rack."))


def _metallic(answers: Answered, hue: float | None) -> Paint:
    """Return the metallic paint that glints nearest a hue; without one the least coloured.

    Raises
    ------
    InputError
        If there is no metallic paint.
    """
    metals = [paint for paint in answers.paints if paint.kind == "metallic"]
    if not metals:
        raise InputError(tr("What is wanting is a metallic paint, such as silver; add one."))

    def off(paint: Paint) -> float:
        coat = Coat(Mixture((Part(paint.name),), "water", 0.5), "loaded", 3)
        passage = Passage("metal", coats=(coat,))
        look = ViewingConditions(angle="glint")
        seen = predict(passage, {paint.name: paint}, axis(1), np.zeros(1), look).lch[0, 0]
        if hue is None:
            return float(seen[1])
        return abs((float(seen[2]) - hue + 180) % 360 - 180) + (200 if seen[1] < 12 else 0)

    return min(metals, key=off)


METAL = Template(
    "metal", "Tinted metal", "gold, copper, heated steel, candy", (
        Asks("metal", "Which metal?", "candy", _METALS),
        Asks("colour", "Which colour, if it is candy?", "red", colour=True),
        LARGE, PRIMER, FIGURES,
    ), _metal,
)  # fmt: skip
