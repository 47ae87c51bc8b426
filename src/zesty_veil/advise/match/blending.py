"""Soft ends of coats: the same paint in more and thinner passes, until no step of them is harsh."""

from __future__ import annotations

from collections.abc import Callable, Mapping

import numpy as np
from msgspec.structs import replace

from zesty_veil.paint.laydown import RELIEF, SITES
from zesty_veil.paint.mixture import MOST_WATER
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.plan.thickness import um_at
from zesty_veil.predict.evenfeather import even_feather
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.harsh import step_sizes
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.thresholds import HARSH_DE00, HARSH_OVER_MM, PILED_UM, RUNNY

# Tools on which water runs.
DABBED = frozenset({"sponge", "flecks", "stipple"})
_PASSES, _THINNINGS = (2, 3, 4, 6, 8), (0.5, 1.0, 2.0, 3.0, 4.0, 6.0)
_PLACES, _SITES = axis(192), np.array([RELIEF[site] for site in SITES])
# A step that is this near to a harsh one is softened too.
_SOFT_DE00 = 0.92 * HARSH_DE00


def in_more_passes(coat: Coat, passes: int) -> Coat:
    """Return a coat that lays the same paint in more and thinner passes."""
    thinning = round((1 + coat.mixture.thinning) * passes / coat.passes - 1, 2)
    return _thinned(edits.with_passes(coat, passes), thinning)


def softened(
    passage: Passage,
    index: int,
    paints: Mapping[str, Paint],
    look: ViewingConditions,
    most: int,
    near: Callable[[Passage], bool],
) -> Coat:
    """Return a coat of a passage that runs softly over its feathers.

    Its passes are spaced evenly. Where that leaves a harsh step, its paint is laid in thin glazes,
    as few as leave none and lead about as near to what is wanted; if none does, in those that leave
    the smallest step.

    Parameters
    ----------
    passage, index, paints, look
        Which coat it is, and how it is seen.
    most
        So many passes it may have.
    near
        Tells whether a passage is near enough to what is wanted.
    """
    coat = passage.coats[index]
    best = even_feather(passage, index, paints, look)
    if most < _PASSES[0]:
        return best
    step = _step_at(_with(passage, index, best), index, paints, look)
    middle = sum(coat.span) / 2
    # More passes are not to lay so much more that it hides detail.
    thickest = max(PILED_UM, um_at(passage.coats, middle, paints))
    tools = dict.fromkeys((coat.tool, *(("glaze",) if coat.tool not in DABBED else ())))
    for passes in (p for p in _PASSES if coat.passes <= p <= most):
        for tool in tools:
            laid = edits.with_passes(replace(coat, tool=tool), passes)
            for water in _THINNINGS:
                if step <= _SOFT_DE00:
                    return best
                tried = _with(passage, index, _thinned(laid, water))
                if um_at(tried.coats, middle, paints) > thickest or not near(tried):
                    continue
                spaced = even_feather(tried, index, paints, look)
                size = _step_at(_with(tried, index, spaced), index, paints, look)
                if size < step:
                    best, step = spaced, size
    return best


def _thinned(coat: Coat, thinning: float) -> Coat:
    thinner = coat.mixture.thinner
    if thinner == "water" and thinning > MOST_WATER:
        thinner = "medium"
    if coat.tool in DABBED and thinner == "water" and thinning > RUNNY:
        thinner = "thick medium"
    return edits.with_thinning(coat, thinning, thinner)


def harsh_at(
    passage: Passage, index: int, paints: Mapping[str, Paint], look: ViewingConditions
) -> bool:
    """Tell whether a coat of a passage ends in a harsh step."""
    return _step_at(passage, index, paints, look) > HARSH_DE00


def _step_at(
    passage: Passage, index: int, paints: Mapping[str, Paint], look: ViewingConditions
) -> float:
    """Return the greatest step, dE00 over half a millimetre, in which a coat ends."""
    half, worst = HARSH_OVER_MM / passage.length_mm, 0.0
    for low, high in _edges(passage.coats[index]):
        # What lies half a millimetre beyond is looked at for its sake alone.
        near = _PLACES[(low - half <= _PLACES) & (high + half >= _PLACES)]
        ends = (low <= near) & (high >= near)
        field = predict(passage, paints, near, _SITES, look)
        for lab in np.moveaxis(field.lab, 1, 0):
            sizes = step_sizes(lab, near, passage.length_mm)
            worst = max(worst, float(sizes[ends].max(initial=0.0)))
    return worst


def _edges(coat: Coat) -> list[tuple[float, float]]:
    """Return from where to where a coat runs out, at each of its ends that lies within the axis."""
    out = []
    if coat.span[0] > 0:
        out.append((coat.span[0] - coat.feather[0], coat.span[0]))
    if coat.span[1] < 1:
        out.append((coat.span[1], coat.span[1] + coat.feather[1]))
    return out


def edge_near(passage: Passage, place: float) -> int | None:
    """Return the coat that ends nearest to a place, within its feather or a tenth of the axis."""
    best: tuple[float, int] | None = None
    for index, coat in enumerate(passage.coats):
        for low, high in _edges(coat):
            away = max(low - place, place - high, 0.0)
            # Of edges that a place lies in, the last coat's is the one that is seen.
            if away < 0.1 and (best is None or away <= best[0]):
                best = (away, index)
    return None if best is None else best[1]


def _with(passage: Passage, index: int, coat: Coat) -> Passage:
    coats = (*passage.coats[:index], coat, *passage.coats[index + 1 :])
    return edits.with_coats(passage, coats)
