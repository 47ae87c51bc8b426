"""Coats that may lie below all others for their sake: white, and light warm tones.

Common practice: what is laid in clear colours glows over white, yellow is warmed by pink below it,
and orange and red by yellow. The dark from which lights are built up is such a ground, too, where
painters begin dark.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

import numpy as np

from zesty_veil.advise.match.recipe import Easel, Laid, Recipe
from zesty_veil.advise.match.shortlist import light_ground, near_mixtures
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat

_PASSES = (1, 2, 3, 5)
_DARK_MIXTURES = 3


def as_laid(coats: Sequence[Coat], paints: Mapping[str, Paint]) -> Recipe:
    """Return coats at one place as a recipe; white or a warm tone at the bottom is its ground."""
    return tuple(
        Laid(coat, 0, 0, k == 0 and len(coats) > 1 and light_ground(coat.mixture.parts, paints))
        for k, coat in enumerate(coats)
    )


def light_grounds(easel: Easel, paints: Sequence[Paint]) -> Iterator[Laid]:
    """Yield coats of white and of light warm tones under a whole ramp."""
    if "loaded" not in easel.course.bench.limits.tools:
        return
    named = {paint.name: paint for paint in paints}
    for paint in paints:
        parts = (Part(paint.name),)
        if paint.kind == "opaque" and light_ground(parts, named):
            mixture = Mixture(parts, "water", 0.5)
            for passes in _PASSES:
                yield Laid(Coat(mixture, "loaded", passes), 0, easel.last, True)


def dark_grounds(easel: Easel, paints: Sequence[Paint]) -> Iterator[Laid]:
    """Yield coats of the darkest colour that is wanted, from which lights are built up."""
    if "loaded" not in easel.course.bench.limits.tools:
        return
    darkest = easel.wanted[int(np.argmin(easel.wanted[:, 0]))]
    opaque = [paint for paint in paints if paint.kind == "opaque"]
    for parts in near_mixtures(opaque, [darkest], _DARK_MIXTURES):
        for passes in _PASSES[1:3]:
            coat = Coat(Mixture(parts, "water", 0.5), "loaded", passes)
            yield Laid(coat, 0, easel.last, True)
