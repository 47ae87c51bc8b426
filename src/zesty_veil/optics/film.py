"""Reflectance and transmittance of one film of paint for steep and for shallow light.

With fluxes down and up in both streams, a the absorption and s the scattering, part of which goes
onward as in the delta-Eddington approximation, and metal leaves that lie flat,

    dF+/dx = -A F+ + B F-,  -dF-/dx = -A F- + B F+

has the sum and the difference of both directions as its natural unknowns: with P = A + B and
Q = A - B, they follow u'' = P Q u and v'' = Q P v. Light that comes alike from both sides makes the
even solution, light of opposite sign the odd one, and

    R + T = (1 - E)(1 + E)^-1,  E = Q phi(P Q)
    R - T = (H - 1)(H + 1)^-1,  H = phi(P Q) P,    phi(z) = tanh(sqrt(z) X / 2) / sqrt(z)

No matrix that may be singular is inverted: clear films, films of no thickness and films without
absorption need no care of their own. phi of a 2 x 2 matrix is u + v P Q by its two eigenvalues.

References
----------
J. H. Joseph, W. J. Wiscombe, J. A. Weinman, "The delta-Eddington approximation for radiative flux
transfer", J. Atmos. Sci. 33 (1976), 2452-2459: a peak straight on, and an even slope beside it.
A. Schuster, "Radiation through a foggy atmosphere", Astrophys. J. 21 (1905), 1-22.
C. E. Siewert, "A concise and accurate solution to Chandrasekhar's basic problem in radiative
transfer", J. Quant. Spectrosc. Radiat. Transf. 64 (2000), 109-130: sums and differences.
G. H. Suits, "The calculation of the directional reflectance of a vegetative canopy", Remote Sens.
Environ. 2 (1972), 117-125: leaves that lie flat.
"""

from __future__ import annotations

from typing import Any, NamedTuple

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.optics.streams import COSINES, ONWARD, ROOTS, SHARES, SLOPE, WEIGHTS, Sym

_TINY = np.finfo(np.float64).tiny
# Eigenvalues nearer to each other than this share count as one.
_ALIKE = 1e-9


class Film(NamedTuple):
    """What a film sends back of light from above or below (R), and lets through (T)."""

    R: Sym
    T: Sym

    def at(self, place: Any) -> Film:
        """Return the film with its first axes taken at some places."""
        return Film(*(part.each(lambda x: x[place]) for part in self))


class Leaves(NamedTuple):
    """Metal leaves in a film: `area` in 1/mm, `spread` (..., 36) what they send back evenly."""

    area: Array
    spread: Array


def film(mu_a: Array, mu_s: Array, X: Array, leaves: Leaves | None = None) -> Film:
    """Return how a film sends light back and lets it through.

    Parameters
    ----------
    mu_a, mu_s : (...) float64
        Absorption and reduced scattering in 1/mm of neat wet paint, not negative.
    X : (...) float64
        Thickness in mm, not negative. All three broadcast.
    leaves
        Metal leaves in it, if any.

    Returns
    -------
    Film
        For every input that is not negative: entries from 0 to 1, and no more light out than in,
        both to 1e-12.

    >>> import numpy as np
    >>> clear = film(np.zeros(1), np.zeros(1), np.array(0.05))
    >>> clear.R.steep.tolist()  # nothing comes back
    [0.0]
    """
    a, s = np.asarray(mu_a, dtype=np.float64), np.asarray(mu_s, dtype=np.float64)
    q = np.zeros(()) if leaves is None else np.asarray(leaves.area, dtype=np.float64)
    # In units of all that is lost on the way nothing overflows.
    whole = a + s + q
    unit = np.where(whole > 0, whole, 1.0)
    P, Q, det = _equations(a / unit, s / unit, q / unit, leaves)
    half = np.asarray(X, dtype=np.float64) * whole / 2

    trace = P.steep * Q.steep + 2 * P.mixed * Q.mixed + P.shallow * Q.shallow
    root = np.sqrt(np.maximum(trace * trace / 4 - det, 0.0))
    large = trace / 2 + root
    small = det / np.maximum(large, _TINY)
    one, other = _phi(large, half), _phi(small, half)
    both = one * other
    apart = large - small
    v = one - other
    v /= np.where(apart > _ALIKE * large, apart, 1.0)
    u = one
    u -= v * large

    # The determinants of E and H, whose own entries would lose them where films are thick.
    whole_P = P.det()
    whole_Q = det / np.maximum(whole_P, _TINY)
    U = _inverse(_sums(u, v, Q, _between(Q, P)), whole_Q * both)
    V = _inverse(_sums(u, v, P, _between(P, Q)), whole_P * both)
    R = Sym(U.steep - V.steep, U.mixed - V.mixed, U.shallow - V.shallow)
    return Film(R, Sym(U.steep + V.steep - 1, U.mixed + V.mixed, U.shallow + V.shallow - 1))


def _equations(a: Array, s: Array, q: Array, leaves: Leaves | None) -> tuple[Sym, Sym, Array]:
    """Return P, Q, and the determinant of their product."""
    (w1, w2), (m1, m2) = WEIGHTS, COSINES
    # What scatters at all, of which a share goes onward: less is turned than scattered.
    turned, s = s, s / (1 - ONWARD)
    lost = a + s
    cross = float(np.sqrt(w1 * w2 / (m1 * m2)))
    on = s * ONWARD
    P = Sym(lost / m1 - on * SLOPE[0], -on * SLOPE[1], lost / m2 - on * SLOPE[2])
    # In forms that lose no digits where hardly anything is absorbed.
    Q = Sym((a + s * w2) / m1, -s * cross, (a + s * w1) / m2)
    if leaves is None:
        return P, Q, (a + turned) * lost * (a * lost) / (m1 * m2) ** 2
    t = q * leaves.spread
    c1, c2, r = SHARES[0], SHARES[1], float(ROOTS[0] * ROOTS[1])
    P = Sym(P.steep + q + t * c1, P.mixed + t * r, P.shallow + q + t * c2)
    Q = Sym(Q.steep + q - t * c1, Q.mixed - t * r, Q.shallow + q - t * c2)
    return P, Q, P.det() * np.maximum(Q.det(), 0.0)


def _phi(z: Array, half: Array) -> Array:
    """Return tanh(sqrt(z) h) / sqrt(z) for a half thickness h; h itself where z is 0."""
    k = np.sqrt(z)
    out = np.asarray(k * half)
    np.tanh(out, out=out)  # keeps all its digits for small numbers
    none = k < 1e-150
    out *= 1 / np.where(none, 1.0, k)
    return np.where(none, half, out) if none.any() else out


def _between(one: Sym, other: Sym) -> Sym:
    """Return the product one other one, which is symmetric as they are."""
    a, b, c = one
    d, e, f = other
    left, right = a * d + b * e, a * e + b * f
    lower, last = b * d + c * e, b * e + c * f
    return Sym(left * a + right * b, left * b + right * c, lower * b + last * c)


def _sums(u: Array, v: Array, one: Sym, other: Sym) -> Sym:
    """Return u one + v other."""
    return Sym(*(u * x + v * y for x, y in zip(one, other, strict=True)))


def _inverse(x: Sym, det: Array) -> Sym:
    """Return (1 + x)^-1 of a matrix with a determinant; neither it nor the trace is negative."""
    steep, shallow = x.steep + 1, x.shallow + 1
    whole = np.asarray(x.steep + shallow)
    whole += det
    np.divide(1.0, whole, out=whole)
    shallow *= whole
    steep *= whole
    return Sym(shallow, x.mixed * -whole, steep)
