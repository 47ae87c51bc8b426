"""Remarks: for each kind a plan that raises it and a twin that does not; the remedy removes it.

Every figure here is common practice: a fact of the trade without a published source.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest
from msgspec.structs import replace

from zesty_veil.advise.remark import Kind, Remark
from zesty_veil.advise.remarks import remarks
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.fileformat import dump, parse
from zesty_veil.plan.model import Coat, Ground, Passage, Plan, Primer
from zesty_veil.predict.evenfeather import even_feather
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.harsh import step_sizes
from zesty_veil.predict.strokes import passes_along

pytestmark = pytest.mark.common_practice

RACK = {paint.name: paint for paint in demo_rack()}
Reached = tuple[float, float, float, float]  # span, then feathers


def plan_of(primer: Primer, *coats: tuple[str, Reached] | str, length: float = 20.0) -> Plan:
    """Return a plan of one passage; a coat is words, or words with span and feathers."""
    laid: list[Coat] = []
    for each in coats:
        words, reached = (each, (0.0, 1.0, 0.0, 0.0)) if isinstance(each, str) else each
        coat = edits.with_span(parse_coat(words, RACK), reached[0], reached[1])
        laid.append(edits.with_feather(coat, reached[2], reached[3]))
    passage = Passage("p", length, ground=Ground(primer), coats=tuple(laid))
    return Plan("plan", (passage,), demo_rack())


def kinds(plan: Plan) -> list[Kind]:
    return [remark.kind for remark in remarks(plan, 0, demo_rack())]


def the(plan: Plan, kind: Kind) -> Remark:
    return next(r for r in remarks(plan, 0, demo_rack()) if r.kind == kind)


SMOOTH = "Furnace Red; water 3; tool glaze"
TWINS: dict[Kind, tuple[Plan, Plan]] = {
    "hidden": (
        plan_of("black", "Flask Blue", "Lime White; passes 12"),
        plan_of("black", "Lime White; passes 12", "Flask Blue"),
    ),
    "dark below": (
        plan_of("black", "Kiln Yellow; water 1; passes 2"),
        plan_of("white", "Kiln Yellow; water 1; passes 2"),
    ),
    "outshone": (
        plan_of("black", ("Lime White; passes 3", (0.4, 0.9, 0.3, 0.1))),
        plan_of("black", ("Lime White; passes 3", (0.0, 0.4, 0.0, 0.3))),
    ),
    "harsh step": (
        plan_of("white", (f"{SMOOTH}; passes 3", (0.5, 1.0, 0.0, 0.0)), length=30),
        plan_of("white", f"{SMOOTH}; passes 3", length=30),
    ),
    "large tips": (
        plan_of("white", ("Lamp Black; water 2; passes 3", (0.5, 1.0, 0.3, 0.0)), length=60),
        plan_of("white", ("Lamp Black; water 2; passes 3", (0.95, 1.0, 0.05, 0.0)), length=60),
    ),
    "minty": (
        plan_of("white", "Kelp Green 1 + Lime White 1"),
        plan_of("white", "Kelp Green 1 + Lime White 1 + Kiln Yellow 1"),
    ),
    "chalky": (
        plan_of("white", "Harbour Violet 1 + Lime White 1"),
        plan_of("white", "Harbour Violet 1 + Foxglove Magenta 1"),
    ),
    "starved": (
        plan_of("white", "Flask Blue; water 8; passes 3"),
        plan_of("white", "Flask Blue; medium 8; passes 3"),
    ),
    "chalked by matt": (
        plan_of("white", "Dusk Violet Ink; passes 3", "Matt Varnish"),
        plan_of("white", "Dusk Violet Ink; passes 3", "Gloss Varnish"),
    ),
}


@pytest.mark.parametrize("kind", TWINS)
def test_a_plan_raises_it_and_its_twin_does_not(kind: Kind) -> None:
    raises, twin = TWINS[kind]
    assert kind in kinds(raises)
    assert kind not in kinds(twin)
    remark = the(raises, kind)
    assert remark.words.endswith(".")
    assert remark.number >= 0


@pytest.mark.parametrize("kind", TWINS)
def test_the_remedy_removes_it(kind: Kind) -> None:
    plan = TWINS[kind][0]
    remark = the(plan, kind)
    assert remark.mend is not None
    assert remark.remedy
    mended = remark.mend(plan)
    check_plan(mended)
    assert kind not in kinds(mended)
    assert parse(dump(mended)) == edits.used_only(mended)


def test_nothing_is_said_of_an_empty_passage() -> None:
    assert kinds(plan_of("black")) == []


def test_metal_may_lie_below_a_transparent_colour() -> None:
    assert "dark below" not in kinds(plan_of("black", "Tin Silver", "Ember Orange; water 3"))


def test_a_remedy_that_lacks_its_paint_says_so() -> None:
    plan = TWINS["dark below"][0]
    poor: tuple[Paint, ...] = tuple(p for p in demo_rack() if p.pigments != ("PW6",))
    remark = next(r for r in remarks(plan, 0, poor) if r.kind == "dark below")
    assert remark.mend is not None
    with pytest.raises(Exception, match="no paint of PW6 alone"):
        remark.mend(plan)


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
