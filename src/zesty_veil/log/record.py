"""A record of the log: what was painted, by which plan, and what came out."""

from __future__ import annotations

import math
from typing import Literal

import msgspec

from zesty_veil.errors import InputError
from zesty_veil.paint.laydown import Site
from zesty_veil.plan.model import Plan

How = Literal["typed", "photograph", "instrument"]
# How far a colour that was read so may be off, as dE00: a figure is small and curved.
SEEN_NOISE: dict[How, float] = {"typed": 2.0, "photograph": 2.0, "instrument": 0.8}


class Seen(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """An observed colour (CIELAB, daylight) at a place of a passage, and what was predicted there.

    `coats` is how many coats of the passage lay there when it was looked at.
    """

    passage: str
    place: float
    site: Site
    coats: int
    lab: tuple[float, float, float]
    predicted: tuple[float, float, float]
    how: How = "typed"


class Conditions(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """The air at the bench, where somebody noted it."""

    celsius: float | None = None
    humidity: float | None = None  # 0-1


class Record(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One thing painted.

    `when` is UTC in ISO 8601; `plan` is the plan as it was then; `step` is words for what of it
    was painted; `minutes` is the time taken, if noted; `counts` is whether paints and hand learn
    from it; `photograph` is the name of the file kept beside the log.
    """

    when: str
    plan: Plan
    step: str = ""
    seen: tuple[Seen, ...] = ()
    words: str = ""
    minutes: float | None = None
    conditions: Conditions = Conditions()
    counts: bool = True
    photograph: str = ""
    number: int = 0  # given by the log


def check_record(record: Record) -> None:
    """Refuse a record that holds something impossible; raises InputError with one sentence."""
    names = {passage.name: passage for passage in record.plan.passages}
    for seen in record.seen:
        what = f"The colour seen on '{seen.passage}'"
        if seen.passage not in names:
            raise InputError(f"{what} has no such passage in the plan; name one that it has.")
        if not 0 <= seen.coats <= len(names[seen.passage].coats):
            raise InputError(f"{what} counts {seen.coats} coats, which the passage does not have.")
        if not 0 <= seen.place <= 1:
            raise InputError(f"{what} lies at {seen.place:g}; places go from 0 to 1.")
        for lab in (seen.lab, seen.predicted):
            if not all(math.isfinite(v) and abs(v) <= 300 for v in lab):
                raise InputError(f"{what} must be three numbers, L a b, none beyond 300.")
    air = record.conditions
    if air.celsius is not None and not -20 <= air.celsius <= 60:
        raise InputError(f"The air is {air.celsius:g} degrees; give it from -20 to 60 °C.")
    if air.humidity is not None and not 0 <= air.humidity <= 1:
        raise InputError(f"The humidity is {100 * air.humidity:g} %; give it from 0 to 100 %.")
    for what, words, most in (("notes", record.words, 20_000), ("step", record.step, 500)):
        if len(words) > most:
            raise InputError(f"The {what} have {len(words)} letters; they may have {most}.")
    if record.minutes is not None and not 0 <= record.minutes <= 1e5:
        raise InputError(f"The time taken is {record.minutes:g} min; give it from 0 to 100000.")
