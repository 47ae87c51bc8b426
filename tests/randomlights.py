"""Random lights off the figure, for tests of what Light promises."""

from __future__ import annotations

from collections.abc import Iterator
from typing import get_args

import numpy as np

from zesty_veil.advise.glow.painting import School
from zesty_veil.light.cielab import lab_from_lch
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.glow import CORES, Glow, Place3, Surface
from zesty_veil.plan.model import Ground, Passage, Plan, Primer

_FORMS = ("plate", "folds", "orb", "hood")


def _lab(rng: np.random.Generator, low: float, high: float) -> Place3:
    L, C, h = rng.uniform(low, high), rng.uniform(5, 45), rng.uniform(0, 360)
    a, b, c = (round(float(v), 1) for v in lab_from_lch(np.array([L, C, h])))
    return a, b, c


def random_lights(count: int, seed: int = 5) -> Iterator[tuple[Plan, Glow, School]]:
    """Yield plans of one passage, a light on each, and the school that it is painted by."""
    rng = np.random.default_rng(seed)
    for _ in range(count):
        primers: tuple[Primer, ...] = ("white", "grey", "black")
        passage = Passage(
            "thing", float(rng.uniform(8, 35)), 500.0, Ground(primers[rng.integers(3)]),
            form=str(rng.choice(_FORMS)),
        )  # fmt: skip
        fire = bool(rng.integers(2))
        second = bool(rng.integers(4) == 0)
        glow = Glow(
            "", (Surface("thing", _lab(rng, 20, 70)),),
            colour=None if fire else _lab(rng, 40, 80),
            radius_mm=float(rng.uniform(30, 60)), rings=int(rng.integers(3, 6)),
            wins=float(rng.uniform(0, 1)), core=CORES[str(rng.choice(list(CORES)))],
            second=_lab(rng, 40, 80) if second else None,
        )  # fmt: skip
        yield Plan("p", (passage,), demo_rack()), glow, get_args(School)[rng.integers(4)]
