"""The command line's match: wanted colours in, ways to them out."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any, get_args

import msgspec
from msgspec.structs import replace

from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.ramp import MOST_RAMP_TARGETS
from zesty_veil.advise.match.recipe import MatchRequest
from zesty_veil.advise.match.solve import solve
from zesty_veil.aside import aside
from zesty_veil.cli.matchtext import match_json, match_text
from zesty_veil.cli.passages import passage_number
from zesty_veil.errors import InputError
from zesty_veil.files import read_limited
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.log.athand import paints_at_hand
from zesty_veil.paint.catalogue import catalogue
from zesty_veil.paint.laydown import Site
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.primer import PLAIN, PRIMERS
from zesty_veil.paint.rack import find
from zesty_veil.plan.fileformat import load
from zesty_veil.plan.model import Ground, Passage, Primer, Target
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.services.colours import parse_colour, target_of

_MOST_RAMP_BYTES = 100_000
_ANY = "any"


class _RampTarget(msgspec.Struct, forbid_unknown_fields=True):
    """A line of a ramp's file; what `fire` says besides (value, words) is not needed."""

    place: float
    target: str
    site: Site = "flat"
    lab: tuple[float, float, float] | None = None
    value: float | None = None
    words: str = ""

    def wanted(self) -> Target:
        if self.lab is None:
            return target_of(self.target, self.place, self.site)
        return Target(self.place, _lab("{},{},{}".format(*self.lab)), self.site)


def match_arguments(job: argparse.ArgumentParser) -> None:
    """Give a parser the arguments of a match."""
    job.add_argument("--target", metavar="COLOUR", help="#rrggbb, L,a,b, or words: 'strong orange'")
    job.add_argument(
        "--ramp", type=Path, metavar="FILE.json", help="a list of place, target and, if any, site"
    )
    job.add_argument(
        "--ground", default="white", choices=(*PRIMERS, _ANY), help="primer; any: whichever is best"
    )
    job.add_argument("--on", metavar="COLOUR", help="measured on the figure, of unknown layers")
    job.add_argument(
        "--plan", type=Path, metavar="PLAN.veil",
        help="start from what it comes to; without --target and --ramp for its own targets",
    )  # fmt: skip
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
    InputError, PaintError, FileError
        With one sentence.
    """
    plan = load(chosen.plan, aside) if chosen.plan is not None else None
    passage = None if plan is None else plan.passages[passage_number(plan, chosen.passage)]
    limits = Limits(
        chosen.max_coats, chosen.max_passes, chosen.max_minutes, chosen.max_mixes,
        tuple(chosen.tool) if chosen.tool else Limits().tools,
    )  # fmt: skip
    bases = _bases(chosen, passage)
    request = MatchRequest(
        bases, plan.paints if plan is not None else (), _targets(chosen, passage), _paints(chosen),
        limits, ViewingConditions(chosen.light), chosen.rescue, catalogue(),
    )  # fmt: skip
    if chosen.rescue and len(bases) > 1:
        raise InputError("--rescue starts from what is there; name one --ground, --on or --plan.")
    *_, last = solve(request)
    return match_json(request, last), match_text(request, last)


def _lab(words: str) -> tuple[float, float, float]:
    L, a, b = parse_colour(words)
    return L, a, b


def _paints(chosen: argparse.Namespace) -> tuple[Paint, ...]:
    rack = paints_at_hand()
    if chosen.only:
        rack = tuple(find(name, rack) for name in dict.fromkeys(chosen.only))
    without = {find(name, paints_at_hand()).name for name in chosen.without}
    return tuple(paint for paint in rack if paint.name not in without)


def _bases(chosen: argparse.Namespace, passage: Passage | None) -> tuple[Passage, ...]:
    """Return what may be started from: primers, a measured colour, or a passage of a plan."""
    if chosen.on is not None:
        return (Passage("matched", ground=Ground("white", measured=_lab(chosen.on))),)
    if passage is None:
        primers: tuple[Primer, ...] = get_args(Primer)
        any_plain = chosen.ground == _ANY
        chosen_ones = [p for p in primers if (any_plain and p in PLAIN) or p == chosen.ground]
        return tuple(Passage("matched", ground=Ground(primer)) for primer in chosen_ones)
    return (replace(passage, coats=passage.coats[: chosen.after]),)


def _targets(chosen: argparse.Namespace, passage: Passage | None) -> tuple[Target, ...]:
    own = passage is not None and bool(passage.targets)
    if (chosen.target is None) == (chosen.ramp is None) and not (own and chosen.ramp is None):
        raise InputError("Give either --target or --ramp, or a --plan that has targets.")
    if chosen.target is not None:
        if not 0 <= chosen.place <= 1:
            raise InputError(f"--place is {chosen.place:g}; it must be from 0 (light) to 1 (away).")
        return (target_of(chosen.target, chosen.place),)
    if chosen.ramp is None:
        assert passage is not None
        return passage.targets
    return _ramp(chosen.ramp)


def _ramp(path: Path) -> tuple[Target, ...]:
    try:
        raw = read_limited(path, _MOST_RAMP_BYTES, "ramp")
        targets = msgspec.json.decode(raw, type=list[_RampTarget])
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        raise InputError(
            f'{path} is no ramp; write a list such as [{{"place": 0, "target": "#ffd040"}}, …] '
            f"of up to {MOST_RAMP_TARGETS}; a site, if any, is one of {', '.join(get_args(Site))}."
        ) from None
    if not targets:
        raise InputError(f"{path} has no target; write from 1 to {MOST_RAMP_TARGETS}.")
    if not all(0 <= target.place <= 1 for target in targets):
        raise InputError(f"{path}: places must be from 0 (light) to 1 (away).")
    return tuple(target.wanted() for target in targets)
