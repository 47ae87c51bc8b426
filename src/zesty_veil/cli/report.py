"""What the command line says of colours: as JSON and as lines of text."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import hexadecimal
from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Hand, Passage
from zesty_veil.predict.appearance import (
    SurroundName,
    appearance,
    background,
    colour_gain_words,
    complement_of,
    livelier,
    seeming_value,
)
from zesty_veil.predict.field import SITE_RELIEF, Field, field_of, fold
from zesty_veil.predict.look import DAYLIGHT, ViewingConditions, colours
from zesty_veil.predict.sure import ColourUncertainty, sureness
from zesty_veil.predict.words import describe


@dataclass(frozen=True)
class StackQuestion:
    """What is wanted besides the plain colours."""

    look: ViewingConditions = DAYLIGHT
    surround: SurroundName | None = None
    hand: Hand | None = None  # says how sure, by this hand


@dataclass(frozen=True)
class Report:
    """The colours of a passage at some places, and what else was asked for."""

    field: Field
    glint: Field | None = None  # only where there is metal
    appears: Array | None = None  # (n, 3 sites, 3) J, M, h
    sure: ColourUncertainty | None = None
    gains: Array | None = None  # (n, 3 sites) how much stronger colours seem beside their opposite


def report(passage: Passage, paints: Mapping[str, Paint], u: Array, asked: StackQuestion) -> Report:
    """Return the colours of a passage at places `u` (n,) on its three sites."""
    look, relief = asked.look, SITE_RELIEF
    state = fold(passage, passage.coats, paints, u, relief, look)
    glint = None
    if state.mirror is not None:
        there = ViewingConditions(look.light, look.observer, look.finish, "glint")
        glint = field_of(state, u, relief, there)
    appears, gains = None, None
    if asked.surround is not None:
        labs, Y = colours(state, look)
        flat = float(np.mean(Y[:, SITES.index("flat")]))
        beside = None
        if asked.surround == "complementary":
            beside = complement_of(labs[:, SITES.index("flat")])
            gains = livelier(state, look, beside)
        appears = appearance(state, look, background(asked.surround, flat), beside)
    sure = None
    if asked.hand is not None:
        sure = sureness(passage, paints, u, relief, asked.hand, look)
    return Report(field_of(state, u, relief, look), glint, appears, sure, gains)


def report_json(told: Report, place: int) -> dict[str, Any]:
    """Return the three sites at one place, ready for JSON."""
    out: dict[str, Any] = {}
    for i, site in enumerate(SITES):
        entry = _colour(told.field, place, i)
        if told.glint is not None:
            entry["glint"] = _colour(told.glint, place, i)
        if told.appears is not None:
            J, M, h = (round(float(v), 4) for v in told.appears[place, i])
            seems = round(float(seeming_value(np.array(J))), 4)
            entry["appears"] = {"J": J, "M": M, "h": h, "seems_value": seems}
            if told.gains is not None:
                entry["appears"]["stronger"] = round(float(told.gains[place, i]), 4)
        if told.sure is not None:
            entry["sure"] = {
                "lch_10": _numbers(told.sure.low[place, i]),
                "lch_90": _numbers(told.sure.high[place, i]),
                "median_de00": round(float(told.sure.median[place, i]), 4),
            }
        out[site] = entry
    return out


def causes(told: Report) -> dict[str, Any]:
    """Return which uncertainty matters how much, or nothing if that was not asked."""
    if told.sure is None:
        return {}
    each = {cause: round(dE, 4) for cause, dE in told.sure.causes.items()}
    return {"uncertainty": {"median_de00": each, "main": told.sure.main_cause}}


def report_text(told: Report, place: int, indent: str = "") -> str:
    """Return the three sites at one place as lines of text."""
    out = ""
    for i, site in enumerate(SITES):
        out += f"{indent}{site:8}{_words(told.field, place, i)}\n"
        if told.glint is not None:
            out += f"{indent}{'  glint':8}{_words(told.glint, place, i)}\n"
        if told.appears is not None:
            J, M, _ = told.appears[place, i]
            seems = float(seeming_value(J))
            gain = "" if told.gains is None else colour_gain_words(float(told.gains[place, i]))
            more = f"; {gain}" if gain else ""
            out += f"{indent}{'':8}seems value {seems:.1f} (J {J:.1f}, M {M:.1f}){more}\n"
        if told.sure is not None:
            low, high = told.sure.low[place, i], told.sure.high[place, i]
            ranges = "  ".join(
                f"{name} {a:.0f} to {b:.0f}" for name, a, b in zip("LCh", low, high, strict=True)
            )
            dE = told.sure.median[place, i]
            out += f"{indent}{'':8}likely {ranges}; median dE {dE:.1f}\n"
    return out


def causes_text(told: Report, indent: str = "") -> str:
    """Return the uncertainties as one line, or nothing if that was not asked."""
    if told.sure is None:
        return ""
    each = ", ".join(f"{cause} {dE:.1f}" for cause, dE in told.sure.causes.items())
    return f"{indent}uncertain mostly by the {told.sure.main_cause} (median dE: {each})\n"


def _colour(field: Field, place: int, site: int) -> dict[str, Any]:
    return {
        "lab": _numbers(field.lab[place, site]),
        "lch": _numbers(field.lch[place, site]),
        "srgb": hexadecimal(field.rgb[place, site]),
        "in_gamut": bool(field.in_gamut[place, site]),
        "value": round(float(field.value[place, site]), 4),
    }


def _words(field: Field, place: int, site: int) -> str:
    lch, value = field.lch[place, site], float(field.value[place, site])
    L, C, h = lch
    return (
        f"value {value:4.1f}  {describe(lch, value):26}"
        f"L {L:5.1f}  C {C:5.1f}  h {h:5.1f}  {hexadecimal(field.rgb[place, site])}"
    )


def _numbers(values: Array) -> list[float]:
    return [round(float(v), 4) for v in values]
