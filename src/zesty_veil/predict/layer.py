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
    Places,
    average,
    concatenated,
    cover,
    plain,
)
from zesty_veil.optics.dabs import beside, domed, strays, uneven
from zesty_veil.optics.film import Film, film
from zesty_veil.optics.glow import emitter
from zesty_veil.optics.stack import over
from zesty_veil.paint.mixture import Blend

# A dry film this thick (mm) hides most of the finish of what is below; from memory.
FINISH_FILM_MM = 0.006


def _single(x: Array) -> Array:
    one = x[:1] if x.ndim > 1 and x.strides[0] == 0 else x  # one row, repeated without copies
    return np.broadcast_to(one.astype(np.float32), x.shape)


class StackOptics(NamedTuple):
    """A stack seen from inside, at any leading shape.

    R is its reflectance, `finish` (...) the k_f of its surface, and `mirror` (..., 36) what flakes
    reflect in the direction of a mirror, or none where there are no flakes.
    """

    R: Bispectral
    finish: Array
    mirror: Array | None

    def some(self, part: Places) -> StackOptics:
        """Return some of the places."""
        mirror = None if self.mirror is None else self.mirror[part]
        return StackOptics(self.R.some(part), self.finish[part], mirror)

    @property
    def alike(self) -> bool:
        """Whether it is known to be the same at every place: one row, repeated without copies."""
        if self.mirror is not None or self.R.sources:
            return False
        return all(x.strides[0] == 0 for x in (*self.R.d, self.finish))

    def rough(self) -> StackOptics:
        """Return the stack in single precision: for pictures, twice as fast and within dE 0.01."""
        return self._replace(R=self.R._replace(d=self.R.d.each(_single)))

    def repeated(self, places: int) -> StackOptics:
        """Return a stack of one place for many of them, without copies."""
        shape = (places, *self.finish.shape[1:])
        mirror = None
        if self.mirror is not None:
            mirror = np.broadcast_to(self.mirror, (*shape, self.mirror.shape[-1]))
        return StackOptics(self.R.spread(shape), np.broadcast_to(self.finish, shape), mirror)


def joined_stacks(parts: Sequence[StackOptics]) -> StackOptics:
    """Return parts of a stack as one, along the first axis."""
    if len(parts) == 1:
        return parts[0]
    R = concatenated([p.R for p in parts])
    mirror = None
    if any(p.mirror is not None for p in parts):
        # Where none of the metal lies, there is nothing to mirror, and nobody noted so.
        mirror = np.concatenate(
            [np.zeros(p.R.d.shape) if p.mirror is None else p.mirror for p in parts]
        )
    return StackOptics(R, np.concatenate([p.finish for p in parts]), mirror)


