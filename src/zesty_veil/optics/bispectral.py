"""Stacks in which some films fluoresce: light comes back at other wavelengths than it came.

A reflectance is then a matrix over (emitted, exciting) wavelengths (Donaldson 1954), each in both
streams. Here it is kept as what every band keeps for itself plus a few products,

    R = d + sum_k U[k] V[k]^T,

one U (what is emitted) and one V (what excites) per source, because a fluorescent film adds just
two of them and every film above only scales them. So a stack with fluorescence costs a few times
one without, where full matrices would cost hundreds. With no source at all the formulas below are
those of `optics.stack`, to the last digit.

References
----------
R. Donaldson, "Spectrophotometry of fluorescent pigments", Brit. J. Appl. Phys. 5 (1954), 210-214.
M. A. Woodbury, "Inverting modified matrices", Statistical Research Group Memorandum 42 (1950).
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from zesty_veil.light.grid import BANDS, Array
from zesty_veil.optics.film import Film
from zesty_veil.optics.stack import over
from zesty_veil.optics.streams import Sym

# More sources than this are gathered into as many as are needed (see `gathered`).
_MOST_SOURCES = 6
_STREAMS = 2
_TINY = np.finfo(np.float64).tiny

Places = slice | int | npt.NDArray[np.intp] | tuple[npt.NDArray[np.intp] | slice, ...]


class Bispectral(NamedTuple):
    """A reflectance: d (..., 36) as ever, U and V (..., k, 2, 36) for k sources of fluorescence."""

    d: Sym
    U: Array
    V: Array

    @property
    def sources(self) -> int:
        """How many sources there are; 0 where nothing fluoresces."""
        return int(self.U.shape[-3])

    def some(self, part: Places) -> Bispectral:
        """Return a part of the places."""
        return Bispectral(self.d.each(lambda x: x[part]), self.U[part], self.V[part])

    def shaped(self, shape: tuple[int, ...]) -> Bispectral:
        """Return the same with its places in another shape."""

        def to(x: Array, kept: int) -> Array:
            return x.reshape(*shape, *x.shape[x.ndim - kept :])

        return Bispectral(self.d.each(lambda x: to(x, 1)), to(self.U, 3), to(self.V, 3))

    def spread(self, shape: tuple[int, ...]) -> Bispectral:
        """Return the same repeated to a shape of places that it broadcasts to."""

        def to(x: Array, kept: int) -> Array:
            return np.broadcast_to(x, (*shape, *x.shape[x.ndim - kept :]))

        return Bispectral(self.d.each(lambda x: to(x, 1)), to(self.U, 3), to(self.V, 3))


class Emitter(NamedTuple):
    """What a fluorescent film adds to its own reflectance and transmittance, by k sources.

    Light f from above and g from below excites them by `sees_up` f + `sees_down` g; what they send
    leaves upward by `sends_up` and downward by `sends_down`. All (..., k, 2, 36).
    """

    sends_up: Array
    sends_down: Array
    sees_up: Array
    sees_down: Array

    def at(self, place: Places) -> Emitter:
        """Return the emitter with its first axis taken at some places."""
        return Emitter(*(x[place] for x in self))


class Donaldson(NamedTuple):
    """What is seen from the air: d (..., 36), U and V (..., k, 36) for k sources."""

    d: Array
    U: Array
    V: Array


def plain(d: Sym) -> Bispectral:
    """Return a reflectance (..., 36) without fluorescence.

    >>> import numpy as np
    >>> from zesty_veil.optics.streams import lambertian
    >>> plain(lambertian(np.full(36, 0.5))).sources
    0
    """
    none = np.zeros((*d.shape[:-1], 0, _STREAMS, BANDS))
    return Bispectral(d, none, none)


def concatenated(parts: Sequence[Bispectral], axis: int = 0) -> Bispectral:
    """Return reflectances one after the other along an axis of their places.

    Some may have more sources than others, as films of other numbers of passes do; a source that
    sends nothing out makes up for those that are missing.

    >>> import numpy as np
    >>> from zesty_veil.optics.streams import lambertian
    >>> one = plain(lambertian(np.full((1, 36), 0.5)))
    >>> concatenated([one, one]).d.shape
    (2, 36)
    """
    most = max(part.sources for part in parts)

    def filled(sources: Array) -> Array:
        missing = most - sources.shape[-3]
        if not missing:
            return sources
        none = np.zeros((*sources.shape[:-3], missing, _STREAMS, BANDS))
        return np.concatenate([sources, none], axis=-3)

    entries = zip(*(part.d for part in parts), strict=True)
    return Bispectral(
        Sym(*(np.concatenate(entry, axis) for entry in entries)),
        np.concatenate([filled(part.U) for part in parts], axis),
        np.concatenate([filled(part.V) for part in parts], axis),
    )


def _dot(one: Array, other: Array) -> Array:
    """Return all products of sources i and j, (..., i, j), summed over streams and bands."""
    return _flat(one) @ np.swapaxes(_flat(other), -1, -2)


def _flat(x: Array) -> Array:
    return x.reshape(*x.shape[:-2], _STREAMS * BANDS)


def _of(weights: Array, sources: Array) -> Array:
    """Return sums of sources (..., j, 2, 36) by weights (..., i, j)."""
    flat = weights @ _flat(sources)
    return flat.reshape(*flat.shape[:-1], _STREAMS, BANDS)


def times(matrix: Sym, sources: Array) -> Array:
    """Return a matrix of the streams times each source, (..., k, 2, 36).

    >>> import numpy as np
    >>> from zesty_veil.optics.streams import lambertian
    >>> grey = lambertian(np.full(36, 0.5))
    >>> times(grey, np.zeros((0, 2, 36))).shape
    (0, 2, 36)
    """
    a, b, c = (x[..., None, :] for x in matrix)
    steep, shallow = sources[..., 0, :], sources[..., 1, :]
    return np.stack([a * steep + b * shallow, b * steep + c * shallow], axis=-2)


def cover(film: Film, R: Bispectral, glow: Emitter | None = None) -> Bispectral:
    """Return a film over a reflectance.

    Parameters
    ----------
    film
        The film without its own fluorescence.
    R
        Of what is below.
    glow
        The film's own fluorescence, if any.

    Returns
    -------
    Bispectral
        Exactly (see `returned`). An emitter adds its sources: what they send up at once and what
        they send down and the stack sends back, with what of that excites them again.

    >>> import numpy as np
    >>> from zesty_veil.optics.film import film
    >>> from zesty_veil.optics.streams import diffuse, lambertian
    >>> nothing = film(np.zeros(36), np.zeros(36), np.array(0.0))
    >>> R = cover(nothing, plain(lambertian(np.full(36, 0.5))), None)
    >>> diffuse(R.d)[0].round(3).item()
    0.5
    """
    d = over(film, R.d)
    if R.sources == 0 and glow is None:
        return plain(d)
    Q = returned(film.R, R)
    U, V = times(film.T, Q.U), times(film.T, Q.V)
    if glow is not None:
        down = _back(Q, glow.sends_down)
        loop = _dot(glow.sees_down, down)  # [i, j]: sent by j, sent back, seen by i
        again: Array = np.asarray(np.linalg.inv(np.eye(loop.shape[-1]) - loop), dtype=np.float64)
        sends = glow.sends_up + times(film.T, down)
        sees = _of(again, glow.sees_up + times(film.T, _back(Q, glow.sees_down, turned=True)))
        U, V = _joined(U, sends), _joined(V, sees)
    places = np.broadcast_shapes(d.shape[:-1], U.shape[:-3], V.shape[:-3])
    return Bispectral(d, U, V).spread(places)


def _back(Q: Bispectral, sources: Array, turned: bool = False) -> Array:
    """Return Q x for each source x, or the transpose of Q times it."""
    U, V = (Q.V, Q.U) if turned else (Q.U, Q.V)
    return times(Q.d, sources) + _of(_dot(sources, V), U)


def _joined(one: Array, other: Array) -> Array:
    shape = np.broadcast_shapes(one.shape[:-3], other.shape[:-3])
    parts = [np.broadcast_to(x, (*shape, *x.shape[-3:])) for x in (one, other)]
    return np.concatenate(parts, axis=-3)


def returned(R0: Sym, R: Bispectral) -> Bispectral:
    """Return (1 - R R0)^-1 R: what comes up from R below something that sends R0 back down.

    By Woodbury, with A = 1 - d R0 and M = 1 - V^T R0 A^-1 U, it is
    A^-1 d + (A^-1 U) M^-1 (A^-1 V)^T; entries of R0 broadcast.

    >>> import numpy as np
    >>> from zesty_veil.optics.streams import lambertian
    >>> black = lambertian(np.zeros(36))
    >>> returned(black, plain(lambertian(np.full(36, 0.5)))).sources
    0
    """
    a, b, c = R.d
    p, q, r = R0
    det = a * c - b * b
    w = 1 - (a * p + 2 * b * q + c * r) + det * (p * r - q * q)
    w = np.maximum(w, _TINY)
    d = Sym((a - det * r) / w, (b + det * q) / w, (c - det * p) / w)
    if not R.sources:
        return Bispectral(d, R.U, R.V)
    # The inverse of A, which is not symmetric.
    rows = (
        ((1 - (b * q + c * r)) / w, (a * q + b * r) / w),
        ((b * p + c * q) / w, (1 - (a * p + b * q)) / w),
    )

    def through(x: Array) -> Array:
        steep, shallow = x[..., 0, :], x[..., 1, :]
        out = [m[..., None, :] * steep + n[..., None, :] * shallow for m, n in rows]
        return np.stack(out, axis=-2)

    U, V = through(R.U), through(R.V)
    M = np.eye(R.sources) - _dot(R.V, times(R0, U))
    return Bispectral(d, U, _of(np.asarray(np.linalg.inv(M), dtype=np.float64), V))


def average(share: Array, one: Bispectral, other: Bispectral) -> Bispectral:
    """Return `share` of one reflectance beside the rest of another, as the eye averages them.

    share : (...) float64, broadcasting against the leading shape of both.

    >>> import numpy as np
    >>> from zesty_veil.optics.streams import diffuse, lambertian
    >>> black, white = (plain(lambertian(np.full(36, r))) for r in (0.0, 1.0))
    >>> diffuse(average(np.array(0.25), white, black).d)[0].round(3).item()
    0.25
    """
    s = np.asarray(share)[..., None]
    d = Sym(*(y + s * (x - y) for x, y in zip(one.d, other.d, strict=True)))
    if one.sources == other.sources == 0:
        return plain(d)
    s = s[..., None, None]
    U = _joined(s * one.U, (1 - s) * other.U)
    V = _joined(one.V, other.V)
    return gathered(Bispectral(d, U, V).spread(d.shape[:-1]))


def gathered(R: Bispectral) -> Bispectral:
    """Return the same reflectance with no more than a few sources, if it had more.

    Exact while its sources span no more than that; otherwise the weakest are left out.

    >>> import numpy as np
    >>> from zesty_veil.optics.streams import lambertian
    >>> gathered(plain(lambertian(np.full(36, 0.5)))).sources
    0
    """
    if R.sources <= _MOST_SOURCES:
        return R
    qu, ru = np.linalg.qr(np.swapaxes(_flat(R.U), -1, -2))
    qv, rv = np.linalg.qr(np.swapaxes(_flat(R.V), -1, -2))
    left, size, right = np.linalg.svd(ru @ np.swapaxes(rv, -1, -2))
    k = _MOST_SOURCES
    U = np.swapaxes(qu @ (left[..., :k] * size[..., None, :k]), -1, -2)
    V = right[..., :k, :] @ np.swapaxes(qv, -1, -2)
    shape = (*U.shape[:-1], _STREAMS, BANDS)
    return Bispectral(R.d, U.reshape(shape), V.reshape(shape))


def radiance_factor(R: Donaldson, power: Array) -> Array:
    """Return what is seen in each band under a light, relative to a perfect diffuser.

    Parameters
    ----------
    R
        Of the stack, with the surface already reckoned in.
    power : (36,) float64
        The light.

    Returns
    -------
    (..., 36) float64
        (R I) / I; may exceed 1 where light from other bands is sent out.

    >>> import numpy as np
    >>> from zesty_veil.optics.streams import lambertian
    >>> from zesty_veil.optics.surface import seen_bispectral
    >>> black = seen_bispectral(plain(lambertian(np.zeros(36))), np.array(0.04))
    >>> radiance_factor(black, np.ones(36))[0].round(3).item()  # the surface alone
    0.04
    """
    if not R.U.shape[-2]:
        return R.d
    excited = R.V @ power
    # A lamp without light in a band (LED below 400 nm) shows nothing there.
    sent = (excited[..., None] * R.U).sum(axis=-2) / np.maximum(power, 1e-9 * power.max())
    return np.asarray(R.d + sent)
