"""The command line's sittings: what to lay when, and how many drops of what."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from zesty_veil.aside import aside
from zesty_veil.bench.air import USUAL_C, USUAL_HUMIDITY, Air
from zesty_veil.bench.amounts import Pot, pots, totals
from zesty_veil.bench.schedule import Changes, Placed, Schedule
from zesty_veil.bench.sessions import split_sessions
from zesty_veil.bench.tasks import Pass, laid_on, tasks
from zesty_veil.errors import InputError
from zesty_veil.plan.fileformat import load
from zesty_veil.plan.model import Plan, coat_name


def schedule_arguments(job: argparse.ArgumentParser) -> None:
    """Give a parser the arguments of a schedule."""
    job.add_argument("plan", type=Path, metavar="PLAN.veil")
    job.add_argument("--figures", type=int, metavar="N", help="painted in rotation")
    job.add_argument("--evening", type=float, metavar="MINUTES", help="split it into sittings")
    job.add_argument("--celsius", type=float, default=USUAL_C, metavar="DEGREES")
    job.add_argument("--humidity", type=float, default=USUAL_HUMIDITY, metavar="PERCENT")
    job.add_argument("--hairdryer", action="store_true")
    job.add_argument("--retarder", action="store_true", help="a drop of it in every mixture")
    job.add_argument("--json", action="store_true")


def scheduled_plan(chosen: argparse.Namespace) -> tuple[Any, str]:
    """Return a plan's sittings for JSON and as text.

    Raises
    ------
    InputError, FileError
        With one sentence.
    """
    plan = load(chosen.plan, aside)
    air = Air(chosen.celsius, chosen.humidity, chosen.hairdryer, chosen.retarder)
    if chosen.evening is not None and not chosen.evening > 0:
        raise InputError(f"An evening of {chosen.evening:g} minutes: it must be more than 0.")
    if chosen.figures is not None:
        plan = replace(plan, figures=chosen.figures)
    chains = tasks(plan, air)
    if not chains:
        raise InputError("There is nothing to lay in this plan; add a coat first.")
    found = split_sessions(chains, chosen.evening, Changes())
    rows = [_sitting(plan, one) for one in found]
    drops = [_pot(plan, pot) for pot in pots(plan, plan.rack())]
    batch = [{"paint": name, "ul": round(ul, 1), "drops": n} for name, ul, n in totals(plan)]
    told = {"title": plan.title, "sittings": rows, "drops": drops, "batch": batch}
    return told, _text(rows, drops, batch)


def _pot(plan: Plan, pot: Pot) -> dict[str, Any]:
    drops = pot.drops
    return {
        "passages": sorted({plan.passages[p].name for p, _ in pot.where}),
        "paints": dict(drops.paints),
        "thinner": pot.mixture.thinner,
        "thinner_drops": drops.thinner,
        "needed_ul": round(drops.needed_ul, 2),
        "ratio_error": round(drops.ratio_error, 4),
        "de00": round(drops.de00, 2),
    }


def _sitting(plan: Plan, one: Schedule) -> dict[str, Any]:
    return {
        "minutes": round(one.makespan, 1),
        "idle": round(one.idle, 1),
        "bound": round(one.bound, 1),
        "pots_at_once": one.pots_at_once,
        "steps": [_step(plan, placed) for placed in one.placed],
    }


def _step(plan: Plan, one: Placed) -> dict[str, Any]:
    what = one.work.what
    assert isinstance(what, Pass)
    passage = plan.passages[what.passage]
    coat = laid_on(passage)[what.coat]
    return {
        "figure": one.work.figure + 1,
        "passage": passage.name,
        "coat": coat_name(coat),
        "pass": what.number + 1,
        "of": coat.passes,
        "start": round(one.start, 1),
        "end": round(one.end, 1),
        "dry": round(one.dry, 1),
    }


def _text(rows: list[dict[str, Any]], drops: list[dict[str, Any]], batch: list[Any]) -> str:
    out = ""
    for number, row in enumerate(rows, 1):
        out += (
            f"Sitting {number}: {row['minutes']:.0f} min, {row['idle']:.0f} of them idle, "
            f"{row['pots_at_once']} pots wet at once\n"
        )
        for step in row["steps"]:
            out += (
                f"  {step['start']:5.0f} min  figure {step['figure']}, {step['passage']}: "
                f"{step['coat']}, pass {step['pass']} of {step['of']}\n"
            )
    out += "Drops\n"
    for each in drops:
        paints = ", ".join(f"{n} {name}" for name, n in each["paints"].items())
        off = f"; rounding shifts it by dE {each['de00']:.1f}" if each["de00"] > 1 else ""
        thinner = f", {each['thinner_drops']} {each['thinner']}" if each["thinner_drops"] else ""
        out += f"  {paints}{thinner}: {', '.join(each['passages'])}{off}\n"
    for each in batch:
        out += f"  in all {each['ul']:.0f} ul of {each['paint']}, {each['drops']} drops or more\n"
    return out
