"""Fit the shipped materials to how such paints look: pigments, pots and dyes, by least squares.

Every fit starts from the same place, tools/material_start.json, and is held near it: bands stay
where the pigment has them. So it comes to the same table however often it is run, and is run again
whenever the film changes.

    python tools/tune_materials.py                   print the table of targets as the table stands
    python tools/tune_materials.py --fit               fit, write the tables, print before and after
"""

from __future__ import annotations

import argparse
import json
from collections.abc import Iterator
from copy import deepcopy
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import msgspec
import numpy as np
from scipy.optimize import least_squares

from materials import Target, targets
from zesty_veil import data
from zesty_veil.light.grid import Array
from zesty_veil.paint import pigment, rack
from zesty_veil.paint.paint import Paint

START = Path(__file__).parent / "material_start.json"
DATA = Path(data.__file__).parent
# How far a number may stray from where the fit starts, one standard deviation: logs of amounts,
# widths and strengths, and nanometres.
_STRAYS = {"strength": 0.35, "flat": 0.5, "scatters": 0.5, "width": 0.1, "place": 4.0,
           "amount": 0.3, "efficiency": 0.4}  # fmt: skip
_STEP = 1e-3
Tables = dict[str, Any]  # "pigments" by code, "rack" a list, as in the shipped files


@dataclass(frozen=True)
class Knob:
    """One number of the tables that is fitted."""

    path: tuple[Any, ...]  # where it stands
    stray: float
    log: bool = True

    def turned(self, tables: Tables, x: float, start: float) -> None:
        """Set it so many standard deviations from where it started."""
        place = tables
        for step in self.path[:-1]:
            place = place[step]
        place[self.path[-1]] = (
            start * float(np.exp(x * self.stray)) if self.log else (start + x * self.stray)
        )


def knobs(tables: Tables) -> Iterator[Knob]:
    """Yield all numbers that are fitted."""
    for code, one in tables["pigments"].items():
        at: tuple[Any, ...] = ("pigments", code)
        yield Knob((*at, "flat"), _STRAYS["flat"])
        yield Knob((*at, "scatters"), _STRAYS["scatters"])
        for i, band in enumerate(one["absorbs"]):
            yield from _band((*at, "absorbs", i), band)
    for i, pot in enumerate(tables["rack"]):
        for code in pot["pigments"]:
            yield Knob(("rack", i, "pigments", code), _STRAYS["amount"])
        if "glow" in pot:
            at = ("rack", i, "glow")
            yield Knob((*at, "efficiency"), _STRAYS["efficiency"])
            yield Knob((*at, "scatters"), _STRAYS["scatters"])
            for j in range(len(pot["glow"]["absorbs"])):
                yield Knob((*at, "absorbs", j, "strength"), _STRAYS["strength"])


def _band(at: tuple[Any, ...], band: dict[str, float]) -> Iterator[Knob]:
    yield Knob((*at, "strength"), _STRAYS["strength"])
    yield Knob((*at, "width"), _STRAYS["width"])
    yield Knob((*at, "edge" if "edge" in band else "peak"), _STRAYS["place"], log=False)


def made(tables: Tables) -> dict[str, Paint]:
    """Return the paints of some tables."""
    table = msgspec.convert(tables["pigments"], dict[str, pigment.Pigment])
    recipes = msgspec.convert(tables["rack"], tuple[rack.Formulation, ...])
    return {recipe.name: recipe.paint(table) for recipe in recipes}


