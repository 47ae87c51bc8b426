"""A layer of paint on a stack: films, fluorescence, flakes and finish together."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from zesty_veil.light.grid import Array
from zesty_veil.optics import flakes
from zesty_veil.optics.bispectral import (
    Bispectral,
    Emitter,
    average,
    concatenated,
    cover,
    emitter,
    plain,
)
from zesty_veil.optics.film import film
from zesty_veil.optics.stack import over
from zesty_veil.paint.mixture import Blend, Dyes

# A dry film this thick (mm) hides most of the finish of what is below; from memory.
FINISH_FILM_MM = 0.006


class State(NamedTuple):
    """A stack seen from inside, at any leading shape.

    R is its reflectance, `finish` (...) the k_f of its surface, and `mirror` (..., 36) what flakes
    reflect in the direction of a mirror, or none where there are no flakes.
    """

    R: Bispectral
    finish: Array
    mirror: Array | None

    def some(self, part: slice) -> State:
        """Return a part of the stack along its first axis."""
        mirror = None if self.mirror is None else self.mirror[part]
        return State(Bispectral(*(x[part] for x in self.R)), self.finish[part], mirror)


def joined(parts: Sequence[State]) -> State:
    """Return parts of a stack as one, along the first axis."""
    if len(parts) == 1:
        return parts[0]
    R = concatenated([p.R for p in parts])
    mirrors = [p.mirror for p in parts if p.mirror is not None]
    mirror = np.concatenate(mirrors) if mirrors else None
    return State(R, np.concatenate([p.finish for p in parts]), mirror)


class Layer(NamedTuple):
    """What one pass leaves; arrays broadcast against the stack's leading shape."""

    R0: Array  # (..., 36)
    T: Array  # (..., 36)
    glow: Emitter | None
    direct: Array | None  # (..., 36) what a straight beam keeps, in and out
    flakes: Array | None  # (...) share of the area that flakes cover
    metal: Array  # (36,) their reflectance
    hides: Array  # (...) share of the finish below that is hidden
    finish: float
    cover: Array  # (m,) share of the area that is touched
    T2: Array  # (..., 36) T squared
    everywhere: bool  # whether all of the area is touched
    sends_all: bool  # whether R0 comes to 1 anywhere
    absent: npt.NDArray[np.bool_]  # (rows) where there is no film at all

    @classmethod
    def of(
        cls, mix: Blend, neat: Array, dry: Array, covered: Array, straight: bool = False
    ) -> Layer:
        """Work out a layer from a mixture.

        Parameters
        ----------
        mix
            What it is made of; its K and S may have leading shapes of their own.
        neat, dry : (..., m) float64
            Thickness in mm, counted as neat paint and after the water has left.
        covered : (m,) float64
            Share of the area that is touched.
        straight
            Whether flakes lie below, so that straight beams matter; with flakes of its own they
            always do.
        """
        X = neat[..., None]
        R0, T = film(mix.K, mix.S, X)
        metal = flakes.covered(mix.flakes, neat) if mix.flakes else None
        return cls(
            R0,
            T,
            _emitter(mix.dyes, R0, T) if mix.dyes is not None else None,
            flakes.direct(mix.K, mix.S, X) if straight or mix.flakes else None,
            metal,
            mix.mirror,
            -np.expm1(-dry / FINISH_FILM_MM) * covered,
            mix.finish,
            covered,
            T * T,
            bool((covered == 1).all()),
            float(R0.max(initial=0.0)) > 1 - 1e-9,
            np.asarray((dry == 0).all(axis=-1)),
        )

    @property
    def simple(self) -> bool:
        """Whether it is a plain film that covers everything."""
        return self.everywhere and self.glow is None and self.flakes is None

    def at(self, place: npt.NDArray[np.intp]) -> Layer:
        """Return the layer with its first axis taken at some places."""

        def taken(x: Array | None) -> Array | None:
            return None if x is None else x[place]

        glow = self.glow
        if glow is not None and glow.a.ndim > glow.e.ndim:
            glow = Emitter(glow.e, glow.a[place])
        return self._replace(
            R0=self.R0[place],
            T=self.T[place],
            glow=glow,
            direct=taken(self.direct),
            flakes=taken(self.flakes),
            hides=self.hides[place],
        )


def _emitter(dyes: Dyes, R0: Array, T: Array) -> Emitter:
    """Return what the dyes of a film send out of what it absorbs, each by its share of that."""
    absorbed = (1 - R0 - T)[..., None, :]
    return emitter(absorbed * dyes.share, dyes.emission, dyes.efficiency)


def put(state: State, layer: Layer, place: npt.NDArray[np.intp] | None = None) -> State:
    """Return a stack with a layer on it.

    Parameters
    ----------
    state
        The stack, of leading shape (n, m) where `place` is given.
    layer
        What lies on it.
    place : (n,) int
        For each place of the stack, the row of the layer that lies there; none if the layer has
        the shape of the stack.
    """
    if state.R.sources == 0 and state.mirror is None and layer.simple:
        return _put_plain(state, layer, place)
    if place is not None:
        layer = layer.at(place)
    covered_R, mirror = _covered(state, layer)
    if not layer.everywhere:
        covered_R = average(layer.cover, covered_R, state.R)
        if mirror is not None:
            below = state.mirror if state.mirror is not None else np.zeros_like(mirror)
            mirror = below + layer.cover[..., None] * (mirror - below)
    finish = state.finish + layer.hides * (layer.finish - state.finish)
    return State(covered_R, finish, mirror)


def _put_plain(state: State, layer: Layer, place: npt.NDArray[np.intp] | None) -> State:
    """Return a stack under a plain film: what `put` comes to in the most common case.

    The same as `optics.stack.over`, in few passes over memory. Its guard against 0 / 0 is needed
    only where a film sends everything back, and then `over` itself is used.
    """
    rows: slice | npt.NDArray[np.intp] = slice(None) if place is None else place
    if place is not None and (place == place[0]).all():
        if layer.absent[place[0]]:
            return state
        rows = slice(place[0], place[0] + 1)  # one row for all places
    R0, below = layer.R0[rows], state.R.d
    hides = layer.hides[rows]
    finish = state.finish + hides * (layer.finish - state.finish)
    if layer.sends_all:
        return State(plain(over(R0, layer.T[rows], below)), finish, None)
    between = R0 * below
    np.subtract(1.0, between, out=between)
    up = layer.T2[rows] * below
    up /= between
    up += R0
    return State(plain(up), finish, None)


def _covered(state: State, layer: Layer) -> tuple[Bispectral, Array | None]:
    """Return reflectance and mirror where the layer touches."""
    if layer.flakes is None:
        R = cover(layer.R0, layer.T, state.R, layer.glow)
        if state.mirror is None or layer.direct is None:
            return R, state.mirror
        return R, state.mirror * layer.direct
    # The flakes lie in the middle of their film: half of its colour is above them and filters
    # their glint, and the rest is taken as lying above them too where they do not cover.
    share = layer.flakes
    open_R = cover(layer.R0, layer.T, state.R, layer.glow)
    straight = layer.direct if layer.direct is not None else np.ones_like(layer.R0)
    dull = plain(flakes.DULL * layer.metal * straight + np.zeros_like(open_R.d))
    R = average(share, dull, open_R)
    below = state.mirror * straight if state.mirror is not None else np.zeros_like(straight)
    flash = (1 - flakes.DULL) * layer.metal * np.sqrt(straight)
    return R, below + share[..., None] * (flash - below)
