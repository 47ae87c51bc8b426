"""The command line's match: wanted colours in, ways to them out, as text or JSON."""

from __future__ import annotations

import argparse
import math
from pathlib import Path
from typing import Any

import msgspec
import numpy as np

from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.ramp import MOST_TARGETS, RampWay, ramp_ways
from zesty_veil.advise.match.rescue import measured, now_on, rescue
from zesty_veil.advise.match.search import Matcher, Way
from zesty_veil.advise.match.whynot import WhyNot, why_not
from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.light.srgb import hexadecimal, lab_of, parsed, srgb
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.primer import PRIMERS
from zesty_veil.paint.rack import demo_rack, find
from zesty_veil.plan.coatwords import coat_words
from zesty_veil.plan.fileformat import load
from zesty_veil.plan.model import Coat, Ground, Passage, Plan, Primer
from zesty_veil.predict.layer import State
from zesty_veil.predict.look import Look
from zesty_veil.predict.named import named

_MOST_RAMP_BYTES = 100_000


class _RampTarget(msgspec.Struct, forbid_unknown_fields=True):
    place: float
    target: str


def match_arguments(job: argparse.ArgumentParser) -> None:
    """Give a parser the arguments of a match."""
    job.add_argument("--target", metavar="COLOUR", help="#rrggbb, L,a,b, or words: 'strong orange'")
    job.add_argument("--ramp", type=Path, metavar="FILE.json", help="a list of place and target")
    job.add_argument("--ground", default="white", choices=PRIMERS)
    job.add_argument("--on", metavar="COLOUR", help="measured on the figure, of unknown layers")
    job.add_argument("--plan", type=Path, metavar="PLAN.veil", help="start from what it comes to")
    job.add_argument("--passage", metavar="NAME", help="of the plan; the first if none is named")
    job.add_argument("--place", type=float, default=0.5, help="on its axis, 0 (light) to 1")
    job.add_argument("--after", type=int, metavar="N", help="after its first N coats")
    job.add_argument("--rack", default="demo", choices=("demo",))
    job.add_argument("--only", action="append", default=[], metavar="PAINT", help="use these alone")
    job.add_argument("--without", action="append", default=[], metavar="PAINT")
    job.add_argument("--tool", action="append", metavar="TOOL", help="at hand; may be repeated")
    job.add_argument("--max-coats", type=int, default=4, metavar="N")
    job.add_argument("--max-passes", type=int, default=24, metavar="N")
    job.add_argument("--max-minutes", type=float, metavar="MIN")
    job.add_argument("--max-mixes", type=int, default=2, metavar="N", help="pots of two paints")
    job.add_argument("--rescue", action="store_true", help="compare going on with covering first")
    job.add_argument("--light", default="D65", choices=tuple(LIGHTS))
    job.add_argument("--json", action="store_true")


def matched(chosen: argparse.Namespace) -> tuple[Any, str]:
    """Return what the command line's match found, as something for JSON and as text.

    Raises
    ------
    InputError, PaintError, PlanFileError
        With one sentence.
    """
    if (chosen.target is None) == (chosen.ramp is None):
        raise InputError("Give either --target or --ramp.")
    paints, state = _paints(chosen), _ground(chosen)
    limits = Limits(
        chosen.max_coats, chosen.max_passes, chosen.max_minutes, chosen.max_mixes,
        tuple(chosen.tool) if chosen.tool else Limits().tools,
    )  # fmt: skip
    look = Look(chosen.light)
    if chosen.ramp is not None:
        return _ramp(chosen.ramp, state, paints, limits, look)
    target = colour(chosen.target)
    matcher = Matcher(state, paints, limits, look)
    if chosen.rescue:
        found = rescue(matcher, target)
        assert found is not None
        both = {"going_on": found.going_on, "covering": found.covering}
        text = ""
        for words, way in (("Going on", found.going_on), ("Covering first", found.covering)):
            text += f"{words}:\n{_way_text(way)}" if way is not None else f"{words}: no way.\n"
        return {k: None if w is None else _way(w) for k, w in both.items()}, text
    *_, ways = matcher.ways(target)
    white = _primed("white")
    reason = why_not(matcher, ways[0], target, white, demo_rack())
    return (
        {"target": hexadecimal(srgb(target)[0]), "ways": [_way(way) for way in ways],
         "why_not": None if reason is None else _why(reason)},
        "".join(f"{i}. {_way_text(way)}" for i, way in enumerate(ways, 1)) + _why_text(reason),
    )  # fmt: skip


def colour(words: str) -> Array:
    """Return the CIELAB of a colour written as #rrggbb, as three numbers L,a,b, or in words.

    Raises
    ------
    InputError
        If it is written otherwise.
    """
    if words.strip().startswith("#"):
        return lab_of(parsed(words))
    if "," not in words:
        return named(words)
    try:
        numbers = [float(piece) for piece in words.split(",")]
    except ValueError:
        numbers = []
    if len(numbers) != 3 or not all(math.isfinite(v) and abs(v) <= 300 for v in numbers):
        raise InputError(f"'{words}' is no colour; write #rrggbb, or L,a,b as three numbers.")
    return np.array(numbers)


