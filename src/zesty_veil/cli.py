"""The same jobs without a window: rack, stack, predict, steps.

Bad input ends with exit code 2 and one sentence on the error stream, never a traceback.
"""

from __future__ import annotations

import argparse
import os
import sys
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any, NoReturn

import msgspec

from zesty_veil import __version__
from zesty_veil.bench.steps import steps
from zesty_veil.errors import InputError, VeilError
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.light.srgb import hexadecimal
from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.primer import PRIMERS
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.fileformat import load, write_atomically
from zesty_veil.plan.model import Ground, Passage
from zesty_veil.plan.samples import SAMPLES, sample_bytes
from zesty_veil.predict.field import Field, axis, predict
from zesty_veil.predict.look import Look
from zesty_veil.predict.words import describe

_PLACES = 11
_MOST_COATS = 200

Window = Callable[[argparse.Namespace], int]


class _Parser(argparse.ArgumentParser):
    """Says what is wrong in one sentence instead of printing the usage."""

    def error(self, message: str) -> NoReturn:
        raise InputError(
            f"{message[:1].upper()}{message[1:]}; '{self.prog} --help' lists the arguments."
        )


def parser() -> argparse.ArgumentParser:
    """Return the parser of the whole command line."""
    top = _Parser(prog="zesty-veil", description="Predicts the colour of stacked paint films.")
    top.add_argument("--version", action="version", version=f"zesty-veil {__version__}")
    jobs = top.add_subparsers(dest="job", required=True, metavar="JOB", parser_class=_Parser)

    job = jobs.add_parser("open", help="open the window, with a plan if one is named")
    job.add_argument("plan", nargs="?", type=Path, metavar="PLAN.veil")
    _shot_arguments(job)
    job = jobs.add_parser("demo", help="open the window with a demo plan")
    job.add_argument("--name", choices=SAMPLES, default="glasswright", help="which one")
    _shot_arguments(job)

    job = jobs.add_parser("rack", help="list the paints at hand")
    job.add_argument("--json", action="store_true")

    job = jobs.add_parser(
        "stack",
        help="predict coats over a primer",
        description="Predict coats over a primer at recess, flat and ridge. A coat is written "
        '"PAINT", "PAINT; water 3; passes 2; tool glaze" or "PAINT 3 + PAINT 1; medium 2"; '
        "the thinner is given in parts to one part of paint: water, medium or thick medium.",
    )
    job.add_argument("--ground", default="white", choices=PRIMERS)
    job.add_argument("--coat", action="append", default=[], metavar='"PAINT; …"')
    job.add_argument("--light", default="D65", choices=tuple(LIGHTS))
    job.add_argument("--json", action="store_true")

    job = jobs.add_parser("predict", help="predict every passage of a plan along its axis")
    job.add_argument("plan", type=Path, metavar="PLAN.veil")
    job.add_argument("--json", action="store_true")

    job = jobs.add_parser("steps", help="print a plan as numbered steps (Markdown)")
    job.add_argument("plan", type=Path, metavar="PLAN.veil")

    job = jobs.add_parser("sample", help="write a demo plan to a file")
    job.add_argument("name", choices=SAMPLES)
    job.add_argument("file", type=Path, metavar="FILE.veil")
    return top


def _shot_arguments(job: argparse.ArgumentParser) -> None:
    job.add_argument("--shot", type=Path, metavar="FILE.png", help="draw the window into a picture")
    job.add_argument("--size", default="1280x800", metavar="WxH", help="of the picture")


def main(arguments: Sequence[str] | None = None, window: Window | None = None) -> int:
    """Do one job; return the exit code.

    Parameters
    ----------
    arguments
        The words of the command line, by default those of the process.
    window
        What opens the window; the command line itself knows nothing of Qt.
    """
    try:
        chosen = parser().parse_args(arguments)
        if chosen.job in {"open", "demo"}:
            if window is None:
                raise InputError("There is no window here; use another job.")
            return window(chosen)
        print(_JOBS[chosen.job](chosen), end="")
        sys.stdout.flush()
    except VeilError as error:
        print(f"zesty-veil: {error}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        # The reader has had enough (as `head` has); there is nobody left to write to.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except KeyboardInterrupt:
        return 130
    return 0


def _rack(chosen: argparse.Namespace) -> str:
    if chosen.json:
        return _json(
            [
                {"name": p.name, "maker": p.maker, "kind": p.kind, "pigments": list(p.pigments)}
                for p in demo_rack()
            ]
        )
    return "".join(f"{p.name:24}{p.kind:14}{', '.join(p.pigments)}\n" for p in demo_rack())


def _stack(chosen: argparse.Namespace) -> str:
    if len(chosen.coat) > _MOST_COATS:
        raise InputError(f"There are {len(chosen.coat)} coats; give at most {_MOST_COATS}.")
    rack = {paint.name: paint for paint in demo_rack()}
    coats = tuple(parse_coat(words, rack) for words in chosen.coat)
    passage = Passage("stack", ground=Ground(chosen.ground), coats=coats)
    field = predict(passage, rack, axis(1), look=Look(chosen.light))
    if chosen.json:
        return _json({"sites": _at(field, 0)})
    return _table(field, 0)


def _predict(chosen: argparse.Namespace) -> str:
    plan = load(chosen.plan)
    u = axis(_PLACES)
    fields = [(p, predict(p, plan.rack(), u, look=Look(plan.light))) for p in plan.passages]
    if chosen.json:
        return _json(
            {
                "title": plan.title,
                "light": plan.light,
                "passages": [
                    {
                        "name": passage.name,
                        "length_mm": passage.length_mm,
                        "field": [
                            {"u": round(float(u[i]), 6), "sites": _at(field, i)}
                            for i in range(_PLACES)
                        ],
                    }
                    for passage, field in fields
                ],
            }
        )
    out = ""
    for passage, field in fields:
        out += f"{passage.name}\n"
        for i in range(_PLACES):
            out += f"  {u[i] * passage.length_mm:.1f} mm from the light\n{_table(field, i, '    ')}"
    return out


def _steps(chosen: argparse.Namespace) -> str:
    return steps(load(chosen.plan))


def _sample(chosen: argparse.Namespace) -> str:
    write_atomically(chosen.file, sample_bytes(chosen.name))
    return f"Wrote {chosen.file}\n"


_JOBS: dict[str, Callable[[argparse.Namespace], str]] = {
    "rack": _rack,
    "stack": _stack,
    "predict": _predict,
    "steps": _steps,
    "sample": _sample,
}


def _at(field: Field, place: int) -> dict[str, Any]:
    """Return the colours of the three sites at one place of the axis."""
    return {
        site: {
            "lab": [round(float(v), 4) for v in field.lab[place, i]],
            "lch": [round(float(v), 4) for v in field.lch[place, i]],
            "srgb": hexadecimal(field.rgb[place, i]),
            "in_gamut": bool(field.in_gamut[place, i]),
            "value": round(float(field.value[place, i]), 4),
        }
        for i, site in enumerate(SITES)
    }


def _table(field: Field, place: int, indent: str = "") -> str:
    out = ""
    for site, colour in _at(field, place).items():
        L, C, h = colour["lch"]
        words = describe(field.lch[place, SITES.index(site)], colour["value"])
        out += (
            f"{indent}{site:8}value {colour['value']:4.1f}  {words:26}"
            f"L {L:5.1f}  C {C:5.1f}  h {h:5.1f}  {colour['srgb']}\n"
        )
    return out


def _json(content: Any) -> str:
    return msgspec.json.format(msgspec.json.encode(content), indent=1).decode() + "\n"
