"""Templates: a whole plan of a few answers, from whatever paints are at hand.

What each is made of (vial 70:30, 40:60, pure; metal over black; white veil over a tint) is common
practice. Where a rack cannot do it, one sentence says which paint is wanting.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from driving import go, opened
from test_cli import answer, run
from zesty_veil.advise.remarks import remarks
from zesty_veil.advise.templates.every import TEMPLATES, template
from zesty_veil.advise.templates.model import TemplateMade
from zesty_veil.cli import main as cli
from zesty_veil.desktop.kit.colourfield import ColourField
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.desktop.start.station import StartStation
from zesty_veil.desktop.start.templatepage import TemplatePage
from zesty_veil.errors import InputError, VeilError
from zesty_veil.light.cielab import lch
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.fileformat import dump, parse
from zesty_veil.plan.model import Plan
from zesty_veil.plan.samples import sample
from zesty_veil.predict.field import SITE_RELIEF, axis, predict
from zesty_veil.predict.targets import missed
from zesty_veil.services.colours import parse_colour

NAMES = {paint.name: paint for paint in demo_rack()}
OPAQUE = tuple(
    NAMES[name]
    for name in (
        "Lime White", "Driftbone Ivory", "Lamp Black", "Saffron Buoy", "Slipway Orange",
        "Pilot Red", "Brickwall Crimson", "Limpet Violet", "Deepwell Blue", "Brash Ice Blue",
        "Samphire Green", "Hull Umber",
    )
)  # fmt: skip
INKS = tuple(
    NAMES[name]
    for name in (
        "Kiln Yellow", "Ember Orange", "Furnace Red", "Flask Blue", "Clinker Red Ink",
        "Dusk Violet Ink",
    )
)  # fmt: skip
FIVE = tuple(
    NAMES[name]
    for name in ("Lime White", "Kiln Yellow", "Slipway Orange", "Brickwall Crimson", "Lamp Black")
)
THREE = (NAMES["Lime White"], NAMES["Pilot Red"], NAMES["Lamp Black"])
RACKS: dict[str, tuple[Paint, ...]] = {
    "demo": demo_rack(), "opaque": OPAQUE, "inks": INKS, "five": FIVE,
    "three": THREE,
}  # fmt: skip
LEFT = Qt.MouseButton.LeftButton


@cache
def made(name: str, rack: str = "demo", *said: tuple[str, str]) -> TemplateMade:
    chosen = template(name)
    *_, last = chosen.build(chosen.answered(dict(said), parse_colour, RACKS[rack]), lambda: True)
    return last


def plan_of(name: str, rack: str = "demo", *said: tuple[str, str]) -> Plan:
    plan = made(name, rack, *said).plan
    assert plan is not None
    return plan


def own_remarks(plan: Plan, rack: tuple[Paint, ...]) -> list[str]:
    """Return what is remarked on a plan, but what is only a hint for who likes it."""
    hints = {"no complement", "metameric", "alike"}
    return [
        f"{passage.name}: {remark.kind}: {remark.words}"
        for index, passage in enumerate(plan.passages)
        for remark in remarks(plan, index, rack)
        if remark.kind not in hints
    ]


@pytest.mark.parametrize("primer", ["white", "grey", "black"])
@pytest.mark.parametrize("each", TEMPLATES, ids=lambda each: each.id)
def test_a_template_gives_a_whole_plan_on_which_nothing_is_remarked(
    each: object, primer: str
) -> None:
    """`tools/judged.py` does the same for all answers."""
    name = each.id  # type: ignore[attr-defined]
    done = made(name, "demo", ("primer", primer))
    assert done.plan is not None
    check_plan(done.plan)
    assert parse(dump(done.plan)) == done.plan
    assert done.share == 1
    assert done.assumed
    assert all(words.endswith(".") for words in done.assumed)
    names = {paint.name for paint in demo_rack()}
    for passage in done.plan.passages:
        assert passage.coats
        assert {part.paint for c in passage.coats for part in c.mixture.parts} <= names
        told = missed(passage, predict(passage, done.plan.rack(), axis(200), SITE_RELIEF))
        if told is not None and name != "vial":  # gloss comes after it
            assert np.mean(told.by) < 6.5, (name, told.by)
    assert own_remarks(done.plan, RACKS["demo"]) == []


@pytest.mark.parametrize("rack", ["opaque", "inks", "five", "three"])
@pytest.mark.parametrize("each", TEMPLATES, ids=lambda each: each.id)
def test_any_rack_gives_a_plan_or_says_which_paint_is_wanting(each: object, rack: str) -> None:
    name = each.id  # type: ignore[attr-defined]
    try:
        plan = plan_of(name, rack)
    except VeilError as error:
        words = str(error)
        assert "wanting is" in words or words.endswith(("Add an opaque white.", "an opaque black."))
        return
    check_plan(plan)
    assert own_remarks(plan, RACKS[rack]) == []
    used = {p.paint for passage in plan.passages for c in passage.coats for p in c.mixture.parts}
    assert used <= {paint.name for paint in RACKS[rack]}


@pytest.mark.parametrize(
    ("name", "rack", "primer", "colour"),
    [
        ("sheer", "demo", "grey", "red"),  # a thin red cloth is pink, and meant so
        ("within", "five", "white", "yellow"),  # what is wanted dark may lie on dark
    ],
)
def test_what_is_wanted_pink_or_dark_is_not_remarked_on(
    name: str, rack: str, primer: str, colour: str
) -> None:
    plan = plan_of(name, rack, ("primer", primer), ("colour", colour))
    assert own_remarks(plan, RACKS[rack]) == []


@pytest.mark.common_practice
@pytest.mark.parametrize("school", ["deep", "sooty", "cold", "single"])
def test_every_school_of_fire_is_hot_in_the_middle_and_dark_at_the_tips(school: str) -> None:
    (flame,) = plan_of("flame", "demo", ("school", school)).passages
    field = predict(flame, NAMES, np.array([0.0, 0.5, 0.9]), np.zeros(1))
    assert field.value[0, 0] > 8
    assert field.value[0, 0] > field.value[1, 0] > field.value[2, 0]
    if school == "deep":
        assert 10 < lch(field.lab[1, 0])[2] < 75
    if school == "single":
        assert 110 < lch(field.lab[1, 0])[2] < 190


@pytest.mark.common_practice
def test_light_falls_from_off_the_figure_and_is_no_passage() -> None:
    plan = plan_of("light")
    assert plan.glow is not None
    assert plan.glow.source == ""
    assert len(plan.passages) == 2
    alone = plan_of("light", "demo", ("other", "none"), ("source", "lamp"))
    assert len(alone.passages) == 1
    two = plan_of("light", "demo", ("second", "blue"), ("other", "none"))
    assert two.glow is not None
    assert two.glow.second is not None


@pytest.mark.common_practice
def test_cloth_is_not_lightened_with_white_nor_shaded_with_black_first() -> None:
    (cloth,) = plan_of("cloth").passages
    for coat in cloth.coats:
        names = {part.paint for part in coat.mixture.parts}
        assert not ({"Lime White"} & names and {"Furnace Red", "Pilot Red"} & names)
    colours = predict(cloth, NAMES, np.array([0.0, 0.99]), np.zeros(1)).lab[:, 0]
    assert colours[0, 0] > 50
    assert colours[1, 0] < 25


@pytest.mark.common_practice
def test_metal_lies_solid_and_what_tints_it_is_clear() -> None:
    for metal in ("gold", "copper", "steel", "candy"):
        (passage,) = plan_of("metal", "demo", ("metal", metal)).passages
        first, *rest = passage.coats
        assert NAMES[first.mixture.parts[0].paint].kind == "metallic"
        assert first.passes == 3
        kinds = {NAMES[part.paint].kind for c in rest for part in c.mixture.parts}
        assert kinds <= {"transparent", "ink", "wash", "contrast", "metallic", "varnish"}
    with pytest.raises(InputError, match="metallic paint"):
        made("metal", "opaque")


@pytest.mark.common_practice
def test_sheer_cloth_is_skin_tint_veil_and_folds_put_back() -> None:
    (passage,) = plan_of("sheer").passages
    *_, folds = passage.coats
    assert folds.mixture.parts[0].paint == "Lime White"
    assert (folds.mixture.thinner, folds.mixture.thinning, folds.sites) == (
        "water", 3.0, ("ridge",),
    )  # fmt: skip
    for colour, hues in (("pale blue", (200, 270)), ("turquoise", (170, 230))):
        (passage,) = plan_of("sheer", "demo", ("colour", colour)).passages
        L, C, h = predict(passage, NAMES, axis(41), np.zeros(1)).lch[:, 0].T
        # Bare skin is seen at the light, and cloth where it lies thickest.
        assert 25 < h[0] < 80
        assert C[0] > 10
        assert hues[0] <= h[-1] <= hues[1]
        assert L[-1] > 74
        # The folds are put back lighter than what lies between them.
        recess, _, ridge = predict(passage, NAMES, np.array([0.9]), SITE_RELIEF).lab[0, :, 0]
        assert ridge > recess


@pytest.mark.common_practice
def test_skin_takes_warm_spots_a_cool_shade_or_a_bruise() -> None:
    counts = {
        spots: len(plan_of("skin", "demo", ("spots", spots)).passages[0].coats)
        for spots in ("none", "warm", "cool", "both", "bruise")
    }
    assert counts["warm"] == counts["cool"] == counts["bruise"] == counts["none"] + 1
    assert counts["both"] == counts["none"] + 2
    bruised = predict(plan_of("skin", "demo", ("spots", "bruise")).passages[0], NAMES, axis(101))
    assert bruised.lab[30:60, 0, 0].min() > bruised.lab[-1, 0, 0], "no bruise is a shadow"
    dark = plan_of("skin", "demo", ("tone", "dark"), ("spots", "none")).passages[0]
    assert predict(dark, NAMES, axis(1), np.zeros(1)).value[0, 0] < 5


def test_a_vial_ends_in_gloss_where_there_is_any() -> None:
    assert NAMES[plan_of("vial").passages[0].coats[-1].mixture.parts[0].paint].kind == "varnish"
    assert any("gloss varnish" in words for words in made("vial", "opaque").assumed)


@pytest.mark.parametrize(
    ("name", "said", "words"),
    [
        ("flame", {"school": "tall"}, "school cannot be 'tall'"),
        ("flame", {"moon": "full"}, "does not ask for 'moon'"),
        ("cloth", {"colour": "colour of longing"}, "is no colour"),
        ("cloth", {"colour": "none"}, "is no colour"),
    ],
)
def test_answers_that_are_none_are_refused(name: str, said: dict[str, str], words: str) -> None:
    with pytest.raises(InputError, match=words):
        template(name).answered(said, parse_colour, demo_rack())
    with pytest.raises(InputError, match="no template 'moon'"):
        template("moon")


def test_a_template_that_is_not_wanted_any_more_stops() -> None:
    for each in TEMPLATES:
        answers = each.answered({}, parse_colour, demo_rack())
        told = list(each.build(answers, lambda: False))
        assert all(step.plan is None for step in told) or each.id == "metal"


def test_a_template_from_the_command_line(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    out = tmp_path / "p.veil"
    told = answer(
        capsys, "template", "cloth", "--colour", "deep blue", "--figures", "3", "--json",
        "-o", str(out),
    )  # fmt: skip
    assert told["passages"][0]["coats"]
    assert parse(out.read_bytes()).figures == 3
    assert "Taken for granted:" in run(capsys, "template", "metal")
    listed = answer(capsys, "template", "--json")
    assert [row["name"] for row in listed] == [each.id for each in TEMPLATES]
    assert len(run(capsys, "template").splitlines()) == len(TEMPLATES)
    for words, sentence in (
        (["moon"], "no template 'moon'"),
        (["flame", "--tone", "pale"], "does not ask for 'tone'"),
        (["metal", "--only", "Lime White"], "metallic paint"),
    ):
        assert cli.run(["template", *words]) == 2
        assert sentence in capsys.readouterr().err


@pytest.fixture
def window(qtbot: QtBot) -> Iterator[MainWindow]:
    yield from opened(qtbot, sample("diver"))


def chosen(window: MainWindow, number: int) -> TemplatePage:
    """Return the page of a template that was pressed, with the plan of its usual answers."""
    go(window, "start")
    station = window.router.at(StartStation)
    QTest.mouseClick(station.view.made[number], LEFT)
    assert station.template.wait_until_idle()
    return station.template


def test_two_presses_lead_to_a_plan(window: MainWindow) -> None:
    go(window, "start")
    station = window.router.at(StartStation)
    cards = station.view.made
    assert [card.accessibleName() for card in cards] == [each.title for each in TEMPLATES]
    QTest.mouseClick(cards[0], LEFT)
    page = station.template
    assert isinstance(page, TemplatePage)
    assert window.router.page is page
    assert page.wait_until_idle()
    assert page.use.isEnabled()
    assert "Taken for granted" in page.assumed.text()
    # It is drawn: fire from left to right.
    drawn = page.view.grab().toImage()
    ratio = drawn.devicePixelRatio()
    left, right = (drawn.pixelColor(round(x * ratio), round(50 * ratio)) for x in (16, 280))
    assert left.lightness() > right.lightness() + 30
    # Another answer makes it anew.
    school = page.asked["school"]
    school.setCurrentIndex(school.findData("single"))  # type: ignore[union-attr]
    school.activated.emit(0)  # type: ignore[union-attr]
    assert page.shown is None
    assert page.wait_until_idle()
    assert page.shown is not None
    plan = page.shown.plan
    assert plan is not None
    QTest.mouseClick(page.use, LEFT)
    assert window.document.plan == plan
    assert window.router.station == "section"
    assert window.wait_until_idle()


def test_what_a_template_cannot_be_laid_of_is_said_and_left(window: MainWindow) -> None:
    page = chosen(window, 4)
    page.asked["colour"].setText("colour of longing")  # type: ignore[union-attr]
    page.ask()
    assert page.wait_until_idle()
    assert "is no colour" in page.words.text()
    assert not page.use.isEnabled()
    page.asked["colour"].setText("deep blue")  # type: ignore[union-attr]
    page.ask()
    QTest.mouseClick(page.stop, LEFT)
    assert "Stopped" in page.words.text()
    QTest.keyClick(page, Qt.Key.Key_Escape)
    start = window.router.at(StartStation).view
    assert window.router.page is start
    # The next one asks its own questions.
    QTest.mouseClick(start.made[5], LEFT)
    assert set(page.asked) == {"tone", "spots", "size", "primer", "figures"}
    assert page.wait_until_idle()
    QTest.mouseClick(page.leave, LEFT)
    window.router.show_section()


def test_an_answer_is_taken_as_its_field_is_left(window: MainWindow) -> None:
    page = chosen(window, 4)
    colour = page.asked["colour"]
    assert isinstance(colour, ColourField)
    colour.setFocus()
    colour.selectAll()
    QTest.keyClicks(colour, "colour of longing")
    QTest.keyClick(colour, Qt.Key.Key_Tab)
    assert page.wait_until_idle()
    assert "is no colour" in page.words.text()
    assert page.coats.text() == ""
    # As soon as its cause goes, so does what was said.
    colour.setFocus()
    colour.selectAll()
    QTest.keyClicks(colour, "deep blue")
    QTest.keyClick(colour, Qt.Key.Key_Tab)
    assert "is no colour" not in page.words.text()
    assert page.wait_until_idle()
    assert page.shown is not None
    assert dict(page.shown.asked.said)["colour"] == "deep blue"
    # Who leaves a field as it was asks nothing anew.
    colour.setFocus()
    QTest.keyClick(colour, Qt.Key.Key_Tab)
    assert page.jobs.idle()


def test_a_plan_is_begun_with_what_was_answered_last(window: MainWindow) -> None:
    page = chosen(window, 4)
    assert page.shown is not None
    before = page.shown.plan
    colour = page.asked["colour"]
    assert isinstance(colour, ColourField)
    colour.setFocus()
    colour.selectAll()
    QTest.keyClicks(colour, "deep blue")
    QTest.mouseClick(page.use, LEFT)  # while the answer is still typed, and nothing is found of it
    assert page.wait_until_idle()
    assert page.shown is not None
    assert dict(page.shown.asked.said)["colour"] == "deep blue"
    assert window.document.plan == page.shown.plan != before
    assert window.router.station == "section"
    assert window.wait_until_idle()


def test_nothing_of_one_template_stands_under_the_title_of_another(window: MainWindow) -> None:
    page = chosen(window, 0)
    drawn = page.view.grab().toImage()
    assert page.coats.text()
    page.back()
    QTest.mouseClick(window.router.at(StartStation).view.made[4], LEFT)
    assert page.coats.text() == page.assumed.text() == ""
    assert page.view.grab().toImage() != drawn
    assert page.shown is None
    page.back()
    assert page.jobs.wait_until_idle()


def test_over_unsaved_work_it_is_asked_where_the_press_was(window: MainWindow) -> None:
    window.section.more_passes(1)
    work = window.document.plan
    page = chosen(window, 5)
    QTest.mouseClick(page.use, LEFT)
    assert window.document.plan == work
    line = window.line
    assert "not saved" in line.words.text()
    QApplication.processEvents()
    below = line.mapTo(window, QPoint(0, 0)).y()
    assert below < page.use.mapTo(window, QPoint(0, page.use.height())).y() + 30
    # The answer lets the press do what it was for; the line is at the foot again.
    QTest.mouseClick(line.answers["drop"], LEFT)
    assert page.shown is not None
    assert window.document.plan == page.shown.plan
    QApplication.processEvents()
    assert line.mapTo(window, QPoint(0, 0)).y() > window.height() / 2
    assert window.wait_until_idle()
