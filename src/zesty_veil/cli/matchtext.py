"""What a match found, as text to read and as something for JSON."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from zesty_veil.advise.match.along import in_order
from zesty_veil.advise.match.pareto import closer_but_more
from zesty_veil.advise.match.recipe import Answers, MatchRequest, Recipe
from zesty_veil.light.srgb import hexadecimal, srgb
from zesty_veil.plan.coatwords import coat_words
from zesty_veil.plan.model import Coat, ground_words
from zesty_veil.plan.placewords import place_words
from zesty_veil.predict.look import on_screen
from zesty_veil.services.finding import helping_words


def match_text(request: MatchRequest, found: Answers) -> str:
    """Return the ways as lines, and why there is none nearer."""
    if not request.rescue:
        text, closer = "", closer_but_more(found.ways)
        for i, each in enumerate(found.ways):
            if closer[i] and not any(closer[:i]):
                text += "Closer, but more work:\n"
            text += f"{i + 1}. {_way_text(each, request)}"
        return text + _why_text(found)
    text = ""
    for words, covers, none in (
        ("Going on", False, "nothing comes near that doesn't hide what is there."),
        ("Covering first", True, "no paint at hand hides what is there."),
    ):
        way = _nearest(found, covers)
        text += f"{words}: {none}\n" if way is None else f"{words}: {_way_text(way, request)}"
    return text + _why_text(found)


def match_json(request: MatchRequest, found: Answers) -> Any:
    """Return the ways for JSON, colours in CIELAB and sRGB, differences in dE00."""
    targets = [
        {
            "place": t.place,
            "site": t.site,
            "lab": list(t.lab),
            "colour": hexadecimal(srgb(np.array(t.lab))[0]),
        }
        for t in in_order(request.targets)
    ]
    out: dict[str, Any] = {
        "targets": targets,
        "ways": [_way(way, request) for way in found.ways],
        "why_not": _why(found),
    }
    if request.rescue:
        for key, covers in (("going_on", False), ("covering", True)):
            way = _nearest(found, covers)
            out[key] = None if way is None else _way(way, request)
    return out


def _nearest(found: Answers, covers: bool) -> Recipe | None:
    return next((way for way in found.ways if way.covers is covers), None)


def _along(request: MatchRequest) -> bool:
    return len(request.targets) > 1


def _way(way: Recipe, request: MatchRequest) -> dict[str, Any]:
    out: dict[str, Any] = {
        "ground": ground_words(request.bases[way.base].ground),
        "coats": [
            {"words": coat_words(coat), "span": list(coat.span), "feather": list(coat.feather)}
            for coat in way.coats
        ],
        "de00": [round(off, 3) for off in way.delta_e],
        "mean_de00": round(way.mean, 3),
        "minutes": math.ceil(way.minutes),
        "mixtures": way.pots,
        "touchy_de00": round(way.sensitivity, 2),
        "covers": way.covers,
        "words": way.words,
        "passes": sum(coat.passes for coat in way.coats),
    }
    if way.lab is not None:
        out["lab"] = [round(float(v), 3) for v in way.lab]
        out["colour"] = hexadecimal(on_screen(way.lab, request.look)[0])
    return out


def _way_text(way: Recipe, request: MatchRequest) -> str:
    off = f"dE {way.mean:.1f}"
    if _along(request):
        each = ", ".join(f"{off:.1f}" for off in way.delta_e)
        off = f"mean dE {way.mean:.1f} ({each})"
    pots = f"{way.pots} mixture{'' if way.pots == 1 else 's'}"
    where = f" on {ground_words(request.bases[way.base].ground)}" if len(request.bases) > 1 else ""
    strays = f"strays by {way.sensitivity:.1f}"
    count = sum(coat.passes for coat in way.coats)
    passes = f"{count} pass{'' if count == 1 else 'es'}"
    head = f"{off}{where}, {passes}, about {math.ceil(way.minutes)} min, {pots}, {strays}\n"
    head += f"   {way.words}\n" if way.words else ""
    lines = (_reach_words(coat) if _along(request) else coat_words(coat) for coat in way.coats)
    coats = "".join(f"   {line}\n" for line in lines)
    return head + (coats or "   (nothing: it is there already)\n")


def _reach_words(coat: Coat) -> str:
    return f"{coat_words(coat)}; {place_words(coat)}"


def _why(found: Answers) -> dict[str, Any] | None:
    reason = found.why
    if reason is None:
        return None
    L, C, h = (round(v, 2) for v in reason.delta_e)
    return {
        "place": None if found.where is None else found.where.place,
        "L": L,
        "C": C,
        "h": h,
        "reasons": list(reason.reasons),
        "paint": None if reason.paint is None else reason.paint.name,
        "de00_with_it": None if reason.paint is None else round(reason.with_paint, 2),
    }


def _why_text(found: Answers) -> str:
    reason = found.why
    if reason is None:
        return ""
    where = f" at {100 * found.where.place:.0f} %" if found.where is not None else ""
    out = f"Why not nearer{where}: " + " ".join(reason.reasons) + "\n"
    helps = helping_words(reason)
    return out + (f"{helps}\n" if helps else "")
