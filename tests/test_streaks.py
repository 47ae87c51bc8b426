"""The first coats over black look patchy; common practice."""

from __future__ import annotations

import pytest

from zesty_veil.bench.steps import steps
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Ground, Passage, Plan, Primer
from zesty_veil.predict.field import SITE_RELIEF, axis
from zesty_veil.predict.streaks import Streaks, patchy_passes, streaks

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


def test_streaks_show_in_what_the_last_coats_leave_and_not_below_them() -> None:
    """They lie on both sides of the mean, and a second coat that hides evens them out."""

    def shown(*coats: str) -> Streaks | None:
        return streaks(passage("black", *coats), RACK, axis(9), SITE_RELIEF)

    one = "Lime White; water 0.5"
    found = shown(one)
    assert found is not None
    assert found.patchy == (True,)
    assert (found.apart[..., 0] > 1).all()  # thicker is lighter, on black
    assert shown("Lime White; water 0.5; passes 4") is None
    assert shown(one, "Lamp Black; water 0.3; passes 2") is None
    # Two coats whose streaks know nothing of each other: less than the two in step would make.
    both = shown(one, one)
    assert both is None or (both.apart[..., 0] < found.apart[..., 0]).all()
    # A glaze is there to let through what is below.
    assert shown("Lime White; passes 4", "Kiln Yellow; tool glaze") is None


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
