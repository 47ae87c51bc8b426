"""The spectral grid on which everything is computed: 380-730 nm in 10 nm steps, 36 bands."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]

BANDS = 36
FIRST_NM = 380
STEP_NM = 10


def wavelengths() -> Array:
    """Return the centre of each band.

    Returns
    -------
    (36,) float64
        Wavelength in nm, ascending.

    >>> wavelengths()[[0, -1]].tolist()
    [380.0, 730.0]
    """
    return FIRST_NM + STEP_NM * np.arange(BANDS, dtype=np.float64)