class Layer(NamedTuple):
    """What one pass leaves; arrays broadcast against the stack's leading shape."""

    film: Film  # (..., 36)
    glow: Emitter | None
    direct: Array | None  # (..., 36) what a straight beam keeps, in and out
    flash: Array | None  # (..., 36) what its own leaves mirror
    hides: Array  # (...) share of the finish below that is hidden
    finish: float
    cover: Array  # (m,) share of the area that is touched
    everywhere: bool  # whether all of the area is touched
    among: Film | None  # dabs and gaps as one film, for light that strays between them
    stray: float  # share of light that does
    absent: npt.NDArray[np.bool_]  # (rows) where there is no film at all

    @classmethod
    def of(
        cls,
        mix: Blend,
        neat: Array,
        dry: Array,
        covered: Array,
        straight: bool = False,
        dab_mm: float = 0.0,
        texture: Array | float = 0.0,
    ) -> Layer:
        """Work out a layer from a mixture.

        Parameters
        ----------
        mix
            What it is made of; its spectra may have leading shapes of their own.
        neat, dry : (..., m) float64
            Thickness in mm, counted as neat paint and after the water has left.
        covered : (m,) float64
            Share of the area that is touched.
        straight
            Whether flakes lie below, so that straight beams matter; with flakes of its own they
            always do.
        dab_mm
            How large its dabs are, where it does not lie everywhere; 0 for a flat film.
        texture
            How uneven it lies, finer than the eye parts: deviation over mean, against `neat`; dabs
            have their own shape. What its dyes give off and its leaves mirror is that of its mean.
        """
        X, q = neat[..., None], mix.flakes
        everywhere = bool((covered == 1).all())
        dabs = dab_mm > 0
        leaves = flakes.leaves(q, mix.mirror, mix.mu_s) if q else None
        if dabs:
            one = domed(mix.mu_a, mix.mu_s, X, leaves)
        elif np.any(texture):
            one = uneven(mix.mu_a, mix.mu_s, X, np.asarray(texture)[..., None], leaves)
        else:
            one = film(mix.mu_a, mix.mu_s, X, leaves)
        return cls(
            one,
            _emitter(mix, X) if mix.dyes is not None else None,
            flakes.direct(mix.mu_a, mix.mu_s, X, q) if straight or q else None,
            flakes.flash(q, mix.mirror, mix.mu_a, mix.mu_s, X) if q else None,
            -np.expm1(-dry / FINISH_FILM_MM) * covered,
            mix.finish,
            covered,
            everywhere,
            beside(one, covered) if dabs and mix.dyes is None else None,
            strays(dab_mm) if dabs else 0.0,
            np.asarray((dry == 0).all(axis=-1)),
        )

    def rough(self) -> Layer:
        """Return the layer with its film in single precision."""

        def single(one: Film) -> Film:
            return Film(*(part.each(_single) for part in one))

        among = None if self.among is None else single(self.among)
        return self._replace(film=single(self.film), among=among)

    @property
    def simple(self) -> bool:
        """Whether it is a plain film that covers everything."""
        return self.everywhere and self.glow is None and self.flash is None

    def at(self, place: Places) -> Layer:
        """Return the layer with its first axes taken at some places."""

        def taken(x: Array | None) -> Array | None:
            return None if x is None else x[place]

        return self._replace(
            film=self.film.at(place),
            among=None if self.among is None else self.among.at(place),
            glow=None if self.glow is None else self.glow.at(place),
            direct=taken(self.direct),
            flash=taken(self.flash),
            hides=self.hides[place],
        )


def _emitter(mix: Blend, X: Array) -> Emitter:
    assert mix.dyes is not None
    excites = mix.mu_a[..., None, :] * mix.dyes.share
    return emitter(mix.mu_a, mix.mu_s, X, excites, mix.dyes.emission, mix.dyes.efficiency)


def apply_layer(
    state: StackOptics, layer: Layer, place: npt.NDArray[np.intp] | None = None
) -> StackOptics:
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
    if place is not None and (place == place[0]).all():
        if layer.absent[place[0]]:
            return state
        place = place[:1]  # one row for all places
    if state.R.sources == 0 and state.mirror is None and layer.simple:
        film = layer.film if place is None else layer.film.at(place)
        return StackOptics(plain(over(film, state.R.d)), _finish(state, layer, place), None)
    finish = _finish(state, layer, place)
    if place is not None:
        layer = layer.at(place)
    R = cover(layer.film, state.R, layer.glow)
    mirror = _mirror(state, layer)
    if not layer.everywhere:
        R = average(layer.cover, R, state.R)
        if layer.among is not None:
            R = average(np.array(layer.stray), cover(layer.among, state.R, None), R)
        if mirror is not None:
            below = state.mirror if state.mirror is not None else np.zeros_like(mirror)
            mirror = below + layer.cover[..., None] * (mirror - below)
    return StackOptics(R, finish, mirror)


def _finish(state: StackOptics, layer: Layer, place: npt.NDArray[np.intp] | None) -> Array:
    hides = layer.hides if place is None else layer.hides[place]
    return np.asarray(state.finish + hides * (layer.finish - state.finish))


def _mirror(state: StackOptics, layer: Layer) -> Array | None:
    """Return what flakes mirror where the layer touches: its own, and those below it."""
    below = state.mirror
    if below is not None and layer.direct is not None:
        below = below * layer.direct
    if layer.flash is None:
        return below
    # One row of leaves may serve many stacks, each of which has its own mirror from now on.
    own = np.broadcast_to(layer.flash, np.broadcast_shapes(layer.flash.shape, state.R.d.shape))
    return own if below is None else below + own
