"""Films on top of each other, in optical contact.

References
----------
P. Kubelka, "New contributions to the optics of intensely light-scattering materials, Part II:
Nonhomogeneous layers", J. Opt. Soc. Am. 44 (1954), 330-335; for several streams by adding:
H. C. van de Hulst, Multiple Light Scattering (Academic Press, 1980), chapter 4.
"""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.optics.film import Film
from zesty_veil.optics.streams import Sym

_TINY = np.finfo(np.float64).tiny


def over(film: Film, R: Sym) -> Sym:
    """Return what a film over something sends back: R <- R0 + T R (1 - R0 R)^-1 T.

    For symmetric 2 x 2 matrices R (1 - R0 R)^-1 = (R - det(R) adj(R0)) / w with
    w = 1 - tr(R0 R) + det(R0) det(R), so every entry is R0's plus a quotient of sums over the
    entries of R and its determinant, whose factors belong to the film alone. Those are worked out
    first: where one film lies in many places they cost nothing.

    Parameters
    ----------
    film
        Of shape (..., 36).
    R
        Internal reflectance of what is below; shapes broadcast.

    >>> import numpy as np
    >>> from zesty_veil.optics.film import film
    >>> from zesty_veil.optics.streams import diffuse, lambertian
    >>> black = film(np.array([500.0]), np.array([0.0]), np.array(0.1))
    >>> diffuse(over(black, lambertian(np.array([0.9])))).round(3).tolist()
    [0.0]
    """
    p, q, r = film.R
    ta, tb, tc = film.T
    aa, ab, bb, bc, cc = ta * ta, ta * tb, tb * tb, tb * tc, tc * tc
    det = np.asarray(R.steep * R.shallow)
    det -= R.mixed * R.mixed
    w = _sum(-p, -2 * q, -r, p * r - q * q, R, det)
    w += 1
    # Only where film and ground both send everything back can this come to nothing.
    np.maximum(w, _TINY, out=w)
    np.divide(1.0, w, out=w)
    out = []
    for own, x, y, z in (
        (p, aa, 2 * ab, bb),
        (q, ab, ta * tc + bb, bc),
        (r, bb, 2 * bc, cc),
    ):
        entry = _sum(x, y, z, y * q - x * r - z * p, R, det)
        entry *= w
        entry += own
        out.append(entry)
    return Sym(*out)


def _sum(steep: Array, mixed: Array, shallow: Array, whole: Array, R: Sym, det: Array) -> Array:
    """Return the sum of the entries of R and its determinant by their factors."""
    total = np.asarray(steep * R.steep)
    part = np.asarray(mixed * R.mixed)
    total += part
    np.multiply(shallow, R.shallow, out=part)
    total += part
    np.multiply(whole, det, out=part)
    total += part
    return total


def stack(ground: Sym, films: Iterable[Film]) -> Sym:
    """Fold films upward over a ground, from the lowest to the highest; shapes broadcast.

    >>> import numpy as np
    >>> from zesty_veil.optics.streams import diffuse, lambertian
    >>> diffuse(stack(lambertian(np.full(36, 0.5)), [])).round(3)[0].item()
    0.5
    """
    R = ground
    for one in films:
        R = over(one, R)
    return R
