"""The painters' judge: which pots belong where, and what the program lays by its own rules.

All of it is common practice.
"""

from __future__ import annotations

from functools import cache

import numpy as np
import pytest

from test_templates import plan_of
from zesty_veil.advise.fire import FIRE_SCHOOLS
from zesty_veil.advise.match.belonging import odd_pots, opposites
from zesty_veil.advise.match.blending import harsh_at, in_more_passes, softened
from zesty_veil.advise.remarks import remarks
from zesty_veil.light.cielab import lab_from_lch
from zesty_veil.paint.mixture import Part
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Ground, Passage, Plan
from zesty_veil.predict.field import Field, axis, predict
from zesty_veil.predict.look import ViewingConditions

pytestmark = pytest.mark.common_practice
RACK = {paint.name: paint for paint in demo_rack()}
LOOK = ViewingConditions()


def odd(L: float, C: float, h: float, *pots: str) -> bool:
    wanted = lab_from_lch(np.array([[L, C, h]]))
    return bool(odd_pots([tuple(Part(pot) for pot in pots)], RACK, wanted)[0, 0])


def test_a_pot_of_another_hue_does_not_belong_in_a_strong_colour() -> None:
    yellow, red, blue = (80.0, 75.0, 90.0), (45.0, 60.0, 32.0), (40.0, 48.0, 285.0)
    for wanted, good, bad in (
        (yellow, "Saffron Buoy", "Seawall Green"),
        (yellow, "Slipway Orange", "Harbour Violet"),
        (red, "Furnace Red", "Midwater Ultramarine"),
        (blue, "Flask Blue", "Samphire Green"),
    ):
        assert not odd(*wanted, good)
        assert odd(*wanted, bad)
        # Nor is a little of it stirred in.
        assert odd(*wanted, good, bad)
    # White, ivory and black go with every colour; in a greyish one all may be stirred.
    for pot in ("Lime White", "Driftbone Ivory", "Lamp Black"):
        assert not odd(*red, pot)
    assert not odd(50.0, 12.0, 32.0, "Seawall Green")


def test_no_skin_lies_in_a_green_and_no_pot_holds_two_opposites() -> None:
    green, deep_blue, brown = (55.0, 35.0, 162.0), (22.0, 22.0, 265.0), (35.0, 20.0, 60.0)
    for pot in ("Bisque Skin", "Dune Ochre", "Clinker Red Ink"):
        assert odd(*green, pot), pot
    assert not odd(*green, "Eelgrass Olive")
    assert odd(*deep_blue, "Harbour Violet", "Kelp Green")
    assert not odd(*deep_blue, "Harbour Violet", "Flask Blue")
    assert not odd(*brown, "Anchor Rust", "Saffron Buoy")
    # A grey may well be of two opposites.
    grey = (25.0, 3.0, 265.0)
    assert not odd(*grey, "Anchor Rust", "Midwater Ultramarine")


def test_a_mixture_whose_hue_goes_astray_belongs_nowhere() -> None:
    for pots, wanted in (
        (("Lime White", "Kelp Green"), (80.0, 30.0, 160.0)),
        (("Lime White", "Harbour Violet"), (60.0, 30.0, 305.0)),
        (("Lime White", "Furnace Red"), (60.0, 40.0, 20.0)),
        (("Saffron Buoy", "Lamp Black"), (50.0, 35.0, 95.0)),
        (("Netmaker Skin", "Lamp Black"), (30.0, 8.0, 55.0)),
    ):
        assert odd(*wanted, *pots), pots
    assert not odd(80.0, 30.0, 160.0, "Lime White", "Seawall Green")
    assert not odd(60.0, 30.0, 315.0, "Lime White", "Sea Holly Violet")


def test_no_skin_no_earth_and_no_grey_lies_in_a_clear_colour() -> None:
    for pot in ("Bisque Skin", "Netmaker Skin", "Dune Ochre", "Anchor Rust", "Pewter Grey"):
        assert odd(75.0, 70.0, 80.0, pot), pot
        assert not odd(60.0, 30.0, 70.0, pot), pot
    assert not odd(45.0, 60.0, 32.0, "Soot Wash")  # it is there to shade


