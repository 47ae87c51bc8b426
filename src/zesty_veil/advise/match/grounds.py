"""Coats that may lie below all others for their sake: white, and light warm tones.

Common practice: what is laid in clear colours glows over white, yellow is warmed by pink below it,
and orange and red by yellow. The dark from which lights are built up is such a ground, too, where
painters begin dark.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace as changed

import numpy as np

from zesty_veil.advise.match.candidate import PlacedCoat
from zesty_veil.advise.match.problem import Problem
from zesty_veil.advise.match.shortlist import (
    light_mixtures,
    near_mixtures,
    solid_looks,
)
from zesty_veil.light.cielab import lch
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat
from zesty_veil.thresholds import SKETCHED_L, STAYS_DARK_DE00, WHITE_COVER_L

# Parts of water and passes of a light ground: one loaded coat, or thinner ones.
_LIGHT = ((0.5, 1), (0.5, 2), (1.0, 3), (0.5, 3))
_DARK_MIXTURES = 3
# Parts of water and passes of a dark laid over all, by tool.
_DARK = {"loaded": (0.5, (2, 3)), "airbrush": (1.0, (4, 8))}
_NEAR_WHITE_CHROMA = 20.0


def light_grounds(problem: Problem, paints: Sequence[Paint]) -> Iterator[PlacedCoat]:
    """Yield coats of white and of light warm tones under a whole ramp."""
    if "loaded" not in problem.context.limits.tools:
        return
    named = {paint.name: paint for paint in paints}
    opaque = [(Part(paint.name),) for paint in paints if paint.kind == "opaque"]
    for parts, light in zip(opaque, light_mixtures(opaque, named) if opaque else (), strict=True):
        if light:
            for water, passes in _LIGHT:
                coat = Coat(Mixture(parts, "water", water), "loaded", passes)
                yield PlacedCoat(coat, 0, problem.last, True)


def dark_grounds(problem: Problem, paints: Sequence[Paint]) -> Iterator[PlacedCoat]:
    """Yield coats of the darkest colour that is wanted, from which lights are built up."""
    tools = problem.context.limits.tools
    tool = next((tool for tool in _DARK if tool in tools), None)
    if tool is None:
        return
    thinning, counts = _DARK[tool]
    darkest = problem.wanted[int(np.argmin(problem.wanted[:, 0]))]
    opaque = [paint for paint in paints if paint.kind == "opaque"]
    for parts in near_mixtures(opaque, [darkest], _DARK_MIXTURES):
        for passes in counts:
            coat = Coat(Mixture(parts, "water", thinning), tool, passes)
            yield PlacedCoat(coat, 0, problem.last, True)


def white_ground(parts: tuple[Part, ...], paints: Mapping[str, Paint]) -> bool:
    """Tell whether a mixture is white or nearly so where it lies solid over black."""
    L, C, _ = (float(v) for v in lch(solid_looks([parts], paints)[0, 0]))
    return L >= WHITE_COVER_L and C < _NEAR_WHITE_CHROMA


def sketches(problem: Problem, paints: Sequence[Paint]) -> tuple[tuple[PlacedCoat, ...], int]:
    """Return coats of white on which darker films are laid outward, and how many steps they spare.

    Where the far end is dark and wanted so, it stays as it is.
    """
    named = {paint.name: paint for paint in paints}
    whites = [
        g for g in light_grounds(problem, paints) if white_ground(g.coat.mixture.parts, named)
    ]
    state = problem.state(())
    far = problem.steps == problem.last
    dark = state.off[far].max() < STAYS_DARK_DE00 and problem.wanted[far, 0].max() < SKETCHED_L
    untouched = int(dark and problem.last > 0)
    return tuple(changed(g, last=problem.last - untouched) for g in whites), untouched
