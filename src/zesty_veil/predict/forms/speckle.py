"""Dabs on a form as they lie: speckle, where ribbons show the average that the eye takes.

A sponge, a stippling brush or a dry brush touches a share of the area. Which pixels it touches is
seeded, so that the same plan looks the same, in dabs as large as the tool leaves; ridges first.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace

from zesty_veil.light.grid import Array
from zesty_veil.paint.laydown import covered, reach
from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.forms.shapes import Shape, form
from zesty_veil.predict.strokes import passes_along

_SEED = 20
_AREA_PIXELS = 64
# Dabs finer than this in pixels are seen as their average anyhow.
_LEAST_PIXELS = 1.2
_PLACES = 256


def is_dabbed(coat: Coat) -> bool:
    """Tell whether a coat touches a share of the area in dabs."""
    tool = tools()[coat.tool]
    return tool.dab_mm > 0 and (coat.cover is None or coat.cover < 1)


def bare_of_dabs(passage: Passage) -> Passage:
    """Return a passage without what is laid in dabs: what shows between them."""
    return replace(passage, coats=tuple(c for c in passage.coats if not is_dabbed(c)))


def all_dabs(passage: Passage) -> Passage:
    """Return a passage on which the dabs touch everything: what a dab looks like.

    Each has as many passes as a place that is touched at all gets on average.
    """
    coats = []
    for coat in passage.coats:
        if not is_dabbed(coat):
            coats.append(coat)
            continue
        each = float(covered(tools()[coat.tool], np.zeros(1), coat.cover)[0])
        once = 1 - (1 - each) ** coat.passes
        passes = max(round(coat.passes * each / max(once, 1e-6)), 1)
        # A brush lays such a film everywhere; how thick it is goes with the tool.
        coats.append(replace(coat, cover=1.0, passes=passes, stagger=()))
    return replace(passage, coats=tuple(coats))


def touched(shape: Shape, passage: Passage, size: int) -> npt.NDArray[np.bool_] | None:
    """Return which pixels of a form dabs touch, (size, size); none if they are too fine to see."""
    dabbed = [coat for coat in passage.coats if is_dabbed(coat)]
    if not dabbed:
        return None
    made = form(shape, size)
    pixel_mm = 2 * _half_width_mm(shape, passage) / size
    dab = max(tools()[coat.tool].dab_mm for coat in dabbed) / pixel_mm
    if dab < _LEAST_PIXELS:
        return None
    u, missed = np.linspace(0, 1, _PLACES), np.ones(made.u.shape)
    for coat in dabbed:
        tool = tools()[coat.tool]
        share = covered(tool, made.relief, coat.cover) * reach(coat.sites, made.relief)
        for row in passes_along(coat, u, passage.length_mm):
            missed *= 1 - share * np.interp(made.u, u, np.clip(row, 0, 1))
    return np.asarray((_grain(size, round(dab, 1)) < 1 - missed) & made.mask)


def _half_width_mm(shape: Shape, passage: Passage) -> float:
    if shape.sculpt is not None:
        return float(shape.sculpt.half_width_mm)
    share = float(form(shape.name, _AREA_PIXELS, rough=False).mask.mean())
    return float(np.sqrt(passage.area_mm2 / (4 * share)))


@lru_cache(4)
def _grain(size: int, dab: float) -> Array:
    """Return noise in grains of about `dab` pixels, as evenly spread from 0 to 1 as can be."""
    from scipy.ndimage import gaussian_filter  # noqa: PLC0415 - kept off the start-up path

    rough = np.random.default_rng(_SEED).standard_normal((size, size)).astype(np.float32)
    smooth = gaussian_filter(rough, dab / 2.5, mode="wrap").ravel()
    ranks = np.empty(smooth.size)
    ranks[np.argsort(smooth)] = (np.arange(smooth.size) + 0.5) / smooth.size
    return np.asarray(ranks.reshape(size, size))


def with_speckle(
    pixels: Sequence[npt.NDArray[np.uint8]], where: npt.NDArray[np.bool_]
) -> npt.NDArray[np.uint8]:
    """Return the picture between dabs, with that of dabs where they touch; both (n, n, 4)."""
    between, dabs = pixels
    return np.where(where[..., None], dabs, between)
