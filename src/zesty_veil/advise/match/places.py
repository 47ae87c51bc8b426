"""What is wanted at the places of a ramp, and what candidates come to there."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace as changed
from typing import Any

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.belonging import odd_pots, opposites
from zesty_veil.advise.match.candidate import Candidate, PlacedCoat
from zesty_veil.advise.match.context import MatchContext, strayed
from zesty_veil.advise.match.difference import and_dull, clear_chroma, delta_e
from zesty_veil.advise.match.shortlist import light_ground, solid_looks
from zesty_veil.advise.match.spots import Spot
from zesty_veil.advise.match.stacks import Stacks
from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import Array
from zesty_veil.paint.mixture import Part
from zesty_veil.plan.model import Coat
from zesty_veil.plan.thickness import neat_um
from zesty_veil.thresholds import STRONG_CHROMA, THICK_UM

# Where more lies already than the first of these shares of what may lie at most, it counts as the
# second: some coats must be possible on anything.
_CROWDED, _COUNTED = 0.8, 0.7


class State:
    """What a candidate comes to in the end; its colours are worked out when they are asked for.

    Parameters
    ----------
    places
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
        places: WantedPlaces,
        stacks: Mapping[float, Stacks],
        covered: Sequence[bool],
        before: State | None,
    ) -> None:
        self.stacks, self.before = stacks, before
        self._places, self._covered = places, covered
        self._labs: Array | None = None
        self._off: Array | None = None

    @property
    def labs(self) -> Array:
        """CIELAB of each spot as it is seen in the end, (spots, 3)."""
        if self._labs is None:
            before = None if self.before is None else self.before._labs
            labs = np.empty(self._places.wanted.shape) if before is None else before.copy()
            for relief, sites in self._places.sites.items():
                at = [row for row, i in enumerate(sites) if before is None or self._covered[i]]
                if at:
                    context = self._places.contexts[relief]
                    over = context.each(self._places.over)
                    there = [sites[row] for row in at]
                    labs[there] = self.stacks[relief].labs(context.look, over, at)
            self._labs = labs
        return self._labs

    @property
    def off(self) -> Array:
        """How far that is from what is wanted, dE00, (spots,)."""
        if self._off is None:
            self._off = self._places.off(self.labs)
        return self._off

    @property
    def rms(self) -> float:
        """Root of the mean square of how far off it is, dE00."""
        return float(np.sqrt((self.off**2).mean()))

    def each(self) -> list[State]:
        """Return what it came to coat by coat, from the bare ground on."""
        return [*(self.before.each() if self.before is not None else ()), self]


