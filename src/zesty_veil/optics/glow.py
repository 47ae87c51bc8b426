"""A film that fluoresces throughout its depth.

Dyes deep in a film are reached by less light and less of what they send gets out again. By
reciprocity both are the same profile G: of light that falls on a film, how much passes at a depth,
and of what is sent there evenly in all directions, how much leaves by that side. The film's own
light is the integral over depth of one times the other, in the two streams of `optics.film`.

Excitation may fall steeply with depth, so it is integrated by Gauss's rule in all its nodes; where
a dye sends light out it hardly absorbs, so what leaves bends little over the depth and is taken on
a parabola through three of them. So a film has three sources for each of its dyes however deep it
is, and coats add up: four coats come to one of four times the thickness.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import Array, wavelengths
from zesty_veil.optics.bispectral import Emitter
from zesty_veil.optics.film import film
from zesty_veil.optics.streams import TURNS, Sym

_NODES = 6
_x, _w = np.polynomial.legendre.leggauss(_NODES)
_DEPTHS, _SHARES = (_x + 1) / 2, _w / 2
# The depths between which what leaves is taken as a parabola: those of Gauss's rule of three.
_ENDS = (np.polynomial.legendre.leggauss(3)[0] + 1) / 2
# How much each of them counts at the depths where light is taken up (Lagrange), (3, nodes).
_COUNTS = np.array(
    [
        np.prod([(_DEPTHS - other) / (end - other) for other in _ENDS if other != end], axis=0)
        for end in _ENDS
    ]
)


def emitter(
    mu_a: Array, mu_s: Array, X: Array, excites: Array, emission: Array, efficiency: Array
) -> Emitter:
    """Return what the dyes of a film send out of what they absorb.

    Parameters
    ----------
    mu_a, mu_s, X
        As `optics.film.film`; broadcasting to (..., 36).
    excites : (..., k, 36) float64
        Absorption of each dye in 1/mm, part of `mu_a`.
    emission : (k, 36) float64
        Spectrum of each dye's emission in energy, with sum 1, where the dye does not absorb: light
        only goes to longer wavelengths.
    efficiency : (k,) float64
        Quanta sent out per quantum absorbed, 0-1: a longer wave carries less energy per quantum.

    Returns
    -------
    Emitter
        Of 3 k sources.

    >>> import numpy as np
    >>> mu, dark = np.full(36, 2.0), np.zeros((1, 36))
    >>> still = emitter(mu, 0 * mu, np.full(36, 0.05), dark, dark, np.array([1.0]))
    >>> float(np.abs(np.asarray(still[0])).sum())  # a dye that takes nothing sends nothing
    0.0
    """
    nm = wavelengths()
    X = np.asarray(X, dtype=np.float64)
    outward = [_profile(mu_a, mu_s, X, at) for at in _ENDS]
    inward = [_profile(mu_a, mu_s, X, at) for at in _DEPTHS]
    takes = np.sqrt(2) * excites[..., None, :] * nm * X[..., None, None, :]
    gives = (emission / nm * efficiency[:, None])[:, None, :] / (2 * np.sqrt(2))
    sends: tuple[list[Array], list[Array]] = ([], [])
    sees: tuple[list[Array], list[Array]] = ([], [])
    # From below the film is the same, upside down.
    for towards, away, counts in zip(outward, outward[::-1], _COUNTS, strict=True):
        sends[0].append(gives * towards[..., None, :, :])
        sends[1].append(gives * away[..., None, :, :])
        for side, order in enumerate((inward, inward[::-1])):
            sees[side].append(takes * _sum(_SHARES * counts, order)[..., None, :, :])
    return Emitter(*(np.concatenate(np.broadcast_arrays(*x), axis=-3) for x in (*sends, *sees)))


def _sum(weights: Array, parts: list[Array]) -> Array:
    total: Array = weights[0] * parts[0]
    for weight, part in zip(weights[1:], parts[1:], strict=True):
        total = total + weight * part
    return total


def _profile(mu_a: Array, mu_s: Array, X: Array, at: float) -> Array:
    """Return G (..., 2, 36) at a share of the depth: h (1 + R2) (1 - R1 R2)^-1 T1.

    R1 and T1 are of the film above that depth, R2 of the film below it, and h turns the light of
    both streams into what scatters or is absorbed of it.
    """
    above, below = film(mu_a, mu_s, X * at), film(mu_a, mu_s, X * (1 - at))
    p, q, r = above.R
    a, b, c = below.R
    # Down: (1 - R1 R2)^-1 T1; the product of two symmetric matrices is not symmetric itself.
    m11, m12 = 1 - (p * a + q * b), -(p * b + q * c)
    m21, m22 = -(q * a + r * b), 1 - (q * b + r * c)
    det = m11 * m22 - m12 * m21
    h1, h2 = TURNS
    left = h1 * (1 + a) + h2 * b, h1 * b + h2 * (1 + c)
    x = (left[0] * m22 - left[1] * m21) / det
    y = (left[1] * m11 - left[0] * m12) / det
    T: Sym = above.T
    return np.stack([x * T.steep + y * T.mixed, x * T.mixed + y * T.shallow], axis=-2)