def test_an_ivory_is_of_ivories_and_white_alone() -> None:
    for pot, belongs in (
        ("Driftbone Ivory", True), ("Cuttlebone", True), ("Lime White", True),
        ("Seawall Green", False), ("Pewter Grey", False), ("Limpet Violet", False),
        ("Saffron Buoy", False),
    ):  # fmt: skip
        assert odd(85.0, 18.0, 92.0, pot) is not belongs, pot


def test_a_dark_clear_green_is_as_much_the_opposite_of_red_as_a_light_one() -> None:
    red = lab_from_lch(np.array([[14.0, 14.0, 24.0]]))
    mixtures = [(Part("Kelp Green"),), (Part("Lamp Black"),), (Part("Harbour Violet"),)]
    assert opposites(mixtures, RACK, red)[0].tolist() == [True, False, False]


@cache
def flame(school: str, primer: str) -> Plan:
    return plan_of("flame", "demo", ("school", school), ("primer", primer))


def flat(plan: Plan) -> Field:
    return predict(plan.passages[0], plan.rack(), axis(41), np.zeros(1))


@pytest.mark.parametrize("primer", ["white", "grey", "black"])
@pytest.mark.parametrize("school", [s for s in FIRE_SCHOOLS if s != "single"])
def test_a_flame_is_laid_as_its_school_has_it(school: str, primer: str) -> None:
    plan = flame(school, primer)
    seen = flat(plan)
    L, C, h = seen.lch[:, 0].T
    value = seen.value[:, 0]
    # A yellow is seen, and the light falls from it outward.
    clear = 50 if school == "cold" else 60
    yellow = (h > 78) & (h < 102) & (clear < C) & (L > 70)
    assert yellow.any()
    assert (value[1:] - np.minimum.accumulate(value)[:-1]).max() < 0.35
    if school == "deep":
        assert ((h > 48) & (h < 70) & (C > 60)).any()
        assert ((h > 22) & (h < 44) & (C > 45)).any()
    if school == "cold":
        assert ((h > 290) & (h < 350) & (C > 30)).any()
    for coat in plan.passages[0].coats:
        for part in coat.mixture.parts:
            assert RACK[part.paint].kind not in {"fluorescent", "metallic"}
            assert "Skin" not in part.paint
    # Nothing that it lays raises a remark of its own.
    assert remarks(plan, 0, demo_rack()) == ()


def test_a_harsh_end_is_softened_by_thin_glazes_that_lead_as_near() -> None:
    yellow = edits.with_feather(edits.with_span(parse_coat("Saffron Buoy", RACK), 0.2, 1), 0.2, 0)
    passage = Passage("p", 14.0, ground=Ground("white"), coats=(yellow,))
    assert harsh_at(passage, 0, RACK, LOOK)
    asked: list[Passage] = []

    def near(tried: Passage) -> bool:
        asked.append(tried)
        return True

    soft = softened(passage, 0, RACK, LOOK, 12, near)
    assert not harsh_at(edits.with_coats(passage, (soft,)), 0, RACK, LOOK)
    assert yellow.passes < soft.passes <= 12
    assert soft.mixture.parts == yellow.mixture.parts
    assert asked
    # Where nothing else is near enough, or no more passes may be laid, it stays the same paint.
    for most, allowed in ((12, False), (1, True)):
        kept = softened(passage, 0, RACK, LOOK, most, lambda _, so=allowed: so)
        assert (kept.mixture, kept.passes) == (yellow.mixture, yellow.passes)


def test_more_passes_of_the_same_paint_lay_as_much_of_it() -> None:
    coat = parse_coat("Furnace Red; water 1; passes 2", RACK)
    thin = in_more_passes(coat, 4)
    assert (thin.passes, thin.mixture.thinning, thin.mixture.thinner) == (4, 3.0, "water")
    assert in_more_passes(coat, 8).mixture.thinner == "medium"  # so much water would starve it
