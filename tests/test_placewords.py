"""Where a coat lies, as painters say it; common practice."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zesty_veil.paint.laydown import SITES, Site
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat
from zesty_veil.plan.placewords import place_mm, place_words

RED = Coat(Mixture((Part("Red"),)))


def lies(start: float, end: float, light: float = 0.0, far: float = 0.0, *sites: Site) -> str:
    coat = edits.with_feather(edits.with_span(RED, start, end), light, far)
    return place_words(edits.with_sites(coat, sites) if sites else coat)


@pytest.mark.common_practice
def test_places_are_said_in_shares_and_sites() -> None:
    assert lies(0, 1) == "over all of it"
    assert lies(0.25, 1) == "from a quarter on"
    assert lies(0, 0.5) == "the inner half"
    assert lies(0.8, 1) == "the last fifth"
    assert lies(0.66, 1, 0.16) == "from two thirds on, fading in from half-way"
    assert lies(0, 0.33, 0, 0.17) == "the inner third, faded out by half-way"
    assert lies(0, 0, 0, 0.2) == "at the light alone, faded out by a fifth"
    assert lies(1, 1, 0.25) == "the last quarter, full only at the far end"
    assert lies(0.33, 0.6, 0.1, 0.1) == "from a third to three fifths, soft at both ends"
    assert lies(0, 1, 0, 0, "ridge") == "ridges only"
    assert lies(0, 1, 0, 0, "recess", "flat") == "recesses and flats only"
    assert lies(0.5, 1, 0, 0, "ridge") == "ridges only, from half-way on"
    assert place_mm(edits.with_feather(edits.with_span(RED, 0.5, 1), 0.1, 0), 20.0) == (
        "8 to 20 mm, in full from 10"
    )


@given(st.floats(0, 1), st.floats(0, 1), st.floats(0, 1), st.floats(0, 1), st.sampled_from(SITES))
def test_every_coat_lies_somewhere_and_no_number_of_a_feather_stands_alone(
    start: float, end: float, light: float, far: float, site: Site
) -> None:
    words = lies(start, end, light, far, site)
    assert words
    assert not any(letter.isdigit() for letter in words)
    if site == "ridge":
        assert words.startswith("ridges only")
