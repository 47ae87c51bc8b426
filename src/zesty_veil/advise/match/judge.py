"""What painters accept of a recipe, rule by rule; nothing here knows how a recipe is found.

Of each coat it is asked what it does to the colours that are wanted, and of each pot whether it
belongs there at all. A rule is a function with a kind and a cost; whoever shows a breach to a
painter makes a sentence of the kind. All of it is common practice.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from enum import Enum
from typing import NamedTuple, Protocol

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.belonging import apart, dulls
from zesty_veil.advise.match.candidate import Candidate
from zesty_veil.advise.match.difference import delta_e
from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import Array
from zesty_veil.thresholds import (
    CLEAN_CHROMA,
    DARK_BELOW_L,
    DARKER_L,
    GAINED_DE00,
    HIDDEN_DE00,
    LIFTS_L,
    LIGHT_OVER_L,
    MUD_HUES,
    MUDDY_SHARE,
    NEARER_DE00,
    NEARLY_HIDDEN_DE00,
    NEAT_PASSES,
    PILED_UM,
    RISES_L,
    STRONG_CHROMA,
    THICK_UM,
)

_Spots = npt.NDArray[np.bool_]
# What is laid by the program stays so far below what is told as too thick.
_MARGIN_UM = 0.5


class Rule(Enum):
    """What a coat may do wrong."""

    LEADS_AWAY = "leads away from what is wanted"
    LIFTS_NOTHING = "lightens nothing for what lies over it"
    TOO_DARK = "makes a place darker than is wanted"
    WRONG_HUE = "is of pots that do not belong there"
    WHITE_BETWEEN = "is white in the middle of colours that get darker"
    NOT_FURTHER_IN = "reaches no further in than one before it"
    MUD = "is a colour over its opposite, and makes mud"
    PILED_UP = "lies so thick that it hides detail"
    RISES = "it gets lighter again away from the light"
    HIDDEN = "is hidden by what lies over it, or changes nothing"
    PATCHY = "is one pass of a light colour on a dark one, patchy and greyish"
    TINTED = "is a light clear colour straight on a dark one, which stays tinted"


class Breach(NamedTuple):
    """A rule that a coat breaks, by its number from the ground up; and what that costs, in dE.

    Without a coat it is the whole recipe that breaks it. What is broken a little may be laid, but
    is more effort than it looks; see `roughness`.
    """

    rule: Rule
    coat: int | None
    cost: float


class Case(Protocol):
    """A recipe on what is wanted; colours are asked for when a rule needs them.

    recipe : the coats that are judged. wanted : (spots, 3) CIELAB. last : the last step.
    """

    candidate: Candidate
    wanted: Array
    last: int

    def lines(self) -> Sequence[Sequence[int]]:
        """Return the spots of each site, from the light on."""

    def covered(self, coat: int) -> _Spots:
        """Return on which spots a coat lies, (spots,)."""

    def labs(self, count: int) -> Array:
        """Return CIELAB of each spot after the first `count` coats, (spots, 3)."""

    def off(self, count: int) -> Array:
        """Return how far that is from what is wanted, dE00, (spots,)."""

    def by_step(self, squares: Array) -> Array:
        """Return the roots of the means of squares (spots,) over the spots of each step."""

    def without(self, coat: int) -> tuple[Array, Array]:
        """Return what comes without one coat, (spots, 3), and how far off that is, (spots,)."""

    def thickness(self, coat: int) -> tuple[float, int]:
        """Return what a coat lays: um of neat paint, and passes that are neat and opaque."""

    def under(self, step: int) -> float:
        """Return how many um of neat paint lay on a step before."""

    def hides(self, coat: int) -> bool:
        """Tell whether nothing of what lies below a coat is seen through it."""

    def own(self, coat: int) -> tuple[float, float, float]:
        """Return L, C and h of a coat by itself over white: a film of a dark paint has its hue."""

    def light(self, coat: int) -> bool:
        """Tell whether a coat is white or a light warm tone, which may lie below others."""

    def tinted(self, coat: int) -> bool:
        """Tell whether a coat is of a colour, and not a white or an ivory."""

    def misfits(self, coat: int) -> _Spots:
        """Return on which spots a coat does not belong, (spots,): `opposites` and `odd_pots`."""


@dataclass(frozen=True)
class _Judged:
    """A rule as it is asked: of which coats it tells, what it costs, and whether it takes long."""

    rule: Rule
    cost: float
    broken: Callable[[Case, int], bool]
    slow: bool


_RULES: list[_Judged] = []
# Those that may be broken where a painter would rather not.
_ROUGH: list[_Judged] = []


def _rule(
    rule: Rule, cost: float, slow: bool = False, among: list[_Judged] = _RULES
) -> Callable[[Callable[[Case, int], bool]], Callable[[Case, int], bool]]:
    def keep(broken: Callable[[Case, int], bool]) -> Callable[[Case, int], bool]:
        among.append(_Judged(rule, cost, broken, slow))
        return broken

    return keep


def breaches(case: Case, slow: bool = True) -> list[Breach]:
    """Return which rules a recipe breaks, coat by coat; none if it is good.

    slow : whether to ask what takes longest as well: if every coat shows in the end.
    """
    found = [
        Breach(each.rule, k, each.cost)
        for k in range(len(case.candidate))
        for each in _RULES
        if (slow or not each.slow) and each.broken(case, k)
    ]
    return found + [Breach(Rule.RISES, None, 2.0)] * _rises(case)


def roughness(case: Case) -> tuple[Breach, ...]:
    """Return what a recipe does that painters would rather not, and what effort each counts as."""
    every = range(len(case.candidate))
    return tuple(Breach(r.rule, k, r.cost) for k in every for r in _ROUGH if r.broken(case, k))


def total_cost(found: Iterable[Breach]) -> float:
    """Return what some breaches cost all together."""
    return sum(breach.cost for breach in found)


def _rises(case: Case) -> int:
    """Return at how many spots it gets lighter again, where it is to get darker all along."""
    L, count = case.labs(len(case.candidate))[:, 0], 0
    for line in case.lines():
        falls = (np.diff(case.wanted[line, 0]) <= 0).all()
        least = np.minimum.accumulate(L[line])
        count += int((L[line][1:] > least[:-1] + RISES_L).sum()) if falls else 0
    return count


def _is_base(case: Case, k: int) -> bool:
    """Tell whether a coat is a dark ground: what is built up on may be anything."""
    return case.candidate[k].ground and not case.light(k)


def _pays(case: Case, k: int) -> bool:
    """Tell whether a light coat pays for those over it: a warm tone, or white that lightens."""
    if not case.light(k):
        return False
    on = case.covered(k)
    lifts = case.labs(k + 1)[on, 0] - case.labs(k)[on, 0] > LIFTS_L
    return case.tinted(k) or bool(lifts.any())


def _farther(case: Case, k: int) -> bool:
    was, now = (case.by_step(case.off(count) ** 2) for count in (k, k + 1))
    steps = slice(case.candidate[k].first, case.candidate[k].last + 1)
    return bool((now[steps] > was[steps] + NEARER_DE00).any())


@_rule(Rule.LEADS_AWAY, 3.0)
def _leads_away(case: Case, k: int) -> bool:
    """It leads a step that it covers farther away, all spots of it together, and does not pay."""
    return not _is_base(case, k) and not _pays(case, k) and _farther(case, k)


@_rule(Rule.LIFTS_NOTHING, 1.0)
def _lifts_nothing(case: Case, k: int) -> bool:
    """It is a light coat that lies below others all along, and lightens nothing for them."""
    placed = case.candidate[k]
    if _is_base(case, k) or not case.light(k) or _pays(case, k) or _farther(case, k):
        return False
    steps = range(placed.first, placed.last + 1)
    return all(any(over.covers(step) for over in case.candidate[k + 1 :]) for step in steps)


@_rule(Rule.TOO_DARK, 3.0)
def _too_dark(case: Case, k: int) -> bool:
    """It makes a place darker than what is wanted there in the end."""
    on = case.covered(k)
    was, now = case.labs(k)[on, 0], case.labs(k + 1)[on, 0]
    dark = (now < case.wanted[on, 0] - DARKER_L) & (now < was - 0.5)
    return not _is_base(case, k) and bool(dark.any())


@_rule(Rule.WRONG_HUE, 5.0)
def _wrong_hue(case: Case, k: int) -> bool:
    """A pot of it does not belong where it is seen."""
    if _is_base(case, k):
        return False
    seen = case.covered(k)
    # At one place all show a little, and what does not is laid for nothing.
    for over in range(k + 1, len(case.candidate) if case.last else 0):
        if case.hides(over):
            seen = seen & ~case.covered(over)
    return bool(case.misfits(k)[seen].any())


@_rule(Rule.WHITE_BETWEEN, 3.0)
def _white_between(case: Case, k: int) -> bool:
    """It is white over colours where it is to be darker than at the light: red turns pink there."""
    placed = case.candidate[k]
    if k == 0 or placed.first == 0 or not case.light(k) or case.tinted(k):
        return False
    at_light = max(float(case.wanted[line[0], 0]) for line in case.lines())
    return bool(case.wanted[case.covered(k), 0].max() < at_light - LIFTS_L)


@_rule(Rule.NOT_FURTHER_IN, 1.0)
def _not_further_in(case: Case, k: int) -> bool:
    """It reaches no further in than those before it from its side."""
    candidate = case.candidate
    placed, below = candidate[k], [each for each in candidate[:k] if not each.ground]
    if placed.ground or not case.last:
        return False
    if placed.interval == (0, case.last):
        return bool(below)
    if placed.first > 0:
        return any(each.first >= placed.first for each in below if each.last >= placed.last)
    return any(each.last <= placed.last for each in below)


@_rule(Rule.MUD, 3.0)
def _mud(case: Case, k: int) -> bool:
    """It is a colour laid over its opposite, of whose chroma it takes the half, or to dull it."""
    _, own_chroma, own_hue = case.own(k)
    if own_chroma < STRONG_CHROMA:
        return False
    on = case.covered(k)
    was, now = lch(case.labs(k)[on]), lch(case.labs(k + 1)[on])
    if dulls(np.array(own_chroma), case.labs(k)[on], case.labs(k + 1)[on], case.wanted[on]).any():
        return True
    facing = (was[:, 1] > STRONG_CHROMA) & (apart(own_hue, was[:, 2]) > MUD_HUES)
    return bool((facing & (now[:, 1] < MUDDY_SHARE * was[:, 1])).any())


@_rule(Rule.PILED_UP, 2.0)
def lies_thick(case: Case, k: int) -> bool:
    """It is laid neat too often, or with those below it so thick that detail is lost."""
    placed = case.candidate[k]
    um, neat = case.thickness(k)
    if um == 0:
        return False
    if neat > NEAT_PASSES:
        return True
    below = [(case.candidate[i], case.thickness(i)[0]) for i in range(k)]
    for step in range(placed.first, placed.last + 1):
        own = um + sum(each for other, each in below if other.covers(step))
        if own > PILED_UM or own + case.under(step) > THICK_UM - _MARGIN_UM:
            return True
    return False


@_rule(Rule.HIDDEN, 1.0, slow=True)
def is_hidden(case: Case, k: int) -> bool:
    """Nobody would miss it: it hardly shows, or nothing is nearer for it."""
    labs, off = case.without(k)
    count = len(case.candidate)
    shows = float(delta_e(case.labs(count), labs).max())
    gains = float((off - case.off(count)).max())
    seen = case.covered(k)
    for over in range(k + 1, count):
        if case.hides(over):
            seen = seen & ~case.covered(over)
    least = HIDDEN_DE00 if seen.any() or not case.hides(k) else NEARLY_HIDDEN_DE00
    return shows < least or gains < GAINED_DE00


@_rule(Rule.PATCHY, 0.4, among=_ROUGH)
def _is_patchy(case: Case, k: int) -> bool:
    """White and yellow are solid on black with the second pass or the third; common practice."""
    if case.candidate[k].coat.passes > 1 or not case.light(k):
        return False
    on = case.covered(k)
    dark = case.labs(k)[on, 0] < DARK_BELOW_L
    return bool((dark & (case.labs(k + 1)[on, 0] > LIGHT_OVER_L)).any())


@_rule(Rule.TINTED, 1.0, among=_ROUGH)
def _stays_tinted(case: Case, k: int) -> bool:
    """Yellow is laid over white, or a warm tone at least: on black it turns greenish."""
    if not (case.labs(k)[case.covered(k), 0] < DARK_BELOW_L).any():
        return False
    L, C, _ = case.own(k)
    return L > LIGHT_OVER_L and C > CLEAN_CHROMA
