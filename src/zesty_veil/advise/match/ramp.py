"""Match along the axis: wanted colours from light to far, and nested coats that lead to them.

Painters lay no recipe for each place. They lay one stack, of which each coat reaches less far than
the one before: where the first ends the colour is the first one wanted, and so on. So the colours
wanted are what the same stack comes to after more and more of its coats, and one search along the
stack serves all of them. It is tried both ways: nested towards the far end, as flames are painted,
and towards the light. Ridge and recess of a place are one step of it: the same coats lie on both.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.bank import Bank, first_coats, mixed_coats
from zesty_veil.advise.match.chains import Chain, ChainsKnown, chains_over, reached
from zesty_veil.advise.match.context import ANYWHERE, MINUTE_DE00, MatchContext
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.pareto import Objectives, objectives, pareto_front
from zesty_veil.advise.match.rampproblem import RampProblem, Spot
from zesty_veil.errors import InputError
from zesty_veil.paint.kinds import SPECIAL
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import with_feather, with_span
from zesty_veil.plan.model import MOST_PASSES, Coat, Passage
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.tr import tr

MOST_RAMP_TARGETS = 9
Towards = Literal["far", "light"]
_BEAM = 7  # of each number of coats and of mixes
_NARROW = 4  # where it is only to show which paints are of use
_TUNED = 4
# Paints of so many chains are looked at, and so many of them mixed with each other.
_USED, _MIXED = 60, 14
_ALWAYS = (("PW6",), ("PBk7",))
_SWEEPS = 3
_WEIGHED = 50


@dataclass(frozen=True)
class RampWay:
    """Nested coats that lead to a ramp, from the ground up, and what they cost.

    delta_e : dE00 at each target. towards : the end that later coats draw back to. sensitivity : by
    how much an ordinary hand strays on average, dE00. start : which of the grounds it starts from,
    where there were several to choose from.
    """

    coats: tuple[Coat, ...]
    delta_e: tuple[float, ...]
    towards: Towards
    minutes: float
    pots: int
    sensitivity: float
    start: int = 0

    @property
    def mean(self) -> float:
        """Mean dE00 over the targets."""
        return float(np.mean(self.delta_e))

    @property
    def aims(self) -> Objectives:
        """What is made small."""
        return objectives(self.mean, self.pots, self.minutes, self.sensitivity)


def ramp_ways(
    spots: Sequence[Spot],
    paints: Sequence[Paint],
    limits: Limits,
    look: ViewingConditions,
    should_continue: Callable[[], bool] = lambda: True,
    passage: Passage = ANYWHERE,
    only: Towards | None = None,
    over: tuple[Coat, ...] = (),
) -> Iterator[tuple[RampWay, ...]]:
    """Yield the ways to a ramp found so far, none at first, then better and better, the best first.

    Parameters
    ----------
    spots
        What is wanted where, in rising order of place; of at most `MOST_RAMP_TARGETS` places.
    paints, limits, look
        What may be used and done, and how it is looked at.
    should_continue
        Asked between the steps; when it says no, nothing more is yielded.
    passage
        Whose size tells how long a coat takes.
    only
        The end that later coats draw back to; none to try both.
    over
        Coats that will lie over all, on top of those found; the limits do not count them.

    Raises
    ------
    InputError
        If there is no target, or too many, or their places do not rise.
    """
    places = list(dict.fromkeys(spot.place for spot in spots))
    if not 1 <= len(places) <= MOST_RAMP_TARGETS:
        raise InputError(
            tr("A ramp has from 1 to {0} targets; this has {1}.").format(
                MOST_RAMP_TARGETS, len(places)
            )
        )
    sites = {(spot.place, spot.relief) for spot in spots}
    if places != sorted(places) or len(sites) < len(spots):
        raise InputError(
            tr("The places of a ramp's targets must rise from the light to the far end.")
        )
    usable = [paint for paint in paints if paint.kind not in SPECIAL]
    single = first_coats(usable, limits.tools)
    if not single:
        return
    reliefs = sorted({spot.relief for spot in spots})
    # Over metal every film is worked out for straight beams too, so one such ground says it.
    ground = next((s.ground for s in spots if s.ground.mirror is not None), spots[0].ground)
    benches = {r: MatchContext(ground, paints, limits, look, r, passage) for r in reliefs}
    course = RampProblem(spots, benches, {}, over).with_options(single)
    both: tuple[Towards, ...] = ("far", "light") if len(places) > 1 else ("far",)
    directions = both if only is None else (only,)
    known: ChainsKnown = {}
    first = {d: reached(_in_order(course, d), known, should_continue) for d in directions}
    chains: dict[Towards, list[Chain]] = {}
    for towards in directions:
        width = _NARROW if limits.mixes else _BEAM
        for beam in chains_over(_in_order(course, towards), first[towards], width, should_continue):
            chains[towards] = beam
            yield ()
    if limits.mixes and should_continue():
        # Of all pairs only those are mixed whose paints have shown that they are of use.
        of_use = _of_use([chain for each in chains.values() for chain in each[:_USED]], usable)
        course = course.with_options([*single, *mixed_coats(of_use, limits.tools)])
        for towards in directions:
            for beam in chains_over(
                _in_order(course, towards), first[towards], _BEAM, should_continue
            ):
                chains[towards] = beam
                yield ()
    found: list[RampWay] = []
    for towards in directions:
        ordered = _in_order(course, towards)
        for chain in _worth_tuning(chains.get(towards, [])):
            if not should_continue():
                return
            way = _way(_tuned(chain, ordered, should_continue), ordered, towards)
            if way not in found:
                found.append(way)
            yield pareto_front(found)


def ramp_steps(places: int, limits: Limits) -> int:
    """Return how often `ramp_ways` yields, about."""
    directions = 2 if places > 1 else 1
    return directions * (places * (2 if limits.mixes else 1) + _TUNED)


def _worth_tuning(chains: Sequence[Chain]) -> list[Chain]:
    """Return the best chains, and among them one of fewer coats, which some painters would take."""
    best = list(chains[:_TUNED])
    fewer = [chain for chain in chains if best and len(chain.coats) < len(best[0].coats)]
    if fewer and fewer[0] not in best:
        best[-1] = fewer[0]
    return best


def _in_order(course: RampProblem, towards: Towards) -> RampProblem:
    return course if towards == "far" else course.backwards()


def _of_use(chains: Sequence[Chain], paints: Sequence[Paint]) -> list[Paint]:
    """Return the paints that chains use most, in the order of the rack, and white and black."""
    count = Counter(part.paint for chain in chains for c in chain.coats for part in c.mixture.parts)
    often = {name for name, _ in count.most_common(_MIXED)}
    return [p for p in paints if p.name in often or p.pigments in _ALWAYS]


def _tuned(chain: Chain, course: RampProblem, should_continue: Callable[[], bool]) -> Chain:
    """Return a chain with each coat in turn swapped and tuned until that helps no more."""
    for _ in range(_SWEEPS):
        before = chain
        for at in range(len(chain.coats)):
            if not should_continue():
                return chain
            chain = _better(chain, at, course.options, course)
            fine = {r: bench.tuned(chain.coats[at]) for r, bench in course.benches.items()}
            if not should_continue():
                return chain
            chain = _better(chain, at, fine, course)
        if chain == before:
            break
    return chain


def _better(chain: Chain, at: int, banks: dict[float, Bank], course: RampProblem) -> Chain:
    bench, bank = course.bench, next(iter(banks.values()))
    error = course.errors(chain.coats, chain.looked, at, banks)
    now = chain.error + bench.effort(chain.coats)
    best = chain
    # By squares alone the best come first; one of a mixture that is there already may cost less.
    for k in np.argsort(error + MINUTE_DE00 * bank.cost.minutes, kind="stable")[:_WEIGHED]:
        coats = (*chain.coats[:at], bank.coats[k], *chain.coats[at + 1 :])
        cost = float(error[k]) + bench.effort(coats)
        if cost < now - 1e-9 and bench.fits(coats):
            best, now = Chain(coats, chain.looked, float(error[k])), cost
    return best


def joined_coats(coats: Sequence[Coat]) -> list[Coat]:
    """Return coats, those that differ in nothing but their passes as one, where they follow."""
    out: list[Coat] = []
    for coat in coats:
        passes = coat.passes + (out[-1].passes if out else 0)
        joined = replace(coat, passes=passes)
        if out and joined == replace(out[-1], passes=passes) and passes <= MOST_PASSES:
            out[-1] = joined
        else:
            out.append(coat)
    return out


def _way(chain: Chain, course: RampProblem, towards: Towards) -> RampWay:
    """Return a chain as coats with spans and feathers."""
    along = [step[0].place if towards == "far" else 1 - step[0].place for step in course.steps]
    coats = []
    for i, coat in enumerate(chain.coats):
        first = next(k for k, looked in enumerate(chain.looked) if looked > i)
        start = 0.0 if first == 0 else along[first]
        feather = 0.0 if first == 0 else along[first] - along[first - 1]
        if towards == "far":
            coats.append(with_feather(with_span(coat, start, 1.0), feather, 0.0))
        else:
            coats.append(with_feather(with_span(coat, 0.0, 1.0 - start), 0.0, feather))
    coats = joined_coats(coats)
    off = [
        course.delta_e(chain.coats[:looked], spot)
        for step, looked in zip(course.steps, chain.looked, strict=True)
        for spot in step
    ]
    if towards == "light":
        off.reverse()
    sensitivity = np.mean(
        [
            course.benches[spot.relief].sensitivity(chain.coats[:looked], spot.ground)
            for step, looked in zip(course.steps, chain.looked, strict=True)
            for spot in step
        ]
    )
    minutes, pots = course.bench.minutes(tuple(coats)), len({coat.mixture for coat in coats})
    return RampWay(tuple(coats), tuple(off), towards, minutes, pots, float(sensitivity))
