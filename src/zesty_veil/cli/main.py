"""The same jobs without a window: rack, stack, predict, steps.

Bad input ends with exit code 2 and one sentence on the error stream, never a traceback.
"""

from __future__ import annotations

import argparse
import io
import os
import sys
from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import Any, NoReturn

import msgspec

from zesty_veil import __version__
from zesty_veil.aside import aside
from zesty_veil.bench.steps import steps
from zesty_veil.cli.export import export_arguments, exported
from zesty_veil.cli.glow import fire_arguments, fired, glow_arguments, glowed
from zesty_veil.cli.ladder import ladder_arguments, laddered
from zesty_veil.cli.log import (
    fit_arguments,
    fitted_paint,
    log_arguments,
    logged,
    rack_arguments,
    racked,
)
from zesty_veil.cli.match import match_arguments, matched
from zesty_veil.cli.remarks import remarked
from zesty_veil.cli.report import causes, causes_text, report, report_json, report_text
from zesty_veil.cli.schedule import schedule_arguments, scheduled_plan
from zesty_veil.cli.stack import asked_look, coats_counted, compared, stacked
from zesty_veil.cli.template import template_arguments, templated
from zesty_veil.errors import InputError, VeilError
from zesty_veil.faultlog import write_down
from zesty_veil.files import write_atomically
from zesty_veil.light.illuminant import LIGHTS, OBSERVERS
from zesty_veil.paint.kinds import CARD_KINDS
from zesty_veil.paint.mixture import THINNERS
from zesty_veil.paint.primer import PRIMERS
from zesty_veil.paint.tool import tools
from zesty_veil.plan.fileformat import load
from zesty_veil.plan.model import HANDS
from zesty_veil.plan.samples import SAMPLES, sample_bytes
from zesty_veil.predict.appearance import SURROUND_LUMINANCE
from zesty_veil.predict.field import axis
from zesty_veil.predict.look import FINISH_CHOICES
from zesty_veil.translation import speak_own

