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
# How much more a stroke leaves where it ends; common practice.
LIFT = 0.25


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
        1 inside the span, 0 beyond the feathers, and up to `LIFT` more where a stroke ends. The
        first row is the pass that reaches furthest.
    """
    stroke = min(STROKE_MM / length_mm, 1.0)
    # Each pass stops at a share of the feather, from far out to close to the span.
    shares = np.array(coat.stagger) if coat.stagger else np.full(coat.passes, 1 / coat.passes)
    order = shares[::-1].cumsum()[::-1][:, None]
    near, far = coat.feather
    start, end = coat.span
    shape = _edge(start - u[None, :], near, order, stroke, shares[:, None]) * _edge(
        u[None, :] - end, far, order, stroke, shares[:, None]
    )
    return shape * _lift(coat, u)


def _lift(coat: Coat, u: Array) -> Array:
    """Return how much richer a stroke leaves the end where the brush is lifted, (n,).

    The paint of the stroke is conserved: what the end gains, the way there lacks.
    """
    if coat.stroke == "across":
        return np.ones_like(u)
    start, end = coat.span
    length = max(end - start, 1e-9)
    along = np.clip((u - start) / length, 0.0, 1.0)
    if coat.stroke == "to light":
        along = 1 - along
    # A cube has the mean 1/4: the end gets LIFT more, the beginning a third of that less.
    return np.asarray(1 + LIFT * (along**3 - 0.25) / 0.75)


def _edge(beyond: Array, feather: float, order: Array, stroke: float, shares: Array) -> Array:
    """Fade from 1 inside to 0; `beyond` is how far outside the span a place lies."""
    # One pass is drawn out over the whole feather with a damp brush; several take a share each.
    soft = np.maximum(stroke, feather * shares)
    stop = np.maximum(feather * order, soft)
    t = np.clip((stop - beyond) / soft, 0.0, 1.0)
    return np.asarray(t * t * (3 - 2 * t))
