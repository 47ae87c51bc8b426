"""Match: one wanted colour, and the ways to it that are worth choosing between.

References
----------
The idea of keeping what is best under some of several aims is Pareto's: a way is left out only if
another is at least as good in everything and better in something.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from zesty_veil.advise.match.bank import Bank, first_coats, mixed_coats
from zesty_veil.advise.match.far import far, roughly
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.polish import Bench, near, polished
from zesty_veil.advise.match.reach import Level, levels
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.paint.mixture import Mixture
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat
from zesty_veil.predict.layer import State
from zesty_veil.predict.look import Look, colours
from zesty_veil.predict.sure import FILM_CV

# Of each level so many of the nearest stacks are looked at, and so many of them are tuned.
_LOOKED_AT, _PER_LEVEL = 1000, 3
# Kinds that are tried only where all others stay farther off than this.
_SPECIAL = frozenset({"fluorescent", "metallic", "varnish"})
_NEAR = 1.0
# A way that is farther off than the nearest by more than this is no way there.
_WORSE = 8.0
MOST_WAYS = 8


@dataclass(frozen=True)
class Way:
    """Coats that lead to a colour, from the ground up, and what they cost.

    lab : (3,), where they lead. off : how far that is from what is wanted, dE00. pots : how
    many mixtures are stirred. touchy : by how much an ordinary hand strays, dE00.
    """

    coats: tuple[Coat, ...]
    lab: Array
    off: float
    minutes: float
    pots: int
    touchy: float

    @property
    def aims(self) -> tuple[float, int, float, float]:
        """What is made small, rounded to what a painter would notice.

        Nobody sees half a dE, but everybody would rather stir one pot than two.
        """
        near = np.ceil(2 * self.off) / 2
        return float(near), self.pots, round(self.minutes), round(self.touchy, 1)


class _Reach:
    """What some paints reach on a bench, worked out when it is first asked for."""

    def __init__(self, bench: Bench, paints: Sequence[Paint]) -> None:
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

    def stacks(self, target: Array, wanted: Callable[[], bool]) -> Iterator[tuple[Coat, ...]]:
        """Yield tuned stacks, from those that come near with the fewest coats on."""
        bench = self.bench
        if self.idle:
            return
        if not self._levels:
            found = list(levels(bench.ground, self.bank, bench.limits, bench.look, wanted))
            if len(found) < bench.limits.coats:
                return
            self._levels = found
        start = seeds(self._levels, self.bank, target)
        yield from start[:1]  # rough, but at once
        for seed in start:
            if not wanted():
                return
            yield polished(seed, bench, near(target), self.swaps, wanted)


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
    """

    def __init__(
        self,
        ground: State,
        paints: Sequence[Paint],
        limits: Limits,
        look: Look,
        relief: float = 0.0,
    ) -> None:
        self.bench = Bench(ground, paints, limits, look, relief)
        self.plain = _Reach(self.bench, [p for p in paints if p.kind not in _SPECIAL])
        special = [p for p in paints if p.kind in _SPECIAL and p.kind != "varnish"]
        self.all = _Reach(self.bench, [*self.plain.paints, *special]) if special else None

    def ways(
        self, target: Array, wanted: Callable[[], bool] = lambda: True
    ) -> Iterator[tuple[Way, ...]]:
        """Yield the ways to a colour that are worth choosing between, better and better.

        Fluorescent and metallic paints are tried only where plain ones come to nothing.

        Parameters
        ----------
        target : (3,) float64
            CIELAB.
        wanted
            Asked between the steps; when it says no, nothing more is yielded.
        """
        bare = self.way((), target)
        found: dict[tuple[Coat, ...], Way] = {(): bare}
        yield (bare,)
        for reach in (self.plain, self.all):
            if reach is None or min(way.off for way in found.values()) < _NEAR:
                break
            for coats in reach.stacks(target, wanted):
                if coats not in found:
                    found[coats] = self.way(coats, target)
                yield worth_choosing(found.values())

    def way(self, coats: tuple[Coat, ...], target: Array) -> Way:
        """Return coats as a way to a colour."""
        lab = colours(self.bench.on(coats, self.bench.ground), self.bench.look)[0][0, 0]
        return Way(
            coats,
            lab,
            float(ciede2000(lab, target)),
            self.bench.minutes(coats),
            len({coat.mixture for coat in coats}),
            self._touchy(coats, lab),
        )

    def _touchy(self, coats: tuple[Coat, ...], lab: Array) -> float:
        """Return how far one usual deviation of each coat's film leads, all together."""
        total = 0.0
        for i, coat in enumerate(coats):
            # Passes stray each by itself, so that many stray less than one.
            more = FILM_CV["ordinary"] / np.sqrt(coat.passes)
            thicker = _stronger(coat, more)
            changed = (*coats[:i], thicker, *coats[i + 1 :])
            other = colours(self.bench.on(changed, self.bench.ground), self.bench.look)[0][0, 0]
            total += float(ciede2000(lab, other)) ** 2
        return float(np.sqrt(total))


def _stronger(coat: Coat, more: float) -> Coat:
    """Return a coat with some more paint in it, as a share of what it has."""
    thinning = (1 + coat.mixture.thinning) / (1 + more) - 1
    if thinning < 0:
        return Coat(coat.mixture, coat.tool, coat.passes + 1)
    mixture = Mixture(coat.mixture.parts, coat.mixture.thinner, thinning)
    return Coat(mixture, coat.tool, coat.passes)


def seeds(found: Sequence[Level], bank: Bank, target: Array) -> list[tuple[Coat, ...]]:
    """Return the stacks that come nearest to a colour, of each number of coats, the nearest first.

    Of stacks of the same paints only the nearest is taken.
    """
    out: list[tuple[float, int, tuple[Coat, ...]]] = []
    for level in found:
        near_ones: list[tuple[float, tuple[int, ...]]] = []
        for grown in level:
            lab = grown.lab.reshape(-1, 3)
            rough = roughly(lab, target)
            rough[~grown.allowed.ravel()] = np.inf
            most = min(_LOOKED_AT, rough.size)
            some = np.sort(np.argpartition(rough, most - 1)[:most])
            some = some[np.isfinite(rough[some])]
            off = far(lab[some].astype(np.float64), target)
            for k in np.argsort(off, kind="stable")[:60]:
                row, column = divmod(int(some[k]), grown.numbers.size)
                numbers = (*grown.pool.coats[row], grown.numbers[column])
                near_ones.append((float(off[k]), tuple(int(n) for n in numbers)))
        near_ones.sort()
        taken: set[tuple[str, ...]] = set()
        for far_off, numbers in near_ones:
            coats = tuple(bank.coats[n] for n in numbers)
            names = tuple(coat.mixture.parts[0].paint for coat in coats)
            if names not in taken and len(taken) < _PER_LEVEL:
                taken.add(names)
                out.append((far_off, len(coats), coats))
    return [coats for _, _, coats in sorted(out, key=lambda each: each[:2])]


def worth_choosing(ways: Iterable[Way]) -> tuple[Way, ...]:
    """Return the ways than which no other is at least as good in everything, the nearest first.

    Those that are far worse than the nearest are left out.
    """
    every = sorted(ways, key=lambda way: (way.aims, len(way.coats)))
    most = min((way.off for way in every), default=0.0) + _WORSE
    every = [way for way in every if way.off <= most]
    kept: list[Way] = []
    for way in every:
        if not any(
            all(a <= b for a, b in zip(other.aims, way.aims, strict=True)) for other in kept
        ):
            kept.append(way)
    return tuple(kept[:MOST_WAYS])