def _paints(chosen: argparse.Namespace) -> tuple[Paint, ...]:
    rack = demo_rack()
    if chosen.only:
        rack = tuple(find(name, rack) for name in dict.fromkeys(chosen.only))
    without = {find(name, demo_rack()).name for name in chosen.without}
    return tuple(paint for paint in rack if paint.name not in without)


def _primed(primer: Primer) -> State:
    passage = Passage("matched", ground=Ground(primer))
    return now_on(passage, {}, 0.5)


def _ground(chosen: argparse.Namespace) -> State:
    """Return what is there now: a primer, a measured colour, or a place of a plan."""
    if chosen.on is not None:
        return measured(colour(chosen.on), Look(chosen.light))
    if chosen.plan is None:
        return _primed(chosen.ground)
    plan = load(chosen.plan)
    passage = _passage(plan, chosen.passage)
    if not 0 <= chosen.place <= 1:
        raise InputError(f"--place is {chosen.place:g}; it must be from 0 (light) to 1 (away).")
    return now_on(passage, plan.rack(), chosen.place, coats=chosen.after)


def _passage(plan: Plan, name: str | None) -> Passage:
    for passage in plan.passages:
        if name is None or passage.name.casefold() == name.casefold():
            return passage
    names = ", ".join(f"'{passage.name}'" for passage in plan.passages) or "none"
    raise InputError(f"There is no passage '{name}' in the plan; it has {names}.")


def _ramp(
    path: Path, state: State, paints: tuple[Paint, ...], limits: Limits, look: Look
) -> tuple[Any, str]:
    try:
        raw = path.read_bytes()[: _MOST_RAMP_BYTES + 1]
        targets = msgspec.json.decode(raw, type=list[_RampTarget])
    except OSError as error:
        why = (error.strerror or "it is out of reach").lower()
        raise InputError(f"{path} cannot be read: {why}; check the path.") from None
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        raise InputError(
            f'{path} is no ramp; write a list such as [{{"place": 0, "target": "#ffd040"}}, …] '
            f"of up to {MOST_TARGETS}."
        ) from None
    places = [target.place for target in targets]
    if not all(0 <= place <= 1 for place in places):
        raise InputError(f"{path}: places must be from 0 (light) to 1 (away).")
    labs = np.array([colour(target.target) for target in targets]).reshape(-1, 3)
    answers = list(ramp_ways(state, paints, limits, look, places, labs))
    if not answers:
        raise InputError("There is nothing to lay; allow more paints or tools.")
    ways = answers[-1]
    text = ""
    for i, way in enumerate(ways, 1):
        off = ", ".join(f"{each:.1f}" for each in way.off)
        text += f"{i}. mean dE {way.mean:.1f} ({off}), about {way.minutes:.0f} min\n"
        text += "".join(f"   {_reach_words(coat)}\n" for coat in way.coats)
    return [_ramp_way(way) for way in ways], text


def _reach_words(coat: Coat) -> str:
    start, end = (round(100 * place) for place in coat.span)
    near, far = (round(100 * feather) for feather in coat.feather)
    words = f"{coat_words(coat)}; {start} to {end} % of the axis"
    if near or far:
        words += f", feathered over {near or far} %"
    return words


def _coat(coat: Coat) -> dict[str, Any]:
    return {"words": coat_words(coat), "span": list(coat.span), "feather": list(coat.feather)}


def _way(way: Way) -> dict[str, Any]:
    return {
        "coats": [coat_words(coat) for coat in way.coats],
        "colour": hexadecimal(srgb(way.lab)[0]),
        "lab": [round(float(v), 3) for v in way.lab],
        "de00": round(way.off, 3),
        "minutes": math.ceil(way.minutes),
        "mixtures": way.pots,
        "touchy_de00": round(way.touchy, 2),
    }


def _ramp_way(way: RampWay) -> dict[str, Any]:
    return {
        "coats": [_coat(coat) for coat in way.coats],
        "de00": [round(off, 3) for off in way.off],
        "mean_de00": round(way.mean, 3),
        "nested_towards": way.towards,
        "minutes": math.ceil(way.minutes),
        "mixtures": way.pots,
    }


def _way_text(way: Way) -> str:
    head = (
        f"dE {way.off:.1f}, about {math.ceil(way.minutes)} min, {way.pots} "
        f"mixture{'' if way.pots == 1 else 's'}, strays by dE {way.touchy:.1f}\n"
    )
    coats = "".join(f"   {coat_words(coat)}\n" for coat in way.coats)
    return head + (coats or "   (nothing: it is there already)\n")


def _why(reason: WhyNot) -> dict[str, Any]:
    L, C, h = (round(v, 2) for v in reason.off)
    return {
        "L": L,
        "C": C,
        "h": h,
        "reasons": list(reason.reasons),
        "paint": None if reason.paint is None else reason.paint.name,
        "de00_with_it": None if reason.paint is None else round(reason.with_paint, 2),
    }


def _why_text(reason: WhyNot | None) -> str:
    if reason is None:
        return ""
    out = "Why not nearer: " + " ".join(reason.reasons) + "\n"
    if reason.paint is not None:
        codes = ", ".join(reason.paint.pigments)
        out += (
            f"What would help most: {reason.paint.name} ({reason.paint.kind}, {codes}); with it "
            f"dE {reason.with_paint:.1f}.\n"
        )
    return out
