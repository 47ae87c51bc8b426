"""Finding ways to a passage's targets, away from the interface thread. No Qt here."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.answering import weighed
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.obstacle import WhyNot
from zesty_veil.advise.match.recipe import Answers, MatchRequest, Recipe
from zesty_veil.advise.match.solve import solve
from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import srgb
from zesty_veil.paint.catalogue import catalogue
from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import hold, set_passage, with_sites
from zesty_veil.plan.model import Coat, Ground, Lab, Passage, Plan, Target, ground_words
from zesty_veil.predict.field import SITE_RELIEF, axis, predict
from zesty_veil.predict.lay import thickness
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.targets import missed
from zesty_veil.tr import tr

_PLACES, _FEW = 160, 33
_FLAT = SITES.index("flat")
# Coats that stay, and those laid on them.
KeptWay = tuple[Passage, tuple[Coat, ...]]


@dataclass(frozen=True)
class WaySearch:
    """What is to be found: ways to the targets of a passage, from what may be started from.

    starts : the passage with only what stays. kept : ways that are shown beside those found.
    wanted : what is wanted in place of the passage's own targets, and rest : the coats that are
    still to come over it, where a passage is mended under way. now : the colour that is there at
    each target, where that is all that is known.
    """

    plan: Plan
    passage: int
    starts: tuple[Passage, ...]
    rack: tuple[Paint, ...]
    limits: Limits
    look: ViewingConditions
    rescue: bool = False
    kept: tuple[KeptWay, ...] = ()
    wanted: tuple[Target, ...] = ()
    rest: tuple[Coat, ...] = ()
    now: tuple[Lab, ...] = ()

    @property
    def targets(self) -> tuple[Target, ...]:
        """What is wanted on the passage."""
        return self.wanted or self.plan.passages[self.passage].targets

    def request(self) -> MatchRequest:
        """Return what is asked of the search."""
        held = (*self.plan.paints, *self.rack)
        return MatchRequest(
            self.starts, held, self.targets, self.rack, self.limits, self.look, self.rescue,
            catalogue(), now=self.now,
        )  # fmt: skip


@dataclass(frozen=True)
class ShownWay:
    """A way as it is shown: its coats on the passage, and what they come to.

    ribbon, ground : (n, 3) encoded sRGB along the axis. films : of each coat its thickness along
    the axis in micrometres, (n,). fills : of each coat its colour over white, (3,). words : what
    it starts from, where there is a choice.
    """

    answer: Recipe
    base: Passage
    delta_e: tuple[float, ...]
    ribbon: Array
    ground: Array
    films: tuple[Array, ...]
    fills: tuple[Array, ...]
    words: str = ""
    kept: bool = False

    @property
    def coats(self) -> tuple[Coat, ...]:
        """The coats that are laid, from what stays upward."""
        return self.answer.coats

    @property
    def mean(self) -> float:
        """Mean dE00 over the targets."""
        return float(np.mean(self.delta_e))


@dataclass(frozen=True)
class FoundWays:
    """The ways so far, the kept ones first; in the end why there is none nearer.

    share : how much of the search is done, 0-1.
    """

    ways: tuple[ShownWay, ...]
    share: float
    words: str = ""


def finding(search: WaySearch, should_continue: Callable[[], bool]) -> Iterator[FoundWays]:
    """Yield ways to a passage's targets, better and better.

    Raises
    ------
    InputError
        If the passage has no target, or there is nothing to reach it with.
    """
    request = search.request()
    if not request.targets:
        raise InputError(tr("This passage has no target yet; write a colour, or keep one with K."))
    kept = tuple(_shown(weighed(request, *way), way[0], search, True) for way in search.kept)
    known: dict[tuple[int, tuple[Coat, ...]], ShownWay] = {}
    for found in solve(request, should_continue):
        ways = []
        for answer in found.ways:
            key = (answer.base, answer.coats)
            if (search.starts[answer.base], answer.coats) in search.kept:
                continue
            if key not in known:
                known[key] = _shown(answer, search.starts[answer.base], search)
            ways.append(known[key])
        yield FoundWays((*kept, *ways), found.share, _why(found))


def laid_way(search: WaySearch, way: ShownWay) -> Plan:
    """Return the plan with a way's coats laid on what it starts from."""
    plan, rack = search.plan, {paint.name: paint for paint in search.rack}
    for coat in (*way.base.coats, *way.base.ground.coats, *way.coats):
        for part in coat.mixture.parts:
            if part.paint not in plan.rack():
                plan = hold(plan, rack[part.paint])
    passage = plan.passages[search.passage]
    coats = (*way.base.coats, *way.coats, *search.rest)
    return set_passage(plan, search.passage, replace(passage, ground=way.base.ground, coats=coats))


