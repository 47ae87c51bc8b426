"""The looks of the Section in the real window: wet, glint, how sure, ground, strokes, hand."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import qGray
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from driving import coats, flat_ribbon, opened, picture, scene
from workshop import hand_laid
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.plan import edits
from zesty_veil.plan.coatwords import parse_coat

COPPER = 3


@pytest.fixture
def window(qtbot: QtBot, dressed: QApplication) -> Iterator[MainWindow]:
    """A window with the demo plan, at the copper blowpipe."""
    for window in opened(qtbot, hand_laid()):
        window.section.choose_passage(COPPER)
        assert window.wait_until_idle()
        yield window


def choose(window: MainWindow, finish: str) -> None:
    """Choose a finish from the row above the section."""
    box = window.section.head.finish
    row = box.findData(finish)
    box.setCurrentIndex(row)
    box.activated.emit(row)


def test_metal_flashes_on_a_key(window: MainWindow) -> None:
    assert window.section.head.glint.isEnabled()
    shade = flat_ribbon(window, 0.6)
    QTest.keyClick(window.section.view, Qt.Key.Key_G)
    glint = flat_ribbon(window, 0.6)
    assert glint.lightness() > shade.lightness() + 15
    QTest.keyClick(window.section.view, Qt.Key.Key_G)
    assert flat_ribbon(window, 0.6) == shade
    window.section.choose_passage(0)
    window.wait_until_idle()
    assert not window.section.head.glint.isEnabled()  # nothing glints there


def test_wet_and_varnished(window: MainWindow) -> None:
    window.section.choose_passage(1)
    before = flat_ribbon(window, 0.9)
    QTest.keyClick(window.section.view, Qt.Key.Key_W)
    box = scene(window).frame.ribbons[1]
    x = round(box.x + 0.9 * box.width)
    wet, dry = (picture(window).pixelColor(x, round(box.y + s * box.height)) for s in (0.2, 0.8))
    assert wet.lightness() < before.lightness()
    assert dry == before  # as it dries stands below, to compare
    choose(window, "matt")
    matt = picture(window).pixelColor(x, round(box.y + 0.2 * box.height))
    assert matt.lightness() > wet.lightness()
    choose(window, "as painted")
    assert flat_ribbon(window, 0.9) == before
    assert not window.document.unsaved  # looking changes nothing


def test_how_sure_is_shown_on_demand(window: MainWindow) -> None:
    window.section.choose_passage(0)
    window.wait_until_idle()
    assert scene(window).forecast.sure is None
    box = scene(window).frame.ribbons[1]
    x = round(box.x + 0.6 * box.width)
    rows = [round(box.y + share * box.height) for share in (0.1, 0.5, 0.9)]
    plain = [picture(window).pixelColor(x, y) for y in rows]
    assert plain[0] == plain[1] == plain[2]
    QTest.keyClick(window.section.view, Qt.Key.Key_B)
    banded = [picture(window).pixelColor(x, y) for y in rows]
    assert banded[1] == plain[1]
    assert qGray(banded[0].rgb()) < qGray(banded[2].rgb())
    sure = scene(window).forecast.sure
    assert sure is not None
    words, numbers, _ = scene(window).reading("flat")
    assert words
    assert "-" in numbers
    assert scene(window).value_words().startswith("dE ")
    narrow = float(sure.median.mean())
    window.menus.actions["hand loose"].trigger()
    wider = scene(window).forecast.sure
    assert wider is not None
    assert window.document.plan.hand == "loose"
    assert float(wider.median.mean()) > narrow * 0.9
    assert wider.causes["film"] > sure.causes["film"]


def test_a_dark_surround_makes_colours_seem_lighter(window: MainWindow) -> None:
    window.section.choose_passage(2)  # one that no passage surrounds
    seems = []
    for key in (Qt.Key.Key_1, Qt.Key.Key_2, Qt.Key.Key_3):
        QTest.keyClick(window.section.view, key)
        seems.append(float(scene(window).value_words().removeprefix("seems ")))
    assert seems == sorted(seems)
    assert seems[2] > seems[0]


def test_large_and_small_fields_differ(window: MainWindow) -> None:
    small = scene(window).forecast.field
    window.menus.actions["observer 10"].trigger()
    large = scene(window).forecast.field
    assert small is not None
    assert large is not None
    assert (small.lab != large.lab).any()


def test_one_pass_more_or_less_is_told(window: MainWindow) -> None:
    scene(window)
    assert window.section.card.does.touchy.text().startswith("One pass more: dE ")


def test_grounds_from_the_menu(window: MainWindow) -> None:
    window.section.choose_passage(0)
    window.wait_until_idle()
    ground = scene(window).frame.ground
    x, y = round(ground.x + 0.02 * ground.width), round(ground.y + 4)
    assert picture(window).pixelColor(x, y).lightness() < 90
    menu = window.section.head.ground.menu()
    kinds = {action.data(): action for action in menu.actions()}
    kinds["zenithal"].trigger()
    assert picture(window).pixelColor(x, y).lightness() > 150
    passage = window.section.editor.passage
    assert passage is not None
    assert passage.ground.coats[0].nozzle == 0.0
    kinds["underpaint"].trigger()
    assert window.section.editor.ground_open  # its borders are there to be dragged
    assert picture(window).pixelColor(x, y).hslSaturation() < 20  # the strip is the primer then
    window.section.ground.toggle()
    assert picture(window).pixelColor(x, y).hslSaturation() > 60
    kinds["bare"].trigger()
    assert picture(window).pixelColor(x, y).lightness() < 90
    window.document.undo()
    window.document.undo()
    assert window.section.editor.passage is not None
    assert len(window.section.editor.passage.ground.coats) == 1


def test_strokes_wicking_and_the_nozzle(window: MainWindow) -> None:
    card = window.section.card
    row = card.strokes
    last = len(coats(window)) - 1
    row.stroke.setCurrentIndex(2)
    row.stroke.activated.emit(2)
    assert coats(window)[last].stroke == "to far"
    QTest.mouseClick(row.wick, Qt.MouseButton.LeftButton)
    assert coats(window)[last].wicked
    assert not row.nozzle.isVisible()
    tool = card.tool.findData("airbrush")
    card.tool.setCurrentIndex(tool)
    card.tool.activated.emit(tool)
    assert row.nozzle.isVisible()
    assert not row.stroke.isVisible()
    row.nozzle.setValue(20)
    assert coats(window)[last].nozzle == 20
    row.nozzle.setValue(row.nozzle.minimum())
    assert coats(window)[last].nozzle is None
    window.wait_until_idle()


def test_the_form_follows_the_plan_and_grows_on_a_key(window: MainWindow) -> None:
    window.section.choose_passage(0)
    window.wait_until_idle()
    small = window.section.passages.form_view
    middle = small.rect().center()

    def colour_at_the_foot() -> tuple[int, int, int]:
        pixel = small.grab().toImage().pixelColor(middle.x(), small.height() - 30)
        return pixel.red(), pixel.green(), pixel.blue()

    red, green, blue = colour_at_the_foot()
    assert red > 200
    assert green > 150
    assert blue < 120  # the yellow foot of the flame
    QTest.keyClick(window.section.view, Qt.Key.Key_V)
    window.wait_until_idle()
    red, green, blue = colour_at_the_foot()
    assert max(red, green, blue) - min(red, green, blue) < 4
    QTest.keyClick(window.section.view, Qt.Key.Key_V)
    row = window.section.passages.form.findData("orb")
    window.section.passages.form.setCurrentIndex(row)
    window.section.passages.form.activated.emit(row)
    assert window.document.plan.passages[0].form == "orb"
    window.wait_until_idle()

    QTest.keyClick(window.section.view, Qt.Key.Key_O)
    assert window.router.form_is_big
    window.wait_until_idle()
    big = window.router.form
    image = big.grab().toImage()
    assert image.pixelColor(big.rect().center()).hslSaturation() > 60
    QTest.mouseClick(big, Qt.MouseButton.LeftButton)
    assert not window.router.form_is_big
    window.wait_until_idle()


def test_a_remark_is_mended_with_one_press_and_undone(window: MainWindow) -> None:
    window.section.choose_passage(0)
    # Black that begins all at once on what is light: an edge, and half of it painted over.
    hard = edits.with_span(
        parse_coat("Lamp Black; water 1; passes 2", window.document.plan.rack()), 0.2, 1
    )
    window.document.edit(edits.add_coat(window.document.plan, 0, hard), "black")
    window.wait_until_idle()
    line = window.line
    steps = len(window.document.history.past)
    before = coats(window)
    first = line.words.text()
    QTest.mouseClick(line.next, Qt.MouseButton.LeftButton)
    assert line.words.text() != first
    QTest.mouseClick(line.mend, Qt.MouseButton.LeftButton)
    assert coats(window) != before
    assert len(window.document.history.past) == steps + 1
    window.wait_until_idle()
    window.menus.actions["undo"].trigger()
    assert coats(window) == before
    window.say("A sentence that has to be said.")
    assert not line.mend.isVisible()
    window.say("")
    assert line.words.text()
    window.wait_until_idle()


def test_squint_and_mirror_by_keys(window: MainWindow) -> None:
    window.section.choose_passage(0)
    sharp = [flat_ribbon(window, place).green() for place in (0.25, 0.29)]
    QTest.keyClick(window.section.view, Qt.Key.Key_Q)
    soft = [flat_ribbon(window, place).green() for place in (0.25, 0.29)]
    assert abs(soft[1] - soft[0]) < abs(sharp[1] - sharp[0])
    QTest.keyClick(window.section.view, Qt.Key.Key_Q)
    form = window.section.passages.form_view
    window.wait_until_idle()
    straight = form.grab().toImage()
    QTest.keyClick(window.section.view, Qt.Key.Key_M)
    window.wait_until_idle()
    assert form.grab().toImage() != straight


def test_before_and_after_a_coat_and_one_coat_after_the_other(window: MainWindow) -> None:
    window.section.choose_passage(0)
    window.section.choose_coat(3)
    view, whole = window.section.view, flat_ribbon(window, 0.62)
    plan = window.document.plan
    QTest.keyClick(view, Qt.Key.Key_H)
    without = flat_ribbon(window, 0.62)
    assert "H brings it back" in window.line.words.text()
    assert without.green() > whole.green() + 30  # the orange below the red glaze
    window.section.choose_coat(0)
    assert flat_ribbon(window, 0.1) != flat_ribbon(window, 0.9)  # yellow on black, not on white
    QTest.keyClick(view, Qt.Key.Key_H)
    assert flat_ribbon(window, 0.62) == whole
    QTest.keyClick(view, Qt.Key.Key_J)
    bare = flat_ribbon(window, 0.1)
    assert bare.lightness() < 90  # black primer
    assert "0 of 5 coats laid" in window.line.words.text()
    QTest.keyClick(view, Qt.Key.Key_J)
    assert flat_ribbon(window, 0.1).lightness() > 200  # white laid on it
    for _ in range(4):
        QTest.keyClick(view, Qt.Key.Key_J)
    assert flat_ribbon(window, 0.62) == whole
    assert window.document.plan is plan  # looking changes nothing


def test_what_surrounds_a_passage_stands_behind_it_and_sets_how_light_it_seems(
    window: MainWindow,
) -> None:
    window.section.choose_passage(2)
    window.section.view.read_at(0.5)
    window.wait_until_idle()
    panel = window.section.passages
    alone = panel.form_view.grab().toImage()
    assert scene(window).passage.surround is None
    seems = float(scene(window).value_words().removeprefix("seems "))
    row = panel.around.findData("copper blowpipe, hot end")
    panel.around.setCurrentIndex(row)
    panel.around.activated.emit(row)
    assert window.document.plan.passages[2].surround == "copper blowpipe, hot end"
    darker = float(scene(window).value_words().removeprefix("seems "))
    assert darker > seems  # common practice: a dark neighbour makes it look lighter
    assert panel.form_view.grab().toImage() != alone
    window.document.undo()
    assert scene(window).passage.surround is None
