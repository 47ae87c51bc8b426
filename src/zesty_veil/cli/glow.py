"""The command line's fires and glows."""

from __future__ import annotations

import argparse
import math
from dataclasses import replace as replace_limits
from pathlib import Path
from typing import Any

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.fire import COLD_K, FIRE_SCHOOLS, HOT_K, fire
from zesty_veil.advise.glow.painted import Painted
from zesty_veil.advise.glow.painting import SCHOOLS as GLOW_SCHOOLS
from zesty_veil.advise.glow.painting import (
    USUAL_LIMITS,
    changes,
    painted,
    with_hindrances,
    with_painting,
)
from zesty_veil.advise.glow.usual import glow_now, off_figure, usual_shadow, with_colour
from zesty_veil.aside import aside
from zesty_veil.cli.passages import passage_number
from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lch, xyz_from_lab
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import white
from zesty_veil.light.srgb import hexadecimal, srgb
from zesty_veil.light.value import value
from zesty_veil.log.athand import paints_at_hand
from zesty_veil.plan import edits
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.coatwords import coat_words
from zesty_veil.plan.fileformat import load
from zesty_veil.plan.glow import CORES, Glow, Place3, Surface
from zesty_veil.plan.model import Plan, ground_words
from zesty_veil.plan.placewords import place_words
from zesty_veil.predict.words import describe
from zesty_veil.services.colours import parse_colour
from zesty_veil.services.looks import save_plan
from zesty_veil.tr import tr


def fire_arguments(job: argparse.ArgumentParser) -> None:
    """Give a parser the arguments of a fire."""
    job.add_argument("--school", default="deep", choices=FIRE_SCHOOLS)
    job.add_argument("--steps", type=int, default=6, metavar="N")
    job.add_argument("--hot", type=float, default=HOT_K, metavar="K", help="at the light")
    job.add_argument("--cold", type=float, default=COLD_K, metavar="K", help="at the tips")
    job.add_argument("--hue", type=float, default=140.0, metavar="DEGREES", help="for single")
    job.add_argument("--json", action="store_true", help="as match --ramp reads it")


def fired(chosen: argparse.Namespace) -> tuple[Any, str]:
    """Return a fire as something for JSON and as text; raises InputError with one sentence."""
    made = fire(chosen.school, chosen.steps, chosen.hot, chosen.cold, chosen.hue)
    rows = [_row(place, lab) for place, lab in zip(np.linspace(0, 1, len(made)), made, strict=True)]
    text = "".join(
        f"{100 * row['place']:3.0f} %  {row['target']}  value {row['value']:.1f}  {row['words']}\n"
        for row in rows
    )
    return rows, text


def glow_arguments(job: argparse.ArgumentParser) -> None:
    """Give a parser the arguments of a glow."""
    job.add_argument("plan", type=Path, metavar="PLAN.veil")
    job.add_argument("--school", default="inward", choices=GLOW_SCHOOLS)
    job.add_argument("--kelvin", type=float, metavar="K", help="of the fire")
    job.add_argument("--colour", metavar="COLOUR", help="of the light, where it is no fire")
    job.add_argument("--core", choices=tuple(CORES), help="how its near-white heart fades")
    job.add_argument("--radius", type=float, metavar="MM")
    job.add_argument("--strength", type=float, metavar="TIMES", help="white at the light; 1 is day")
    job.add_argument("--rings", type=int, metavar="N")
    job.add_argument(
        "--light-wins",
        type=float,
        metavar="SHARE",
        help="0: the surface's colour times the light's; 1: the light's own",
    )
    job.add_argument(
        "--off-figure", action="store_true", help="the light is beside the figure, not painted"
    )
    job.add_argument(
        "--on", action="append", default=[], metavar="PASSAGE", help="what a light off it falls on"
    )
    job.add_argument(
        "--shadow",
        action="append",
        default=[],
        nargs=2,
        metavar=("PASSAGE", "OF"),
        help="what stands between the light and a passage; OF@X,Y,Z says where its middle is",
    )
    job.add_argument("--keep", action="store_true", help="keep the coats there are, lay over them")
    job.add_argument("--second", metavar="COLOUR", help="of a second light, from the other side")
    job.add_argument("--flame", metavar="FIRE", help="paint the source too: a school, or own fire")
    job.add_argument("--max-coats", type=int, default=USUAL_LIMITS.coats, metavar="N")
    job.add_argument("-o", "--out", type=Path, metavar="OUT.veil", help="write the plan with it")
    job.add_argument("--json", action="store_true")


def glowed(chosen: argparse.Namespace) -> tuple[Any, str]:
    """Return a glow's rings and what is achieved, for JSON and as text.

    Raises
    ------
    InputError, FileError
        With one sentence.
    """
    plan = load(chosen.plan, aside)
    glow = _glow(plan, chosen)
    check_plan(edits.set_glow(plan, glow))
    how = (paints_at_hand(), replace_limits(USUAL_LIMITS, coats=chosen.max_coats), chosen.flame)
    *_, done = painted(plan, glow, chosen.school, *how, keep=chosen.keep)
    for each in with_hindrances(plan, done, chosen.school, *how[:2]):
        done = each
    if chosen.out is not None:
        save_plan(with_painting(plan, glow, done, paints_at_hand()), chosen.out)
    rows = [_passage(plan, one) for one in done]
    text = "".join(_passage_text(row) for row in rows)
    source = glow.source or None
    return {"source": source, "school": chosen.school, "passages": rows}, text


