"""A spectrum for a colour of which only three numbers are known.

References
----------
C. J. Li, M. R. Luo, "The estimation of spectral reflectances using the smoothness constraint
condition", Proc. 9th Color Imaging Conf. (2001): of all spectra with the same tristimulus values,
the one whose steps from band to band are smallest.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import BANDS, Array

_LEAST, _MOST = 0.003, 0.98
_ROUNDS = 24


def recover_reflectance(tristimulus: Array, weights: Array) -> Array:
    """Return the smoothest reflectance with some tristimulus values.

    Parameters
    ----------
    tristimulus : (3,) float64
        With Y of the perfect diffuser 1.
    weights : (36, 3) float64
        Of light and observer, as `illuminant.weights`.

    Returns
    -------
    (36,) float64
        From 0.003 to 0.98; where no reflectance in that range has these values, as near as
        smoothing and clipping come.

    >>> import numpy as np
    >>> from zesty_veil.light.illuminant import weights
    >>> R = recover_reflectance(np.full(36, 0.3) @ weights(), weights())
    >>> (R.round(3) == 0.3).all().item()
    True
    """
    step = np.diff(np.eye(BANDS), axis=0)
    free = np.ones(BANDS, dtype=bool)
    R = np.zeros(BANDS)
    for _ in range(_ROUNDS):
        # Bands that ran out of the range are held at its edge, the others are solved for again.
        count = int(free.sum())
        D, W = step[:, free], weights[free]
        held = step[:, ~free] @ R[~free]
        rest = tristimulus - weights[~free].T @ R[~free]
        system = np.block([[D.T @ D, W], [W.T, np.zeros((3, 3))]])
        found = np.linalg.lstsq(system, np.concatenate([-D.T @ held, rest]), rcond=None)[0]
        R[free] = found[:count]
        outside = free & ((R < _LEAST) | (R > _MOST))
        R = np.clip(R, _LEAST, _MOST)
        free &= ~outside
        if not outside.any() or free.sum() <= 3:
            break
    return R
