"""The first coats over black look patchy; common practice."""

from __future__ import annotations

import pytest

from zesty_veil.bench.steps import steps
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Ground, Passage, Plan, Primer
from zesty_veil.predict.streaks import patchy_passes

RACK = {paint.name: paint for paint in demo_rack()}


def passage(primer: Primer, *words: str) -> Passage:
    coats = tuple(parse_coat(each, RACK) for each in words)
    return Passage("cloak", 20.0, 100.0, ground=Ground(primer), coats=coats)


@pytest.mark.common_practice
@pytest.mark.parametrize("paint", ["Lime White", "Saffron Buoy", "Driftbone Ivory"])
def test_a_first_coat_over_black_is_patchy_and_solid_with_the_second_or_third(paint: str) -> None:
    made = passage("black", f"{paint}; water 0.5; passes 4")
    assert patchy_passes(made, 0, RACK) in (1, 2)
    assert patchy_passes(passage("white", f"{paint}; water 0.5; passes 4"), 0, RACK) == 0


@pytest.mark.common_practice
def test_white_below_spares_the_streaks_of_yellow() -> None:
    yellow = "Kiln Yellow; water 1; passes 4; tool loaded"
    straight = patchy_passes(passage("black", yellow), 0, RACK)
    over = patchy_passes(passage("black", "Lime White; passes 3", yellow), 1, RACK)
    assert straight == 4  # it stays so through four coats
    assert over < straight


def test_the_steps_say_what_is_no_fault() -> None:
    def said(made: Passage) -> str:
        return steps(Plan("a cloak", (made,), tuple(RACK.values())))

    assert "patchy at first; it is even after 2 passes" in said(
        passage("black", "Lime White; water 0.5; passes 3")
    )
    assert "may look patchy" in said(passage("black", "Lime White; water 0.5"))
    assert "patchy" not in said(passage("white", "Lime White; water 0.5"))
    # A glaze is there to let through what is below.
    assert "patchy" not in said(passage("black", "Kiln Yellow; tool loaded"))
