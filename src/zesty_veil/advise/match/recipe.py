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
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.difference import delta_e
from zesty_veil.advise.match.rampproblem import RampProblem, Spot
from zesty_veil.advise.match.scheme import Scheme, effort
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


@dataclass(frozen=True)
class Walk:
    """What a recipe comes to, coat by coat.

    labs : (coats + 1, spots, 3), from the bare ground on. off : (coats + 1, spots), dE00 from what
    is wanted. states : in the end, by relief, in the order of its spots.
    """

    labs: Array
    off: Array
    states: Mapping[float, Stacks]

    @property
    def rms(self) -> float:
        """Root of the mean square of how far off it is in the end, dE00."""
        return float(np.sqrt((self.off[-1] ** 2).mean()))

    @property
    def mean(self) -> float:
        """Mean of that, dE00."""
        return float(self.off[-1].mean())


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
        if recipe:
            before, laid = self.walk(recipe[:-1]), recipe[-1]
            covered = [laid.covers(int(step)) for step in self.steps]
            coats: tuple[Coat, ...] = (laid.coat,)
            states, labs = dict(before.states), before.labs[-1].copy()
        else:
            before, covered, coats = None, [True] * len(self.spots), ()
            states, labs = self._bare(), np.empty((len(self.spots), 3))
        for relief, sites in self.sites.items():
            at = [row for row, i in enumerate(sites) if covered[i]]
            if at:
                bench = self.course.benches[relief]
                for coat in bench.each(coats):
                    states[relief] = states[relief].under(coat, at)
                over = bench.each(self.course.over)
                labs[[sites[row] for row in at]] = states[relief].labs(bench.look, over, at)
        off = delta_e(labs, self.wanted)
        walk = Walk(labs[None], off[None], states)
        if before is not None:
            walk = Walk(
                np.concatenate([before.labs, walk.labs]),
                np.concatenate([before.off, walk.off]),
                walk.states,
            )
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
        walk, out = self.walk(recipe), []
        for k, laid in enumerate(recipe):
            on = np.array([laid.covers(int(step)) for step in self.steps])
            light = self.light(laid.coat)
            if not laid.ground or light:
                pays = light and (self.warm(laid.coat) or self._lightens(walk, k, on))
                if not pays and self._farther(walk, k, on):
                    out.append(f"coat {k + 1} leads away from what is wanted")
                elif light and not pays and self._covered(recipe, k):
                    out.append(f"coat {k + 1} lightens nothing for what lies over it")
                if self._darkened(walk, k, on):
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

    def _farther(self, walk: Walk, k: int, on: Array) -> bool:
        """Tell whether a coat leads a step that it covers farther away, all spots together."""
        before, after = (self.by_step(walk.off[i] ** 2) for i in (k, k + 1))
        covered = np.unique(self.steps[on])
        return bool((after[covered] > before[covered] + NEARER_DE00).any())

    def by_step(self, squares: Array) -> Array:
        """Return the roots of the means of squares over the spots of each step.

        squares : (spots, ...). Returns (steps, ...).
        """
        if len(self.spots) == self.last + 1:
            return np.asarray(np.sqrt(squares))
        rows = [squares[self.steps == step].mean(axis=0) for step in range(self.last + 1)]
        return np.asarray(np.sqrt(np.array(rows)))

    def _darkened(self, walk: Walk, k: int, on: Array) -> bool:
        before, after = walk.labs[k, on, 0], walk.labs[k + 1, on, 0]
        return bool(((after < self.wanted[on, 0] - DARKER_L) & (after < before - 0.5)).any())

    def _covered(self, recipe: Scheme, k: int) -> bool:
        """Tell whether all of a coat is covered by later ones."""
        laid = recipe[k]
        steps = range(laid.first, laid.last + 1)
        return all(any(over.covers(step) for over in recipe[k + 1 :]) for step in steps)

    def _lightens(self, walk: Walk, k: int, on: Array) -> bool:
        """Tell whether a coat lightens what it covers; white on white does nothing for others."""
        rise = walk.labs[k + 1, on, 0] - walk.labs[k, on, 0]
        return bool((rise > LIFTS_L).any())

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

    def opposes(self, coat: Coat, on: Array) -> bool:
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
        shows = float(delta_e(walk.labs[-1], without.labs[-1]).max())
        gains = float((without.off[-1] - walk.off[-1]).max())
        return shows < HIDDEN_DE00 or gains < GAINED_DE00

    def weight(self, recipe: Scheme, thrift: float) -> float:
        """Return what is made small: how far off it is, and `thrift` times its effort."""
        walk = self.walk(recipe)
        return walk.rms + thrift * effort(recipe)