_PLACES = 11

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

    job = jobs.add_parser("sheet", help="write the plan as a PDF to take to the bench")
    job.add_argument("plan", type=Path, metavar="PLAN.veil")
    job.add_argument("-o", "--out", type=Path, required=True, metavar="SHEET.pdf")
    job.add_argument("--paper", choices=("A4", "Letter"), default="A4")

    job = jobs.add_parser("card", help="write the test card as a PDF to print and paint on")
    job.add_argument("-o", "--out", type=Path, required=True, metavar="CARD.pdf")
    job.add_argument("--paper", choices=("A4", "Letter"), default="A4")

    rack_arguments(jobs.add_parser("rack", help="list the paints at hand, take racks in and out"))
    log_arguments(jobs.add_parser("log", help="list, write and give out what was painted"))
    fit_arguments(jobs.add_parser("fit", help="measure a paint from cards that were read"))
    job = jobs.add_parser("read-card", help="read a painted test card off a photograph")
    job.add_argument("photo", type=Path, metavar="PHOTO")
    job.add_argument("--corners", nargs=8, type=float, metavar="X",
                     help="x y of the four marks in pixels, clockwise from the solid")  # fmt: skip
    job.add_argument("--paint", default="", help="what is on the card")
    job.add_argument("--kind", default="transparent", choices=CARD_KINDS)
    job.add_argument("--pigments", nargs="*", default=[], metavar="CODE")
    job.add_argument("--thinned", type=float, default=0.0, metavar="PARTS", help="to one of paint")
    job.add_argument("--thinner", default="water", choices=THINNERS)
    job.add_argument("--tool", default="loaded", choices=tuple(tools()))
    job.add_argument("-o", "--out", type=Path, metavar="CARD.json", help="write the card there")
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
    _look_arguments(job)

    job = jobs.add_parser(
        "coats-to",
        help="count the passes to a colour, or to hiding, at several thinnings",
        description="Count the passes of a coat, at 1:1 to 7:1, until a colour is within dE 2 of "
        "the one wanted (--lab), or until nothing below shows.",
    )
    job.add_argument("--ground", default="white", choices=PRIMERS)
    job.add_argument("--coat", action="append", default=[], metavar='"PAINT; …"', help="below")
    job.add_argument("--using", required=True, metavar='"PAINT; tool …"', help="what is laid")
    job.add_argument("--lab", nargs=3, type=float, metavar=("L", "A", "B"))
    job.add_argument("--light", default="D65", choices=tuple(LIGHTS))
    job.add_argument("--json", action="store_true")

    job = jobs.add_parser("compare", help="tell under which lights two stacks match")
    job.add_argument("--ground", default="white", choices=PRIMERS)
    job.add_argument("--coat", action="append", default=[], metavar='"PAINT; …"')
    job.add_argument("--other-ground", choices=PRIMERS)
    job.add_argument("--other", action="append", default=[], metavar='"PAINT; …"')
    job.add_argument("--light", default="D65", choices=tuple(LIGHTS), help="where they match")
    job.add_argument("--observer", type=int, default=2, choices=OBSERVERS)
    job.add_argument("--json", action="store_true")

    match_arguments(
        jobs.add_parser(
            "match",
            help="find the coats that lead to a wanted colour, or to a ramp of them",
            description="Find coats that lead to --target, or nested coats that lead to the "
            "colours of --ramp along the axis. It starts from a primer (--ground), from a colour "
            "measured on the figure (--on), or from a place of a plan (--plan).",
        )
    )
    ladder_arguments(
        jobs.add_parser(
            "ladder",
            help="mix steps between two to four pots in whole drops",
            description="Mix steps between pots, evenly spaced to the eye, each at its share of "
            "the axis. With one --pot it tells what it goes through with every other.",
        )
    )
    template_arguments(
        jobs.add_parser(
            "template",
            help="make a whole plan of a few answers: a flame, light on things, skin …",
            description="Make a plan from the paints at hand. Without a name it lists what there "
            "is and what each asks.",
        )
    )
    fire_arguments(jobs.add_parser("fire", help="wanted colours of a fire, hottest first"))
    export_arguments(
        jobs.add_parser("export", help="write a plan in an open format, by the file's ending")
    )
    schedule_arguments(
        jobs.add_parser("schedule", help="when to lay what, on several figures, and the drops")
    )
    glow_arguments(
        jobs.add_parser("glow", help="plan a painted light: rings, wanted colours, and the coats")
    )
    job = jobs.add_parser("predict", help="predict every passage of a plan along its axis")
    job.add_argument("plan", type=Path, metavar="PLAN.veil")
    _look_arguments(job)

    job = jobs.add_parser("remarks", help="tell what will go wrong in a plan, and the remedies")
    job.add_argument("plan", type=Path, metavar="PLAN.veil")
    job.add_argument("--json", action="store_true")

    job = jobs.add_parser("steps", help="print a plan as numbered steps (Markdown)")
    job.add_argument("plan", type=Path, metavar="PLAN.veil")

    job = jobs.add_parser("sample", help="write a demo plan to a file")
    job.add_argument("name", choices=SAMPLES)
    job.add_argument("file", type=Path, metavar="FILE.veil")
    return top


def _look_arguments(job: argparse.ArgumentParser) -> None:
    job.add_argument("--light", choices=tuple(LIGHTS), help="seen under it (D65, or the plan's)")
    job.add_argument("--observer", type=int, default=2, choices=OBSERVERS, help="degrees")
    job.add_argument("--finish", default="as painted", choices=FINISH_CHOICES)
    job.add_argument(
        "--surround", choices=tuple(SURROUND_LUMINANCE), help="say how bright it seems in it"
    )
    job.add_argument("--sure", action="store_true", help="say how sure the colours are")
    job.add_argument(
        "--hand", choices=HANDS, help="how sure by this hand (ordinary, or the plan's)"
    )
    job.add_argument("--json", action="store_true")


def _shot_arguments(job: argparse.ArgumentParser) -> None:
    job.add_argument("--shot", type=Path, metavar="FILE.png", help="draw the window into a picture")
    job.add_argument("--size", metavar="WxH", help="of the window, such as 1280x800")


