"""Why not: what stands in the way where no coats come near, and what would help most."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from zesty_veil.advise.match.choices import first_coats
from zesty_veil.advise.match.context import MatchContext
from zesty_veil.advise.match.ramp import RampWay, ramp_ways
from zesty_veil.advise.match.rampproblem import Spot
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


@dataclass(frozen=True)
class WhyNot:
    """What stands in the way of a colour.

    delta_e : how far the nearest way is, in L, C (signed: below 0 it falls short) and h (degrees).
    reasons : sentences. paint : what added to the rack would help most, if anything, and how far
    off the best would then be.
    """

    delta_e: tuple[float, float, float]
    reasons: tuple[str, ...]
    paint: Paint | None = None
    with_paint: float = 0.0


def why_not(
    bench: MatchContext,
    coats: tuple[Coat, ...],
    target: Array,
    white: StackOptics,
    catalogue: Sequence[Paint],
    should_continue: Callable[[], bool] = lambda: True,
) -> WhyNot | None:
    """Return what stands in the way of a colour, or nothing if coats come near enough.

    Parameters
    ----------
    bench, coats
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
    lab = colours(bench.on(coats, bench.ground), bench.look)[0][0, 0]
    far = float(ciede2000(lab, target))
    if far <= MET_DE00:
        return None
    have, want = lch(lab), lch(target)
    turn = float((have[2] - want[2] + 180) % 360 - 180)
    off = (float(have[0] - want[0]), float(have[1] - want[1]), turn)
    reasons = [*plainly(off, want)]
    if should_continue():
        best = nearest_alone(bench, Spot(0.5, target, white, bench.relief), should_continue)
        if best is not None and best.mean < _HELPS * far:
            words = f"on white primer it would come within dE {best.mean:.1f}"
            reasons.insert(0, f"The ground is in the way: {words}.")
    paint, with_paint = _helper(bench, coats, far, target, catalogue, should_continue)
    if paint is not None and paint.kind == "fluorescent":
        reasons.append("Only a fluorescent paint is as bright as this.")
    elif paint is None and not reasons:
        reasons.append("These paints do not go together to this colour in so few coats.")
    return WhyNot(off, tuple(reasons), paint, with_paint)


def nearest_alone(
    bench: MatchContext, spot: Spot, should_continue: Callable[[], bool]
) -> RampWay | None:
    """Return the nearest way to one colour by itself; none if it is not wanted any more."""
    paints = tuple(bench.paints.values())
    best: RampWay | None = None
    for ways in ramp_ways(
        (spot,), paints, bench.limits, bench.look, should_continue, bench.passage
    ):
        best = min(ways, key=lambda way: way.mean, default=best)
        if best is not None and best.mean < 1:
            break
    return best


def plainly(off: tuple[float, float, float], want: Array) -> list[str]:
    """Return what stands in the way by how far off a colour is, in L, C and h, as sentences.

    off : the nearest less the wanted. want : (3,), L, C, h.
    """
    out = []
    if want[0] > 100:
        out.append("It is brighter than white, which no paint but a fluorescent one can be.")
    elif off[0] < -2:
        out.append(f"It stays too dark: L is {-off[0]:.0f} short.")
    elif off[0] > 2:
        out.append(f"It stays too light: L is {off[0]:.0f} over.")
    if off[1] < -3:
        out.append(f"No paint at hand is pure enough: chroma is {-off[1]:.0f} short.")
    if want[1] > _PALE and abs(off[2]) > 4:
        out.append(f"No paint at hand has that hue: it is {abs(off[2]):.0f} degrees off.")
    return out


def _helper(
    bench: MatchContext,
    coats: tuple[Coat, ...],
    far: float,
    target: Array,
    catalogue: Sequence[Paint],
    should_continue: Callable[[], bool],
) -> tuple[Paint | None, float]:
    """Return the paint that would help most, and how far off the best would then be.

    Each is tried on the bare ground, on solid white, and on what the nearest way comes to.
    """
    have = {(paint.pigments, paint.kind) for paint in bench.paints.values()}
    whites = [p for p in bench.paints.values() if p.pigments == ("PW6",) and p.kind == "opaque"]
    bases: list[tuple[Coat, ...]] = [(), coats, coats[:-1]]
    if whites:
        bases.append((Coat(Mixture((Part(whites[0].name),), "water", 0.5), "loaded", 3),))
    best, found = far * _HELPS, None
    for paint in catalogue:
        if not should_continue():
            break
        if (paint.pigments, paint.kind) in have or paint.kind in CLEAR:
            continue
        more = bench.with_paint(paint)
        options = more.bank(first_coats((paint,), bench.limits.tools))
        for base in bases:
            if len(base) >= bench.limits.coats or not options.coats:
                continue
            below = more.on(base, bench.ground)
            for _, state in options.all_on(below):
                lab = colours(state, bench.look)[0]
                off = float(ciede2000(lab, np.broadcast_to(target, lab.shape)).min())
                if off < best:
                    best, found = off, paint
    return found, best if found is not None else 0.0
