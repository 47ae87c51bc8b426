"""Even feather: passes spaced by how much each changes the colour, and what a stagger may be."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest
from msgspec.structs import replace

from test_remarks import RACK, SMOOTH, plan_of
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.plan import edits
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Passage, Plan
from zesty_veil.predict.evenfeather import even_feather
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.harsh import step_sizes
from zesty_veil.predict.strokes import passes_along


def worst_step(passage: Passage) -> float:
    field = predict(passage, RACK, axis(512), np.zeros(1))
    return float(step_sizes(field.lab[:, 0], axis(512), passage.length_mm).max())


def test_an_even_feather_halves_the_worst_step() -> None:
    plan = plan_of("white", (f"{SMOOTH}; passes 8", (0.0, 0.3, 0.0, 0.6)), length=40)
    passage = plan.passages[0]
    coat = even_feather(passage, 0, RACK)
    assert sum(coat.stagger) == pytest.approx(1)
    # The passes that reach furthest change most, and get the most room.
    assert list(coat.stagger) == sorted(coat.stagger, reverse=True)
    spaced = replace(passage, coats=(coat,))
    assert worst_step(spaced) < 0.5 * worst_step(passage)
    ends = [predict(p, RACK, np.array([0.1, 0.95]), np.zeros(1)).lab for p in (passage, spaced)]
    assert float(ciede2000(ends[0], ends[1]).max()) < 1  # where it lies in full, and beyond


@pytest.mark.parametrize("passes", [3, 7, 11, 23, 40])
def test_an_even_feather_gives_each_pass_its_share_of_the_change(passes: int) -> None:
    plan = plan_of("white", (f"{SMOOTH}; passes {passes}", (0.0, 0.3, 0.0, 0.6)), length=40)
    passage = plan.passages[0]
    coat = even_feather(passage, 0, RACK)
    assert abs(sum(coat.stagger) - 1) < 1e-12
    # The same passes laid one on the other, in full.
    full = edits.with_feather(edits.with_span(passage.coats[0], 0, 1), 0, 0)
    seen = [
        predict(
            edits.with_coats(passage, (edits.with_passes(full, n),) if n else ()),
            RACK,
            axis(1),
            np.zeros(1),
        ).lab[0, 0]
        for n in range(passes + 1)
    ]
    steps = ciede2000(np.array(seen[:-1]), np.array(seen[1:]))
    shares = np.maximum(steps, 0.02 * steps.max())
    np.testing.assert_allclose(coat.stagger, shares / shares.sum(), atol=1e-4)


def test_stagger_places_the_passes() -> None:
    coat = edits.with_span(parse_coat("Furnace Red; passes 3", RACK), 0, 0.4)
    coat = replace(edits.with_feather(coat, 0, 0.5), stagger=(0.6, 0.3, 0.1))
    u = axis(1001)
    reaches = [float(u[row > 0.5].max()) for row in passes_along(coat, u, 100.0)]
    # Each pass ends in the middle of its own share of the feather, from 0.9 inward.
    np.testing.assert_allclose(reaches, [0.75, 0.525, 0.425], atol=0.003)
    assert edits.with_passes(coat, 4).stagger == ()
    assert edits.with_passes(coat, 3).stagger == coat.stagger


@pytest.mark.parametrize(
    ("stagger", "words"),
    [((0.5,), "it must have one a pass"), ((0.9, 0.9), "must be 1"), ((1.5, -0.5), "share of its")],
)
def test_an_impossible_stagger_is_refused(
    stagger: tuple[float, ...], words: str, refuse: Callable[[Plan, str], None]
) -> None:
    plan = plan_of("white", "Furnace Red; passes 2")
    coat = replace(plan.passages[0].coats[0], stagger=stagger)
    refuse(edits.set_coat(plan, 0, 0, coat), words)


@pytest.fixture
def refuse() -> Callable[[Plan, str], None]:
    """Check that a plan is refused with some words."""
    from zesty_veil.errors import InputError  # noqa: PLC0415

    def check(plan: Plan, words: str) -> None:
        with pytest.raises(InputError, match=words):
            check_plan(plan)

    return check
