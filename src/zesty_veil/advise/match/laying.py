"""Recipes for a ramp, grown coat by coat as painters lay them.

As every coat must bring each place that it covers nearer to what is wanted, few coats are worth
looking at, and a beam finds its way without throwing away what would pay later; what does not pay
at once, white or a warm tone below, is what it starts from.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.judge import dulls
from zesty_veil.advise.match.recipe import Easel
from zesty_veil.advise.match.scheme import Laid, Scheme, coats_of, effort
from zesty_veil.advise.match.stacks import joined
from zesty_veil.advise.match.tuning import Go, Tuning, Ways
from zesty_veil.light.grid import Array
from zesty_veil.thresholds import DARKER_L, LIFTS_L, NEARER_DE00, PILED_UM, STRONG_CHROMA

# So many recipes go on, of those that have come equally far, and of all.
_ALIKE, _MOST = 2, 30
_TRIED, _BY_ENDS = 40, 8
# At a single place, several strengths of a mixture may go on.
_STRENGTHS = 3
_BEYOND = 99
# From this share of what may lie on a place on, each more counts by so much, dE.
_HALF_FULL, _THICK = 0.45, 4.0


class Laying(Tuning):
    """A search on an easel that grows recipes from nothing, or from what may lie below."""

    def __init__(self, easel: Easel, ways: Ways, thrift: float) -> None:
        super().__init__(easel, ways, thrift)
        # (options,): the chroma that one has of its own, solid over white, and if that is a colour.
        self.own = self.efforts.of(easel.chroma(self.efforts.mixtures))
        self.tinted = self.own > STRONG_CHROMA
        # (spots, options): whether an option does not belong where it would lie.
        self.misfit = self.efforts.of(easel.misfits(self.efforts.mixtures))
        # What recipes come to, L, a, b and how far off, (spots, 4), before they are walked through.
        self._ends: dict[Scheme, Array] = {}
        self._weights: dict[Scheme, float] = {}

    def grown(self, go: Go) -> Iterator[list[Scheme]]:
        """Yield the best recipes so far, coat by coat."""
        beam: list[Scheme] = [(ground,) for ground in self.ways.grounds]
        if self.ways.bare or not beam:
            beam.insert(0, ())
        beam = [r for r in beam if self.bench.fits(coats_of(r))]
        every: list[Scheme] = list(beam)
        for _ in range(self.bench.limits.coats + 2):
            if not go():
                return
            fresh = self._next(beam)
            if not fresh:
                break
            every += fresh
            beam = self._various(fresh)
            yield self._best(every)

    def _best(self, recipes: Sequence[Scheme]) -> list[Scheme]:
        return sorted(recipes, key=self._weight)

    def _end(self, recipe: Scheme) -> tuple[Array, Array]:
        """Return what a recipe comes to, (spots, 3), and how far that is off, (spots,)."""
        labs = self._ends.get(recipe)
        if labs is None:
            walk = self.easel.walk(recipe)
            return walk.labs, walk.off
        return labs[:, :3], labs[:, 3]

    def _weight(self, recipe: Scheme) -> float:
        """Return the weight of a recipe, without walking through it."""
        if recipe not in self._weights:
            _, off = self._end(recipe)
            self._weights[recipe] = _rms(off) + self.thrift * effort(recipe)
        return self._weights[recipe]

    def _various(self, recipes: Sequence[Scheme]) -> list[Scheme]:
        """Return the best recipes of each reach in turn, so that none crowds out the others."""
        reaches: dict[tuple[int, int], list[Scheme]] = {}
        for recipe in sorted(recipes, key=self._promise):
            reaches.setdefault(_reach(recipe), []).append(recipe)
        ranks = [
            (rank, self._promise(recipe), k, recipe)
            for k, alike in enumerate(reaches.values())
            for rank, recipe in enumerate(self._apart(alike))
        ]
        return [recipe for *_, recipe in sorted(ranks, key=lambda each: each[:3])][:_MOST]

    def _apart(self, alike: Sequence[Scheme]) -> Sequence[Scheme]:
        """Return the first of recipes of one reach; at a single place they may be of like pots."""
        if self.easel.last == 0:
            return alike[: _ALIKE * _MOST]
        return unlike(alike)[:_ALIKE]

    def _promise(self, recipe: Scheme) -> float:
        """Return what is made small among recipes that are not done: as `weight`, but lenient.

        Steps that later coats may still cover count little, unless they are too dark by now.
        """
        easel = self.easel
        labs, off = self._end(recipe)
        first, last = _reach(recipe)
        more = easel.last > 0
        open_far = (easel.steps > first) & ("far" in self.ways.towards) & more
        open_light = (easel.steps < last) & ("light" in self.ways.towards) & more
        dark = np.maximum(easel.wanted[:, 0] - labs[:, 0], 0.0)
        late = np.where(open_light, 0.15 * off, 0.15 * off + 0.5 * dark)
        some = np.where(open_far | open_light, np.minimum(late, off), off)
        # What is laid thick by now leaves little for the coats that are still to come.
        thick = max(easel.thickness(recipe) / PILED_UM - _HALF_FULL, 0.0) * (easel.last > 0)
        return _rms(some) + self.thrift * effort(recipe) + _THICK * thick

    def _next(self, beam: Sequence[Scheme]) -> list[Scheme]:
        """Return recipes with one coat more, the best first."""
        easel, last = self.easel, self.easel.last
        walks = [easel.walk(recipe) for recipe in beam]
        labs = self._every_option(beam)  # (n, spots, options, 3)
        off = easel.options_off(labs, range(len(easel.spots)))
        now = np.array([walk.off for walk in walks])
        light = np.array([walk.labs[:, 0] for walk in walks])
        # (steps, n, options) and (steps, n)
        after = easel.by_step(np.moveaxis(off**2, 1, 0))
        before = easel.by_step(now.T**2)[..., None]
        dark = (labs[..., 0] < easel.wanted[None, :, None, 0] - DARKER_L) & (
            labs[..., 0] < light[..., None] - 0.5
        )
        was = np.array([walk.labs for walk in walks])[:, :, None]
        bad = dark | dulls(self.own, was, labs, easel.wanted[None, :, None])
        wrong = np.array([bad[:, easel.steps == s].any(axis=1) for s in range(last + 1)])
        odd = np.array([self.misfit[easel.steps == s].any(axis=0) for s in range(last + 1)])
        rise = labs[..., 0] - light[..., None] > LIFTS_L
        lifted = np.array([rise[:, easel.steps == s].any(axis=1) for s in range(last + 1)])
        good = ((after <= before + NEARER_DE00) | self.light & (self.tinted | lifted)) & ~wrong
        gain = before**2 - after**2
        reaches = np.array([_reach(recipe) for recipe in beam], dtype=np.intp)
        costs = np.stack([self.efforts.on(recipe) for recipe in beam])
        found: list[tuple[float, int, int, tuple[int, int]]] = []
        for ends in self.intervals():
            some = slice(ends[0], ends[1] + 1)
            allowed = good[some].all(axis=0) & (gain[some] > 0).any(axis=0)
            # What lies further in than its last step may be hidden by lighter coats.
            hidden = ends[0] == 0 and "light" in self.ways.towards
            allowed &= ~odd[ends[1] if hidden else ends[0] : ends[1] + 1].any(axis=0)
            allowed &= np.array([_further_in(recipe, ends, last) for recipe in beam])[:, None]
            squares = self._left(before, after, ends, reaches)
            weight = np.sqrt(squares) + self.thrift * costs
            weight[~allowed] = np.inf
            flat = np.argpartition(weight, min(_TRIED, weight.size - 1), axis=None)[:_TRIED]
            for k in flat:
                n, m = divmod(int(k), weight.shape[1])
                if np.isfinite(weight[n, m]):
                    found.append((float(weight[n, m]), n, m, ends))
        fresh = self._taken(beam, sorted(found))
        for recipe, n, m in fresh:
            on = easel.covered(recipe[-1])[:, None]
            now_n = np.column_stack([walks[n].labs, now[n]])
            self._ends[recipe] = np.where(on, np.column_stack([labs[n, :, m], off[n, :, m]]), now_n)
        return [recipe for recipe, _, _ in fresh]

    def _left(
        self, before: Array, after: Array, ends: tuple[int, int], reaches: npt.NDArray[np.intp]
    ) -> Array:
        """Return mean squares over the steps with each option over some of them, as `_promise`.

        before, after : (steps, n, 1) and (steps, n, options). reaches : (n, 2). Returns
        (n, options).
        """
        last = self.easel.last
        first, end = np.maximum(reaches[:, 0], ends[0]), np.minimum(reaches[:, 1], ends[1])
        out = np.zeros(after.shape[1:])
        for step in range(last + 1):
            off = after[step] if ends[0] <= step <= ends[1] else before[step]
            # A step that a coat after this one may still cover counts little.
            more = ("far" in self.ways.towards) & (step > first)
            more |= ("light" in self.ways.towards) & (step < end)
            out += (np.where(more & (last > 0), 0.15, 1.0)[:, None] * off) ** 2
        return out / (last + 1)

    def _taken(
        self, beam: Sequence[Scheme], found: Sequence[tuple[float, int, int, tuple[int, int]]]
    ) -> list[tuple[Scheme, int, int]]:
        """Return the best of the coats found, some over every reach, as recipes.

        Each with the number of the one it was laid on, and of the coat.
        """
        out: list[tuple[Scheme, int, int]] = []
        counts: dict[tuple[object, ...], int] = {}
        strengths = _STRENGTHS if self.easel.last == 0 else 1
        for _, n, m, ends in found:
            coat = self.coats[m]
            same, alike = (n, ends, coat.mixture.parts), (ends, _reach(beam[n]))
            if counts.get(same, 0) >= strengths or counts.get(alike, 0) >= strengths * _BY_ENDS:
                continue
            recipe = (*beam[n], Laid(coat, *ends))
            if not self.bench.fits(coats_of(recipe)) or self.easel.piled(recipe):
                continue
            counts[same] = counts.get(same, 0) + 1
            counts[alike] = counts.get(alike, 0) + 1
            out.append((recipe, n, m))
        return out

    def _every_option(self, beam: Sequence[Scheme]) -> npt.NDArray[np.float32]:
        """Return CIELAB of every option on every spot of every recipe, (n, spots, options, 3).

        Roughly, within dE 0.01: it only tells what is worth going on with.
        """
        easel = self.easel
        count = len(easel.spots)
        out = np.empty((len(beam) * count, len(self.coats), 3), dtype=np.float32)
        for relief, bank in self.banks.items():
            sites, bench = easel.sites[relief], easel.course.benches[relief]
            states = joined([easel.walk(recipe).states[relief] for recipe in beam])
            over = bench.each(easel.course.over)
            every = [over] * states.count
            for rows, numbers, labs in states.every(bank, bench.look, every, rough=True):
                where = [row // len(sites) * count + sites[row % len(sites)] for row in rows]
                there = np.array(where)
                out[np.ix_(there, numbers)] = labs
        return out.reshape(len(beam), count, len(self.coats), 3)


def _rms(off: Array) -> float:
    return math.sqrt(float(off @ off) / off.size)


def _reach(recipe: Scheme) -> tuple[int, int]:
    """Return how far in coats have come from both ends.

    Steps up to the first are covered by no later coat that draws back to the far end, and those
    from the second on by none that draws back to the light.
    """
    laid = [each for each in recipe if not each.ground]
    return max((e.first for e in laid), default=-1), min((e.last for e in laid), default=_BEYOND)


def unlike(recipes: Sequence[Scheme]) -> list[Scheme]:
    """Return recipes without those of the same pots as one before."""
    seen: set[tuple[object, ...]] = set()
    out = []
    for recipe in recipes:
        pots = tuple((laid.coat.mixture.parts, laid.interval) for laid in recipe)
        if pots not in seen:
            seen.add(pots)
            out.append(recipe)
    return out


def _further_in(recipe: Scheme, ends: tuple[int, int], last: int) -> bool:
    """Tell whether a coat over some steps begins further in than all before it on that side."""
    below = [laid for laid in recipe if not laid.ground]
    if ends == (0, last):
        return last == 0 or not below
    if ends[0] > 0:
        return all(laid.first < ends[0] for laid in below if laid.last >= ends[1])
    return all(laid.last > ends[1] for laid in below if laid.first == 0)
