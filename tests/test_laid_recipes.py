"""What painters would laugh at: single colours and templates as they were once laid."""

from __future__ import annotations

import pytest

from painterjobs import Job
from test_recipes import found
from zesty_veil.advise.match.recipe import Recipe
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.model import Passage, Primer

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
