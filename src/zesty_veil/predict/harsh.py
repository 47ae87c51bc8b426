"""Steps between neighbouring places of a passage: where the eye would see an edge.

References
----------
K. T. Mullen, "The contrast sensitivity of human colour vision to red-green and blue-yellow
chromatic gratings", J. Physiol. 359 (1985), from memory: fine detail is seen by its lightness; of
colour alone the eye parts about a third as fine.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.thresholds import HARSH_DE00, HARSH_OVER_MM

# How much of a step in colour alone counts beside one in lightness.
FINE_COLOUR = 0.5


def step_sizes(lab: Array, u: Array, length_mm: float) -> Array:
    """Return how much the colour changes around each place, over half a millimetre.

    Parameters
    ----------
    lab : (n, 3) float64
        Colours along the axis.
    u : (n,) float64
        Their places, ascending.
    length_mm
        Length of the axis.

    Returns
    -------
    (n,) float64
        dE00 between the two places a quarter of a millimetre to either side, of which what is not
        lightness counts by `FINE_COLOUR`.
    """
    half = HARSH_OVER_MM / 2 / length_mm
    sides = [
        np.stack([np.interp(u + shift, u, lab[:, i]) for i in range(3)], axis=-1)
        for shift in (-half, half)
    ]
    whole = ciede2000(sides[0], sides[1])
    middle = (sides[0] + sides[1]) / 2
    light = [np.concatenate([side[:, :1], middle[:, 1:]], axis=-1) for side in sides]
    lightness = np.minimum(ciede2000(light[0], light[1]), whole)
    return np.asarray(np.hypot(lightness, FINE_COLOUR * np.sqrt(whole**2 - lightness**2)))


def harsh_places(lab: Array, u: Array, length_mm: float) -> tuple[float, ...]:
    """Return the places where a step is harsh on any site: the worst of each harsh stretch.

    Parameters
    ----------
    lab : (n, m, 3) float64
        The field of a passage.
    u : (n,) float64
        Places on the axis.
    length_mm
        Length of the axis.
    """
    sites = [step_sizes(lab[:, site], u, length_mm) for site in range(lab.shape[1])]
    sizes = np.max(sites, axis=0)
    harsh = np.concatenate([[False], sizes > HARSH_DE00, [False]])
    starts = np.flatnonzero(~harsh[:-1] & harsh[1:])
    stops = np.flatnonzero(harsh[:-1] & ~harsh[1:])
    return tuple(
        float(u[start + int(np.argmax(sizes[start:stop]))])
        for start, stop in zip(starts, stops, strict=True)
    )
