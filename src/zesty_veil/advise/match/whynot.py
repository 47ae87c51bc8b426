"""Why not: what stands in the way where no coats come near, and what would help most."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

import numpy as np

from zesty_veil.advise.match.belonging import odd_pots
from zesty_veil.advise.match.choices import first_coats
from zesty_veil.advise.match.context import MatchContext
from zesty_veil.advise.match.obstacle import Obstacle, Reason, WhyNot
from zesty_veil.advise.match.ramp import ramp_ways
from zesty_veil.advise.match.recipe import Recipe
from zesty_veil.advise.match.spots import Spot
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import Array
from zesty_veil.paint.kinds import CLEAR
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import colours
from zesty_veil.thresholds import MET_DE00

_HELPS = 0.7
_PALE = 10.0


def why_not(
    context: MatchContext,
    coats: tuple[Coat, ...],
    target: Array,
    white: StackOptics,
    catalogue: Sequence[Paint],
    should_continue: Callable[[], bool] = lambda: True,
) -> WhyNot | None:
    """Return what stands in the way of a colour, or nothing if coats come near enough.

    Parameters
    ----------
    context, coats
        Where it is wanted, and the nearest coats that were found.
    target : (3,) float64
        CIELAB.
    white
        White primer, of leading shape (1, 1): what the ground might be instead.
    catalogue
        Paints that might be added.
    should_continue
        Asked between the steps; when it says no, the rest is left out.
    """
    lab = colours(context.on(coats, context.ground), context.look)[0][0, 0]
    far = float(ciede2000(lab, target))
    if far <= MET_DE00:
        return None
    have, want = lch(lab), lch(target)
    turn = float((have[2] - want[2] + 180) % 360 - 180)
    off = (float(have[0] - want[0]), float(have[1] - want[1]), turn)
    found = list(obstacles(off, want))
    if should_continue():
        best = nearest_alone(context, Spot(0.5, target, white, context.relief), should_continue)
        if best is not None and best.mean < _HELPS * far:
            found.insert(0, Obstacle(Reason.GROUND, best.mean))
    paint, with_paint = _helper(context, coats, far, target, catalogue, should_continue)
    if paint is not None and paint.kind == "fluorescent":
        found.append(Obstacle(Reason.FLUORESCENT))
    elif paint is None and not found:
        found.append(Obstacle(Reason.TOGETHER))
    return WhyNot(off, tuple(found), paint, with_paint)


def nearest_alone(
    context: MatchContext, spot: Spot, should_continue: Callable[[], bool]
) -> Recipe | None:
    """Return the nearest way to one colour by itself; none if it is not wanted any more."""
    paints = tuple(context.paints.values())
    best: Recipe | None = None
    for ways in ramp_ways(
        (spot,), paints, context.limits, context.look, should_continue, context.passage
    ):
        best = min(ways, key=lambda way: way.mean, default=best)
        if best is not None and best.mean < 1:
            break
    return best


def obstacles(off: tuple[float, float, float], want: Array) -> Iterator[Obstacle]:
    """Yield what stands in the way by how far off a colour is, in L, C and h.

    off : the nearest less the wanted. want : (3,), L, C, h.
    """
    if want[0] > 100:
        yield Obstacle(Reason.BRIGHTER_THAN_WHITE)
    elif abs(off[0]) > 2:
        yield Obstacle(Reason.TOO_DARK if off[0] < 0 else Reason.TOO_LIGHT, abs(off[0]))
    if off[1] < -3:
        yield Obstacle(Reason.NOT_PURE, -off[1])
    if want[1] > _PALE and abs(off[2]) > 4:
        yield Obstacle(Reason.NO_SUCH_HUE, abs(off[2]))


def _helper(
    context: MatchContext,
    coats: tuple[Coat, ...],
    far: float,
    target: Array,
    catalogue: Sequence[Paint],
    should_continue: Callable[[], bool],
) -> tuple[Paint | None, float]:
    """Return the paint that would help most, and how far off the best would then be.

    Each is tried on the bare ground, on solid white, and on what the nearest way comes to.
    """
    have = {(paint.pigments, paint.kind) for paint in context.paints.values()}
    whites = [p for p in context.paints.values() if p.pigments == ("PW6",) and p.kind == "opaque"]
    bases: list[tuple[Coat, ...]] = [(), coats, coats[:-1]]
    if whites:
        bases.append((Coat(Mixture((Part(whites[0].name),), "water", 0.5), "loaded", 3),))
    best, found = far * _HELPS, None
    for paint in catalogue:
        if not should_continue():
            break
        if (paint.pigments, paint.kind) in have or paint.kind in CLEAR:
            continue
        if odd_pots([(Part(paint.name),)], {paint.name: paint}, target[None]).any():
            continue  # it comes near by dulling, as nobody would lay it
        more = context.with_paint(paint)
        options = more.bank(first_coats((paint,), context.limits.tools))
        for base in bases:
            if len(base) >= context.limits.coats or not options.coats:
                continue
            below = more.on(base, context.ground)
            for _, state in options.all_on(below):
                lab = colours(state, context.look)[0]
                off = float(ciede2000(lab, np.broadcast_to(target, lab.shape)).min())
                if off < best:
                    best, found = off, paint
    return found, best if found is not None else 0.0
