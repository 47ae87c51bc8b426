"""Sponge, stipple, dry brush and flecks: ridges first, a share of the area, speckle on the form.

That a torn sponge touches what stands out and leaves speckle, that how much of the area is covered
is what the painter steers, and a nearly empty sponge for flecks, are common practice.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from zesty_veil.bench.steps import steps
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.srgb import lab_of
from zesty_veil.paint.laydown import covered
from zesty_veil.paint.rack import demo_rack
from zesty_veil.paint.tool import tool_name, tools
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Coat, Ground, Passage, Plan
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.forms.onform import FormConditions
from zesty_veil.predict.forms.shapes import form, shape_of
from zesty_veil.predict.forms.speckle import touched
from zesty_veil.predict.look import DAYLIGHT
from zesty_veil.services.formpicture import form_layers, form_picture

RACK = {paint.name: paint for paint in demo_rack()}
SIZE = 320
SITES = np.array([-1.0, 0.0, 1.0])
BLUE = "Deepwell Blue; passes 3"


def plan_with(*coats: str | Coat, shape: str = "orb") -> Plan:
    laid = tuple(parse_coat(c, RACK) if isinstance(c, str) else c for c in coats)
    passage = Passage("p", 20.0, 300.0, Ground("grey"), laid, form=shape)
    return Plan("plan", (passage,), demo_rack())


def picture(plan: Plan, size: int = SIZE) -> np.ndarray:
    layers = form_layers(plan, 0, plan.passages[0], plan.paints)
    return form_picture(layers, size, DAYLIGHT, FormConditions(studio=False))


@pytest.mark.common_practice
@pytest.mark.parametrize("name", ["sponge", "stipple", "flecks"])
def test_the_less_is_touched_the_more_of_it_is_ridges(name: str) -> None:
    tool = tools()[name]
    shares = []
    for cover in (0.05, 0.1, 0.2, tool.cover, 0.6, 0.9, 1.0):
        recess, flat, ridge = covered(tool, SITES, cover)
        assert recess <= flat <= ridge
        assert flat == pytest.approx(cover)
        shares.append(recess / ridge)
    ordered = sorted(zip((0.05, 0.1, 0.2, tool.cover, 0.6, 0.9, 1.0), shares, strict=True))
    assert [share for _, share in ordered] == sorted(shares)
    assert shares[0] < 0.2
    np.testing.assert_allclose(covered(tool, SITES, 1.0), 1.0)
    # By itself it lies as it always did.
    np.testing.assert_allclose(
        covered(tool, SITES), np.clip(tool.cover * (1 + tool.lean * SITES), 0, 1)
    )


def test_a_dry_brush_takes_ridges_alone_unless_it_covers_all() -> None:
    recess, flat, ridge = covered(tools()["drybrush"], SITES, 0.5)
    assert recess == flat == 0
    assert ridge == pytest.approx(0.5)


@pytest.mark.common_practice
def test_a_nearly_empty_sponge_leaves_flecks() -> None:
    assert tool_name("Nearly empty sponge") == "flecks"
    flecks, sponge = tools()["flecks"], tools()["sponge"]
    assert flecks.cover <= 0.1 < sponge.cover
    assert flecks.dab_mm < sponge.dab_mm
    assert flecks.wet_film_um < sponge.wet_film_um
    bare, flecked = (
        predict(plan_with(*coats).passages[0], RACK, axis(1), np.zeros(1)).lab[0, 0]
        for coats in ((BLUE,), (BLUE, "Lime White; tool flecks"))
    )
    assert 0.5 < float(ciede2000(bare, flecked)) < 8


@pytest.mark.parametrize(
    "words", ["Lime White; passes 2; tool sponge", "Anchor Rust; tool stipple; passes 2"]
)
def test_the_form_shows_speckle_whose_average_is_that_of_the_ribbon(words: str) -> None:
    plan = plan_with(BLUE, words)
    passage = plan.passages[0]
    seen = picture(plan)
    inside = form(shape_of(plan, passage), SIZE).mask
    colours = np.unique(seen[inside][:, :3] // 24, axis=0)
    assert len(colours) > 1
    # Seeded: the same plan is drawn alike, and so is a part of a larger size.
    np.testing.assert_array_equal(seen, picture(plan))
    # What dabs touch and what lies between are far apart; neither is the average.
    where = touched(shape_of(plan, passage), passage, SIZE)
    assert where is not None
    light, dark = (
        lab_of(seen[inside & there][:, :3].mean(axis=0) / 255) for there in (where, ~where)
    )
    assert float(ciede2000(light, dark)) > 8
    # Light mixes as light does: mean of linear light, as the eye sees from afar.
    linear = (seen[inside][:, :3] / 255.0) ** 2.2
    mean = lab_of(linear.mean(axis=0) ** (1 / 2.2))
    relief = form(shape_of(plan, passage), SIZE).relief[inside]
    rows = predict(passage, RACK, axis(3), np.linspace(-1, 1, 9)).rgb[1] ** 2.2
    ribbon = np.array(
        [np.interp(relief, np.linspace(-1, 1, 9), rows[:, i]).mean() for i in range(3)]
    )
    # Dabs are domes that thin out at their edges; drawn, they are whole, so a little lighter.
    assert float(ciede2000(mean, lab_of(ribbon ** (1 / 2.2)))) < 6


def test_speckle_lies_on_what_stands_out() -> None:
    plan = plan_with(BLUE, "Lime White; tool flecks; passes 3", shape="hood")
    passage = plan.passages[0]
    shape = shape_of(plan, passage)
    where, made = touched(shape, passage, SIZE), form(shape, SIZE)
    assert where is not None
    high = where[made.mask & (made.relief > 0.3)].mean()
    low = where[made.mask & (made.relief < -0.3)].mean()
    assert high > 1.5 * low
    assert 0.02 < where[made.mask].mean() < 0.4


def test_without_dabs_or_where_they_are_too_fine_nothing_is_speckled() -> None:
    bare = plan_with(BLUE)
    assert touched(shape_of(bare, bare.passages[0]), bare.passages[0], SIZE) is None
    large = plan_with(BLUE, "Lime White; tool flecks")
    wide = large.passages[0].__class__(
        "p", 200.0, 200_000.0, Ground("grey"), large.passages[0].coats, form="orb"
    )
    assert touched(shape_of(large, wide), wide, 96) is None


def test_steps_say_how_much_is_covered(tmp_path: Path) -> None:
    text = steps(plan_with(BLUE, "Lime White; tool flecks; cover 10%"))
    assert "10 %" in text
    assert tools()["flecks"].label in text.casefold()
    assert "ridges first" in text
