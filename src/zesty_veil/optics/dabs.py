"""Paint as it lies: in dabs that are thick in the middle, or in strokes with ridges and valleys.

A sponge or a stippling brush leaves domes. By area, the thickness of a paraboloid is spread evenly
from nothing to twice its mean, and colour does not follow thickness in a line: as a flat film of
that mean, dabs come out up to dE 8 too strong. A brush leaves ridges and valleys finer than the eye
parts, and what that takes off a colour is of the same kind. One film stands for all thicknesses
here, so that laying them costs no more than laying a flat one:

- over black it sends back what they send back on average, R = <R_k>;
- over a ground that sends every stream back whole, too: with D = <T_k (1 - R_k)^-1 T_k> that asks
  for T (1 - R)^-1 T = D, whose solution is the geometric mean of 1 - R and D, in closed form for
  2 x 2. As D <= 1 - R, that mean is no more than 1 - R: no light is made.

Light that enters beside a dab may leave through it. If all did, a dab and what lies beside it would
act as one film, and clear ink would follow Yule and Nielsen with n = 2; how much does, follows from
how far light goes sideways in paint and how large a dab is.

References
----------
J. A. C. Yule, W. J. Nielsen, "The penetration of light into paper and its effect on halftone
reproduction", TAGA Proceedings 3 (1951), 65-76.
T. Ando, "Concavity of certain maps on positive definite matrices", Linear Algebra Appl. 26 (1979),
203-241: the geometric mean.
"""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.optics.film import Film, Leaves, film
from zesty_veil.optics.stack import over
from zesty_veil.optics.streams import Sym

_TINY = 1e-150
# How far light goes sideways in a white ground before it comes out, in mm; from memory, some
# transport lengths of dry white paint or primer.
_ASIDE_MM = 0.03


def domed(mu_a: Array, mu_s: Array, X: Array, leaves: Leaves | None = None) -> Film:
    """Return the film that stands for domes of a mean thickness X; all as `optics.film.film`.

    >>> import numpy as np
    >>> from zesty_veil.optics.stack import over
    >>> from zesty_veil.optics.streams import diffuse, lambertian
    >>> from zesty_veil.optics.film import film
    >>> mu, none, mm = np.array([20.0]), np.array([0.0]), np.array([0.05])
    >>> white = lambertian(np.array([0.9]))
    >>> flat, dome = (diffuse(over(f(mu, none, mm), white)) for f in (film, domed))
    >>> bool(dome[0] > flat[0])  # thin rims let more light through
    True
    """
    places, shares = np.polynomial.legendre.leggauss(5)
    parts = [(1 + place, share / 2) for place, share in zip(places, shares, strict=True)]
    return _standing_for(parts, mu_a, mu_s, np.asarray(X, dtype=np.float64), leaves)


def uneven(
    mu_a: Array, mu_s: Array, X: Array, texture: Array, leaves: Leaves | None = None
) -> Film:
    """Return the film that stands for strokes of a mean thickness X; the rest as `film`.

    texture : standard deviation over mean of the thickness, 0-1, against X. Two thicknesses, one
    deviation above and one below, stand for them all: what it takes off a colour follows the
    deviation, hardly the shape.

    >>> import numpy as np
    >>> from zesty_veil.optics.film import film
    >>> mu, none, mm = np.array([20.0]), np.array([0.0]), np.array([0.05])
    >>> even, flat = uneven(mu, none, mm, np.array([0.0])), film(mu, none, mm)
    >>> bool(np.allclose(even.T.steep, flat.T.steep))
    True
    """
    X = np.asarray(X, dtype=np.float64)
    cv = np.asarray(texture, dtype=np.float64)
    return _standing_for([(1 - cv, 0.5), (1 + cv, 0.5)], mu_a, mu_s, X, leaves)


def _standing_for(
    parts: Iterable[tuple[Array | float, float]],
    mu_a: Array,
    mu_s: Array,
    X: Array,
    leaves: Leaves | None,
) -> Film:
    """Return the film for thicknesses, each so many times X, with the shares of the area."""
    whole = np.asarray(np.broadcast_to(1.0, np.broadcast_shapes(np.shape(mu_a), X.shape)))
    mirror = Sym(whole, np.zeros(()), whole)
    R = total = None
    for times, share in parts:
        one = film(mu_a, mu_s, X * times, leaves)
        own, seen = (part.each(lambda x: x * share) for part in (one.R, over(one, mirror)))  # noqa: B023
        R = own if R is None else _sum(R, own)
        total = seen if total is None else _sum(total, seen)
    assert R is not None
    assert total is not None
    D = Sym(total.steep - R.steep, total.mixed - R.mixed, total.shallow - R.shallow)
    return Film(R, _geometric_mean(Sym(1 - R.steep, -R.mixed, 1 - R.shallow), D))


def beside(one: Film, covered: Array) -> Film:
    """Return dabs and the gaps between them as one film, through which light goes anywhere.

    covered : (...) share of the area that dabs cover, against the film's leading shape.

    >>> import numpy as np
    >>> from zesty_veil.optics.film import film
    >>> one = film(np.full((1, 36), 2.0), np.full((1, 36), 5.0), np.array(0.05))
    >>> beside(one, np.array([0.4])).R.steep.shape
    (1, 36)
    """
    c = np.asarray(covered)[..., None]
    return Film(
        one.R.each(lambda x: c * x),
        Sym(c * one.T.steep + 1 - c, c * one.T.mixed, c * one.T.shallow + 1 - c),
    )


def strays(size_mm: float) -> float:
    """Return the share of light that leaves by another dab, or none, than it came in by; 0-1.

    Of light that goes some way aside in any direction, that much crosses the edge of a round dab.
    Yule and Nielsen's exponent is about 1 / (1 - half of it).

    >>> 0 <= strays(0.5) < strays(0.05) <= 1
    True
    """
    return min(4 * _ASIDE_MM / (np.pi * size_mm), 1.0)


def _sum(one: Sym, other: Sym) -> Sym:
    return Sym(*(x + y for x, y in zip(one, other, strict=True)))


def _geometric_mean(one: Sym, other: Sym) -> Sym:
    """Return the geometric mean of two positive matrices: X with X one^-1 X = other."""
    a, b = (np.sqrt(np.maximum(x.det(), 0.0)) for x in (one, other))
    # The determinant of one / a + other / b, by what does not vanish where one of them does.
    cross = one.steep * other.shallow + one.shallow * other.steep - 2 * one.mixed * other.mixed
    scale = 1 / np.sqrt(np.maximum(2 * a * b + cross, _TINY))
    return Sym(*((b * x + a * y) * scale for x, y in zip(one, other, strict=True)))
