"""Predicted beside painted: how far apart, in what, and whether it gets better."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import Array
from zesty_veil.log.record import ObservedColour
from zesty_veil.paint.laydown import RELIEF, Site
from zesty_veil.plan.model import Plan
from zesty_veil.predict.field import predict
from zesty_veil.thresholds import SMALL_PART_DE00
from zesty_veil.tr import tr

_LAST = 5  # records that a trend's window holds


class DeltaComponents(NamedTuple):
    """How far what came out lies from what was predicted, all as parts of dE00.

    de : the whole; lightness, chroma, hue : signed, positive is lighter, stronger, and
    counterclockwise (red to yellow to green). `words` say it.
    """

    de: float
    lightness: float
    chroma: float
    hue: float
    words: str


def predicted_at(plan: Plan, passage: str, place: float, site: Site, coats: int) -> Array:
    """Return the colour predicted at a place after some coats, CIELAB (3,) in daylight.

    Raises
    ------
    InputError
        If the plan has no such passage.
    """
    for one in plan.passages:
        if one.name == passage:
            shown = replace(one, coats=one.coats[:coats])
            relief = np.array([RELIEF[site]])
            return np.asarray(predict(shown, plan.rack(), np.array([place]), relief).lab[0, 0])
    raise InputError(tr("The plan has no passage '{0}'; name one that it has.").format(passage))


def delta_components(seen: ObservedColour) -> DeltaComponents:
    """Return how far a colour came out from what was predicted."""
    one, other = np.array(seen.predicted), np.array(seen.lab)
    de = float(ciede2000(one, other))
    # Each part alone: the predicted colour with only that of the other.
    polar, towards = lch(one), lch(other)
    L = float(towards[0] - polar[0])
    C = float(towards[1] - polar[1])
    h = float((towards[2] - polar[2] + 180) % 360 - 180)
    mean_C = float(np.sqrt(max(polar[1] * towards[1], 0.0)))
    mean_L = float((polar[0] + towards[0]) / 2)
    lightness = L / (1 + 0.015 * (mean_L - 50) ** 2 / np.sqrt(20 + (mean_L - 50) ** 2))
    chroma = C / (1 + 0.045 * (polar[1] + towards[1]) / 2)
    hue = 2 * mean_C * np.sin(np.radians(h) / 2) / (1 + 0.015 * mean_C)
    parts = (lightness, float(chroma), float(hue))
    return DeltaComponents(de, *parts, _words(*parts, float(polar[2])))


def _words(lightness: float, chroma: float, hue: float, angle: float) -> str:
    out = []
    for part, more, less in (
        (lightness, "lighter", "darker"),
        (chroma, "stronger", "duller"),
        (hue, *turns_of(angle)),
    ):
        if abs(part) >= SMALL_PART_DE00:
            out.append((abs(part), more if part > 0 else less))
    if not out:
        return "as predicted"
    return ", ".join(words for _, words in sorted(out, reverse=True))


def turns_of(angle: float) -> tuple[str, str]:
    """Return where a hue goes as its angle grows, and as it shrinks."""
    round_ = ("redder", "more orange", "yellower", "greener", "bluer", "more violet")
    at = (20.0, 55.0, 90.0, 150.0, 250.0, 310.0)
    bigger = next((w for w, a in zip(round_, at, strict=True) if a > angle + 5), "redder")
    smaller = next(
        (w for w, a in zip(reversed(round_), reversed(at), strict=True) if a < angle - 5),
        "more violet",
    )
    return bigger, smaller


class TrendPoint(NamedTuple):
    """One record in the trend: when, its median dE00, and the running median of the last five."""

    when: str
    de: float
    running: float


def running(found: Sequence[tuple[str, float]]) -> tuple[TrendPoint, ...]:
    """Return a trend of moments and dE00, the oldest first, each with the median of the last."""
    return tuple(
        TrendPoint(when, de, float(np.median([d for _, d in found[max(0, i - _LAST + 1) : i + 1]])))
        for i, (when, de) in enumerate(found)
    )