def run(arguments: Sequence[str] | None = None, window: Window | None = None) -> int:
    """Do one job; return the exit code.

    Parameters
    ----------
    arguments
        The words of the command line, by default those of the process.
    window
        What opens the window; the command line itself knows nothing of Qt.
    """
    for stream in (sys.stdout, sys.stderr):
        # A terminal that knows few letters gets the others as their numbers, not a traceback.
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="backslashreplace")
    trouble = speak_own()
    if trouble:
        print(f"zesty-veil: {trouble}", file=sys.stderr)
    try:
        chosen = parser().parse_args(_asked(arguments))
        _refuse_no_text(chosen)
        if chosen.job in {"open", "demo", "sheet", "card", "read-card"}:
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
    except MemoryError:
        print("zesty-veil: There is not enough memory for that.", file=sys.stderr)
        return 2
    except Exception as error:
        print(f"zesty-veil: {write_down(error, 'on the command line')}", file=sys.stderr)
        return 1
    return 0


def _asked(arguments: Sequence[str] | None) -> list[str]:
    """Return the words of the command line; 'help' and '-V' are what others call them."""
    words = list(sys.argv[1:] if arguments is None else arguments)
    if words[:1] == ["help"]:
        return [*words[1:2], "--help"]
    return ["--version"] if words[:1] == ["-V"] else words


def _refuse_no_text(chosen: argparse.Namespace) -> None:
    """Refuse words that are no UTF-8, as no file could hold them; names of files may be any bytes.

    Raises InputError.
    """
    for name, value in vars(chosen).items():
        for words in value if isinstance(value, list) else [value]:
            if isinstance(words, str) and any("\ud800" <= letter <= "\udfff" for letter in words):
                raise InputError(f"What is given as '{name}' is no UTF-8 text; write it as such.")


def _predict(chosen: argparse.Namespace) -> str:
    plan = load(chosen.plan, aside)
    u, rack = axis(_PLACES), plan.rack()
    asked = asked_look(chosen, chosen.light or plan.light, plan.hand)
    told = [(passage, report(passage, rack, u, asked)) for passage in plan.passages]
    if chosen.json:
        return _json(
            {
                "title": plan.title,
                "light": asked.look.light,
                "passages": [
                    {
                        "name": passage.name,
                        "length_mm": passage.length_mm,
                        "field": [
                            {"u": round(float(u[i]), 6), "sites": report_json(each, i)}
                            for i in range(_PLACES)
                        ],
                        **causes(each),
                    }
                    for passage, each in told
                ],
            }
        )
    out = ""
    for passage, each in told:
        out += f"{passage.name}\n{causes_text(each, '  ')}"
        for i in range(_PLACES):
            out += f"  {u[i] * passage.length_mm:.1f} mm from the light\n"
            out += report_text(each, i, "    ")
    return out


def _tell(job: Callable[[argparse.Namespace], tuple[Any, str]], chosen: argparse.Namespace) -> str:
    """Return what a job found, as JSON if that is asked for."""
    found, text = job(chosen)
    return _json(found) if chosen.json else text


def _steps(chosen: argparse.Namespace) -> str:
    return steps(load(chosen.plan, aside))


def _sample(chosen: argparse.Namespace) -> str:
    write_atomically(chosen.file, sample_bytes(chosen.name))
    return f"Wrote {chosen.file}\n"


# What tells of itself for JSON and as text.
_TELLING: dict[str, Callable[[argparse.Namespace], tuple[Any, str]]] = {
    "rack": racked,
    "log": logged,
    "fit": fitted_paint,
    "stack": stacked,
    "coats-to": coats_counted,
    "compare": compared,
    "match": matched,
    "fire": fired,
    "ladder": laddered,
    "template": templated,
    "glow": glowed,
    "schedule": scheduled_plan,
}
_JOBS: dict[str, Callable[[argparse.Namespace], str]] = {
    **{name: partial(_tell, job) for name, job in _TELLING.items()},
    "predict": _predict,
    "export": exported,
    "remarks": partial(_tell, remarked),
    "steps": _steps,
    "sample": _sample,
}


def _json(content: Any) -> str:
    return msgspec.json.format(msgspec.json.encode(content), indent=1).decode() + "\n"