class Fit:
    """The tables as a function of how far each knob is turned."""

    def __init__(self, start: Tables) -> None:
        self.start = start
        self.knobs = tuple(knobs(start))
        self.targets = tuple(t for t in targets() if t.weight > 0)
        self.values = [_at(start, knob.path) for knob in self.knobs]
        names = [pot["name"] for pot in start["rack"]]
        # Which targets a knob moves: those with a pot that has it.
        self.moves = []
        for knob in self.knobs:
            if knob.path[0] == "rack":
                pots = {names[knob.path[1]]}
            else:
                pots = {p["name"] for p in start["rack"] if knob.path[1] in p["pigments"]}
            self.moves.append([i for i, t in enumerate(self.targets) if t.paints & pots])

    def tables(self, x: Array) -> Tables:
        """Return the tables at some turns of the knobs."""
        out = deepcopy(self.start)
        for knob, turn, value in zip(self.knobs, x, self.values, strict=True):
            knob.turned(out, float(turn), value)
        return out

    def residuals(self, x: Array) -> Array:
        """Return how far each target is out, then how far each knob is turned."""
        paints = made(self.tables(x))
        return np.concatenate([[_cost(t, paints) for t in self.targets], x])

    def slopes(self, x: Array) -> Array:
        """Return the derivatives of the residuals, each target only by knobs that move it."""
        before = self.residuals(x)
        J = np.zeros((before.size, x.size))
        J[len(self.targets) :] = np.eye(x.size)
        for k, moved in enumerate(self.moves):
            if moved:
                turned = x.copy()
                turned[k] += _STEP
                paints = made(self.tables(turned))
                for i in moved:
                    J[i, k] = (_cost(self.targets[i], paints) - before[i]) / _STEP
        return J


# How hard targets pull against the start: a tolerance out counts as so many strays.
_PULL = 4.0


def _cost(target: Target, paints: dict[str, Paint]) -> float:
    return _PULL * float(np.sqrt(target.weight)) * target.inward(target.measured(paints))


def _at(tables: Tables, path: tuple[Any, ...]) -> float:
    place: Any = tables
    for step in path:
        place = place[step]
    return float(place)


def rounded(tables: Tables) -> Tables:
    """Return tables with three digits to each number, nanometres to a tenth."""
    out = deepcopy(tables)
    for knob in knobs(out):
        value = _at(out, knob.path)
        place: Any = out
        for step in knob.path[:-1]:
            place = place[step]
        place[knob.path[-1]] = round(value, 1) if not knob.log else float(f"{value:.3g}")
    return out


def shipped() -> Tables:
    """Return the tables as they ship."""
    return {
        name: json.loads((DATA / f"{name}.json").read_text("utf-8"))
        for name in ("pigments", "rack")
    }


def write(tables: Tables) -> None:
    """Write the tables into the program's data."""
    for name, table in tables.items():
        (DATA / f"{name}.json").write_text(json.dumps(table, indent=1) + "\n", encoding="utf-8")


def told(was: dict[str, Paint], now: dict[str, Paint]) -> str:
    """Return the table of targets, before and after."""
    lines = [f"{'target':58} {'wanted':>14} {'before':>8} {'after':>8}  out by"]
    total = 0.0
    for target in targets():
        values = [
            target.measured(paints) if target.paints <= set(paints) else float("nan")
            for paints in (was, now)
        ]
        off = target.off(values[1])
        total += target.weight * off * off
        low, high = target.wanted
        mark = f"{off:+.1f}" + (f"  open: {target.open}" if target.open else "") if off else ""
        wanted, before, after = f"{low:>6g} to {high:<5g}", *(f"{value:8.1f}" for value in values)
        lines.append(f"{target.name[:58]:58} {wanted} {before} {after}  {mark}")
    return "\n".join([*lines, f"sum of weighted squares {total:.2f}"])


def main() -> None:
    """Print the table of targets; with --fit, fit first."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--fit", action="store_true")
    parser.add_argument("--rounds", type=int, default=14)
    asked = parser.parse_args()
    was = made(shipped())
    if asked.fit:
        fit = Fit(json.loads(START.read_text("utf-8")))
        found = least_squares(
            fit.residuals, np.zeros(len(fit.knobs)), fit.slopes, max_nfev=asked.rounds, verbose=2
        )
        write(rounded(fit.tables(found.x)))
    print(told(was, made(shipped())))


if __name__ == "__main__":
    main()
