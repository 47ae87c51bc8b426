"""Edits keep plans possible; history goes back and forth."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from conftest import small_plan
from zesty_veil.errors import InputError, PaintError
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack, find
from zesty_veil.plan import edits
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.history import MOST_STEPS, History
from zesty_veil.plan.model import MOST_COATS, Coat, Ground, Passage, Plan, coat_name, ground_words

anything = st.floats(allow_nan=False, allow_infinity=False, width=32)


@given(anything, anything, st.integers(-(10**9), 10**9))
def test_no_number_makes_an_impossible_coat(one: float, other: float, whole: int) -> None:
    plan = small_plan()
    coat = plan.passages[0].coats[1]
    coat = edits.with_span(coat, one, other)
    coat = edits.with_feather(coat, other, one)
    coat = edits.with_passes(coat, whole)
    coat = edits.with_thinning(coat, one)
    coat = edits.with_parts(coat, "Lime White", other)
    plan = edits.set_coat(plan, 0, 1, coat)
    check_plan(edits.size_passage(plan, 0, one, other))


def test_span_ends_that_cross_are_swapped() -> None:
    coat = small_plan().passages[0].coats[0]
    assert edits.with_span(coat, 0.7, 0.2).span == (0.2, 0.7)


def test_the_last_paint_and_the_last_site_stay() -> None:
    coat = small_plan().passages[0].coats[0]
    assert edits.with_parts(coat, "Lime White", 0) == coat
    assert edits.with_sites(coat, ()) == coat
    assert edits.with_sites(coat, ("ridge", "recess")).sites == ("recess", "ridge")


def test_swapping_a_paint_for_one_already_in_the_pot_adds_the_drops(rack: dict[str, Paint]) -> None:
    coat = parse_coat("Kiln Yellow 2 + Ember Orange 1", rack)
    swapped = edits.swap_paint(coat, "Ember Orange", "Kiln Yellow")
    assert [(p.paint, p.parts) for p in swapped.mixture.parts] == [("Kiln Yellow", 3)]


def test_order_of_coats() -> None:
    plan = small_plan()
    white, orange = plan.passages[0].coats
    assert edits.move_coat(plan, 0, 0, 1).passages[0].coats == (orange, white)
    assert edits.move_coat(plan, 0, 0, 99).passages[0].coats == (orange, white)
    assert edits.remove_coat(plan, 0, 0).passages[0].coats == (orange,)
    assert edits.add_coat(plan, 0, orange, 0).passages[0].coats == (orange, white, orange)
    assert edits.add_coat(plan, 0, white).passages[0].coats == (white, orange, white)


def test_a_plan_has_its_limits() -> None:
    plan = small_plan()
    for _ in range(MOST_COATS - 2):
        plan = edits.add_coat(plan, 0, plan.passages[0].coats[0])
    check_plan(plan)
    with pytest.raises(InputError, match="at most 200 coats"):
        edits.add_coat(plan, 0, plan.passages[0].coats[0])


def test_passages_keep_names_of_their_own_and_their_surrounds() -> None:
    plan = edits.add_passage(small_plan(), Passage("flame", surround="flame"))
    assert [p.name for p in plan.passages] == ["flame", "flame 2"]
    plan = edits.rename_passage(plan, 0, "  torch   fire ")
    assert plan.passages[0].name == "torch fire"
    assert plan.passages[1].surround == "torch fire"
    assert edits.rename_passage(plan, 1, "torch fire").passages[1].name == "torch fire 2"
    assert edits.rename_passage(plan, 0, " ") == plan
    assert edits.remove_passage(plan, 0).passages[0].surround is None


def test_a_primer_takes_the_place_of_a_measured_colour() -> None:
    plan = small_plan()
    found = replace(plan.passages[0], ground=Ground("white", measured=(50.0, 10.0, 20.0)))
    plan = edits.set_passage(plan, 0, found)
    assert ground_words(plan.passages[0].ground) == "a measured colour"
    assert edits.prime(plan, 0, "white").passages[0].ground == Ground("white")


def test_a_paint_held_already_is_not_replaced() -> None:
    plan = small_plan()
    assert edits.hold(plan, plan.paints[0]) is plan
    violet = find("Harbour Violet", demo_rack())
    assert edits.hold(plan, violet).rack()["Harbour Violet"] == violet


def test_light_and_title() -> None:
    assert edits.set_light(small_plan(), "A").light == "A"
    with pytest.raises(InputError, match="no light"):
        edits.set_light(small_plan(), "moon")
    assert edits.retitle(small_plan(), " x ").title == "x"
    assert edits.retitle(small_plan(), " ").title == "A small plan"


def test_usual_coats_are_possible() -> None:
    plan = small_plan()
    for paint in demo_rack():
        plan = edits.add_coat(edits.hold(plan, paint), 0, edits.usual_coat(paint))
    check_plan(plan)


def test_history_goes_back_and_forth() -> None:
    a, b, c = (Plan(title) for title in "abc")
    history = History(a).did(b, "to b").did(c, "to c")
    assert history.past[-1].words == "to c"
    back = history.undone()
    assert back.plan == b
    assert back.future[0].words == "to c"
    assert back.redone() == history
    assert back.undone().undone().plan == a
    assert history.redone() is history


def test_a_new_edit_forgets_what_was_undone_and_nothing_is_no_step() -> None:
    a, b, c = (Plan(title) for title in "abc")
    history = History(a).did(b, "to b").undone().did(c, "to c")
    assert not history.future
    assert history.did(c, "nothing") is history


def test_history_is_bounded() -> None:
    history = History(Plan("0"))
    for i in range(MOST_STEPS + 20):
        history = history.did(Plan(str(i + 1)), "step")
    assert len(history.past) == MOST_STEPS


@pytest.mark.parametrize(
    ("words", "check"),
    [
        ("Kiln Yellow", lambda c: (c.tool, c.passes, c.mixture.thinning) == ("loaded", 1, 0)),
        ("Soot Wash", lambda c: c.tool == "wash"),
        ("flood teal", lambda c: c.tool == "contrast"),
        (
            "Kiln Yellow; water 3; passes 2; tool glaze",
            lambda c: (c.mixture.thinning, c.passes, c.tool) == (3, 2, "glaze"),
        ),
        ("kiln 3 + ember 1; medium 2", lambda c: [p.parts for p in c.mixture.parts] == [3, 1]),
        ("kiln; THICK MEDIUM 1.5", lambda c: c.mixture.thinner == "thick medium"),
        ("kiln;; passes 2 ;", lambda c: c.passes == 2),
        ("kiln; sites ridge, flat", lambda c: c.sites == ("ridge", "flat")),
        ("kiln; stroke to far; wicked", lambda c: (c.stroke, c.wicked) == ("to far", True)),
        ("lime; tool airbrush; nozzle 20", lambda c: c.nozzle == 20),
        ("kiln + kiln 2", lambda c: c.mixture.parts[0].parts == 3),
    ],
)
def test_a_coat_in_words(words: str, check: Callable[[Coat], bool], rack: dict[str, Paint]) -> None:
    assert check(parse_coat(words, rack))


@pytest.mark.parametrize(
    ("words", "sentence"),
    [
        ("", "a paint is missing"),
        ("kiln + ", "a paint is missing"),
        ("moon", "no paint 'moon'"),
        ("red", "fits more than one paint"),
        ("kiln -2", "parts of 'Kiln Yellow' is -2"),
        ("kiln; passes two", "'two' after 'passes' is not a number"),
        ("kiln; passes 1.5", "not a whole number"),
        ("kiln; passes 1e400", "not a whole number"),
        ("kiln; passes nan", "not a whole number"),
        ("kiln; passes -1", "'passes' is -1"),
        ("kiln; passes", "'passes' needs something"),
        ("kiln; water nan", "'thinning' is nan"),
        ("kiln; water -1", "'thinning' is -1"),
        ("kiln; gin 3", "'gin 3' is not understood"),
        ("kiln; tool trowel", "no tool 'trowel'"),
        ("kiln; water 1; medium 2", "says the thinner twice"),
        ("kiln; stroke up", "no stroke 'up'"),
        ("kiln; nozzle 900", "angle of its nozzle is 900"),
        ("kiln; nozzle left", "'left' after 'nozzle' is not a number"),
        ("kiln; sites cave", "no site 'cave'"),
        ("kiln; sites flat flat", "sites must be"),
    ],
)
def test_a_bad_coat_gets_one_sentence(words: str, sentence: str, rack: dict[str, Paint]) -> None:
    with pytest.raises((InputError, PaintError), match=sentence) as caught:
        parse_coat(words, rack)
    assert str(caught.value).startswith(f'Coat "{words}"')


def test_names_of_coats(rack: dict[str, Paint]) -> None:
    assert coat_name(parse_coat("kiln", rack)) == "Kiln Yellow, neat"
    assert coat_name(parse_coat("kiln 2 + ember; medium 3", rack)) == (
        "Kiln Yellow 2 + Ember Orange 1, 3:1 medium"
    )
