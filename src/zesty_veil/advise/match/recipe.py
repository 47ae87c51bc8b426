"""A recipe for a ramp, as painters lay it: coats, each over some of its steps, and what is good.

Painters have rules for what a coat may do, all common practice:

- it brings every place that it covers nearer to what is wanted there, unless it is a ground that
  pays: white, or a light warm tone, or (dark first) the dark from which lights are built up;
- it makes no place darker than what is wanted there in the end;
- it does not lie in the opposite colour below the one that is wanted;
- later coats do not hide it;
- each begins further in than the one before.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace as changed
from functools import cached_property
from typing import Any

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.context import strayed
from zesty_veil.advise.match.difference import and_dull, clear_chroma, delta_e
from zesty_veil.advise.match.judge import (
    Breach,
    breaches,
    is_hidden,
    lies_thick,
    odd_pots,
    opposites,
)
from zesty_veil.advise.match.rampproblem import RampProblem, Spot
from zesty_veil.advise.match.scheme import Laid, Scheme, effort
from zesty_veil.advise.match.shortlist import light_ground, solid_looks
from zesty_veil.advise.match.stacks import Stacks
from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import Array
from zesty_veil.paint.mixture import Part
from zesty_veil.plan.model import Coat
from zesty_veil.plan.thickness import hides, neat_passes, neat_um
from zesty_veil.thresholds import STRONG_CHROMA


class Walk:
    """What a recipe comes to in the end; its colours are worked out when they are asked for.

    Parameters
    ----------
    easel
        What it is laid on.
    states
        By relief, in the order of its spots.
    covered
        (spots,): where the last of its coats lies.
    before
        What it came to without that coat; none for the bare ground.
    """

    def __init__(
        self,
        easel: Easel,
        states: Mapping[float, Stacks],
        covered: Sequence[bool],
        before: Walk | None,
    ) -> None:
        self.states, self.before = states, before
        self._easel, self._covered = easel, covered
        self._labs: Array | None = None
        self._off: Array | None = None

    @property
    def labs(self) -> Array:
        """CIELAB of each spot as it is seen in the end, (spots, 3)."""
        if self._labs is None:
            before = None if self.before is None else self.before._labs
            labs = np.empty(self._easel.wanted.shape) if before is None else before.copy()
            for relief, sites in self._easel.sites.items():
                at = [row for row, i in enumerate(sites) if before is None or self._covered[i]]
                if at:
                    bench = self._easel.course.benches[relief]
                    over = bench.each(self._easel.course.over)
                    there = [sites[row] for row in at]
                    labs[there] = self.states[relief].labs(bench.look, over, at)
            self._labs = labs
        return self._labs

    @property
    def off(self) -> Array:
        """How far that is from what is wanted, dE00, (spots,)."""
        if self._off is None:
            self._off = self._easel.off(self.labs)
        return self._off

    @property
    def rms(self) -> float:
        """Root of the mean square of how far off it is, dE00."""
        return float(np.sqrt((self.off**2).mean()))

    def each(self) -> list[Walk]:
        """Return what it came to coat by coat, from the bare ground on."""
        return [*(self.before.each() if self.before is not None else ()), self]


class Easel:
    """A ramp on which recipes are laid and judged.

    steps : (spots,), which place each spot belongs to. sites : the spots of each relief. clean :
    whether greys and blacks are kept off what is to have a colour, as where all is glazed over
    white.
    """

    def __init__(self, course: RampProblem, clean: bool = False) -> None:
        self.course, self.clean = course, clean
        self.spots: list[Spot] = [spot for step in course.steps for spot in step]
        self.steps = np.repeat(np.arange(len(course.steps)), [len(s) for s in course.steps])
        self.wanted = np.array([spot.lab for spot in self.spots])
        self.sites = {
            relief: [i for i, spot in enumerate(self.spots) if spot.relief == relief]
            for relief in course.benches
        }
        in_words = [spot.region is not None for spot in self.spots]
        # (spots,): what is wanted in words is clear enough where it is so called; and of one colour
        # a painter has few coats, not the clearest of all.
        one = len(course.steps) == 1
        self._clear = np.where(in_words, 0.0, 0.0 if one else clear_chroma(self.wanted))
        self._in_words = any(in_words)
        self._walked: dict[Scheme, Walk] = {}
        self._breaches: dict[Scheme, list[Breach]] = {}
        self._light: dict[tuple[Part, ...], bool] = {}
        self._warm: dict[tuple[Part, ...], bool] = {}
        self._misfit: dict[tuple[Part, ...], npt.NDArray[np.bool_]] = {}

    def off(self, labs: Array) -> Array:
        """Return how far colours (spots, 3) are from what is wanted there, as `and_dull`."""
        if not self._in_words:
            return and_dull(delta_e(labs, self.wanted), labs, self._clear)
        return self.options_off(labs[:, None], range(len(self.spots)))[:, 0]

    def plain_off(self, labs: Array) -> Array:
        """Return the same without more for what has come dull."""
        wanted = self.wanted.copy()
        for row, spot in enumerate(self.spots):
            if spot.region is not None:
                wanted[row] = spot.region.nearest(labs[row])
        return delta_e(labs, wanted)

    def options_off(self, labs: npt.NDArray[Any], spots: Sequence[int]) -> Array:
        """Return the same of options on some spots, (..., spots, options, 3), without the last."""
        wanted = self.wanted[list(spots)].astype(labs.dtype)[:, None]
        if self._in_words:
            wanted = np.broadcast_to(wanted, labs.shape).copy()
            for row, i in enumerate(spots):
                region = self.spots[i].region
                if region is not None:
                    wanted[..., row, :, :] = region.nearest(labs[..., row, :, :])
        off = delta_e(labs, wanted)
        for row, i in enumerate(spots):
            if self._clear[i]:
                off[..., row, :] = and_dull(off[..., row, :], labs[..., row, :, :], self._clear[i])
        return off

    @property
    def last(self) -> int:
        """The last step."""
        return len(self.course.steps) - 1

    def walk(self, recipe: Scheme) -> Walk:
        """Return what a recipe comes to, coat by coat."""
        known = self._walked.get(recipe)
        if known is not None:
            return known
        if not recipe:
            walk = Walk(self, self._bare(), [True] * len(self.spots), None)
        else:
            before, laid = self.walk(recipe[:-1]), recipe[-1]
            covered = self.covered(laid).tolist()
            states = dict(before.states)
            for relief, sites in self.sites.items():
                at = [row for row, i in enumerate(sites) if covered[i]]
                if at:
                    coat = self.course.benches[relief].alone(laid.coat)
                    states[relief] = states[relief].under(coat, at)
            walk = Walk(self, states, covered, before)
        self._walked[recipe] = walk
        return walk

    def _bare(self) -> dict[float, Stacks]:
        return {
            relief: Stacks.of([self.spots[i].ground for i in sites])
            for relief, sites in self.sites.items()
        }

    def breaches(self, recipe: Scheme, slow: bool = True) -> list[Breach]:
        """Return which rules a recipe breaks, as the judge tells; see `judge.breaches`."""
        if slow:
            return breaches(_OnEasel(self, recipe))
        if recipe not in self._breaches:
            self._breaches[recipe] = breaches(_OnEasel(self, recipe), slow=False)
        return self._breaches[recipe]

    def thickness(self, recipe: Scheme) -> float:
        """Return how much neat paint a recipe lays where it lies thickest, in um."""
        paints = self.course.bench.paints
        um = [neat_um(laid.coat, paints) for laid in recipe]
        steps = range(self.last + 1)
        return max(
            sum(each for laid, each in zip(recipe, um, strict=True) if laid.covers(step))
            for step in steps
        )

    def piled(self, recipe: Scheme) -> bool:
        """Tell whether the last coat of a recipe lies too thick, with those below it."""
        return lies_thick(_OnEasel(self, recipe), len(recipe) - 1)

    def covered(self, laid: Laid) -> npt.NDArray[np.bool_]:
        """Return on which spots a coat lies, (spots,)."""
        return np.asarray((self.steps >= laid.first) & (self.steps <= laid.last))

    def by_step(self, squares: Array) -> Array:
        """Return the roots of the means of squares over the spots of each step.

        squares : (spots, ...). Returns (steps, ...).
        """
        if len(self.spots) == self.last + 1:
            return np.asarray(np.sqrt(squares))
        rows = [squares[self.steps == step].mean(axis=0) for step in range(self.last + 1)]
        return np.asarray(np.sqrt(np.array(rows)))

    def warm(self, coat: Coat) -> bool:
        """Tell whether a coat is of a colour, and not a white or an ivory."""
        parts = coat.mixture.parts
        if parts not in self._warm:
            self._warm[parts] = bool(self.chroma([parts])[0] > STRONG_CHROMA)
        return self._warm[parts]

    def chroma(self, mixtures: Sequence[tuple[Part, ...]]) -> Array:
        """Return the chroma of mixtures solid over white, (mixtures,)."""
        return lch(solid_looks(mixtures, self.course.bench.paints)[1])[:, 1]

    def light(self, coat: Coat) -> bool:
        """Tell whether a coat is white or a light warm tone, which may lie below others."""
        parts = coat.mixture.parts
        if parts not in self._light:
            self._light[parts] = light_ground(parts, self.course.bench.paints)
        return self._light[parts]

    def misfits(self, mixtures: Sequence[tuple[Part, ...]]) -> npt.NDArray[np.bool_]:
        """Tell which mixtures do not belong on which spots, (spots, mixtures).

        A pot that belongs on one of the sites of a place may lie on all of them: what pools in
        recesses hides it there.
        """
        paints = self.course.bench.paints
        odd = odd_pots(mixtures, paints, self.wanted)
        for step in range(self.last + 1):
            odd[self.steps == step] = odd[self.steps == step].all(axis=0)
        return odd | opposites(mixtures, paints, self.wanted, self.clean)

    def misfit(self, coat: Coat) -> npt.NDArray[np.bool_]:
        """Tell the same of one coat, (spots,)."""
        parts = coat.mixture.parts
        if parts not in self._misfit:
            (self._misfit[parts],) = self.misfits([parts]).T
        return self._misfit[parts]

    def hidden(self, recipe: Scheme, k: int) -> bool:
        """Tell whether nobody would miss a coat."""
        return is_hidden(_OnEasel(self, recipe), k)

    def strays(self, recipe: Scheme) -> float:
        """Return how far a usual deviation of each film leads, all together, dE00 on average."""
        labs, total = self.walk(recipe).labs, np.zeros(len(self.spots))
        for k, laid in enumerate(recipe):
            other = (*recipe[:k], changed(laid, coat=strayed(laid.coat)), *recipe[k + 1 :])
            total += delta_e(self.walk(other).labs, labs) ** 2
        return float(np.sqrt(total).mean())

    def weight(self, recipe: Scheme, thrift: float) -> float:
        """Return what is made small: how far off it is, and `thrift` times its effort."""
        walk = self.walk(recipe)
        return walk.rms + thrift * effort(recipe)


class _OnEasel:
    """A recipe as the judge asks for it."""

    def __init__(self, easel: Easel, recipe: Scheme) -> None:
        self._easel, self.recipe = easel, recipe
        self.wanted, self.last = easel.wanted, easel.last

    @cached_property
    def _walks(self) -> list[Walk]:
        return self._easel.walk(self.recipe).each()

    def lines(self) -> Sequence[Sequence[int]]:
        return list(self._easel.sites.values())

    def covered(self, coat: int) -> npt.NDArray[np.bool_]:
        return self._easel.covered(self.recipe[coat])

    def labs(self, count: int) -> Array:
        return self._walks[count].labs

    def off(self, count: int) -> Array:
        return self._walks[count].off

    def by_step(self, squares: Array) -> Array:
        return self._easel.by_step(squares)

    def without(self, coat: int) -> tuple[Array, Array]:
        walk = self._easel.walk((*self.recipe[:coat], *self.recipe[coat + 1 :]))
        return walk.labs, walk.off

    def thickness(self, coat: int) -> tuple[float, int]:
        laid, paints = self.recipe[coat].coat, self._easel.course.bench.paints
        return neat_um(laid, paints), neat_passes(laid, paints)

    def hides(self, coat: int) -> bool:
        return hides(self.recipe[coat].coat, self._easel.course.bench.paints)

    def own(self, coat: int) -> tuple[float, float, float]:
        parts = self.recipe[coat].coat.mixture.parts
        L, C, h = (
            float(v) for v in lch(solid_looks([parts], self._easel.course.bench.paints)[1, 0])
        )
        return L, C, h

    def light(self, coat: int) -> bool:
        return self._easel.light(self.recipe[coat].coat)

    def tinted(self, coat: int) -> bool:
        return self._easel.warm(self.recipe[coat].coat)

    def misfits(self, coat: int) -> npt.NDArray[np.bool_]:
        return self._easel.misfit(self.recipe[coat].coat)
