"""The command line's stacks: coats over a primer, passes to a colour, and stacks that match."""

from __future__ import annotations

import argparse
import math
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

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
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.drying import whole
from zesty_veil.plan.edits import with_passes, with_thinning
from zesty_veil.plan.model import Ground, Hand, Passage
from zesty_veil.predict.coatsto import coats_to, coats_to_hide, coats_to_solid
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
    if chosen.lab is not None:
        if not all(math.isfinite(v) and abs(v) <= 300 for v in chosen.lab):
            raise InputError("The colour wanted must be three numbers, L a b, none beyond 300.")
        ways = coats_to(np.array(chosen.lab), coat, passage, rack, look=look)
        solid: tuple[int | None, ...] = (None,) * len(ways)
    else:
        ways = coats_to_hide(coat, passage, rack, look=look)
        solid = coats_to_solid(coat, passage, rack, look=look)
    rows, text = [], ""
    for way, eye in zip(ways, solid, strict=True):
        minutes = None
        if way.passes is not None:
            laid = with_passes(with_thinning(coat, way.thinning), max(way.passes, 1))
            minutes = math.ceil(whole(laid, passage)) if way.passes else 0
        rows.append({**way._asdict(), "minutes": minutes, "solid_to_the_eye": eye})
        count = "never" if way.passes is None else f"{way.passes} passes"
        time = "" if minutes is None else f", about {minutes} min"
        strays = "" if way.sensitivity is None else f", strays by dE {way.sensitivity:.1f}"
        first = "" if eye is None else f"solid to the eye in {eye}; "
        text += f"{way.thinning:g}:1  {first}{count}{time}{strays} (dE {way.closest:.1f})\n"
    return rows, text


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
