"""Light in the window: off the figure, over what is there, by presses and keys alone."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from driving import go, opened, settled
from lightjobs import LEFT, red_armour, thing
from zesty_veil.advise.glow.usual import off_figure
from zesty_veil.advise.glow.wanted import wanted
from zesty_veil.desktop.glow.ladder import Ladder
from zesty_veil.desktop.glow.station import LightStation
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.plan import edits
from zesty_veil.plan.model import Ground, Passage, Plan


@pytest.fixture
def window(qtbot: QtBot) -> Iterator[MainWindow]:
    yield from opened(qtbot, red_armour())


def test_fire_beside_red_armour_by_presses_alone(window: MainWindow) -> None:
    before = window.document.plan
    go(window, "light")
    start = window.router.at(LightStation).start
    (beside,) = start.empty.buttons
    assert beside.text() == "A light off the figure"
    QTest.mouseClick(beside, LEFT)
    view = window.router.at(LightStation).view
    assert view.wait_until_idle()
    assert view.state_words().startswith("A light off the figure on 1 surface")
    assert not view.flame.isVisible()
    assert view.falls_on.isVisible()
    # The dial is moved by keys, and what is wanted follows.
    first = view.ladder.grab().toImage()
    view.wins.slider.setFocus()
    QTest.keyClick(view.wins.slider, Qt.Key.Key_End)
    assert view.glow is not None
    assert view.glow.wins == 1.0
    assert view.wait_until_idle()
    assert view.ladder.grab().toImage() != first
    view.keep.setCurrentIndex(1)
    view.keep.activated.emit(1)
    QTest.mouseClick(view.find_coats, LEFT)
    assert view.wait_until_idle()
    assert "All coats stay" in view.words.text()
    QTest.mouseClick(view.write, LEFT)
    after = window.document.plan.passages[0]
    assert after.coats[:2] == before.passages[0].coats
    assert len(after.coats) > 2
    assert (after.name, after.length_mm, after.ground) == (
        before.passages[0].name, before.passages[0].length_mm, before.passages[0].ground,
    )  # fmt: skip
    window.document.undo()
    window.document.undo()
    assert window.document.plan == before


def test_a_light_off_the_figure_falls_on_what_is_chosen(qtbot: QtBot) -> None:
    plan = edits.add_passage(red_armour(), Passage("cloak", ground=Ground("grey")))
    for window in opened(qtbot, plan):
        window.document.edit(edits.set_glow(plan, off_figure(plan, [0])), "light")
        go(window, "light")
        view = window.router.at(LightStation).view
        assert view.wait_until_idle()
        armour, cloak = view.falls_on.menu().actions()
        assert armour.isChecked()
        assert not armour.isEnabled()  # the last one stays
        cloak.trigger()
        assert view.glow is not None
        assert [s.passage for s in view.glow.surfaces] == ["thing", "cloak"]
        view.falls_on.menu().actions()[0].trigger()
        assert [s.passage for s in view.glow.surfaces] == ["cloak"]
        assert view.wait_until_idle()
        window.router.show_section()


def test_the_form_shows_what_is_there_under_a_light_that_keeps_it(window: MainWindow) -> None:
    go(window, "light")
    start = window.router.at(LightStation).start
    QTest.mouseClick(start.empty.buttons[0], LEFT)
    view = window.router.at(LightStation).view
    assert view.wait_until_idle()
    pixels = []
    for at in (0, 1):
        view.keep.setCurrentIndex(at)
        view.keep.activated.emit(at)
        assert view.wait_until_idle()
        seen = view.view.grab().toImage()
        counted = [
            seen.pixelColor(x, y)
            for x in range(0, seen.width(), 7)
            for y in range(0, seen.height(), 7)
        ]
        pixels.append(sum(c.red() > c.blue() + 30 for c in counted))
    # The far side is armour's red, and not the dark of an unlit surface.
    assert pixels[1] > 1.15 * pixels[0]
    window.router.show_section()


def test_a_ring_that_nothing_stands_in_says_so(qtbot: QtBot) -> None:
    """The light stands so far before the form that its first ring ends in the air."""
    plan = Plan("p", (Passage("plate", 30.0, 900.0, ground=Ground("black"), form="plate"),))
    lits = wanted(plan, off_figure(plan))
    assert lits[0].ringed.rings[0].number > 1
    ladder = Ladder()
    qtbot.addWidget(ladder)
    ladder.resize(420, 300)
    ladder.show_lits(lits, 0.0, 0)
    picture = ladder.grab(ladder.cell(0, 0).toRect()).toImage()
    some = {picture.pixel(x, y) for x in range(picture.width()) for y in range(picture.height())}
    assert len(some) > 3


def test_what_to_lay_and_every_remark_have_their_room(qtbot: QtBot) -> None:
    plan = thing("black", "Furnace Red; water 0.5; passes 3")
    plan = edits.set_glow(plan, off_figure(plan))
    for window in opened(qtbot, plan):
        window.resize(1160, 680)
        window.menus.actions["glow"].trigger()
        glow = window.router.at(LightStation).view
        assert glow.wait_until_idle()
        glow.keep.setCurrentIndex(glow.keep.findData(True))
        glow.keep.activated.emit(glow.keep.currentIndex())
        glow.paint()
        assert glow.wait_until_idle()
        settled(window)
        assert glow.notes.count() >= 1
        for width in (1160, 1500, 1160):
            window.resize(width, 680)
            settled(window)
            assert glow.laid.height() >= glow.laid.heightForWidth(glow.laid.width())
            assert glow.notes.y() >= glow.laid.geometry().bottom()
            last = glow.notes.visualItemRect(glow.notes.item(glow.notes.count() - 1))
            assert last.bottom() <= glow.notes.viewport().height()
        window.document.forget()
