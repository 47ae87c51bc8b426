"""How far a fitted paint may be off, as a few independent directions of its log spectra.

A paint carries its spread as modes: the spectra of any draw are those of the paint times
exp(sum z_k mode_k), z standard normal. Of all directions in 72 dimensions the few are kept that
change what is seen most; what nobody can see need not be carried.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.cielab import xyz
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import weights
from zesty_veil.log.card import Card, Patch
from zesty_veil.log.drawdown import Drawdown, drawdown, reflectance, slopes
from zesty_veil.log.fit import fitted_lab, lab_slope, metric
from zesty_veil.optics.surface import FINISHES

MODES = 8
_SEEN_ON = (0.3, 1.0, 3.0)  # loaded neat coats


def modes_of(theta: Array, covariance: Array) -> Array:
    """Return up to `MODES` modes (k, 72) of a spread, those first that are seen most.

    Parameters
    ----------
    theta : (72,)
        Log absorption, then log scattering.
    covariance : (72, 72)
        Of them.
    """
    G = seen_slopes(theta)
    L = np.linalg.cholesky(covariance + 1e-12 * np.eye(theta.size))
    _, size, V = np.linalg.svd(G @ L, full_matrices=False)
    keep = int(min(MODES, np.sum(size > 1e-3 * size[0])))
    return np.asarray((L @ V[:keep].T).T)


def seen_slopes(theta: Array) -> Array:
    """Return how Lab, in parts of dE00, moves with log spectra over white and over black.

    (3 x 6, 72): thin, one and thick loaded coats.
    """
    plain = (0.0, 0.0, 0.0)
    grounds = [
        _reference("white", plain),
        _reference("black", plain),
    ]
    down = drawdown([Card("", "transparent", tuple(grounds))])
    wide = Drawdown(
        down.patches * 3,
        np.tile(down.card, 3),
        np.tile(down.strip, 3),
        down.passes,
        down.strip_card,
        np.repeat(_SEEN_ON, 2) * down.neat[0],
        np.repeat(_SEEN_ON, 2) * down.dry[0],
        np.tile(down.below, (3, 1)),
        np.tile(down.thinned, (3, 1)),
        np.tile(down.texture, 3),
    )
    films = np.zeros(len(wide.patches))
    R = reflectance(wide, theta, films, FINISHES["satin"])
    d = slopes(wide, theta, films, FINISHES["satin"], R)
    eye = weights()
    white = eye.sum(axis=0)
    rows = []
    for p, colour in enumerate(fitted_lab(R)):
        by = np.hstack([np.diag(d.mu_a[p]), np.diag(d.mu_s[p])])
        rows.append(metric(colour) @ lab_slope(xyz(R[p], eye), white) @ eye.T @ by)
    return np.vstack(rows)


def _reference(name: str, lab: tuple[float, float, float]) -> Patch:
    return Patch(name, 1, lab)  # type: ignore[arg-type]
