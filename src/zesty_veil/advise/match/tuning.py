"""Recipes for a ramp tuned: coats swapped, thinned, moved, put in and taken away while it helps."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from dataclasses import replace as changed
from typing import Literal

import numpy as np

from zesty_veil.advise.match.bank import Bank
from zesty_veil.advise.match.judge import Breach, Rule
from zesty_veil.advise.match.recipe import Easel
from zesty_veil.advise.match.scheme import Efforts, Laid, Scheme, by_ends, coats_of, on_step
from zesty_veil.advise.match.shortlist import light_mixtures
from zesty_veil.light.grid import Array

Go = Callable[[], bool]
Towards = Literal["far", "light"]
# An end that later coats draw back to, or an order of work that painters of glows keep to.
Manner = Literal["far", "light", "white", "sketch", "inward", "spot", "over", "beyond"]
_TUNED_OVER = 6
_SWEEPS = 2
_WIDE = 3  # steps that a band covers at most


@dataclass(frozen=True)
class Ways:
    """What may be laid along a ramp.

    towards : the ends that later coats may draw back to. grounds : coats that may lie below all
    others for their sake. bare : whether it may do without one. spared : how many steps at
    the far end stay as they are. whole : whether a coat may lie over all. bands : whether one may
    lie in the middle alone, as a yellow that stops where violet begins. touches : whether such a
    one may lie at the light.
    """

    towards: tuple[Towards, ...]
    grounds: tuple[Laid, ...] = ()
    bare: bool = True
    spared: int = 0
    whole: bool = True
    bands: bool = False
    touches: bool = False


class Tuning:
    """A recipe is bettered on an easel by one change at a time.

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

    def intervals(self) -> list[tuple[int, int]]:
        """Return the first and the last step of all that a coat may be laid over."""
        last = self.easel.last - self.ways.spared
        out = [(0, last)] if self.ways.whole or last == 0 else []
        if "far" in self.ways.towards:
            out += [(k, last) for k in range(1, last + 1)]
        if "light" in self.ways.towards:
            out += [(0, k) for k in range(last)]
        if self.ways.bands:
            first = 0 if self.ways.touches else 1
            out += [(i, k) for i in range(first, last) for k in range(i, min(i + _WIDE, last))]
        return out

    def tuned(self, recipe: Scheme, go: Go, sweeps: int = _SWEEPS, put_in: bool = True) -> Scheme:
        """Return a recipe with coats swapped, thinned, moved and taken away as long as it helps.

        put_in : whether coats may be put in as well, which takes longest.
        """
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
                    recipe = self._turned_round(recipe, k)
                    recipe = self._inserted(recipe, k) if put_in else recipe
            if recipe == before:
                break
        return recipe

    def finished(
        self, recipe: Scheme, go: Go, sweeps: int = _SWEEPS, put_in: bool = True
    ) -> Scheme:
        """Return a recipe tuned, without coats of which nobody would see anything."""
        recipe = self.tuned(recipe, go, sweeps, put_in)
        k = len(recipe)
        while k > 0 and go():
            k -= 1
            less = (*recipe[:k], *recipe[k + 1 :])
            if self._keeps_ground(less, recipe) and self.easel.hidden(recipe, k):
                recipe = less
        return by_ends(recipe)

    def better(self, recipe: Scheme, now: Scheme) -> bool:
        """Tell whether a recipe is allowed, and better than another one."""
        easel = self.easel
        return (
            self.bench.fits(coats_of(recipe))
            and self._keeps_ground(recipe, now)
            and easel.weight(recipe, self.thrift) < easel.weight(now, self.thrift) - 1e-9
            and _kinds(easel.breaches(recipe, False)) <= _kinds(easel.breaches(now, False))
        )

    def _keeps_ground(self, recipe: Scheme, now: Scheme) -> bool:
        """Tell whether a recipe still begins with a ground, where one that does must."""
        if self.ways.bare or not now or not now[0].ground:
            return True
        return bool(recipe) and recipe[0].ground

    def _without(self, recipe: Scheme, k: int) -> Scheme:
        less = (*recipe[:k], *recipe[k + 1 :])
        return less if less and self.better(less, recipe) else recipe

    def _moved(self, recipe: Scheme, k: int) -> Scheme:
        laid, best = recipe[k], recipe
        for ends in self.intervals():
            near = abs(ends[0] - laid.first) <= 1 and abs(ends[1] - laid.last) <= 1
            if ends == laid.interval or not near:
                continue
            tried = (*recipe[:k], changed(laid, first=ends[0], last=ends[1]), *recipe[k + 1 :])
            if self.better(tried, best):
                best = tried
        return best

    def _turned_round(self, recipe: Scheme, k: int) -> Scheme:
        """Return a recipe with coat `k` before the one below it, if that is better."""
        if not 0 < k < len(recipe) or recipe[k - 1].ground:
            return recipe
        tried = (*recipe[: k - 1], recipe[k], recipe[k - 1], *recipe[k + 1 :])
        return tried if self.better(tried, recipe) else recipe

    def _inserted(self, recipe: Scheme, k: int) -> Scheme:
        """Return a recipe with the coat that helps most put in after some of its coats, if any."""
        easel, best, limits = self.easel, recipe, self.bench.limits
        if not limits.again and len(recipe) >= limits.coats:
            return recipe
        squares = self._squares(recipe, k, k, self.banks)
        now = easel.walk(recipe).off ** 2
        cost = self.thrift * self.efforts.on(recipe)
        order: list[tuple[float, int, tuple[int, int]]] = []
        for ends in self.intervals():
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
        """Return about the squares of dE00 with each coat of banks between `k` and `after`.

        Returns (spots, options).
        """
        easel = self.easel
        options = next(iter(banks.values())).coats
        squares = np.empty((len(easel.spots), len(options)))
        squares[:] = easel.walk(recipe).off[:, None] ** 2
        below, above = easel.walk(recipe[:k]).states, recipe[after:]
        for relief, bank in banks.items():
            # Where the coat that it takes the place of did not lie, it does not lie either.
            sites = easel.sites[relief]
            at = [
                row
                for row, i in enumerate(sites)
                if after == k or recipe[k].covers(int(easel.steps[i]))
            ]
            bench = easel.course.benches[relief]
            over = [
                bench.each((*on_step(above, int(easel.steps[sites[row]])), *easel.course.over))
                for row in at
            ]
            here = below[relief].some(at)
            for rows, numbers, labs in here.every(bank, bench.look, over, rough=True):
                there = np.array([sites[at[row]] for row in rows])
                squares[np.ix_(there, numbers)] = easel.options_off(labs, there.tolist()) ** 2
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
            # What takes a ground's place is of the same paints, thinned as may be, or it is laid by
            # the rules for all others.
            ground = laid.ground and coat.mixture.parts == laid.coat.mixture.parts
            tried = (*recipe[:k], changed(laid, coat=coat, ground=ground), *recipe[k + 1 :])
            if self.better(tried, recipe):
                return tried
        return recipe


def _kinds(found: Sequence[Breach]) -> Counter[Rule]:
    """Return how often each rule is broken, whichever coat it is."""
    return Counter(breach.rule for breach in found)
