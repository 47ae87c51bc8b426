"""Films as 5 x 5 matrices: many films over many grounds are one product.

What a film makes of a symmetric 2 x 2 reflectance R is a quotient (`optics.stack.over`). Written
with the entries of R, its determinant and a common denominator as one vector,

    x = (w, w R_steep, w R_mixed, w R_shallow, w det R),

it is linear: each film is a matrix, a pile of films is their product, and what is seen through the
surface is the quotient of two rows times x. So the colours of a thousand coats on a thousand
stacks come from one matrix product a band, where folding each stack takes ten times as long.

References
----------
The vector holds the Pluecker coordinates of the plane spanned by the fluxes; that Riccati's
equation is linear in them: C. Schneider, "Analytical aspects of Riccati matrix equations", as in
M. A. Shayman, "Phase portrait of the matrix Riccati equation", SIAM J. Control Optim. 24 (1986),
1-65 (from memory).
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.optics.film import Film
from zesty_veil.optics.streams import Sym
from zesty_veil.optics.surface import INSIDE, OUT

SIZE = 5


def matrix(film: Film) -> Array:
    """Return films (..., 36) as matrices (..., 36, 5, 5).

    >>> import numpy as np
    >>> from zesty_veil.optics.film import film
    >>> matrix(film(np.ones(36), np.ones(36), np.array(0.05))).shape
    (36, 5, 5)
    """
    p, q, r = film.R
    ta, tb, tc = film.T
    aa, ab, bb, bc, cc = ta * ta, ta * tb, tb * tb, tb * tc, tc * tc
    both, det = ta * tc + bb, p * r - q * q
    # T adj(R0) T, for the determinant.
    k1 = aa * r - 2 * ab * q + bb * p
    k2 = ab * r - both * q + bc * p
    k3 = bb * r - 2 * bc * q + cc * p
    zero, one = np.zeros_like(p), np.ones_like(p)
    w = np.stack([one, -p, -2 * q, -r, det], axis=-1)

    def row(own: Array, x: Array, y: Array, z: Array, last: Array) -> Array:
        return np.asarray(own[..., None] * w + np.stack([zero, x, y, z, last], axis=-1))

    def entry(own: Array, x: Array, y: Array, z: Array) -> Array:
        return row(own, x, y, z, y * q - x * r - z * p)

    through = (ta * tc - bb) ** 2
    return np.stack(
        [
            w,
            entry(p, aa, 2 * ab, bb),
            entry(q, ab, both, bc),
            entry(r, bb, 2 * bc, cc),
            row(det, k1, 2 * k2, k3, through - (k1 * r - 2 * k2 * q + k3 * p)),
        ],
        axis=-2,
    )


def vector(R: Sym) -> Array:
    """Return reflectances (..., 36) as vectors (..., 36, 5).

    >>> import numpy as np
    >>> from zesty_veil.optics.streams import lambertian
    >>> vector(lambertian(np.full(36, 0.5))).shape
    (36, 5)
    """
    return np.stack([np.ones_like(R.steep), *R, R.det()], axis=-1)


def entries(x: Array) -> Sym:
    """Return the reflectances (..., 36) of vectors (..., 36, 5).

    >>> import numpy as np
    >>> from zesty_veil.optics.streams import diffuse, lambertian
    >>> diffuse(entries(3 * vector(lambertian(np.full(36, 0.5))))).round(3)[0].item()
    0.5
    """
    return Sym(*(x[..., i] / x[..., 0] for i in (1, 2, 3)))


def looks() -> Array:
    """Return the two rows (2, 5) whose quotient is what is seen, without the finish.

    >>> looks().shape
    (2, 5)
    """
    return np.array([[0.0, OUT, 0.0, 0.0, -OUT], [1.0, -INSIDE, 0.0, -1.0, INSIDE]])
