"""The two-flux theory: one direction of light, diffuse and without a surface.

It is what `optics.film` comes to where light has no direction, and quick enough to sort paints by.

References
----------
P. Kubelka, F. Munk, "Ein Beitrag zur Optik der Farbanstriche", Z. techn. Physik 12 (1931).
P. Kubelka, "New contributions to the optics of intensely light-scattering materials, Part I",
J. Opt. Soc. Am. 38 (1948), 448-457.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import Array

# Below this z the difference 1 - q^2 loses digits, and its series is exact to the last one.
_THIN = 1e-3
_CLEAR = 0.05


def two_flux_film(K: Array, S: Array, X: Array) -> tuple[Array, Array]:
    """Return how much diffuse light a film turns back and lets through.

    Parameters
    ----------
    K, S : (...) float64
        Absorption and scattering in 1/mm, not negative.
    X : (...) float64
        Thickness in mm, not negative. All three broadcast.

    Returns
    -------
    R0 : (...) float64
        Reflectance over a perfect black.
    T : (...) float64
        Transmittance.

    Notes
    -----
    With alpha = sqrt(K (K + 2 S)) and z = alpha X, Kubelka's solution is

        D = (K + S) sinh(z)/alpha + cosh(z);  R0 = S (sinh(z)/alpha) / D;  T = 1 / D.

    Multiplying each by 2 exp(-z) leaves nothing that can overflow, and only one exponential:
    2 exp(-z) sinh(z)/alpha = (1 - q^2)/alpha with q = exp(-z), whose limit for thin or clear
    films is a short series in z. Energy holds: 0 <= R0, 0 <= T, R0 + T <= 1 for every input that
    is not negative. Results agree with the integrated differential equations to 1e-8
    (tests/test_film.py).

    >>> import numpy as np
    >>> R0, T = two_flux_film(np.array(0.0), np.array(4.0), np.array(0.25))
    >>> (R0 + T).round(6).item()
    1.0
    """
    K, S, X = (np.asarray(v, dtype=np.float64) for v in (K, S, X))
    alpha = np.asarray(np.sqrt(K * (K + 2 * S)))
    # Where alpha is this small the difference 1 - q^2 may lose digits that matter; elsewhere its
    # error in R0 is below S times the last digit over alpha, 2e-11 at worst.
    clear = bool((alpha < _CLEAR).any())
    R0, T, D = (_nearly_clear if clear else _ordinary)(K, S, X, alpha)
    # The last rounding may exceed the energy by one unit of the sixteenth place.
    np.subtract(1, R0, out=D)
    np.minimum(T, D, out=T)
    return R0, T


def _ordinary(K: Array, S: Array, X: Array, alpha: Array) -> tuple[Array, Array, Array]:
    """Work a film out in few passes over memory: D = (1 + a) + q^2 (1 - a), a = (K + S)/alpha.

    Returns R0, T, and an array of their shape that is done with.
    """
    a = (K + S) / alpha
    q = np.asarray(-alpha * X)
    np.exp(q, out=q)
    R0 = np.asarray(q * q)
    D = np.asarray(R0 * (1 - a))
    D += 1 + a
    np.divide(2.0, D, out=D)
    np.subtract(1.0, R0, out=R0)
    R0 *= S / (2 * alpha)
    R0 *= D
    q *= D
    return R0, q, D


def _nearly_clear(K: Array, S: Array, X: Array, alpha: Array) -> tuple[Array, Array, Array]:
    """Work a film out where some of it hardly absorbs; returns as `_ordinary`."""
    z = np.asarray(alpha * X)
    q = np.exp(-z)
    g = np.asarray((1 - q * q) / np.where(alpha > 0, alpha, 1.0))
    thin = z < _THIN
    x, t = np.broadcast_to(X, g.shape)[thin], z[thin]
    # (1 - exp(-2z))/(2z) = 1 - z + 2z^2/3 - z^3/3 + 2z^4/15 - ...
    g[thin] = 2 * x * (1 - t * (1 - t * (2 / 3 - t * (1 / 3 - t * (2 / 15)))))
    D = np.asarray((K + S) * g + q * q + 1)
    return np.asarray(S * g / D), np.asarray(2 * q / D), D


def two_flux_over(R0: Array, T: Array, R: Array) -> Array:
    """Return the reflectance of a film over something that reflects: R0 + T^2 R / (1 - R0 R).

    >>> import numpy as np
    >>> two_flux_over(np.array(0.0), np.array(1.0), np.array(0.3)).item()
    0.3
    """
    return np.asarray(R0 + T * T * R / np.maximum(1 - R0 * R, np.finfo(np.float64).tiny))
