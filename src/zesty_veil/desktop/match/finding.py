"""Finding ways to a passage's targets, away from the interface thread. No Qt here."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.ramp import ramp_ways
from zesty_veil.advise.match.rescue import now_on
from zesty_veil.advise.match.search import Matcher
from zesty_veil.advise.match.whynot import why_not
from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import srgb
from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import hold, set_passage, with_coats
from zesty_veil.plan.model import Coat, Ground, Passage, Plan, Target
from zesty_veil.predict.field import SITE_RELIEF, axis, predict
from zesty_veil.predict.look import Look
from zesty_veil.predict.targets import missed

_PLACES = 160


@dataclass(frozen=True)
class Wish:
    """What is to be found: ways to the targets of a passage, on what lies there already.

    after : so many coats of the passage stay, and the ways go on from them.
    """

    plan: Plan
    passage: int
    rack: tuple[Paint, ...]
    limits: Limits
    look: Look
    after: int = 0


@dataclass(frozen=True)
class Shown:
    """A way as it is shown: its coats on the passage, and what they come to.

    ribbon : (n, 3) encoded sRGB along the axis. off : dE00 at each target.
    """

    coats: tuple[Coat, ...]
    ribbon: Array
    off: tuple[float, ...]
    minutes: float
    pots: int
    touchy: float | None

    @property
    def mean(self) -> float:
        """Mean dE00 over the targets."""
        return float(np.mean(self.off))


@dataclass(frozen=True)
class Found:
    """The ways so far, the nearest first; and in the end why there is none nearer."""

    ways: tuple[Shown, ...]
    words: str = ""
    done: bool = False


def wanted_on(passage: Passage) -> tuple[Target, ...]:
    """Return the targets that are matched: those on the flat, from the light on."""
    return tuple(sorted((t for t in passage.targets if t.site == "flat"), key=lambda t: t.place))


def finding(wish: Wish, wanted: Callable[[], bool]) -> Iterator[Found]:
    """Yield ways to a passage's targets, better and better.

    Raises
    ------
    InputError
        If the passage has no target on the flat.
    """
    passage = wish.plan.passages[wish.passage]
    targets = wanted_on(passage)
    if not targets:
        raise InputError("This passage has no target yet; write a colour, or keep one with K.")
    labs = np.array([target.lab for target in targets])
    middle = float(np.mean([target.place for target in targets]))
    state = now_on(passage, wish.plan.rack(), middle, coats=wish.after)
    shown: tuple[Shown, ...] = ()
    if len(targets) > 1:
        places = [target.place for target in targets]
        for ways in ramp_ways(state, wish.rack, wish.limits, wish.look, places, labs, wanted):
            shown = tuple(_shown(w.coats, w.minutes, w.pots, None, wish) for w in ways)
            yield Found(shown)
        if wanted():
            yield Found(shown, "" if shown else "There is nothing to lay; allow more.", True)
        return
    matcher = Matcher(state, wish.rack, wish.limits, wish.look)
    best = None
    for found in matcher.ways(labs[0], wanted):
        best = found[0]
        shown = tuple(_shown(w.coats, w.minutes, w.pots, w.touchy, wish) for w in found)
        yield Found(shown)
    if best is None or not wanted():
        return
    white = now_on(Passage("white", ground=Ground("white")), {}, 0.5)
    why = why_not(matcher, best, labs[0], white, wish.rack, wanted)
    if wanted():
        yield Found(shown, "" if why is None else " ".join(why.reasons), True)


def laid(wish: Wish, coats: tuple[Coat, ...]) -> Plan:
    """Return the plan with coats laid on those of the passage that stay."""
    plan, rack = wish.plan, {paint.name: paint for paint in wish.rack}
    for coat in coats:
        for part in coat.mixture.parts:
            plan = hold(plan, rack[part.paint])
    passage = plan.passages[wish.passage]
    whole = with_coats(passage, (*passage.coats[: wish.after], *coats))
    return set_passage(plan, wish.passage, whole)


def target_ribbon(passage: Passage) -> Array:
    """Return what is wanted along the axis, mixed between targets; (n, 3) encoded sRGB."""
    targets = wanted_on(passage)
    places = [target.place for target in targets]
    u = axis(_PLACES)
    lab = np.stack([np.interp(u, places, [t.lab[i] for t in targets]) for i in range(3)], -1)
    return srgb(lab)[0]


def _shown(
    coats: tuple[Coat, ...], minutes: float, pots: int, touchy: float | None, wish: Wish
) -> Shown:
    """Return a way with what it really comes to on the passage."""
    plan = laid(wish, coats)
    passage, rack = plan.passages[wish.passage], plan.rack()
    field = predict(passage, rack, axis(_PLACES), SITE_RELIEF, wish.look)
    told = missed(replace(passage, targets=wanted_on(passage)), field)
    off = told.by if told is not None else ()
    return Shown(coats, field.rgb[:, SITES.index("flat")], off, minutes, pots, touchy)
