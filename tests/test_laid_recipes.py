"""What painters would laugh at: single colours and templates as they were once laid."""

from __future__ import annotations

from dataclasses import replace

import pytest

from painterjobs import Job
from test_recipes import found
from test_templates import plan_of
from zesty_veil.advise.match.recipe import Recipe
from zesty_veil.advise.match.solve import solve
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.model import Passage, Primer
from zesty_veil.services.colours import target_of

RACK: dict[str, Paint] = {paint.name: paint for paint in demo_rack()}

pytestmark = pytest.mark.common_practice


def pots(coats: Recipe | Passage) -> list[set[str]]:
    """Return the pots of each coat, from the ground up."""
    return [{part.paint for part in coat.mixture.parts} for coat in coats.coats]


def laid(colour: str, primer: Primer) -> list[set[str]]:
    return pots(found(Job(colour, primer, (colour,), ""))[0])


def test_a_dark_brown_is_of_browns_and_reds_and_no_lost_orange() -> None:
    for primer in ("white", "black"):
        for each in laid("24,14,18", primer):  # type: ignore[arg-type]
            bright = {"Ember Orange", "Slipway Orange", "Lantern Amber", "Kiln Yellow"}
            assert not each <= bright, each


def test_no_brown_lies_below_blue() -> None:
    assert not {"Tarred Oakum", "Hull Umber", "Saggar Brown"} & set().union(
        *laid("#204080", "white")
    )


def test_no_orange_lies_below_a_green() -> None:
    for each in laid("#305030", "white"):
        assert not {"Lantern Amber", "Ember Orange", "Slipway Orange"} & each


def test_soot_lies_under_no_golden_yellow() -> None:
    assert "Soot Wash" not in set().union(*laid("#e0a020", "white"))


def test_golden_yellow_in_words_is_one_yellow_pot_and_no_green() -> None:
    """A word is all that is so called, so a pot of that name is exact."""
    for primer in ("white", "black"):
        target = target_of("golden yellow", 0.5)
        request = Job("golden", primer, ("50,0,0",), "").request(demo_rack())
        *_, last = solve(replace(request, targets=(target,), reasons=False))
        (only,) = pots(last.ways[0])
        assert only in ({"Lantern Amber"}, {"Saffron Buoy"}, {"Kiln Yellow"})


def test_yellow_cloth_shades_into_ochre_and_is_glazed_down_from_white() -> None:
    (cloth,) = plan_of("cloth", "demo", ("colour", "yellow")).passages
    first, *_ = pots(cloth)
    assert first <= {"Lime White", "Driftbone Ivory", "Cuttlebone"}
    assert any("Dune Ochre" in each for each in pots(cloth))
    assert not any(RACK[pot].pigments == ("PG7",) for each in pots(cloth) for pot in each)


def test_dark_skin_is_of_browns() -> None:
    (skin,) = plan_of("skin", "demo", ("tone", "dark"), ("spots", "none")).passages
    assert {"Saggar Brown", "Hull Umber", "Tarred Oakum"} & set().union(*pots(skin))
    assert not any(
        each <= {"Ember Orange", "Slipway Orange", "Lantern Amber"} for each in pots(skin)
    )


def test_the_tips_of_a_flame_have_no_white_below_and_soot_is_of_greys() -> None:
    (deep,) = plan_of("flame").passages
    assert deep.coats[0].span[1] < 0.9
    (sooty,) = plan_of("flame", "demo", ("school", "sooty")).passages
    assert {"Soot Grey", "Soot Wash", "Lamp Black", "Pewter Grey"} & pots(sooty)[-1]
