"""The command line's stacks: coats over a primer, passes to a colour, and stacks that match."""

from __future__ import annotations

import argparse
import math
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from zesty_veil.advise.direct import BothRoutes, Route, both_routes
from zesty_veil.cli.report import (
    StackQuestion,
    causes,
    causes_text,
    report,
    report_json,
    report_text,
)
from zesty_veil.errors import InputError
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.log.athand import paints_at_hand
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.coatwords import coat_words, parse_coat
from zesty_veil.plan.drying import whole
from zesty_veil.plan.edits import with_passes, with_thinning
from zesty_veil.plan.model import Ground, Hand, Passage, coat_name
from zesty_veil.predict.coatsto import (
    LOOKED_AT,
    CoatWay,
    coats_to,
    coats_to_hide,
    coats_to_solid,
)
from zesty_veil.predict.field import axis, fold
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.metamerism import match

_MOST_COATS = 200


def asked_look(chosen: argparse.Namespace, light: str, hand: Hand) -> StackQuestion:
    """Return how a prediction is looked at, by a command's arguments."""
    look = ViewingConditions(light, chosen.observer, chosen.finish)
    # Naming a hand asks how sure it is as well.
    wants_sure = chosen.sure or chosen.hand is not None
    return StackQuestion(look, chosen.surround, (chosen.hand or hand) if wants_sure else None)


def stacked(chosen: argparse.Namespace) -> tuple[Any, str]:
    """Return the prediction of coats over a primer, for JSON and as text."""
    rack = _rack()
    passage = _written(chosen.ground, chosen.coat, rack)
    told = report(passage, rack, axis(1), asked_look(chosen, chosen.light or "D65", "ordinary"))
    return {"sites": report_json(told, 0), **causes(told)}, report_text(told, 0) + causes_text(told)


def coats_counted(chosen: argparse.Namespace) -> tuple[Any, str]:
    """Return the passes to a colour, or to hiding, for JSON and as text."""
    rack = _rack()
    passage = _written(chosen.ground, chosen.coat, rack)
    coat = parse_coat(chosen.using, rack)
    look = ViewingConditions(chosen.light)
    wanted = None
    if chosen.lab is not None:
        if not all(math.isfinite(v) and abs(v) <= 300 for v in chosen.lab):
            raise InputError("The colour wanted must be three numbers, L a b, none beyond 300.")
        wanted = np.array(chosen.lab)
        ways = coats_to(wanted, coat, passage, rack, look=look)
    else:
        ways = coats_to_hide(coat, passage, rack, look=look)
    solid = coats_to_solid(coat, passage, rack, look=look)
    rows, text = [], ""
    for way, eye in zip(ways, solid, strict=True):
        minutes = None
        if way.passes is not None:
            laid = with_passes(with_thinning(coat, way.thinning), max(way.passes, 1))
            minutes = math.ceil(whole(laid, passage)) if way.passes else 0
        after = dict(zip(map(str, LOOKED_AT), (round(v, 2) for v in way.after), strict=True))
        told = {**way._asdict(), "after": after, "minutes": minutes, "solid_to_the_eye": eye}
        rows.append(told)
        text += f"{way.thinning:g}:1  {_count_words(way, eye, minutes, wanted is None)}\n"
    both = both_routes(coat, passage, rack, paints_at_hand(), look, wanted=wanted)
    return {"thinnings": rows, **_routes(both)}, text + _routes_text(both)


def _count_words(way: CoatWay, eye: int | None, minutes: int | None, depth: bool) -> str:
    """Return both figures of a thinning: when it is solid to the eye, and when it is all there."""
    first = "" if eye is None else f"solid to the eye in {eye}; "
    if way.passes is None:
        counts = ", ".join(str(count) for count in LOOKED_AT)
        left = ", ".join(f"{off:.0f}" for off in way.after)
        return f"{first}after {counts} passes still dE {left} off"
    what = "its own depth in" if depth else "there in"
    time = "" if minutes is None else f", about {minutes} min"
    strays = "" if way.sensitivity is None else f", strays by dE {way.sensitivity:.1f}"
    return f"{first}{what} {way.passes} passes{time}{strays} (dE {way.closest:.1f})"


def _routes(both: BothRoutes) -> dict[str, Any]:
    """Return the colour laid straight, and over white, for JSON."""
    routes = {
        name: None if route is None else {
            "coats": [coat_words(coat) for coat in route.coats],
            "passes": route.passes,
            "minutes": math.ceil(route.minutes),
            "de00": round(route.off, 2),
        }
        for name, route in (("direct", both.direct), ("white_first", both.white))
    }  # fmt: skip
    return {
        **routes,
        "obstacles": [each.words for each in both.obstacles],
        "white_pays": both.white_pays,
    }


def _routes_text(both: BothRoutes) -> str:
    text = f"Straight on it: {_route_text(both.direct)}\n"
    if both.obstacles:
        text += f"What stands in the way: {' '.join(each.words for each in both.obstacles)}\n"
    if both.white is not None:
        would = "What would do it: white first" if both.white_pays else "White first"
        text += f"{would}: {_route_text(both.white)}\n"
    return text


def _route_text(route: Route) -> str:
    laid = ", then ".join(
        f"{coat.passes} {'pass' if coat.passes == 1 else 'passes'} of {coat_name(coat)}"
        for coat in route.coats
    )
    return f"{laid}, about {math.ceil(route.minutes)} min, dE {route.off:.1f}."


def compared(chosen: argparse.Namespace) -> tuple[Any, str]:
    """Return under which lights two stacks match, for JSON and as text."""
    rack = _rack()
    one, other = (
        fold(passage, passage.coats, rack, axis(1), np.zeros(1))
        for passage in (
            _written(chosen.ground, chosen.coat, rack),
            _written(chosen.other_ground or chosen.ground, chosen.other, rack),
        )
    )
    found = match(one, other, chosen.light, chosen.observer)
    text = "".join(f"{LIGHTS[n]} ({n}): dE {dE:.1f}\n" for n, dE in found.under.items())
    if found.breaks:
        text += f"The match under {chosen.light} breaks under {', '.join(found.breaks)}.\n"
    return {"de00": found.under, "breaks_under": list(found.breaks)}, text


def _rack() -> dict[str, Paint]:
    return {paint.name: paint for paint in paints_at_hand()}


def _written(ground: str, words: Sequence[str], rack: Mapping[str, Paint]) -> Passage:
    if len(words) > _MOST_COATS:
        raise InputError(f"There are {len(words)} coats; give at most {_MOST_COATS}.")
    coats = tuple(parse_coat(each, rack) for each in words)
    return Passage("stack", ground=Ground(ground), coats=coats)  # type: ignore[arg-type]
