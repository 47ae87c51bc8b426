"""The rail leads from every station to every station; the start page begins work in two presses."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import small_plan
from driving import drop, go, saved
from zesty_veil.desktop.glow.station import LightStation
from zesty_veil.desktop.match.station import MatchStation
from zesty_veil.desktop.shell.stations import STATIONS
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.desktop.sitting.station import SittingStation
from zesty_veil.desktop.start.startpage import StartPage
from zesty_veil.desktop.start.station import StartStation
from zesty_veil.plan import edits
from zesty_veil.plan.fileformat import save
from zesty_veil.plan.model import Ground, Passage
from zesty_veil.plan.samples import sample
from zesty_veil.predict.field import SITE_RELIEF, axis, predict
from zesty_veil.services.starting import DEMOS, TRIAL_PASSES

LEFT = Qt.MouseButton.LeftButton


def start_of(window: MainWindow) -> StartPage:
    go(window, "start")
    assert window.user_store.writes.wait_until_idle()
    page = window.router.at(StartStation).view
    assert page.wait_until_idle()
    return page


def open_pages(window: MainWindow) -> None:
    """Let what a station asked for come in before the next one is opened."""
    assert window.user_store.wait_until_idle()
    assert window.wait_until_idle()
    for page in (window.router.at(MatchStation).view, window.router.at(SittingStation).view):
        assert page.wait_until_idle()


def test_the_rail_leads_from_every_station_to_every_station(small: MainWindow) -> None:
    # Forth and back, and by twos: each is reached from others, none by way of the section.
    names = [station.id for station in STATIONS]
    for name in (*names, *reversed(names), *names[::2], *names[1::2]):
        go(small, name)
        assert small.router.station == name
        assert small.rail.tabs.marked == name
    open_pages(small)
    go(small, "section")
    assert small.router.currentWidget() is small.section.view


def test_function_keys_lead_everywhere_in_the_order_of_the_rail(small: MainWindow) -> None:
    work = [station for station in STATIONS if not station.aside]
    assert [station.key for station in work] == [f"F{n}" for n in range(2, 10)]
    for station, key in zip(work, range(Qt.Key.Key_F2, Qt.Key.Key_F9 + 1), strict=True):
        QTest.keyClick(QApplication.focusWidget() or small, Qt.Key(key))
        assert small.router.station == station.id
    open_pages(small)
    small.router.show_section()


def test_a_light_is_two_presses_away_where_nothing_shines_yet(small: MainWindow) -> None:
    before = small.document.plan
    go(small, "light")
    page = small.router.at(LightStation).start
    assert small.router.page is page
    assert small.rail.tabs.marked == "light"
    (beside,) = page.empty.buttons
    QTest.mouseClick(beside, LEFT)
    assert small.router.page is small.router.at(LightStation).view
    # It is no passage, and changes none.
    assert small.document.plan.passages == before.passages
    assert small.document.plan.glow is not None
    assert small.document.plan.glow.source == ""
    assert small.router.at(LightStation).view.wait_until_idle()
    small.router.give_up()
    small.document.undo()
    assert small.document.plan == before
    # With several passages, one of them is chosen to shine on the others.
    small.document.edit(edits.add_passage(before, Passage("cloak")), "a cloak")
    go(small, "light")
    assert [b.text() for b in page.empty.buttons] == [
        "“flame” shines on the others", "“cloak” shines on the others", "A light off the figure",
    ]  # fmt: skip
    QTest.keyClick(page.empty.buttons[0], Qt.Key.Key_Escape)
    assert small.router.station == "section"
    go(small, "light")
    QTest.mouseClick(page.empty.buttons[0], LEFT)
    assert [p.lit_by for p in small.document.plan.passages] == [None, "flame"]
    assert small.router.at(LightStation).view.wait_until_idle()
    small.router.show_section()
    assert small.wait_until_idle()


def test_a_sitting_without_coats_leads_to_the_first_one(
    small: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    bare = edits.with_coats(small.document.plan.passages[0], ())
    small.document.edit(edits.set_passage(small.document.plan, 0, bare), "nothing laid")
    go(small, "sitting")
    page = small.router.at(SittingStation).start
    assert small.router.page is page
    offered: list[bool] = []
    monkeypatch.setattr(small.section, "open_rack", lambda: offered.append(True))
    QTest.mouseClick(page.empty.buttons[0], LEFT)
    assert small.router.station == "section"
    assert offered == [True]
    go(small, "sitting")
    QTest.mouseClick(page.empty.buttons[1], LEFT)
    assert small.router.station == "start"
    assert start_of(small).isVisible()
    small.document.undo()
    go(small, "sitting")
    assert small.router.page is small.router.at(SittingStation).view
    open_pages(small)
    small.router.show_section()


def test_a_demo_is_two_presses_away(small: MainWindow) -> None:
    page = start_of(small)
    assert [card.accessibleName() for card in page.cards] == [sample(n).title for n in DEMOS]
    colours = page.cards[0].grab().toImage()
    assert colours.pixelColor(40, 24).saturation() > 60  # a ribbon of fire stands on it
    QTest.mouseClick(page.cards[1], LEFT)
    assert small.document.plan == sample(DEMOS[1])
    assert small.router.station == "section"
    assert not small.document.unsaved


def test_what_was_open_last_stands_there_and_is_gone_on_with(
    small: MainWindow, tmp_path: Path
) -> None:
    assert saved(small, tmp_path / "mine.veil")
    save(edits.retitle(small_plan(), "Another"), tmp_path / "other.veil")
    page = start_of(small)
    mine = page.cards[-1]
    assert mine.accessibleName() == "A small plan"
    assert page.nothing.isHidden()
    QTest.keyClick(page, Qt.Key.Key_Escape)
    small.section.more_passes(1)
    page = start_of(small)
    QTest.mouseClick(page.cards[-1], LEFT)
    assert "changes that are not saved" in small.line.words.text()
    QTest.mouseClick(small.line.answers["drop"], LEFT)
    assert small.user_store.writes.wait_until_idle()
    assert small.document.path == tmp_path / "mine.veil"
    assert small.router.station == "section"


@pytest.mark.parametrize("primer", ["white", "black"])
def test_one_glaze_is_tried_without_a_plan_and_one_press_makes_one(
    small: MainWindow, primer: str
) -> None:
    page = start_of(small)
    page.paint.setCurrentIndex(page.paint.findText("Furnace Red"))
    page.paint.activated.emit(page.paint.currentIndex())
    page.ground.setCurrentIndex(page.ground.findData(primer))
    page.ground.activated.emit(page.ground.currentIndex())
    page.thinning.setCurrentIndex(page.thinning.findData(3.0))
    page.thinning.activated.emit(page.thinning.currentIndex())
    assert page.wait_until_idle()
    trial = page.trial
    assert trial is not None
    # What is shown is what the prediction of such a plan shows.
    shot = page.glaze.grab().toImage()
    for passes in (0, *TRIAL_PASSES):
        coats = (edits.with_passes(trial.coat, passes),) if passes else ()
        passage = Passage("p", ground=Ground(primer), coats=coats)  # type: ignore[arg-type]
        rgb = predict(passage, {trial.paint.name: trial.paint}, axis(1), SITE_RELIEF).rgb[0]
        for row, site in enumerate((2, 1, 0)):  # ridge above
            at = page.glaze.cell(row, passes).center().toPoint()
            drawn = shot.pixelColor(at)
            wanted = np.round(rgb[site] * 255)
            assert np.abs(np.array([drawn.red(), drawn.green(), drawn.blue()]) - wanted).max() <= 1
    QTest.mouseClick(page.use, LEFT)
    (made,) = small.document.plan.passages
    assert made.ground.primer == primer
    assert made.coats == (edits.with_passes(trial.coat, 2),)
    assert small.router.station == "section"
    assert small.wait_until_idle()


def test_files_are_dropped_on_the_window(small: MainWindow, tmp_path: Path) -> None:
    save(edits.retitle(small_plan(), "Dropped"), tmp_path / "a.veil")
    assert drop(small, tmp_path / "a.veil")
    assert small.user_store.writes.wait_until_idle()
    assert small.document.plan.title == "Dropped"
    image = QImage(40, 40, QImage.Format.Format_RGB32)
    image.fill(0x808080)
    assert image.save(str(tmp_path / "a.PNG"))
    assert drop(small, tmp_path / "a.PNG")
    assert small.router.station == "match"
    assert small.router.at(MatchStation).view.wait_until_idle()
    assert small.router.at(MatchStation).view.shows_picture
    (tmp_path / "a.stl").write_text("solid x\nendsolid x\n")
    assert drop(small, tmp_path / "a.stl")
    assert small.router.page is small.router.sculpt
    assert small.router.sculpt.wait_until_idle()
    (tmp_path / "a.txt").write_text("words")
    assert not drop(small, tmp_path / "a.txt")
    small.router.show_section()
    assert small.wait_until_idle()
