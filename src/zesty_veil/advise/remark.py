"""A remark: what, where, how much, why, and a remedy that can be applied with one press."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Literal

from zesty_veil.plan.model import Plan

RemarkKind = Literal[
    "hidden",
    "dark below",
    "greyed",
    "pinked",
    "sickly",
    "covered light",
    "runs",
    "thinned can",
    "weak glow",
    "outshone",
    "harsh step",
    "large tips",
    "minty",
    "chalky",
    "starved",
    "chalked by matt",
    "many passes",
    "mud",
    "dimmed",
    "alike",
    "outshines source",
    "away too light",
    "no gap",
    "wasted below",
    "many mixes",
    "metameric",
    "no complement",
    "refined",
    "piled up",
    "nearly hidden",
]


@dataclass(frozen=True)
class Remark:
    """One judgement about a passage.

    `number` is how much, in the unit that `words` names; `place` is on the axis, if it has one.
    `mend` returns the plan with the remedy applied, and `remedy` says what it does; without
    one, there is none that is sure to help. `cost` is what it costs the painter who finds out too
    late: minutes of work that has to be done again, or done for nothing.
    """

    kind: RemarkKind
    passage: int
    number: float
    words: str
    coat: int | None = None
    place: float | None = None
    remedy: str = ""
    mend: Callable[[Plan], Plan] | None = None
    cost: float = 0.0
    effect: str = ""  # what its remedy changes, in passes, minutes and colour
    after: Plan | None = field(default=None, compare=False, repr=False)  # the plan with its remedy