def _glow(plan: Plan, chosen: argparse.Namespace) -> Glow:
    own = plan.glow is not None and not plan.glow.source and not chosen.on
    if chosen.off_figure and not own:
        glow = off_figure(plan, [passage_number(plan, name) for name in chosen.on] or None)
    elif chosen.on:
        raise InputError("--on says what a light off the figure falls on; give --off-figure too.")
    else:
        glow = glow_now(plan)
    changed = {
        "kelvin": chosen.kelvin,
        "radius_mm": chosen.radius,
        "strength": chosen.strength,
        "rings": chosen.rings,
        "wins": chosen.light_wins,
    }
    glow = replace(glow, **{key: v for key, v in changed.items() if v is not None})
    if chosen.colour is not None:
        L, a, b = parse_colour(chosen.colour)
        glow = with_colour(glow, (L, a, b))
    if chosen.core is not None:
        glow = replace(glow, core=CORES[chosen.core])
    if chosen.second is not None:
        L, a, b = parse_colour(chosen.second)
        glow = replace(glow, second=(L, a, b))
    for on, of in chosen.shadow:
        glow = _with_shadow(plan, glow, on, of)
    return glow


def _with_shadow(plan: Plan, glow: Glow, on: str, of: str) -> Glow:
    """Return a glow in which a passage stands in the light before another one."""
    lit = plan.passages[passage_number(plan, on)].name
    name, at, where = of.rpartition("@")
    by = plan.passages[passage_number(plan, name if at else of)].name
    if lit not in {surface.passage for surface in glow.surfaces}:
        raise InputError(tr("The light does not fall on {0}, so nothing shadows it.").format(lit))

    def shadowed(surface: Surface) -> Surface:
        if surface.passage != lit:
            return surface
        shadow = usual_shadow(surface, by)
        if at:
            shadow = replace(shadow, place=_place(where))
        return replace(surface, shadow=shadow)

    return replace(glow, surfaces=tuple(map(shadowed, glow.surfaces)))


def _place(words: str) -> Place3:
    try:
        x, y, z = (float(number) for number in words.split(","))
    except ValueError:
        raise InputError(
            tr(
                "'{0}' isn't a place. Give three numbers, such as --shadow banner head@0.2,0,0.9."
            ).format(words)
        ) from None
    return x, y, z


def _passage(plan: Plan, one: Painted) -> dict[str, Any]:
    assert one.answer is not None
    rings = one.lit.ringed.rings if one.lit is not None else ()
    steps = []
    for i, (target, off) in enumerate(zip(one.targets, one.answer.delta_e, strict=True)):
        row = _row(target.place, np.array(target.lab))
        ring = rings[i] if i < len(rings) else None
        where: dict[str, Any] = {"ring": None if ring is None else ring.number}
        if ring is not None:
            where |= {"outer_mm": round(ring.end_mm, 2), "light": round(ring.light, 4)}
            where |= {"shadowed": round(ring.shadowed, 3)} if ring.shadowed else {}
        gap = bool(rings) and len(rings) <= i < len(one.targets) - 1
        steps.append({**where, **row, "gap": gap, "de00": round(off, 3)})
    why = None
    if one.why is not None and one.where is not None:
        helps = {} if one.why.paint is None else {"paint": one.why.paint.name}
        why = {"place": one.where.place, "reasons": list(one.why.reasons), **helps}
    return {
        "passage": plan.passages[one.passage].name,
        "ground": ground_words(plan.passages[one.passage].ground),
        "changes": changes(plan, one),
        "words": one.answer.words,
        "rings": steps,
        "coats": [
            {
                "words": coat_words(c),
                "span": list(c.span),
                "feather": list(c.feather),
                "where": place_words(c),
            }
            for c in one.answer.coats
        ],
        "mean_de00": round(one.answer.mean, 3),
        "worst_de00": round(one.answer.worst, 3),
        "why": why,
        "minutes": math.ceil(one.answer.minutes),
    }


def _passage_text(row: dict[str, Any]) -> str:
    off = f"Mean dE {row['mean_de00']:.1f}, worst {row['worst_de00']:.1f}."
    out = f"{row['changes']} {off}\n"
    for step in row["rings"]:
        where = f"at {100 * step['place']:.0f} %" if step["place"] < 1 else "away"
        if step["gap"]:
            where = "the dark gap"
        if "outer_mm" in step:
            where = f"ring {step['ring']}, to {step['outer_mm']:.1f} mm"
        value_words = f"value {step['value']:.1f}  {step['words']}  dE {step['de00']:.1f}"
        shadowed = step.get("shadowed", 0)
        shade = tr("  {0:.0f} % in shadow").format(100 * shadowed) if shadowed else ""
        out += f"  {where}: {step['target']}  {value_words}{shade}\n"
    if row["why"] is not None:
        out += f"  at {100 * row['why']['place']:.0f} %: {' '.join(row['why']['reasons'])}\n"
    if row["words"]:
        out += f"  {row['words']}\n"
    for coat in row["coats"]:
        out += f"  {coat['words']}; {coat['where']}\n"
    return out


def _row(place: float, lab: Array) -> dict[str, Any]:
    seen = float(value(xyz_from_lab(lab, white())[1]))
    return {
        "place": round(float(place), 4),
        "target": hexadecimal(srgb(lab)[0]),
        "lab": [round(float(v), 3) for v in lab],
        "value": round(seen, 2),
        "words": describe(lch(lab), seen),
    }
