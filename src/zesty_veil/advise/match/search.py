"""Match: one wanted colour, and the ways to it that are worth choosing between."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from zesty_veil.advise.match.bank import Bank
from zesty_veil.advise.match.choices import first_coats, mixed_coats
from zesty_veil.advise.match.context import ANYWHERE, MatchContext, near, polished
from zesty_veil.advise.match.grounds import as_scheme
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.pareto import Objectives, objectives, plainest_first
from zesty_veil.advise.match.ramp import ramp_steps, ramp_ways
from zesty_veil.advise.match.rampproblem import RampProblem, Spot
from zesty_veil.advise.match.reach import Level, levels, nearest
from zesty_veil.advise.match.recipe import Easel
from zesty_veil.advise.match.scheme import Laid, effort
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.paint.kinds import CLEAR, SPECIAL
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.thresholds import CLOSE_DE00

# Of each level so many of the nearest stacks are looked at, and so many of them are tuned.
_NEAREST, _PER_LEVEL = 60, 3
# Kinds that are tried only where all others stay farther off than this.
Kinds = Literal["plain", "all"]
NEAR = 1.0


@dataclass(frozen=True)
class Way:
    """Coats that lead to a colour, from the ground up, and what they cost.

    lab : (3,), where they lead. delta_e : how far that is from what is wanted, dE00. pots : how
    many mixtures are stirred. sensitivity : by how much an ordinary hand strays, dE00. start :
    which of the grounds it starts from, where there were several to choose from.
    """

    coats: tuple[Coat, ...]
    lab: Array
    delta_e: float
    minutes: float
    pots: int
    sensitivity: float
    start: int = 0

    @property
    def aims(self) -> Objectives:
        """What is made small."""
        return objectives(self.delta_e, self.pots, self.minutes, self.sensitivity)

    @property
    def off(self) -> float:
        """How far it is from what is wanted, dE00."""
        return self.delta_e

    @property
    def effort(self) -> float:
        """What they cost the painter."""
        return effort(tuple(Laid(coat, 0, 0) for coat in self.coats))


class _Reach:
    """What some paints reach on a bench, worked out when it is first asked for."""

    def __init__(self, bench: MatchContext, paints: Sequence[Paint]) -> None:
        self.bench, self.paints = bench, paints
        self._levels: list[Level] = []

    @cached_property
    def bank(self) -> Bank:
        """Coats of single paints, from which stacks are grown."""
        return self.bench.bank(first_coats(self.paints, self.bench.limits.tools))

    @cached_property
    def swaps(self) -> Bank:
        """Those and coats of two paints, for which coats of a stack are swapped."""
        limits = self.bench.limits
        mixed = mixed_coats(self.paints, limits.tools) if limits.mixes else []
        return self.bench.bank([*self.bank.coats, *mixed])

    @property
    def idle(self) -> bool:
        """Whether there is nothing that could be laid."""
        return not self.bank.coats

    def stacks(
        self, target: Array, should_continue: Callable[[], bool]
    ) -> Iterator[tuple[Coat, ...]]:
        """Yield tuned stacks, from those that come near with the fewest coats on."""
        bench = self.bench
        if self.idle:
            return
        if not self._levels:
            found = []
            for level in levels(bench.ground, self.bank, bench.limits, bench.look, should_continue):
                found.append(level)
                yield ()
            if len(found) < bench.limits.coats:
                return
            self._levels = found
        start = starting_stacks(self._levels, self.bank, target)
        yield from start[:1]  # rough, but at once
        for stack in start:
            if not should_continue():
                return
            yield polished(stack, bench, near(target), self.swaps, should_continue)


class Matcher:
    """A ground with paints and limits, on which colours are matched; what it reaches is kept.

    Parameters
    ----------
    ground
        Of leading shape (1, 1).
    paints
        That may be used.
    limits, look, relief
        What may be done, how it is looked at, and where it lies.
    passage
        Whose size tells how long a coat takes.
    """

    def __init__(
        self,
        ground: StackOptics,
        paints: Sequence[Paint],
        limits: Limits,
        look: ViewingConditions,
        relief: float = 0.0,
        passage: Passage = ANYWHERE,
    ) -> None:
        self.bench = MatchContext(ground, paints, limits, look, relief, passage)
        self.plain = _Reach(self.bench, [p for p in paints if p.kind not in SPECIAL])
        special = [p for p in paints if p.kind in SPECIAL and p.kind not in CLEAR]
        self.all = _Reach(self.bench, [*self.plain.paints, *special]) if special else None

    def ways(
        self,
        target: Array,
        should_continue: Callable[[], bool] = lambda: True,
        kinds: Sequence[Kinds] = ("plain", "all"),
    ) -> Iterator[tuple[Way, ...]]:
        """Yield the ways to a colour that are worth choosing between, better and better.

        Parameters
        ----------
        target : (3,) float64
            CIELAB.
        should_continue
            Asked between the steps; when it says no, nothing more is yielded.
        kinds
            Of paint; the second only where the first come to nothing: fluorescent and metallic
            ones take longer to search, and to paint.
        """
        bare = self.way((), target)
        found: dict[tuple[Coat, ...], Way] = {(): bare}
        yield (bare,)
        easel = self._easel(target)
        if "plain" in kinds and bare.delta_e >= NEAR:
            for ways in self._laid(easel, should_continue):
                found |= {coats: self.way(coats, target) for coats in ways if coats not in found}
                yield self._worth(found, easel)
        for kind in kinds:
            reach = self.plain if kind == "plain" else self.all
            if reach is None or min(way.delta_e for way in found.values()) < NEAR:
                break
            for coats in reach.stacks(target, should_continue):
                if coats not in found:
                    found[coats] = self.way(coats, target)
                yield self._worth(found, easel)

    def _easel(self, target: Array) -> Easel:
        spot = Spot(0.5, target, self.bench.ground, self.bench.relief)
        return Easel(RampProblem((spot,), {self.bench.relief: self.bench}, {}))

    def _laid(
        self, easel: Easel, should_continue: Callable[[], bool]
    ) -> Iterator[list[tuple[Coat, ...]]]:
        """Yield coats as painters lay them, by the rules of `recipe`."""
        bench = self.bench
        paints, how = tuple(bench.paints.values()), (bench.limits, bench.look, should_continue)
        for ways in ramp_ways(easel.spots, paints, *how, bench.passage):
            yield [way.coats for way in ways]

    def _worth(self, found: Mapping[tuple[Coat, ...], Way], easel: Easel) -> tuple[Way, ...]:
        """Return the ways worth choosing between.

        Those that break a painter's rule are left out, unless they come clearly nearer.
        """
        good: list[Way] = []
        bad: list[Way] = []
        for coats, way in found.items():
            recipe = as_scheme(coats, self.bench.paints)
            (bad if easel.faults(recipe) else good).append(way)
        nearest = min((way.delta_e for way in good), default=math.inf)
        good += [way for way in bad if way.delta_e < nearest - CLOSE_DE00]
        return plainest_first(good)

    @property
    def steps(self) -> int:
        """How often `ways` yields, about."""
        kinds = 1 if self.all is None else 2
        laid = ramp_steps(1, self.bench.limits)
        return laid + kinds * (1 + _PER_LEVEL) * self.bench.limits.coats + 2

    def way(self, coats: tuple[Coat, ...], target: Array) -> Way:
        """Return coats as a way to a colour."""
        lab = colours(self.bench.on(coats, self.bench.ground), self.bench.look)[0][0, 0]
        return Way(
            coats,
            lab,
            float(ciede2000(lab, target)),
            self.bench.minutes(coats),
            len({coat.mixture for coat in coats}),
            self.bench.sensitivity(coats, self.bench.ground),
        )


def starting_stacks(found: Sequence[Level], bank: Bank, target: Array) -> list[tuple[Coat, ...]]:
    """Return the stacks that come nearest to a colour, of each number of coats, the nearest first.

    Of stacks of the same paints only the nearest is taken.
    """
    out: list[tuple[float, int, tuple[Coat, ...]]] = []
    for level in found:
        taken: set[tuple[str, ...]] = set()
        for far_off, coats in nearest(level, bank, target, _NEAREST):
            names = tuple(coat.mixture.parts[0].paint for coat in coats)
            if names not in taken and len(taken) < _PER_LEVEL:
                taken.add(names)
                out.append((far_off, len(coats), coats))
    return [coats for _, _, coats in sorted(out, key=lambda each: each[:2])]
