"""What the Rack shows, computed without Qt and away from its thread."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from zesty_veil.desktop.rack.uses import known_plans, uses_of
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import srgb
from zesty_veil.log.drawn import (
    DrawdownMix,
    Near,
    Order,
    PaintDrawdown,
    nearest_drawdowns,
    ordered,
    paint_drawdown,
)
from zesty_veil.log.logbook import Logbook
from zesty_veil.log.racks import MOST_PAINTS, Kept, Rack, Status
from zesty_veil.log.store import opened
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Plan

_TELL_S = 0.3  # between two answers


@dataclass(frozen=True)
class RackRequest:
    """A rack, how its paints are laid, and in which order they are wanted."""

    rack: Rack
    laid: DrawdownMix
    order: Order
    status: Status | None = None  # show only these
    words: str = ""  # and only paints with all of these


@dataclass(frozen=True, eq=False)
class RackShown:
    """Drawdowns in order, with their screen colours (2, 5, 3) each."""

    asked: RackRequest
    kept: tuple[Kept, ...]
    drawn: tuple[PaintDrawdown, ...]
    rgb: tuple[Array, ...]
    whole: bool  # whether all that was asked for is here


def showing(asked: RackRequest, should_continue: Callable[[], bool]) -> Iterator[RackShown]:
    """Yield the rack as drawdowns; a slow machine, or a large rack, sees the first ones soon."""
    kept = tuple(k for k in asked.rack.paints if _wanted(k, asked))
    found: list[PaintDrawdown] = []
    told = time.monotonic()
    for one in kept:
        if not should_continue():
            return
        found.append(_drawn(one.paint, asked.laid))
        if time.monotonic() - told > _TELL_S and asked.order == "rack":
            yield _shown(asked, kept[: len(found)], found, False)
            told = time.monotonic()
    yield _shown(asked, kept, found, True)


def _shown(
    asked: RackRequest, kept: tuple[Kept, ...], found: list[PaintDrawdown], whole: bool
) -> RackShown:
    places = ordered(found, asked.order)
    return RackShown(
        asked,
        tuple(kept[i] for i in places),
        tuple(found[i] for i in places),
        tuple(_rgb(found[i].paint, asked.laid) for i in places),
        whole,
    )


@dataclass(frozen=True)
class Beside:
    """A paint in hand, of which neighbours and uses are wanted."""

    rack: Rack
    name: str
    laid: DrawdownMix
    plan: Plan
    log: Path


@dataclass(frozen=True)
class PaintNeighbours:
    """What lies beside a paint: the paints at hand that are most like it, and the plans with it."""

    asked: Beside
    near: tuple[Near, ...]
    used: tuple[str, ...]


def neighbours(asked: Beside, should_continue: Callable[[], bool]) -> Iterator[PaintNeighbours]:
    """Yield where a paint is used, and then also what is near to it."""
    with opened(asked.log) as store:
        used = uses_of(asked.name, asked.plan, known_plans(Logbook(store).titles()))
    yield PaintNeighbours(asked, (), used)
    one = next((k for k in asked.rack.paints if k.paint.name == asked.name), None)
    if one is None:
        return
    others = []
    for kept in asked.rack.paints:
        if not should_continue():
            return
        if kept.status == "own":
            others.append(_drawn(kept.paint, asked.laid))
    yield PaintNeighbours(asked, nearest_drawdowns(_drawn(one.paint, asked.laid), others), used)


def _wanted(kept: Kept, asked: RackRequest) -> bool:
    if asked.status is not None and kept.status != asked.status:
        return False
    paint = kept.paint
    text = " ".join([paint.name, paint.maker, paint.kind, *paint.pigments, kept.notes]).casefold()
    return all(word in text for word in asked.words.casefold().split())


@lru_cache(maxsize=MOST_PAINTS + 200)
def _drawn(paint: Paint, laid: DrawdownMix) -> PaintDrawdown:
    return paint_drawdown(paint, laid)


@lru_cache(maxsize=MOST_PAINTS + 200)
def _rgb(paint: Paint, laid: DrawdownMix) -> Array:
    return srgb(_drawn(paint, laid).lab)[0]
