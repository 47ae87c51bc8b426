"""Somebody who sees the window for the first time, by presses alone and without a manual."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton
from pytestqt.qtbot import QtBot

from driving import coats, scene, settled
from zesty_veil.desktop.kit.names import fitted, short_name, shortest_name
from zesty_veil.desktop.kit.paintmenu import PaintMenu
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.desktop.sitting.station import SittingStation
from zesty_veil.light.cielab import lch

LEFT, KEY = Qt.MouseButton.LeftButton, Qt.Key


def press(window: MainWindow, words: str) -> None:
    """Press what can be seen and says so."""
    found = [
        button
        for button in window.findChildren(QAbstractButton)
        if button.isVisible() and words in (button.text(), button.accessibleName())
    ]
    assert found, words
    assert found[0].isEnabled(), words
    QTest.mouseClick(found[0], LEFT)
    settled(window)


@pytest.fixture
def fresh(small: MainWindow) -> MainWindow:
    small.document.forget()
    small.router.go("start")
    settled(small)
    press(small, "Empty plan")
    assert small.router.page is None
    return small


def test_two_presses_from_the_first_start_to_a_coloured_plan(small: MainWindow) -> None:
    small.document.forget()
    small.router.go("start")
    settled(small)
    press(small, "The bell diver")  # the second is not needed
    field = scene(small).forecast.field
    assert field is not None
    assert float(lch(field.lab[:, 1])[:, 1].max()) > 20


def test_red_and_enter_lay_a_red_coat(fresh: MainWindow) -> None:
    first = fresh.section.view.first
    assert first.isVisible()
    menu = fresh.section.head.paints
    assert isinstance(menu, PaintMenu)
    # The menu runs a loop of its own while it is open; what is typed into it comes from there.
    menu.fill()
    assert menu.jobs.wait_until_idle()
    QTest.keyClicks(menu.picker.search, "red")
    QTest.keyClick(menu.picker.search, KEY.Key_Return)
    settled(fresh)
    (coat,) = coats(fresh)
    field = scene(fresh).forecast.field
    assert field is not None
    over_black = lch(field.lab[0, 1])
    assert over_black[2] < 60 or over_black[2] > 340, coat
    assert not first.isVisible()
    assert fresh.section.card.pot.isVisible()


def test_a_violet_glow_on_a_black_thing_from_start_to_sitting(fresh: MainWindow) -> None:
    press(fresh, "Paint a light that falls on it")
    press(fresh, "Add a passage that shines")
    page = fresh.router.page
    assert page is not None
    assert not page.write.isEnabled()
    QTest.keyClicks(page.row.light, "violet")
    QTest.keyClick(page.row.light, KEY.Key_Return)
    settled(fresh)
    press(fresh, "Find coats")
    assert page.wait_until_idle()
    press(fresh, "Write into plan")
    plan = fresh.document.plan
    laid = [passage for passage in plan.passages if passage.coats]
    assert laid
    field = scene(fresh).forecast.field
    assert field is not None
    _, C, h = (float(v) for v in lch(field.lab[0, 1]))
    assert 270 < h < 330
    assert C > 8
    # It says what comes next, and one press leads there.
    press(fresh, "Begin the sitting")
    sitting = fresh.router.at(SittingStation).view
    assert fresh.router.page is sitting
    assert sitting.card.told is not None
    assert not sitting.words.text().startswith("Nothing")


def test_a_bare_passage_leads_to_match(fresh: MainWindow) -> None:
    card = fresh.section.card
    assert not card.brush.isVisible()
    press(fresh, "Find coats for a colour")
    assert fresh.router.station == "match"
    page = fresh.router.page
    assert page is not None
    assert page.empty.isVisible()


def test_the_whole_screen_for_the_sitting_and_back(qtbot: QtBot, small: MainWindow) -> None:
    small.router.go("sitting")
    settled(small)
    page = small.router.at(SittingStation).view
    QTest.keyClick(page, KEY.Key_F11)
    assert small.isFullScreen()
    assert not page.asked.isVisible()
    assert page.words.isVisible()  # what has to be said is said there too
    assert not small.rail.isVisible()
    QTest.keyClick(page, KEY.Key_F11)
    assert not small.isFullScreen()
    assert page.asked.isVisible()
    assert small.rail.isVisible()


def test_names_are_whole_where_they_can_be_and_cut_by_rule(dressed: object) -> None:
    name = "Midwater Ultramarine 1 + Clinker Red Ink 2"
    assert fitted(name, 600, 600, 13, False, False) == ((name,), 13)
    lines, size = fitted(name, 200, 200, 13, False, True)
    assert " ".join(lines) == name
    assert len(lines) == 2
    assert size == 13
    assert fitted(name, 260, 0, 13, False, False)[0] in ((name,), (short_name(name),))
    assert fitted(name, 20, 0, 13, False, False)[0] == (shortest_name(name),)
    assert short_name("Bone Ash") == "Bone Ash"  # nothing is won by cutting five letters
    assert shortest_name("Lime White") == "L.White"