class WantedPlaces:
    """Colours wanted along a ramp, on which candidates are laid and judged.

    Parameters
    ----------
    spots
        In rising order of place; those of one place are one step.
    contexts
        By relief, so that layers are worked out once.
    coats
        To choose from.
    over
        Coats that will lie over all in the end; every colour is looked at through them.
    clean
        Whether greys and blacks are kept off what is to have a colour, as where all is glazed over
        white.
    """

    def __init__(
        self,
        spots: Sequence[Spot],
        contexts: Mapping[float, MatchContext],
        coats: Sequence[Coat] = (),
        over: tuple[Coat, ...] = (),
        clean: bool = False,
    ) -> None:
        self.spots, self.contexts, self.coats = spots, contexts, tuple(coats)
        self.over, self.clean = over, clean
        # By relief, the coats to choose from as layers.
        self.banks = {relief: context.bank(coats) for relief, context in contexts.items()}
        places = list(dict.fromkeys(spot.place for spot in spots))
        # (spots,): which place each spot belongs to.
        self.steps = np.array([places.index(spot.place) for spot in spots])
        self.last = len(places) - 1
        # (steps,): um of neat paint that lies on each already; some more may lie on any.
        under = [max(spot.under for spot in spots if spot.place == place) for place in places]
        most = _CROWDED * THICK_UM
        self.under = [um if um <= most else _COUNTED * THICK_UM for um in under]
        self.wanted = np.array([spot.lab for spot in spots])
        # The spots of each relief.
        self.sites = {
            relief: [i for i, spot in enumerate(spots) if spot.relief == relief]
            for relief in contexts
        }
        in_words = [spot.region is not None for spot in self.spots]
        # (spots,): what is wanted in words is clear enough where it is so called; and of one colour
        # a painter has few coats, not the clearest of all.
        self._clear = np.where(in_words, 0.0, clear_chroma(self.wanted) if self.last else 0.0)
        self._in_words = any(in_words)
        self._states: dict[Candidate, State] = {}
        self._light: dict[tuple[Part, ...], bool] = {}
        self._warm: dict[tuple[Part, ...], bool] = {}
        self._misfit: dict[tuple[Part, ...], npt.NDArray[np.bool_]] = {}

    @property
    def context(self) -> MatchContext:
        """One of the contexts; minutes and limits are the same on all."""
        return next(iter(self.contexts.values()))

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

    def beside(self, labs: Array) -> float:
        """Return how far the first spot's colour is from the middle of the words for it, dE00.

        A bare hue has its middle in hue alone; 0 where no words were said. labs : (spots, 3).
        """
        spot = self.spots[0]
        if spot.region is None:
            return 0.0
        return float(delta_e(spot.region.middle(labs[0], spot.lab), labs[0]))

    def state(self, candidate: Candidate) -> State:
        """Return what a candidate comes to, coat by coat."""
        known = self._states.get(candidate)
        if known is not None:
            return known
        if not candidate:
            state = State(self, self._bare(), [True] * len(self.spots), None)
        else:
            before, placed = self.state(candidate[:-1]), candidate[-1]
            covered = self.covered(placed).tolist()
            stacks = dict(before.stacks)
            for relief, sites in self.sites.items():
                at = [row for row, i in enumerate(sites) if covered[i]]
                if at:
                    coat = self.contexts[relief].alone(placed.coat)
                    stacks[relief] = stacks[relief].under(coat, at)
            state = State(self, stacks, covered, before)
        self._states[candidate] = state
        return state

    def _bare(self) -> dict[float, Stacks]:
        return {
            relief: Stacks.of([self.spots[i].ground for i in sites])
            for relief, sites in self.sites.items()
        }

    def thickness(self, candidate: Candidate) -> float:
        """Return how much neat paint a candidate lays where it lies thickest, in um."""
        paints = self.context.paints
        um = [neat_um(placed.coat, paints) for placed in candidate]
        steps = range(self.last + 1)
        return max(
            sum(each for placed, each in zip(candidate, um, strict=True) if placed.covers(step))
            for step in steps
        )

    def covered(self, placed: PlacedCoat) -> npt.NDArray[np.bool_]:
        """Return on which spots a coat lies, (spots,)."""
        return np.asarray((self.steps >= placed.first) & (self.steps <= placed.last))

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
        return lch(solid_looks(mixtures, self.context.paints)[1])[:, 1]

    def light(self, coat: Coat) -> bool:
        """Tell whether a coat is white or a light warm tone, which may lie below others."""
        parts = coat.mixture.parts
        if parts not in self._light:
            self._light[parts] = light_ground(parts, self.context.paints)
        return self._light[parts]

    def misfits(self, mixtures: Sequence[tuple[Part, ...]]) -> npt.NDArray[np.bool_]:
        """Tell which mixtures do not belong on which spots, (spots, mixtures).

        A pot that belongs on one of the sites of a place may lie on all of them: what pools in
        recesses hides it there.
        """
        paints = self.context.paints
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

    def strays(self, candidate: Candidate) -> float:
        """Return how far a usual deviation of each film leads, all together, dE00 on average."""
        labs, total = self.state(candidate).labs, np.zeros(len(self.spots))
        for k, placed in enumerate(candidate):
            other = (
                *candidate[:k],
                changed(placed, coat=strayed(placed.coat)),
                *candidate[k + 1 :],
            )
            total += delta_e(self.state(other).labs, labs) ** 2
        return float(np.sqrt(total).mean())
