"""A record of the log: what was painted, by which plan, and what came out."""

from __future__ import annotations

from typing import Annotated, Literal

import msgspec

from zesty_veil.errors import InputError
from zesty_veil.limits import at_most, between, limit_faults
from zesty_veil.paint.laydown import Site
from zesty_veil.paint.paint import Name
from zesty_veil.plan.model import MOST_COATS, Lab, Plan
from zesty_veil.tr import tr

How = Literal["typed", "words", "photograph", "instrument"]
# How far a colour that was read so may be off, as dE00: a figure is small and curved, and a word
# such as orange means many colours.
SEEN_NOISE: dict[How, float] = {
    "typed": 2.0, "words": 8.0, "photograph": 2.0, "instrument": 0.8,
}  # fmt: skip

# 2 knows of colours that were noted in words.
RECORD_SCHEMA = 2


class ObservedColour(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """An observed colour (CIELAB, daylight) at a place of a passage, and what was predicted there.

    `coats` is how many coats of the passage lay there when it was looked at.
    """

    passage: Name
    place: Annotated[float, between(0, 1)]
    site: Site
    coats: Annotated[int, between(0, MOST_COATS)]
    lab: Lab
    predicted: Lab
    how: How = "typed"


class Conditions(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """The air at the bench, where somebody noted it."""

    celsius: Annotated[float, between(-20, 60)] | None = None
    humidity: Annotated[float, between(0, 1)] | None = None


class Record(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One thing painted.

    `when` is UTC in ISO 8601; `plan` is the plan as it was then; `step` is words for what of it
    was painted; `minutes` is the time taken, if noted; `counts` is whether paints and hand learn
    from it; `photograph` is the name of the file kept beside the log.
    """

    when: str
    plan: Plan
    step: Annotated[str, at_most(500, "The step")] = ""
    seen: tuple[ObservedColour, ...] = ()
    words: Annotated[str, at_most(20_000, "The note")] = ""
    minutes: Annotated[float, between(0, 1e5, "The time taken in minutes")] | None = None
    conditions: Conditions = Conditions()
    counts: bool = True
    photograph: str = ""
    number: int = 0  # given by the log
    schema: int = 1  # of this record; those that say none are of the first


def check_record(record: Record) -> None:
    """Refuse a record that holds something impossible; raises InputError with one sentence."""
    names = {passage.name: passage for passage in record.plan.passages}
    for seen in record.seen:
        what = f"The colour seen on '{seen.passage}'"
        if seen.passage not in names:
            raise InputError(
                tr("{0} has no such passage in the plan; name one that it has.").format(what)
            )
        if not 0 <= seen.coats <= len(names[seen.passage].coats):
            raise InputError(
                tr("{0} counts {1} coats, which the passage does not have.").format(
                    what, seen.coats
                )
            )
        for fault in limit_faults(seen):
            raise InputError(f"{what}: {fault}")
    air = record.conditions
    if air.celsius is not None and not -20 <= air.celsius <= 60:
        raise InputError(
            tr("The air is {0:g} degrees; give it from -20 to 60 °C.").format(air.celsius)
        )
    if air.humidity is not None and not 0 <= air.humidity <= 1:
        raise InputError(
            tr("The humidity is {0:g} %; give it from 0 to 100 %.").format(100 * air.humidity)
        )
    for fault in limit_faults(record):
        raise InputError(fault)
