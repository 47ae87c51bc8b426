"""How much of each paint to put on the palette: drops that can be counted, and what rounding costs.

A drop of a dropper bottle and what is left on palette and brush are common practice.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import count

import numpy as np
from msgspec.structs import replace

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.paint.laydown import RELIEF, covered, reach
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import Coat, Passage, Plan
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import ViewingConditions

DROP_UL = 40.0
# Of what is mixed so much stays on palette and brush.
LOSS = 0.35
# Ratios are met within this, or more drops are taken, up to so many.
_CLOSE, _MOST_DROPS = 0.05, 24
_RELIEFS = np.linspace(-1, 1, 21)


@dataclass(frozen=True)
class Drops:
    """One mixture, to be counted out.

    paints : whole drops by name. thinner : whole drops of it. needed_ul : what the coat takes, with
    loss. ratio_error : the greatest error of a part or of the thinning, as a share. de00 : how far
    the rounding leads from the colour that was planned, at the worst place.
    """

    paints: tuple[tuple[str, int], ...]
    thinner: int
    needed_ul: float
    ratio_error: float
    de00: float


@dataclass(frozen=True)
class Pot:
    """A mixture that is made once. where : its passages and coats, ground coats counted first."""

    mixture: Mixture
    where: tuple[tuple[int, int], ...]
    drops: Drops


def wet_ul(coat: Coat, passage: Passage, figures: int = 1) -> float:
    """Return the microlitres that a coat leaves on its passages, without loss.

    Area times wet film times the share of the relief and the axis that it covers, for each pass.
    """
    tool = tools()[coat.tool]
    start, end = coat.span
    share = min(end - start + sum(coat.feather) / 2, 1.0)
    sites = reach(coat.sites, _RELIEFS) if len(coat.sites) < len(RELIEF) else np.ones(_RELIEFS.size)
    touched = float((sites * covered(tool, _RELIEFS, coat.cover)).mean())
    # 1 mm2 under 1 um is a thousandth of a microlitre.
    film_ul = tool.wet_film_um * passage.film(coat.tool) * 1e-3
    return passage.area_mm2 * share * touched * film_ul * coat.passes * figures


def drops_of(mixture: Mixture, needed_ul: float) -> tuple[tuple[tuple[str, int], ...], int, float]:
    """Return whole drops of each paint and of thinner, enough, and their greatest error of ratio.

    The fewest are taken that are enough and come within 5 % of every ratio; if nothing up to 24
    drops of paint more does, the nearest.
    """
    parts = [part.parts for part in mixture.parts]
    whole, first = sum(parts), 0
    best: tuple[float, int, list[int], int] | None = None
    # No fewer can be enough: rounding makes at most a drop of each paint more, and one of thinner.
    least = needed_ul / DROP_UL / (1 + mixture.thinning) - len(parts) - 2
    for total in count(max(math.floor(least), 1)):
        if best is not None and (total > first + _MOST_DROPS or best[0] <= _CLOSE):
            break
        shares = [max(round(total * p / whole), 1) for p in parts]
        paint = sum(shares)
        thinner = round(paint * mixture.thinning)
        if DROP_UL * (paint + thinner) < needed_ul - 1e-9:
            continue
        error = max(abs(n / paint * whole / p - 1) for n, p in zip(shares, parts, strict=True))
        if mixture.thinning:
            error = max(error, abs(thinner / paint / mixture.thinning - 1))
        if best is None or error < best[0] - 1e-9:
            first = total if best is None else first
            best = error, paint, shares, thinner
    assert best is not None
    error, _, shares, thinner = best
    named = tuple((part.paint, n) for part, n in zip(mixture.parts, shares, strict=True))
    return named, thinner, error


def pots(plan: Plan, rack: Mapping[str, Paint]) -> tuple[Pot, ...]:
    """Return every mixture of a plan once, with its drops for all coats and figures together."""
    where: dict[Mixture, list[tuple[int, int]]] = {}
    needed: Counter[Mixture] = Counter()
    for p, passage in enumerate(plan.passages):
        for c, coat in enumerate((*passage.ground.coats, *passage.coats)):
            where.setdefault(coat.mixture, []).append((p, c))
            volume = wet_ul(coat, passage, plan.figures) / (1 - LOSS)
            needed[coat.mixture] += volume  # type: ignore[assignment]
    out = []
    for mixture, places in where.items():
        paints, thinner, error = drops_of(mixture, needed[mixture])
        off = 0.0
        if error > 1e-9:
            parts = tuple(Part(name, float(n)) for name, n in paints)
            thinning = thinner / sum(n for _, n in paints)
            rounded = Mixture(parts, mixture.thinner, thinning)
            used = {plan.passages[p].name: plan.passages[p] for p, _ in places}
            off = max(_shift(one, mixture, rounded, rack, plan.light) for one in used.values())
        drops = Drops(paints, thinner, needed[mixture], error, off)
        out.append(Pot(mixture, tuple(places), drops))
    return tuple(out)


def _shift(
    passage: Passage, mixture: Mixture, other: Mixture, rack: Mapping[str, Paint], light: str
) -> float:
    """Return how far a passage changes at most with a mixture in place of another, dE00."""

    def with_other(coats: tuple[Coat, ...]) -> tuple[Coat, ...]:
        return tuple(replace(c, mixture=other) if c.mixture == mixture else c for c in coats)

    ground = replace(passage.ground, coats=with_other(passage.ground.coats))
    mixed = replace(passage, ground=ground, coats=with_other(passage.coats))
    u, relief = axis(9), np.array(sorted(RELIEF.values()))
    seen = [predict(one, rack, u, relief, ViewingConditions(light)).lab for one in (passage, mixed)]
    return float(ciede2000(*seen).max())


def totals(plan: Plan) -> tuple[tuple[str, float, int], ...]:
    """Return what the whole batch takes of each paint, by name: microlitres, and drops at least."""
    used: Counter[str] = Counter()
    for passage in plan.passages:
        for coat in (*passage.ground.coats, *passage.coats):
            volume = wet_ul(coat, passage, plan.figures) / (1 - LOSS)
            whole = sum(part.parts for part in coat.mixture.parts) * (1 + coat.mixture.thinning)
            for part in coat.mixture.parts:
                used[part.paint] += volume * part.parts / whole  # type: ignore[assignment]
    return tuple((name, ul, math.ceil(ul / DROP_UL)) for name, ul in sorted(used.items()))