def wanted_on(passage: Passage) -> tuple[Target, ...]:
    """Return the targets on the flat, from the light on."""
    return tuple(sorted((t for t in passage.targets if t.site == "flat"), key=lambda t: t.place))


def target_ribbon(passage: Passage) -> Array | None:
    """Return what is wanted along the flat, mixed between targets; (n, 3) encoded sRGB."""
    targets = wanted_on(passage)
    if not targets:
        return None
    places = [target.place for target in targets]
    u = axis(_PLACES)
    lab = np.stack([np.interp(u, places, [t.lab[i] for t in targets]) for i in range(3)], -1)
    return srgb(lab)[0]


def _shown(answer: Recipe, base: Passage, search: WaySearch, kept: bool = False) -> ShownWay:
    """Return a way with what it really comes to on the passage."""
    paints = {paint.name: paint for paint in (*search.plan.paints, *search.rack)}
    passage = replace(base, coats=(*base.coats, *answer.coats), targets=search.targets)
    u = axis(_PLACES)
    if search.now:
        flat, bare = _from_colours(search, base, answer.coats, paints)
        off = answer.delta_e
    else:
        field = predict(passage, paints, u, SITE_RELIEF, search.look)
        told = missed(passage, field)
        off = told.by if told is not None else answer.delta_e
        flat = field.rgb[:, _FLAT]
        bare = predict(base, paints, u, np.zeros(1), search.look).rgb[:, 0]
    films, fills = [], []
    for coat in answer.coats:
        films.append(thickness(coat, passage, u, np.zeros(1)).dry[:, 0] * 1000)
        whole_coat = with_sites(replace(coat, span=(0.0, 1.0), feather=(0.0, 0.0)), SITES)
        alone = Passage("alone", ground=replace(base.ground, primer="white", coats=(),
                                                measured=None), coats=(whole_coat,))  # fmt: skip
        fills.append(predict(alone, paints, axis(1), np.zeros(1), search.look).rgb[0, 0])
    words = ground_words(base.ground) if len(search.starts) > 1 or base not in search.starts else ""
    return ShownWay(answer, base, off, flat, bare, tuple(films), tuple(fills), words, kept)


def _from_colours(
    search: WaySearch, base: Passage, coats: tuple[Coat, ...], paints: dict[str, Paint]
) -> tuple[Array, Array]:
    """Return what coats come to on colours of unknown layers, and those, (n, 3) encoded sRGB."""
    targets = sorted(search.targets, key=lambda target: target.place)
    known, few, u = [t.place for t in targets], axis(_FEW), axis(_PLACES)
    labs, seen = [], []
    for place in few:
        L, a, b = (float(np.interp(place, known, [lab[i] for lab in search.now])) for i in range(3))
        on = replace(base, ground=Ground("white", measured=(L, a, b)), coats=coats)
        seen.append(predict(on, paints, np.array([place]), np.zeros(1), search.look).lab[0, 0])
        labs.append((L, a, b))
    flat, bare = (
        srgb(np.stack([np.interp(u, few, np.array(each)[:, i]) for i in range(3)], axis=-1))[0]
        for each in (seen, labs)
    )
    return flat, bare


def _why(found: Answers) -> str:
    if found.why is None:
        return ""
    words = " ".join(found.why.reasons)
    if found.where is not None:
        words = tr("At {0:.0f} %: {1}").format(100 * found.where.place, words)
    return " ".join(filter(None, (words, helping_words(found.why))))


def helping_words(reason: WhyNot) -> str:
    """Return which paint would help most, as a sentence; nothing if none would."""
    if reason.paint is None:
        return ""
    paint, name = reason.paint, reason.paint.name
    if paint.maker:
        name += f" ({', '.join((paint.kind, *paint.pigments))})"
    return tr("{0} would help most: with it dE {1:.1f}.").format(name, reason.with_paint)
