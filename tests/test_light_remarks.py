"""Remarks on light in a plan and on wasted work: each with a plan that raises it and a twin.

Every figure here is common practice: a fact of the trade without a published source.
"""

from __future__ import annotations

import numpy as np
import pytest

from test_remarks import (
    RACK,
    Reached,
    kinds,
    mended_by_its_remedy,
    plan_of,
    the,
    told_apart,
)
from zesty_veil.advise.lights import flat_colours, gap, hue_words, is_source, opposite, source_of
from zesty_veil.advise.remark import RemarkKind
from zesty_veil.advise.remarks import remarks
from zesty_veil.errors import InputError
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Ground, Passage, Plan, Primer
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.thresholds import AWAY_VALUE, GAP_VALUES, MANY_MIXES, UNDER_SOURCE_VALUES

pytestmark = pytest.mark.common_practice

ALL: Reached = (0.0, 1.0, 0.0, 0.0)
NEAR: Reached = (0.0, 0.2, 0.0, 0.25)
FAR: Reached = (0.8, 1.0, 0.25, 0.0)
FIRE = (("Lime White; passes 4", ALL), ("Kiln Yellow; water 2; passes 2", (0.3, 1.0, 0.2, 0.0)))


def second(plan: Plan, primer: Primer, *coats: tuple[str, Reached]) -> Plan:
    """Return a plan with a second passage, q, which is the light in it."""
    laid = []
    for words, (start, end, near, far) in coats:
        coat = edits.with_span(parse_coat(words, RACK), start, end)
        laid.append(edits.with_feather(coat, near, far))
    passage = Passage("q", ground=Ground(primer), coats=tuple(laid))
    return edits.add_passage(plan, passage)


def lit(*coats: tuple[str, Reached], primer: Primer = "black", fire: object = FIRE) -> Plan:
    """Return a plan whose passage in view is lit by a fire."""
    plan = second(plan_of(primer, *coats), "white", *fire)  # type: ignore[misc]
    return edits.lit_by(plan, 0, "q")


def source(*coats: tuple[str, Reached]) -> Plan:
    """Return a plan whose passage in view is an orange fire that lights q."""
    plan = second(plan_of("white", "Ember Orange; water 1; passes 2"), "black", *coats)
    return edits.lit_by(plan, 1, "p")


MIXES = tuple(f"Furnace Red {n} + Kiln Yellow 1; water 3; tool glaze" for n in range(1, 6))
UMBER = "Hull Umber; passes 3"
STACK = (
    ("Midwater Ultramarine; water 2.5; passes 6; tool glaze", ALL),
    ("Ember Orange; medium 6; passes 3", ALL),
    ("Kelp Green; water 5; tool glaze", ALL),
)
TWINS: dict[RemarkKind, tuple[Plan, Plan]] = {
    "outshines source": (
        lit(("Lime White; passes 8", NEAR)),
        lit(("Ember Orange 1 + Lime White 1; passes 2", NEAR)),
    ),
    "away too light": (
        lit(("Ember Orange 1 + Lime White 2; passes 6", ALL)),
        lit(("Ember Orange 1 + Lime White 2; passes 6", NEAR)),
    ),
    "no gap": (
        lit(("Ember Orange 1 + Lime White 1; passes 4", (0.0, 0.5, 0.0, 0.0)),
            ("Flask Blue 1 + Lime White 2; passes 4", (0.5, 1.0, 0.0, 0.0))),
        lit(("Ember Orange 1 + Lime White 1; passes 4", NEAR),
            ("Flask Blue 1 + Lime White 2; passes 4", FAR)),
    ),
    "no complement": (
        source(("Furnace Red 1 + Lime White 1; passes 4", NEAR)),
        source(("Flask Blue 1 + Lime White 1; passes 4", NEAR)),
    ),
    "wasted below": (
        plan_of("grey", "Harbour Violet; water 2; passes 4", "Lime White; water 1; passes 2"),
        plan_of("grey", "Lime White; water 1; passes 2", "Harbour Violet; water 2; passes 4"),
    ),
    "many mixes": (plan_of("white", *MIXES), plan_of("white", *MIXES[1:])),
    "metameric": (
        second(plan_of("white", UMBER), "white", *STACK),
        second(plan_of("white", UMBER), "white", (UMBER, ALL)),
    ),
}  # fmt: skip


