"""Ladders between pots as they are shown, away from the interface thread. No Qt here."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.drops import solid_on
from zesty_veil.advise.ladder import (
    LadderEnd,
    LadderStyle,
    PotLadder,
    ladder,
    ladder_coats,
    lies_there,
    pairs_from,
)
from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import srgb
from zesty_veil.paint.kinds import CLEAR
from zesty_veil.paint.laydown import Site
from zesty_veil.paint.mixture import Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import hold, set_passage
from zesty_veil.plan.model import Coat, Passage, Plan
from zesty_veil.predict.field import SITE_RELIEF, axis, predict
from zesty_veil.predict.look import ViewingConditions

_PLACES = 160


@dataclass(frozen=True)
class LadderRequest:
    """Pots of which a ladder is wanted on a passage of a plan, by their names, in order.

    With a single pot only what it goes through with every other one is told.
    """

    plan: Plan
    passage: int
    pots: tuple[str, ...]
    rack: tuple[Paint, ...]
    look: ViewingConditions
    count: int = 5
    style: LadderStyle = "even"
    end: LadderEnd = "far"
    sites: tuple[Site, ...] = ("recess", "flat", "ridge")
    share: float = 1.0  # of the axis, which the steps after the first take


@dataclass(frozen=True, eq=False)
class PairShown:
    """A pot that may come next: its name, the colours on the way there, (n, 3) sRGB, and mud."""

    name: str
    ribbon: Array
    mud: str


@dataclass(frozen=True, eq=False)
class LadderShown:
    """A ladder as it is shown.

    pairs : what may follow the last pot. found : the ladder, if there are pots enough. rungs :
    (rungs, 3) sRGB. between : (n, 3) sRGB. ribbon : (160, 3) sRGB, what it comes to along the
    passage. plan : with its coats laid over what is there.
    """

    asked: LadderRequest
    pairs: tuple[PairShown, ...]
    found: PotLadder | None = None
    rungs: Array | None = None
    between: Array | None = None
    ribbon: Array | None = None
    plan: Plan | None = None
    wrong: str = ""


def climbing(asked: LadderRequest, should_continue: Callable[[], bool]) -> Iterator[LadderShown]:
    """Yield the ladder, and what may come after its last pot."""
    rack = {paint.name: paint for paint in asked.rack}
    pots = [rack[name] for name in asked.pots if name in rack]
    passage = asked.plan.passages[asked.passage]
    held = (*asked.plan.paints, *asked.rack)
    found, wrong = None, ""
    if len(pots) > 1:
        try:
            found = ladder(pots, asked.count, passage, held, asked.look, asked.style)
        except InputError as error:
            wrong = str(error)
    pairs: list[PairShown] = []
    if pots:
        pairs = [
            PairShown(other.name, srgb(labs)[0], mud)
            for other, labs, mud in pairs_from(pots[-1], asked.rack, passage, held, asked.look)
        ]
    else:
        pairs = [PairShown(p.name, srgb(_alone(p, asked))[0], "") for p in asked.rack
                 if p.kind not in CLEAR]  # fmt: skip
    if not should_continue():
        return
    if found is None:
        yield LadderShown(asked, tuple(pairs), wrong=wrong)
        return
    plan = laid_ladder(asked, found)
    whole = plan.passages[asked.passage]
    seen = predict(whole, plan.rack(), axis(_PLACES), SITE_RELIEF, asked.look)
    site = asked.sites[-1] if len(asked.sites) == 1 else "flat"
    row = {"recess": 0, "flat": 1, "ridge": 2}[site]
    yield LadderShown(
        asked, tuple(pairs), found, srgb(_looks(found))[0], srgb(found.between)[0],
        seen.rgb[:, row], plan,
    )  # fmt: skip


def laid_ladder(asked: LadderRequest, found: PotLadder) -> Plan:
    """Return the plan with a ladder's coats laid over what is on the passage."""
    plan, rack = asked.plan, {paint.name: paint for paint in asked.rack}
    passage = plan.passages[asked.passage]
    coats = coats_on(passage, asked, found)
    for coat in coats:
        for part in coat.mixture.parts:
            plan = hold(plan, rack[part.paint])
    return set_passage(plan, asked.passage, replace(passage, coats=(*passage.coats, *coats)))


def coats_on(passage: Passage, asked: LadderRequest, found: PotLadder) -> tuple[Coat, ...]:
    """Return a ladder's coats for a passage; a base that lies there already is not laid again."""
    based = lies_there(passage, found.rungs[0].parts)
    return ladder_coats(found.rungs, asked.end, asked.sites, asked.share, based)


def _looks(found: PotLadder) -> Array:
    return np.array([rung.lab for rung in found.rungs])


def _alone(paint: Paint, asked: LadderRequest) -> Array:
    """Return what a pot looks like solid on the passage, (1, 3) CIELAB."""
    passage = asked.plan.passages[asked.passage]
    return solid_on([(Part(paint.name),)], (paint,), passage, asked.plan.paints, asked.look)
