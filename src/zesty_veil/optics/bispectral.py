"""Stacks in which some films fluoresce: light comes back at other wavelengths than it came.

A reflectance is then a matrix over (emitted, exciting) wavelengths (Donaldson 1954). Here it is
kept as a diagonal plus a few products,

    R = diag(d) + sum_k U[k] V[k]^T,

one U (what is emitted) and one V (what excites) per source, because a fluorescent film adds just
two of them and every film above only scales them. So a stack with fluorescence costs a few times
one without, where full 36 x 36 matrices would cost hundreds. With no source at all the formulas
below are those of `optics.stack`, to the last digit.

References
----------
R. Donaldson, "Spectrophotometry of fluorescent pigments", Brit. J. Appl. Phys. 5 (1954), 210-214.
M. A. Woodbury, "Inverting modified matrices", Statistical Research Group Memorandum 42 (1950).
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from zesty_veil.light.grid import BANDS, Array, wavelengths
from zesty_veil.optics.stack import over

# More sources than this are gathered into as many as are needed (see `gathered`).
_MOST_SOURCES = 6


class Bispectral(NamedTuple):
    """A reflectance: d (..., 36) as ever, U and V (..., k, 36) for k sources of fluorescence."""

    d: Array
    U: Array
    V: Array

    @property
    def sources(self) -> int:
        """How many sources there are; 0 where nothing fluoresces."""
        return int(self.U.shape[-2])


class Emitter(NamedTuple):
    """What a fluorescent film adds to its own reflectance and transmittance: e a^T, both ways.

    e, a : (..., k, 36); half of what is emitted goes up and half down, so that one pair serves
    both. Energy holds while the film's absorption is at least twice what `a` converts.
    """

    e: Array
    a: Array


def plain(d: Array) -> Bispectral:
    """Return a reflectance (..., 36) without fluorescence."""
    none = np.zeros((*d.shape[:-1], 0, BANDS))
    return Bispectral(d, none, none)


def concatenated(parts: Sequence[Bispectral]) -> Bispectral:
    """Return reflectances one after the other along their first axis.

    Some may have more sources than others, as films of other numbers of passes do; a source that
    sends nothing out makes up for those that are missing.
    """
    most = max(part.sources for part in parts)

    def filled(sources: Array) -> Array:
        missing = most - sources.shape[-2]
        if not missing:
            return sources
        none = np.zeros((*sources.shape[:-2], missing, BANDS))
        return np.concatenate([sources, none], axis=-2)

    return Bispectral(
        np.concatenate([part.d for part in parts]),
        np.concatenate([filled(part.U) for part in parts]),
        np.concatenate([filled(part.V) for part in parts]),
    )


def emitter(absorbed: Array, emission: Array, efficiency: Array) -> Emitter:
    """Return the emitter of a film.

    Parameters
    ----------
    absorbed : (..., k, 36) float64
        Share of the light of each band that each dye of the film absorbs.
    emission : (k, 36) float64
        Spectrum of each dye's emission in energy, with sum 1, where the dye does not absorb: light
        only goes to longer wavelengths.
    efficiency : (k,) float64
        Quanta sent out per quantum absorbed, 0-1.

    Returns
    -------
    Emitter
        F = eta e(em) A(ex) (ex / em) / 2: a longer wave carries less energy per quantum.
    """
    nm = wavelengths()
    return Emitter(
        np.asarray(emission / nm * efficiency[:, None] / 2),
        absorbed * nm,
    )


def cover(R0: Array, T: Array, R: Bispectral, glow: Emitter | None = None) -> Bispectral:
    """Return a film over a reflectance.

    Parameters
    ----------
    R0, T : (..., 36) float64
        Of the film without its own fluorescence.
    R
        Of what is below.
    glow
        The film's own fluorescence, if any.

    Returns
    -------
    Bispectral
        R0 + T (I - R R0)^-1 R T, exactly (see `returned`). An emitter adds two sources: what it
        sends up at once, and what it sends down and the stack sends back.
    """
    if R.sources == 0 and glow is None:
        return plain(over(R0, T, R.d))
    Q = returned(R0, R)
    U, V = Q.U, Q.V
    t = T[..., None, :]
    d = over(R0, T, R.d)
    if glow is None:
        return Bispectral(d, t * U, t * V)

    e, a = np.broadcast_arrays(glow.e, glow.a)
    q = Q.d[..., None, :]

    def through(x: Array) -> Array:
        """Return Q x, what the stack below sends back of each x; (..., k, 36)."""
        return np.asarray(q * x + (x @ np.swapaxes(V, -1, -2)) @ U)

    def against(x: Array) -> Array:
        """Return x Q, the same seen from what excites."""
        return np.asarray(q * x + (x @ np.swapaxes(U, -1, -2)) @ V)

    down = through(e)
    loop = a @ np.swapaxes(down, -1, -2)  # [i, j]: emitted by j, sent back, absorbed by i
    N = np.linalg.inv(np.eye(e.shape[-2]) - loop)
    up_again = N @ against(a)
    excites_down = t * up_again + N @ a
    # What comes up to the film, from light sent through it and from its own, excites it too.
    excites_up = a + t * up_again + N @ (loop @ a)
    shape = np.broadcast_shapes(d.shape[:-1], U.shape[:-2], e.shape[:-2])

    def spread(x: Array) -> Array:
        return np.broadcast_to(x, (*shape, *x.shape[-2:]))

    return Bispectral(
        np.broadcast_to(d, (*shape, BANDS)),
        np.concatenate([spread(x) for x in (t * U, t * down, e)], axis=-2),
        np.concatenate([spread(x) for x in (t * V, excites_down, excites_up)], axis=-2),
    )


def returned(R0: Array, R: Bispectral) -> Bispectral:
    """Return (I - R R0)^-1 R: what comes up from R below something that sends R0 back down.

    By Woodbury, with A = 1 - d R0 and M = I - V R0 A^-1 U^T, it is
    A^-1 d + (A^-1 U)^T M^-1 (A^-1 V). R0 : (..., 36) float64; d R0 < 1.
    """
    A: Array = np.maximum(1 - R.d * R0, np.finfo(np.float64).tiny)
    U, V = R.U / A[..., None, :], R.V / A[..., None, :]
    if R.sources:
        M = np.eye(R.sources) - (V * R0[..., None, :]) @ np.swapaxes(R.U, -1, -2)
        V = np.asarray(np.linalg.solve(M, V), dtype=np.float64)
    return Bispectral(R.d / A, U, V)


def average(share: Array, one: Bispectral, other: Bispectral) -> Bispectral:
    """Return `share` of one reflectance beside the rest of another, as the eye averages them.

    share : (...) float64, broadcasting against the leading shape of both.
    """
    s = np.asarray(share)[..., None]
    d = other.d + s * (one.d - other.d)
    if one.sources == other.sources == 0:
        return plain(d)
    s = s[..., None]
    shape = np.broadcast_shapes(one.U.shape[:-2], other.U.shape[:-2], s.shape[:-2])

    def both(x: Array, y: Array) -> Array:
        parts = [np.broadcast_to(p, (*shape, *p.shape[-2:])) for p in (x, y)]
        return np.concatenate(parts, axis=-2)

    return gathered(Bispectral(d, both(s * one.U, (1 - s) * other.U), both(one.V, other.V)))


def gathered(R: Bispectral) -> Bispectral:
    """Return the same reflectance with no more than a few sources, if it had more.

    Exact while its sources span no more than that; otherwise the weakest are left out.
    """
    if R.sources <= _MOST_SOURCES:
        return R
    qu, ru = np.linalg.qr(np.swapaxes(R.U, -1, -2))
    qv, rv = np.linalg.qr(np.swapaxes(R.V, -1, -2))
    left, size, right = np.linalg.svd(ru @ np.swapaxes(rv, -1, -2))
    k = _MOST_SOURCES
    U = np.swapaxes(qu @ (left[..., :k] * size[..., None, :k]), -1, -2)
    V = right[..., :k, :] @ np.swapaxes(qv, -1, -2)
    return Bispectral(R.d, U, V)


def radiance_factor(R: Bispectral, power: Array) -> Array:
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
    """
    if not R.sources:
        return R.d
    excited = R.V @ power
    # A lamp without light in a band (LED below 400 nm) shows nothing there.
    sent = (excited[..., None] * R.U).sum(axis=-2) / np.maximum(power, 1e-9 * power.max())
    return np.asarray(R.d + sent)
