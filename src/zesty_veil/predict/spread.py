"""How the passes of a coat lie along the axis.

A coat lies in full over its span. Beyond each end it thins out over the feather, as painters do
it: each pass stops a little earlier than the one before, and every single edge is as soft as a
stroke is wide. The film gets thinner there; it never turns grey.
"""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.plan.model import Coat

# How far the edge of one stroke of a small round brush fades; common practice.
STROKE_MM = 0.4


def passes_along(coat: Coat, u: Array, length_mm: float) -> Array:
    """Return the share of its film that each pass leaves along the axis.

    Parameters
    ----------
    coat
        Its span, feathers and passes count.
    u : (n,) float64
        Places on the axis, 0 at the light, 1 away.
    length_mm
        Length of the axis.

    Returns
    -------
    (passes, n) float64
        0-1; 1 inside the span. The first row is the pass that reaches furthest.
    """
    stroke = min(STROKE_MM / length_mm, 1.0)
    # Pass i stops at a share of the feather, from far out to close to the span.
    order = np.arange(coat.passes, 0, -1)[:, None] / coat.passes
    near, far = coat.feather
    start, end = coat.span
    return _edge(start - u[None, :], near, order, stroke, coat.passes) * _edge(
        u[None, :] - end, far, order, stroke, coat.passes
    )


def _edge(beyond: Array, feather: float, order: Array, stroke: float, passes: int) -> Array:
    """Fade from 1 inside to 0; `beyond` is how far outside the span a place lies."""
    # One pass is drawn out over the whole feather with a damp brush; several take a share each.
    soft = max(stroke, feather / passes)
    stop = np.maximum(feather * order, soft)
    t = np.clip((stop - beyond) / soft, 0.0, 1.0)
    return np.asarray(t * t * (3 - 2 * t))
