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

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.context import strayed
from zesty_veil.advise.match.difference import delta_e
from zesty_veil.advise.match.rampproblem import RampProblem, Spot
from zesty_veil.advise.match.scheme import Laid, Scheme, effort
from zesty_veil.advise.match.shortlist import light_ground, light_mixtures, solid_looks
from zesty_veil.advise.match.stacks import Stacks
from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import Array
from zesty_veil.paint.mixture import Part
from zesty_veil.plan.model import Coat
from zesty_veil.thresholds import (
    DARKER_L,
    FACING_HUES,
    GAINED_DE00,
    GREYISH_CHROMA,
    HIDDEN_DE00,
    LIFTS_L,
    NEARER_DE00,
    STRONG_CHROMA,
    WARM_UNDER_HUES,
    WHITE_COVER_L,
)

# Hues in degrees of greens, which dull all from pink to orange, and of those; common practice.
_GREENS, _REDS = (115.0, 230.0), (340.0, 75.0)


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
            self._off = delta_e(self.labs, self._easel.wanted)
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
        self._walked: dict[Scheme, Walk] = {}
        self._faults: dict[Scheme, list[str]] = {}
        self._light: dict[tuple[Part, ...], bool] = {}
        self._warm: dict[tuple[Part, ...], bool] = {}
        self._opposite: dict[tuple[Part, ...], npt.NDArray[np.bool_]] = {}

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

    def faults(self, recipe: Scheme, hidden: bool = True) -> list[str]:
        """Return in words which rules a recipe breaks, in the order of its coats; none if good.

        hidden : whether to ask of each coat if it shows in the end, which takes longest.
        """
        if not hidden and recipe in self._faults:
            return self._faults[recipe]
        walks, out = self.walk(recipe).each(), []
        for k, laid in enumerate(recipe):
            on, before, after = self.covered(laid), walks[k], walks[k + 1]
            light = self.light(laid.coat)
            if not laid.ground or light:
                pays = light and (self.warm(laid.coat) or _lightens(before, after, on))
                if not pays and self._farther(before, after, laid):
                    out.append(f"coat {k + 1} leads away from what is wanted")
                elif light and not pays and self._covered(recipe, k):
                    out.append(f"coat {k + 1} lightens nothing for what lies over it")
                if self._darkened(before, after, on):
                    out.append(f"coat {k + 1} makes a place darker than is wanted")
                if self.opposes(laid.coat, on):
                    out.append(f"coat {k + 1} lies in the opposite colour")
            if not laid.ground and self.last and not self._further_in(recipe, k):
                out.append(f"coat {k + 1} reaches no further in than one before it")
            if hidden and self.hidden(recipe, k):
                out.append(f"coat {k + 1} is hidden by what lies over it")
        if not hidden:
            self._faults[recipe] = out
        return out

    def _further_in(self, recipe: Scheme, k: int) -> bool:
        """Tell whether a coat reaches further in than all before it from its side."""
        laid, below = recipe[k], [each for each in recipe[:k] if not each.ground]
        if laid.interval == (0, self.last):
            return not below
        if laid.first > 0:
            return all(each.first < laid.first for each in below if each.last >= laid.last)
        return all(each.last > laid.last for each in below if each.first == 0)

    def covered(self, laid: Laid) -> npt.NDArray[np.bool_]:
        """Return on which spots a coat lies, (spots,)."""
        return np.asarray((self.steps >= laid.first) & (self.steps <= laid.last))

    def _farther(self, before: Walk, after: Walk, laid: Laid) -> bool:
        """Tell whether a coat leads a step that it covers farther away, all spots together."""
        was, now = (self.by_step(walk.off**2) for walk in (before, after))
        steps = slice(laid.first, laid.last + 1)
        return bool((now[steps] > was[steps] + NEARER_DE00).any())

    def by_step(self, squares: Array) -> Array:
        """Return the roots of the means of squares over the spots of each step.

        squares : (spots, ...). Returns (steps, ...).
        """
        if len(self.spots) == self.last + 1:
            return np.asarray(np.sqrt(squares))
        rows = [squares[self.steps == step].mean(axis=0) for step in range(self.last + 1)]
        return np.asarray(np.sqrt(np.array(rows)))

    def _darkened(self, before: Walk, after: Walk, on: npt.NDArray[np.bool_]) -> bool:
        was, now = before.labs[on, 0], after.labs[on, 0]
        return bool(((now < self.wanted[on, 0] - DARKER_L) & (now < was - 0.5)).any())

    def _covered(self, recipe: Scheme, k: int) -> bool:
        """Tell whether all of a coat is covered by later ones."""
        laid = recipe[k]
        steps = range(laid.first, laid.last + 1)
        return all(any(over.covers(step) for over in recipe[k + 1 :]) for step in steps)

    def warm(self, coat: Coat) -> bool:
        """Tell whether a coat is of a colour, and not a white or an ivory."""
        parts = coat.mixture.parts
        if parts not in self._warm:
            self._warm[parts] = bool(self.tinted([parts])[0])
        return self._warm[parts]

    def tinted(self, mixtures: Sequence[tuple[Part, ...]]) -> npt.NDArray[np.bool_]:
        """Tell which mixtures have a colour to give where they lie over white, (mixtures,)."""
        own = lch(solid_looks(mixtures, self.course.bench.paints)[1])
        return np.asarray(own[:, 1] > STRONG_CHROMA)

    def light(self, coat: Coat) -> bool:
        """Tell whether a coat is white or a light warm tone, which may lie below others."""
        parts = coat.mixture.parts
        if parts not in self._light:
            self._light[parts] = light_ground(parts, self.course.bench.paints)
        return self._light[parts]

    def opposes(self, coat: Coat, on: npt.NDArray[np.bool_]) -> bool:
        """Tell whether a coat's own colour is the opposite of what is wanted where it lies."""
        parts = coat.mixture.parts
        if parts not in self._opposite:
            (self._opposite[parts],) = self.opposites([parts]).T
        return bool(self._opposite[parts][on].any())

    def opposites(self, mixtures: Sequence[tuple[Part, ...]]) -> npt.NDArray[np.bool_]:
        """Tell which mixtures are the opposite of what is wanted on which spots, or grey it.

        Returns (spots, mixtures).
        """
        own = lch(solid_looks(mixtures, self.course.bench.paints)[1])
        want = lch(self.wanted)[:, None]
        apart = np.abs((want[..., 2] - own[:, 2] + 180) % 360 - 180)
        coloured = want[..., 1] > GREYISH_CHROMA
        # A warm tone pays below its neighbours: yellow under green, pink under violet, not more.
        warm = light_mixtures(mixtures, self.course.bench.paints)
        far = np.where(warm, WARM_UNDER_HUES, FACING_HUES)
        green = (_GREENS[0] <= own[:, 2]) & (own[:, 2] <= _GREENS[1])
        red = (want[..., 2] <= _REDS[1]) | (want[..., 2] >= _REDS[0])
        against = ((apart > far) | red & green) & (own[:, 1] > STRONG_CHROMA) & coloured
        if self.clean:
            grey = (own[:, 1] < STRONG_CHROMA) & (own[:, 0] < WHITE_COVER_L)
            against |= grey & (want[..., 1] > STRONG_CHROMA)
        return np.asarray(against)

    def hidden(self, recipe: Scheme, k: int) -> bool:
        """Tell whether nobody would miss a coat: it hardly shows, or nothing is nearer for it."""
        without = self.walk((*recipe[:k], *recipe[k + 1 :]))
        walk = self.walk(recipe)
        shows = float(delta_e(walk.labs, without.labs).max())
        gains = float((without.off - walk.off).max())
        return shows < HIDDEN_DE00 or gains < GAINED_DE00

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


def _lightens(before: Walk, after: Walk, on: npt.NDArray[np.bool_]) -> bool:
    """Tell whether a coat lightens what it covers; white on white does nothing for others."""
    return bool((after.labs[on, 0] - before.labs[on, 0] > LIFTS_L).any())
