"""Colours as an eye sees them that takes something else than daylight for white.

References
----------
Bradford: K. M. Lam, thesis, University of Bradford (1985); as in CIE 159:2004 and ICC.1:2010
annex E, the linear form.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import Array

_BRADFORD: Array = np.array(
    [[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]]
)


def adapted(tristimulus: Array, white: Array, to: Array) -> Array:
    """Return XYZ under one white as it looks under another, (..., 3); whites (3,) float64."""
    gain = (_BRADFORD @ to) / (_BRADFORD @ white)
    return np.asarray(tristimulus @ _BRADFORD.T * gain @ np.linalg.inv(_BRADFORD).T)
