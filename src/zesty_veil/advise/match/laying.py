"""Recipes for a ramp, grown coat by coat as painters lay them, and tuned until nothing helps more.

As every coat must bring each place that it covers nearer to what is wanted, few coats are worth
looking at, and a beam finds its way without throwing away what would pay later; what does not pay
at once, white or a warm tone below, is what it starts from.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from dataclasses import replace as changed
from typing import Literal

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.bank import Bank
from zesty_veil.advise.match.difference import delta_e
from zesty_veil.advise.match.recipe import (
    Easel,
    Efforts,
    Laid,
    Scheme,
    by_ends,
    coats_of,
    effort,
    on_step,
)
from zesty_veil.advise.match.shortlist import light_mixtures
from zesty_veil.light.grid import Array
from zesty_veil.predict.layer import joined_stacks
from zesty_veil.thresholds import DARKER_L, NEARER_DE00

Go = Callable[[], bool]
Towards = Literal["far", "light"]
# An end that later coats draw back to, or an order of work that painters of glows keep to.
Manner = Literal["far", "light", "white", "sketch", "inward", "spot", "over"]
# So many recipes go on, of those that have come equally far, and of all.
_ALIKE, _MOST, _BEST = 2, 30, 6
_TRIED, _BY_ENDS = 40, 8
_TUNED_OVER = 6
# At a single place, several strengths of a mixture may go on.
_STRENGTHS = 3
_SWEEPS = 2
_BEYOND = 99


@dataclass(frozen=True)
class Ways:
    """What may be laid along a ramp.

    towards : the ends that later coats may draw back to. grounds : coats that may lie below all
    others for their sake. bare : whether it may be begun without one. spared : how many steps at
    the far end stay as they are.
    """

    towards: tuple[Towards, ...]
    grounds: tuple[Laid, ...] = ()
    bare: bool = True
    spared: int = 0


class Laying:
    """A search on an easel.

    Parameters
    ----------
    easel
        What is wanted.
    ways
        What may be laid.
    thrift
        How much the painter's effort counts.
    """

    def __init__(self, easel: Easel, ways: Ways, thrift: float) -> None:
        self.easel, self.ways, self.thrift = easel, ways, thrift
        course = easel.course
        self.bench = course.bench
        self.coats = course.coats
        banks = course.options
        self.banks = banks
        self.efforts = Efforts(self.coats)
        mixtures = self.efforts.mixtures
        # (options,): whether an option may lie below others for their sake.
        self.light = self.efforts.of(light_mixtures(mixtures, self.bench.paints))
        # (spots, options): whether an option is the opposite of what is wanted.
        self.opposite = self.efforts.of(easel.opposites(mixtures))

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
        return sorted(recipes, key=lambda r: self.easel.weight(r, self.thrift))

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
        walk, easel = self.easel.walk(recipe), self.easel
        first, last = _reach(recipe)
        more = easel.last > 0
        open_far = (easel.steps > first) & ("far" in self.ways.towards) & more
        open_light = (easel.steps < last) & ("light" in self.ways.towards) & more
        off = walk.off[-1]
        dark = np.maximum(easel.wanted[:, 0] - walk.labs[-1, :, 0], 0.0)
        late = np.where(open_light, 0.15 * off, 0.15 * off + 0.5 * dark)
        some = np.where(open_far | open_light, np.minimum(late, off), off)
        return float(np.sqrt((some**2).mean())) + self.thrift * effort(recipe)

    def _next(self, beam: Sequence[Scheme]) -> list[Scheme]:
        """Return recipes with one coat more, the best first."""
        easel, last = self.easel, self.easel.last
        walks = [easel.walk(recipe) for recipe in beam]
        labs = self._every_option(beam)  # (n, spots, options, 3)
        off = delta_e(labs, easel.wanted[None, :, None])
        now = np.array([walk.off[-1] for walk in walks])
        light = np.array([walk.labs[-1, :, 0] for walk in walks])
        # (steps, n, options) and (steps, n)
        after = easel.by_step(np.moveaxis(off**2, 1, 0))
        before = easel.by_step(now.T**2)[..., None]
        dark = (labs[..., 0] < easel.wanted[None, :, None, 0] - DARKER_L) & (
            labs[..., 0] < light[..., None] - 0.5
        )
        bad = dark | self.opposite[None]
        wrong = np.array([bad[:, easel.steps == s].any(axis=1) for s in range(last + 1)])
        good = ((after <= before + NEARER_DE00) | self.light) & ~wrong
        gain = before**2 - after**2
        costs = np.stack([self.efforts.on(recipe) for recipe in beam])
        found: list[tuple[float, int, int, tuple[int, int]]] = []
        for ends in self._intervals():
            some = slice(ends[0], ends[1] + 1)
            allowed = good[some].all(axis=0) & (gain[some] > 0).any(axis=0)
            allowed &= np.array([_further_in(recipe, ends, last) for recipe in beam])[:, None]
            squares = self._left(before, after, ends, beam)
            weight = np.sqrt(squares) + self.thrift * costs
            weight[~allowed] = np.inf
            flat = np.argpartition(weight, min(_TRIED, weight.size - 1), axis=None)[:_TRIED]
            for k in flat:
                n, m = divmod(int(k), weight.shape[1])
                if np.isfinite(weight[n, m]):
                    found.append((float(weight[n, m]), n, m, ends))
        return self._taken(beam, sorted(found))

    def _left(
        self, before: Array, after: Array, ends: tuple[int, int], beam: Sequence[Scheme]
    ) -> Array:
        """Return mean squares over the steps with each option over some of them, as `_promise`.

        before, after : (steps, n, 1) and (steps, n, options). Returns (n, options).
        """
        last = self.easel.last
        out = np.zeros(after.shape[1:])
        for step in range(last + 1):
            off = after[step] if ends[0] <= step <= ends[1] else before[step]
            out += np.where(self._open(step, ends, beam)[:, None], 0.15 * off, off) ** 2
        return out / (last + 1)

    def _open(
        self, step: int, ends: tuple[int, int], beam: Sequence[Scheme]
    ) -> npt.NDArray[np.bool_]:
        """Tell of each recipe whether a coat after one over some steps may still cover a step."""
        out = []
        for recipe in beam:
            first, last = _reach((*recipe, Laid(self.coats[0], *ends)))
            far = "far" in self.ways.towards and step > first
            light = "light" in self.ways.towards and step < last
            out.append((far or light) and self.easel.last > 0)
        return np.array(out)

    def _taken(
        self, beam: Sequence[Scheme], found: Sequence[tuple[float, int, int, tuple[int, int]]]
    ) -> list[Scheme]:
        """Return the best of the coats found, some over every reach."""
        out: list[Scheme] = []
        counts: dict[tuple[object, ...], int] = {}
        strengths = _STRENGTHS if self.easel.last == 0 else 1
        for _, n, m, ends in found:
            coat = self.coats[m]
            same, alike = (n, ends, coat.mixture.parts), (ends, _reach(beam[n]))
            if counts.get(same, 0) >= strengths or counts.get(alike, 0) >= strengths * _BY_ENDS:
                continue
            recipe = (*beam[n], Laid(coat, *ends))
            if not self.bench.fits(coats_of(recipe)):
                continue
            counts[same] = counts.get(same, 0) + 1
            counts[alike] = counts.get(alike, 0) + 1
            out.append(recipe)
        return out

    def _intervals(self) -> list[tuple[int, int]]:
        last = self.easel.last - self.ways.spared
        out = [(0, last)]
        if "far" in self.ways.towards:
            out += [(k, last) for k in range(1, last + 1)]
        if "light" in self.ways.towards:
            out += [(0, k) for k in range(last)]
        return out

    def _every_option(self, beam: Sequence[Scheme]) -> Array:
        """Return CIELAB of every option on every spot of every recipe, (n, spots, options, 3)."""
        easel = self.easel
        out = np.empty((len(beam), len(easel.spots), len(self.coats), 3))
        for relief, bank in self.banks.items():
            there = [i for i, spot in enumerate(easel.spots) if spot.relief == relief]
            where = [(n, i) for n in range(len(beam)) for i in there]
            kinds: dict[tuple[int, bool], list[int]] = {}
            states = [easel.walk(beam[n]).states[i] for n, i in where]
            for k, state in enumerate(states):
                kinds.setdefault((state.R.sources, state.mirror is not None), []).append(k)
            over = easel.course.benches[relief].each(easel.course.over)
            look = easel.course.benches[relief].look
            for rows in kinds.values():
                joined = joined_stacks([states[k] for k in rows])
                for numbers, labs in bank.labs_on(joined, look, over):
                    for row, k in enumerate(rows):
                        n, i = where[k]
                        out[n, i, numbers] = labs[row]
        return out

    def tuned(self, recipe: Scheme, go: Go, sweeps: int = _SWEEPS) -> Scheme:
        """Return a recipe with coats swapped, thinned, moved and taken away as long as it helps."""
        for _ in range(sweeps):
            before = recipe
            for k in reversed(range(len(recipe))):
                if not go():
                    return recipe
                if k < len(recipe):
                    recipe = self._without(recipe, k)
                if k < len(recipe):
                    recipe = self._swapped(recipe, k, self.banks)
                    fine = {
                        relief: bench.tuned(recipe[k].coat)
                        for relief, bench in self.easel.course.benches.items()
                    }
                    recipe = self._swapped(recipe, k, fine)
                    recipe = self._moved(recipe, k)
            for k in range(len(recipe) + 1):
                if go():
                    recipe = self._inserted(recipe, k)
            if recipe == before:
                break
        return recipe

    def finished(self, recipe: Scheme, go: Go, sweeps: int = _SWEEPS) -> Scheme:
        """Return a recipe tuned, without coats of which nobody would see anything."""
        recipe = self.tuned(recipe, go, sweeps)
        k = len(recipe)
        while k > 0 and go():
            k -= 1
            if self.easel.hidden(recipe, k):
                recipe = (*recipe[:k], *recipe[k + 1 :])
        return by_ends(recipe)

    def better(self, recipe: Scheme, now: Scheme) -> bool:
        """Tell whether a recipe is allowed, and better than another one."""
        easel = self.easel
        return (
            self.bench.fits(coats_of(recipe))
            and easel.weight(recipe, self.thrift) < easel.weight(now, self.thrift) - 1e-9
            and len(easel.faults(recipe, False)) <= len(easel.faults(now, False))
        )

    def _without(self, recipe: Scheme, k: int) -> Scheme:
        less = (*recipe[:k], *recipe[k + 1 :])
        return less if less and self.better(less, recipe) else recipe

    def _moved(self, recipe: Scheme, k: int) -> Scheme:
        laid, last, best = recipe[k], self.easel.last, recipe
        for ends in self._intervals():
            near = abs(ends[0] - laid.first) <= 1 and abs(ends[1] - laid.last) <= 1
            if ends == laid.interval or not near:
                continue
            tried = (*recipe[:k], changed(laid, first=ends[0], last=ends[1]), *recipe[k + 1 :])
            if self.better(tried, best):
                best = tried
        assert last >= 0
        return best

    def _inserted(self, recipe: Scheme, k: int) -> Scheme:
        """Return a recipe with the coat that helps most put in after some of its coats, if any."""
        easel, best, limits = self.easel, recipe, self.bench.limits
        if not limits.again and len(recipe) >= limits.coats:
            return recipe
        squares = self._squares(recipe, k, k, self.banks)
        now = easel.walk(recipe).off[-1] ** 2
        cost = self.thrift * self.efforts.on(recipe)
        order: list[tuple[float, int, tuple[int, int]]] = []
        for ends in self._intervals():
            on = (easel.steps >= ends[0]) & (easel.steps <= ends[1])
            total = np.where(on[:, None], squares, now[:, None]).mean(axis=0)
            weight = np.sqrt(total) + cost
            order += [(float(weight[m]), int(m), ends) for m in np.argsort(weight)[:_TUNED_OVER]]
        for weight_of, m, ends in sorted(order)[:_TUNED_OVER]:
            if weight_of >= easel.weight(recipe, self.thrift) - 1e-9:
                break
            tried = (*recipe[:k], Laid(self.coats[m], *ends), *recipe[k:])
            if self.better(tried, best):
                return tried
        return best

    def _squares(self, recipe: Scheme, k: int, after: int, banks: dict[float, Bank]) -> Array:
        """Return squares of dE00 with each coat of some banks between coats `k` and `after`.

        Returns (spots, options).
        """
        easel = self.easel
        options = next(iter(banks.values())).coats
        squares = np.zeros((len(easel.spots), len(options)))
        for i, spot in enumerate(easel.spots):
            step = int(easel.steps[i])
            if after > k and not recipe[k].covers(step):
                squares[i] = easel.walk(recipe).off[-1, i] ** 2
                continue
            bench, bank = easel.course.benches[spot.relief], banks[spot.relief]
            below = easel.walk(recipe[:k]).states[i]
            over = bench.each((*on_step(recipe[after:], step), *easel.course.over))
            for numbers, labs in bank.labs_on(below, bench.look, over):
                squares[i, numbers] = delta_e(labs[0], spot.lab) ** 2
        return squares

    def _swapped(self, recipe: Scheme, k: int, banks: dict[float, Bank]) -> Scheme:
        """Return a recipe with one coat swapped for whatever of some banks is best in its place."""
        easel, laid = self.easel, recipe[k]
        options = next(iter(banks.values())).coats
        squares = self._squares(recipe, k, k + 1, banks)
        efforts = self.efforts if banks is self.banks else Efforts(options)
        rest = (*recipe[:k], *recipe[k + 1 :])
        weight = np.sqrt(squares.mean(axis=0)) + self.thrift * efforts.on(rest)
        for m in np.argsort(weight, kind="stable")[:_TUNED_OVER]:
            if weight[m] >= easel.weight(recipe, self.thrift) - 1e-9:
                break
            coat = options[int(m)]
            # What takes a ground's place must be the same, or be laid by the rules for all others.
            ground = laid.ground and coat.mixture == laid.coat.mixture
            tried = (*recipe[:k], changed(laid, coat=coat, ground=ground), *recipe[k + 1 :])
            if self.better(tried, recipe):
                return tried
        return recipe


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