@pytest.mark.parametrize("kind", TWINS)
def test_a_plan_raises_it_and_its_twin_does_not(kind: RemarkKind) -> None:
    told_apart(kind, TWINS[kind])


@pytest.mark.parametrize("kind", TWINS)
def test_the_remedy_removes_it(kind: RemarkKind) -> None:
    mended_by_its_remedy(kind, TWINS[kind][0])


def test_a_light_that_is_dark_itself_is_lightened_first() -> None:
    dull = (("Furnace Red; water 1; passes 3", ALL),)
    plan = lit(("Ember Orange 1 + Lime White 2; passes 6", NEAR), fire=dull)
    remark = the(plan, "outshines source")
    assert "white at the light of q" in remark.remedy
    assert remark.mend is not None
    mended = remark.mend(plan)
    assert mended.passages[0] == plan.passages[0]
    assert len(mended.passages[1].coats) == 2
    assert "outshines source" not in kinds(mended)


def test_the_borders_of_light_are_where_they_are_said_to_be() -> None:
    """A passage darkened little by little is spoken of until it is as dark as the words say."""
    look = ViewingConditions()
    for kind, made in (
        ("away too light", lambda n: lit(("Lime White 9 + Lamp Black 1; passes 6", ALL),
                                         (f"Lamp Black; water 7; passes {n}; tool glaze", ALL))),
        ("no gap", lambda n: lit(("Ember Orange 1 + Lime White 1; passes 4", (0.0, 0.5, 0.0, 0.0)),
                                 ("Flask Blue 1 + Lime White 2; passes 4", (0.5, 1.0, 0.0, 0.0)),
                                 (f"Lamp Black; water 40; passes {n}; tool glaze",
                                  (0.45, 0.55, 0.1, 0.1)))),
    ):  # fmt: skip
        said = []
        for n in range(1, 25):
            plan = made(n)
            seen = flat_colours(plan, 0, look)
            number = seen.value[seen.u >= 0.75].mean() if kind[0] == "a" else gap(seen)
            wrong = number > AWAY_VALUE if kind[0] == "a" else number < GAP_VALUES
            assert (kind in kinds(plan)) == wrong, (kind, n, number)
            # 'Of value 3.5; it must be 3.5 or darker' would help nobody.
            words = [r.words for r in remarks(plan, 0, demo_rack()) if r.kind == kind]
            assert not any(f"of value {AWAY_VALUE:.1f};" in each for each in words)
            said.append(wrong)
        assert said == sorted(said, reverse=True)
        assert True in said
        assert False in said


def test_what_is_lit_stays_darker_than_its_light() -> None:
    fire = flat_colours(lit(), 1, ViewingConditions()).value.max()
    for grey in np.linspace(0.1, 0.02, 9):
        plan = lit((f"Lime White 1 + Lamp Black {grey:.2f}; passes 9", NEAR), primer="white")
        most = flat_colours(plan, 0, ViewingConditions()).value.max()
        assert ("outshines source" in kinds(plan)) == (most > fire - UNDER_SOURCE_VALUES)


def test_two_lights_need_no_dark_far_side() -> None:
    plan = TWINS["no gap"][1]
    assert flat_colours(plan, 0, ViewingConditions()).value[-1, 0] > AWAY_VALUE
    assert "away too light" not in kinds(plan)


def test_two_hues_in_the_dark_are_no_two_lights() -> None:
    plan = lit(
        ("Ember Orange; water 1; passes 2", (0.0, 0.5, 0.0, 0.0)),
        ("Harbour Violet; water 1; passes 2", (0.5, 1.0, 0.0, 0.0)),
    )
    assert flat_colours(plan, 0, ViewingConditions()).value.max() < AWAY_VALUE
    assert "no gap" not in kinds(plan)


