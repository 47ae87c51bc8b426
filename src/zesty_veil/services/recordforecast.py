"""Rows of a record in the making, and their predicted colours. No Qt here."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from zesty_veil.light.picture import PicturePoint
from zesty_veil.log.judge import predicted_at
from zesty_veil.log.record import How
from zesty_veil.paint.laydown import Site
from zesty_veil.plan.model import Plan

_Lab = tuple[float, float, float]


@dataclass(frozen=True)
class Row:
    """One place whose colour is noted."""

    passage: int
    place: float
    site: Site
    coats: int
    lab: _Lab | None = None
    how: How = "typed"
    point: PicturePoint | None = None
    called: str = ""  # what was typed, where the colour was noted in words


@dataclass(frozen=True)
class Foretelling:
    """Rows of a plan whose predicted colours are wanted."""

    plan: Plan
    rows: tuple[Row, ...]


def foretold(asked: Foretelling, should_continue: Callable[[], bool]) -> Iterator[tuple[_Lab, ...]]:
    """Yield the predicted colours of rows."""
    out: list[_Lab] = []
    for row in asked.rows:
        name = asked.plan.passages[row.passage].name
        L, a, b = predicted_at(asked.plan, name, row.place, row.site, row.coats)
        out.append((float(L), float(a), float(b)))
    yield tuple(out)
