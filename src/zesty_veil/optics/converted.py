"""From the K and S of two-flux theory to absorption and reduced scattering, once and for all.

K and S that a card told in two-flux theory had the surface's share in them: K was 1.05 to 2 times
the absorption. Here, band by band, those coefficients are found with which a neat loaded coat over
white and over black looks as it did beside the bare ground.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.optics.film import film
from zesty_veil.optics.stack import over
from zesty_veil.optics.streams import lambertian
from zesty_veil.optics.surface import seen
from zesty_veil.optics.twoflux import two_flux_film as two_flux
from zesty_veil.optics.twoflux import two_flux_over

# Saunderson's constants for index 1.5, as they stood.
_K1, _K2 = 0.04, 0.596
_GROUNDS = (0.9, 0.02)
_COAT_MM = 0.030
_ROUNDS = 40
_STEP, _SMALL = 1e-5, 1e-6
# Where coats over both grounds look alike, only the usual relation tells more: with weak weight.
_USUAL_A, _USUAL_S = 1 / 1.4, 4 / 3
_TIE = 3e-4


def converted(K: Array, S: Array) -> tuple[Array, Array]:
    """Return absorption and reduced scattering in 1/mm from K and S in 1/mm, of any one shape.

    Every band is found for itself, so many paints at once take hardly longer than one.

    >>> import numpy as np
    >>> mu_a, mu_s = converted(np.full(36, 2.0), np.full(36, 10.0))
    >>> mu_a.shape, bool((mu_s > 0).all())
    ((36,), True)
    """
    shape = np.shape(K)
    K, S = (np.asarray(x, dtype=np.float64).ravel() for x in (K, S))
    R0, T = two_flux(K, S, np.array(_COAT_MM))
    # What is read at 45/0 is some percent lighter than diffuse light told: the bare ground says how
    # much, or else clear paint would seem to have darkened it.
    light = float(seen(lambertian(np.array(_GROUNDS[0])), 0.0) / _saunderson(np.array(_GROUNDS[0])))
    wanted = light * np.array([_saunderson(two_flux_over(R0, T, np.array(g))) for g in _GROUNDS])
    usual = np.log(np.maximum([K * _USUAL_A, S * _USUAL_S], 1e-9))
    x, damp = usual.copy(), np.full(K.shape, 1e-3)
    cost, off, J = _off(x, usual, wanted)
    for _ in range(_ROUNDS):
        # Two unknowns a band: its normal equations by hand.
        gradient = np.einsum("ijb,ib->jb", J, off)
        H = np.einsum("ijb,ikb->jkb", J, J)
        H[0, 0] += damp
        H[1, 1] += damp
        det = H[0, 0] * H[1, 1] - H[0, 1] ** 2
        step = -np.array(
            [
                H[1, 1] * gradient[0] - H[0, 1] * gradient[1],
                H[0, 0] * gradient[1] - H[0, 1] * gradient[0],
            ]
        ) / np.maximum(det, 1e-300)
        tried = x + np.clip(step, -1, 1)
        new, new_off, new_J = _off(tried, usual, wanted)
        better = new < cost
        x = np.where(better, tried, x)
        cost, off = np.where(better, new, cost), np.where(better, new_off, off)
        J = np.where(better, new_J, J)
        damp = np.where(better, np.maximum(damp / 5, 1e-12), np.minimum(damp * 5, 1e6))
        if np.abs(step).max() < _SMALL:
            break
    # What does not absorb or does not scatter at all stays so.
    mu_a, mu_s = np.exp(x) * (np.array([K, S]) > 0)
    return mu_a.reshape(shape), mu_s.reshape(shape)


def _saunderson(R: Array) -> Array:
    return np.asarray((1 - _K1) * (1 - _K2) * R / (1 - _K2 * R))


def _residual(x: Array, usual: Array, wanted: Array) -> Array:
    one = film(np.exp(x[0]), np.exp(x[1]), np.array(_COAT_MM))
    looks = [seen(over(one, lambertian(np.array(g))), 0.0) for g in _GROUNDS]
    # Dark tones count by their share: the eye sees ratios.
    light = [(look - want) / (0.05 + want) for look, want in zip(looks, wanted, strict=True)]
    return np.array([*light, *(np.sqrt(_TIE) * (x - usual))])


def _off(x: Array, usual: Array, wanted: Array) -> tuple[Array, Array, Array]:
    """Return half the sum of squares by band, the residuals (4, 36), and their slopes."""
    off = _residual(x, usual, wanted)
    slopes = []
    for i in range(2):
        shifted = x.copy()
        shifted[i] += _STEP
        slopes.append((_residual(shifted, usual, wanted) - off) / _STEP)
    return 0.5 * (off * off).sum(axis=0), off, np.stack(slopes, axis=1)
