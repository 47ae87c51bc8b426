"""The command line's ladders: steps between pots, in whole drops."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from zesty_veil.advise.ladder import (
    LADDER_ENDS,
    LADDER_STYLES,
    Rung,
    ladder,
    pairs_from,
)
from zesty_veil.aside import aside
from zesty_veil.cli.passages import passage_number
from zesty_veil.errors import InputError
from zesty_veil.light.srgb import hexadecimal, srgb
from zesty_veil.log.athand import paints_at_hand
from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.primer import PRIMERS
from zesty_veil.paint.rack import find
from zesty_veil.plan.coatwords import coat_words
from zesty_veil.plan.fileformat import load
from zesty_veil.plan.model import Ground, Passage, Plan
from zesty_veil.plan.placewords import place_words
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.services.ladders import LadderRequest, coats_on, laid_ladder
from zesty_veil.services.looks import save_plan

_LEAST_SHARE = 20  # percent


def ladder_arguments(job: argparse.ArgumentParser) -> None:
    """Give a parser the arguments of a ladder."""
    job.add_argument(
        "--pot", action="append", default=[], metavar="PAINT", help="in order; two to four"
    )
    job.add_argument("--steps", type=int, default=5, metavar="N", help="the pots among them")
    job.add_argument(
        "--style", default="even", choices=LADDER_STYLES, help="pairs: A, A+B, B, B+C, C"
    )
    job.add_argument("--towards", default="far", choices=LADDER_ENDS, help="where later steps are")
    job.add_argument(
        "--share", type=float, default=100.0, metavar="PERCENT",
        help="of the axis, which later steps take; the rest stays the first pot's",
    )  # fmt: skip
    job.add_argument("--site", action="append", choices=SITES, help="that later steps reach")
    job.add_argument("--ground", default="white", choices=PRIMERS)
    job.add_argument("--plan", type=Path, metavar="PLAN.veil", help="lay it on a passage of a plan")
    job.add_argument("--passage", metavar="NAME", help="of the plan; the first if none is named")
    job.add_argument("-o", "--out", type=Path, metavar="OUT.veil", help="write the plan with it")
    job.add_argument("--json", action="store_true")


def laddered(chosen: argparse.Namespace) -> tuple[Any, str]:
    """Return the steps of a ladder, for JSON and as text.

    Raises
    ------
    InputError, PaintError, FileError
        With one sentence.
    """
    rack = paints_at_hand()
    pots = [find(name, rack) for name in chosen.pot]
    if not pots:
        raise InputError("Name the pots with --pot, two to four of them in order.")
    if chosen.out is not None and chosen.plan is None:
        raise InputError("--out writes a plan; say which with --plan.")
    look = ViewingConditions()
    plan, index = _plan(chosen)
    passage = plan.passages[index]
    if len(pots) == 1:
        rows, text = [], ""
        for other, labs, mud in pairs_from(pots[0], rack, passage, plan.paints, look):
            colours = [hexadecimal(rgb) for rgb in srgb(labs)[0]]
            rows.append({"pot": other.name, "between": colours, "mud": mud or None})
            through = f", through {mud}" if mud else ""
            text += f"{other.name}: {' '.join(colours[2:-2:2])}{through}\n"
        return rows, text
    sites = tuple(site for site in SITES if not chosen.site or site in chosen.site)
    found = ladder(pots, chosen.steps, passage, plan.paints, look, chosen.style)
    if not _LEAST_SHARE <= chosen.share <= 100:
        raise InputError(f"--share {chosen.share:g}: choose {_LEAST_SHARE} to 100.")
    asked = LadderRequest(
        plan, index, tuple(pot.name for pot in pots), rack, look, chosen.steps, chosen.style,
        chosen.towards, sites, chosen.share / 100,
    )  # fmt: skip
    if chosen.out is not None:
        save_plan(laid_ladder(asked, found), chosen.out)
    coats = coats_on(passage, asked, found)
    text = "".join(_rung_text(rung) for rung in found.rungs)
    if found.mud:
        text += f"Between them it goes through {found.mud}.\n"
    for coat in coats:
        text += f"  {coat_words(coat)}; {place_words(coat)}\n"
    told = {
        "steps": [_rung(rung) for rung in found.rungs],
        "mud": found.mud or None,
        "coats": [
            {"words": coat_words(c), "span": list(c.span), "where": place_words(c)} for c in coats
        ],
    }
    return told, text


def _plan(chosen: argparse.Namespace) -> tuple[Plan, int]:
    if chosen.plan is None:
        return Plan("ladder", (Passage("ladder", ground=Ground(chosen.ground)),)), 0
    plan = load(chosen.plan, aside)
    return plan, passage_number(plan, chosen.passage)


def _drops(rung: Rung) -> str:
    return " + ".join(f"{part.paint} {part.parts:g}" for part in rung.parts)


def _rung(rung: Rung) -> dict[str, Any]:
    return {
        "drops": {part.paint: part.parts for part in rung.parts},
        "lab": [round(float(v), 3) for v in rung.lab],
        "colour": hexadecimal(srgb(rung.lab)[0]),
        "share": round(rung.share, 4),
        "de00": round(rung.step, 3),
    }


def _rung_text(rung: Rung) -> str:
    colour = hexadecimal(srgb(rung.lab)[0])
    return f"{100 * rung.share:3.0f} %  {colour}  {_drops(rung)}  (dE {rung.step:.1f})\n"