def test_a_complement_is_offered_only_where_the_far_side_stays_dark() -> None:
    """Blue wants yellow beside it; but enough yellow to be seen would light the far side up."""
    blue = plan_of("white", "Midwater Ultramarine; water 1; passes 3")
    plan = edits.lit_by(second(blue, "black", ("Lime White 1 + Lamp Black 1", NEAR)), 1, "p")
    remark = the(plan, "no complement")
    assert "orange" in remark.words or "yellow" in remark.words
    if remark.mend is not None:
        mended = remark.mend(plan)
        seen = flat_colours(mended, 1, ViewingConditions())
        assert seen.value[seen.u >= 0.75].mean() <= AWAY_VALUE


def test_where_no_light_is_named_nothing_is_said_of_it() -> None:
    for kind in ("outshines source", "away too light", "no gap"):
        plan = edits.lit_by(TWINS[kind][0], 0, None)
        assert kind not in kinds(plan)
    dark = edits.lit_by(TWINS["no complement"][0], 1, None)
    assert "no complement" not in kinds(dark)


def test_the_complement_that_is_offered_is_that_of_the_glow() -> None:
    """Orange wants blue beside it; and it is offered, not demanded."""
    remark = the(TWINS["no complement"][0], "no complement")
    assert "blue" in remark.words
    assert "if you like" in remark.words
    assert [hue_words(opposite(h)) for h in (30, 60, 90, 160, 270, 310, 20)] == [
        "green", "blue", "violet", "red", "orange", "yellow", "green",
    ]  # fmt: skip
    for hue in range(0, 360, 5):
        assert opposite(opposite(hue)) == pytest.approx(hue)
    assert [hue_words(h) for h in (0, 60, 90, 150, 200, 260, 310, 350)] == [
        "pink", "orange", "yellow", "green", "turquoise", "blue", "violet", "pink",
    ]  # fmt: skip


def test_a_clear_film_beside_an_opaque_one_is_not_wasted() -> None:
    glaze = ("Harbour Violet; water 2; passes 4", (0.0, 1.0, 0.0, 0.0))
    plan = plan_of("black", glaze, ("Lime White; water 1; passes 4", (0.0, 0.3, 0.0, 0.1)))
    assert "wasted below" not in kinds(plan)
    assert "wasted below" in kinds(plan_of("grey", glaze, "Lime White; water 1; passes 2"))
    # What is hidden altogether is said once.
    hidden = plan_of("grey", glaze, "Lime White; passes 12")
    assert "hidden" in kinds(hidden)
    assert "wasted below" not in kinds(hidden)


def test_one_pot_fewer_changes_the_colour_least() -> None:
    plan = TWINS["many mixes"][0]
    remark = the(plan, "many mixes")
    assert f"{MANY_MIXES} are plenty" in remark.words
    assert remark.mend is not None
    mended = remark.mend(plan)
    before, after = (p.passages[0].coats for p in (plan, mended))
    changed = [i for i, (a, b) in enumerate(zip(before, after, strict=True)) if a != b]
    # 4:1 and 5:1 of red to yellow are nearest to each other.
    assert changed in ([3], [4])
    assert {after[3].mixture.parts, after[4].mixture.parts} < {
        before[3].mixture.parts, before[4].mixture.parts,
    }  # fmt: skip
    assert before[changed[0]].mixture.thinning == after[changed[0]].mixture.thinning


def test_a_light_is_named_renamed_and_taken_away() -> None:
    plan = lit(("Ember Orange; passes 2", NEAR))
    assert source_of(plan, 0) == 1
    assert is_source(plan, 1)
    assert not is_source(plan, 0)
    renamed = edits.rename_passage(plan, 1, "the fire")
    assert renamed.passages[0].lit_by == "the fire"
    assert edits.remove_passage(renamed, 1).passages[0].lit_by is None
    with pytest.raises(InputError, match="light 'nobody' is not a passage"):
        check_plan(edits.lit_by(plan, 0, "nobody"))
    with pytest.raises(InputError, match="lit by itself"):
        check_plan(edits.lit_by(plan, 0, "p"))
