"""What one pass lays down over the relief, in mm of neat paint.

Relief r runs from -1 (recess) through 0 (flat) to +1 (ridge) and is taken as evenly spread over
the area, so that pooling moves paint from ridges to recesses without making or losing any.
"""

from __future__ import annotations

from typing import Literal

import numpy as np

from zesty_veil.light.grid import Array
from zesty_veil.paint.tool import Tool

Site = Literal["recess", "flat", "ridge"]
SITES: tuple[Site, ...] = ("recess", "flat", "ridge")
RELIEF: dict[Site, float] = {"recess": -1.0, "flat": 0.0, "ridge": 1.0}

# A dry brush touches what stands out further than this.
_RIDGE_FROM = 0.3


def pool(p: float, relief: Array) -> Array:
    """Return the factor on the film by relief: exp(-p r), scaled to keep the paint laid.

    Parameters
    ----------
    p
        Pooling, not negative.
    relief : (...) float64
        -1 to 1.

    Returns
    -------
    (...) float64
        Its mean over relief from -1 to 1 is 1.
    """
    mean = np.sinh(p) / p if p > 1e-6 else 1.0
    out: Array = np.exp(-p * relief) / mean
    return out


def wicked(factor: Array, relief: Array, p: float) -> Array:
    """Return a pooling factor after puddles are taken up: no recess keeps more than a flat.

    Shapes as `pool`, whose factor it is; the paint taken up is lost.
    """
    return np.minimum(factor, pool(p, np.zeros_like(relief)))


def facing_share(angle: Array) -> Array:
    """Return the share of a spray that lands on a surface turned by an angle (degrees) to it."""
    return np.maximum(np.cos(np.radians(angle)), 0.0)


def reach(sites: tuple[Site, ...], relief: Array) -> Array:
    """Return the share of the film that is put at a relief when only some sites are painted.

    Each site fades linearly into its neighbour; all three together give 1 everywhere.
    """
    tents = [np.clip(1 - np.abs(relief - RELIEF[site]), 0.0, 1.0) for site in sites]
    return np.asarray(np.sum(tents, axis=0)) if tents else np.zeros_like(relief)


def covered(tool: Tool, relief: Array, cover: float | None = None) -> Array:
    """Return the share of the area that one pass touches, by relief; 0-1.

    The less it touches, the more of that is what stands out: a nearly empty sponge leaves flecks on
    ridges alone, and one that touches everything leaves no recess out. Common practice.

    cover : on the flat, in place of the tool's own; a tool that covers all goes on doing so.
    """
    whole = tool.cover if cover is None or tool.cover == 1 else cover
    if tool.ridges_only and whole < 1:
        t = np.clip((relief - _RIDGE_FROM) / (1 - _RIDGE_FROM), 0.0, 1.0)
        return np.asarray(whole * t * t * (3 - 2 * t))
    return np.clip(whole * (1 + _leaning(tool, whole) * relief), 0.0, 1.0)


def _leaning(tool: Tool, whole: float) -> float:
    """Return how much more a tool touches what stands out, at a share of the area."""
    if tool.cover == 1 or tool.lean == 0:
        return tool.lean
    if whole <= tool.cover:
        return tool.lean + (1 - tool.lean) * (1 - whole / tool.cover)
    return tool.lean * (1 - whole) / (1 - tool.cover)
