"""The Rack driven as a painter does: drawdowns, pots, sorting, racks in and out."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from driving import closed
from racking import opened, settle, take
from zesty_veil.desktop.guess.station import GuessStation
from zesty_veil.desktop.logbook.station import LogStation
from zesty_veil.desktop.rack.station import RackStation
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.light.srgb import srgb
from zesty_veil.log.drawn import DrawdownMix, paint_drawdown
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.model import OwnTool
from zesty_veil.plan.refining import in_hand


def test_paints_are_drawn_as_they_lie(small: MainWindow) -> None:
    page = opened(small)
    # At first they are thinned as the coat in hand is.
    assert page.bar.thinning.value() == 3.0
    page.bar.thinning.setValue(0.0)
    settle(small)
    for name in ("Kiln Yellow", "Harbour Violet"):
        page.grid.take(name)
        image = page.grid.viewport().grab().toImage()
        cell = page.grid.cell(name)
        lab = paint_drawdown(next(p for p in demo_rack() if p.name == name), DrawdownMix()).lab
        for row, y in ((0, 40), (1, 82)):
            for k, share in ((1, 0.12), (4, 0.88)):
                pixel = image.pixelColor(
                    round(cell.x() + share * cell.width()), round(cell.y() + y)
                )
                shown = np.array([pixel.red(), pixel.green(), pixel.blue()])
                np.testing.assert_allclose(shown, srgb(lab[row, k])[0] * 255, atol=1.5)


def test_the_paint_in_hand_follows_mouse_and_keys(small: MainWindow) -> None:
    page = opened(small)
    take(page, "Ember Orange")
    settle(small)
    assert page.card.name.text() == "Ember Orange"
    assert "flame (this plan)" in page.card.used.text()
    assert "Nearest at hand" in page.card.near.text()
    QTest.keyClick(page.grid, Qt.Key.Key_Right)
    assert page.card.name.text() == "Furnace Red"
    QTest.keyClick(page.grid, Qt.Key.Key_Home)
    assert page.card.name.text() == "Lime White"


def press(key: Qt.Key) -> None:
    """Press a key where the focus is, as a hand does."""
    focus = QApplication.focusWidget()
    assert focus is not None
    QTest.keyClick(focus, key)
    QApplication.processEvents()


def test_pages_take_keys_as_soon_as_they_are_open(small: MainWindow) -> None:
    small.activateWindow()
    small.section.view.setFocus()
    router = small.router
    press(Qt.Key.Key_F7)
    settle(small)
    press(Qt.Key.Key_Right)
    assert router.at(RackStation).view.card.name.text() == "Driftbone Ivory"
    press(Qt.Key.Key_M)
    press(Qt.Key.Key_Right)
    assert router.at(RackStation).view.measuring.card.in_hand == ("white", 2)
    press(Qt.Key.Key_Escape)
    press(Qt.Key.Key_Right)
    assert router.at(RackStation).view.card.name.text() == "Pewter Grey"
    press(Qt.Key.Key_Escape)
    assert router.currentWidget() is small.section.view
    press(Qt.Key.Key_F9)
    assert router.at(GuessStation).view.wait_until_idle()
    press(Qt.Key.Key_3)
    assert router.at(GuessStation).view.field.choice == 2
    press(Qt.Key.Key_Escape)
    press(Qt.Key.Key_F8)
    press(Qt.Key.Key_N)
    assert router.at(LogStation).view.pages.currentWidget() is router.at(LogStation).view.entry
    press(Qt.Key.Key_Escape)
    press(Qt.Key.Key_Escape)
    assert router.currentWidget() is small.section.view


def test_thinning_order_and_search_change_what_is_shown(small: MainWindow) -> None:
    page = opened(small)
    neat = page.grid.viewport().grab().toImage()
    page.bar.thinning.setValue(4.0)
    settle(small)
    assert page.grid.viewport().grab().toImage() != neat
    page.bar.order.setCurrentIndex(page.bar.order.findData("hue"))
    page.bar.order.activated.emit(0)
    page.bar.search.setText("violet")
    settle(small)
    assert page.bar.count.text() == "5 of 67 paints"
    page.bar.search.setText("")
    settle(small)
    assert page.bar.count.text() == "67 paints"


def test_an_empty_pot_leaves_the_menus(small: MainWindow) -> None:
    page = opened(small)
    take(page, "Kiln Yellow")
    QTest.mouseClick(page.card.statuses["empty"], Qt.MouseButton.LeftButton)
    page.card.notes.setPlainText("dried up")
    settle(small)
    take(page, "Lamp Black")
    settle(small)
    kept = small.user_store.rack.find("Kiln Yellow")
    assert (kept.status, kept.notes) == ("empty", "dried up")
    assert "Kiln Yellow" not in {p.name for p in small.section.rack.paints()}
    page.bar.status.setCurrentIndex(page.bar.status.findData("empty"))
    page.bar.status.activated.emit(0)
    settle(small)
    assert page.bar.count.text() == "1 of 67 paints"


def test_racks_are_made_taken_in_and_given_out(small: MainWindow, tmp_path: Path) -> None:
    page = opened(small)
    page.export_to(tmp_path / "mine.json")
    settle(small)
    QTest.mouseClick(page.bar.new, Qt.MouseButton.LeftButton)
    settle(small)
    assert small.user_store.rack.name == "My paints"
    assert not small.user_store.rack.paints
    page.import_from(tmp_path / "mine.json")
    settle(small)
    assert small.user_store.rack.name == "Brackwater 2"
    assert len(small.user_store.rack.paints) == len(demo_rack())
    (tmp_path / "bad.json").write_text("{")
    page.import_from(tmp_path / "bad.json")
    settle(small)
    assert "bad.json" in small.line.words.text()
    assert small.user_store.rack.name == "Brackwater 2"
    page.bar.racks.setCurrentIndex(page.bar.racks.findData("Brackwater"))
    page.bar.racks.activated.emit(0)
    settle(small)
    assert small.user_store.rack.name == "Brackwater"


def test_new_passages_are_laid_by_the_plans_own_hand(small: MainWindow) -> None:
    hand = (OwnTool("glaze", 1.4, 0.2),)
    small.document.edit(in_hand(small.document.plan, hand), "own hand")
    small.section.passages.add_passage()
    assert [passage.own_hand for passage in small.document.plan.passages] == [hand, hand]
    small.document.undo(2)
    assert [passage.own_hand for passage in small.document.plan.passages] == [()]


def test_passages_and_looks_make_room(small: MainWindow) -> None:
    page = opened(small)
    assert not small.section.passages.isVisible()
    assert page.grid.width() > 800
    QTest.keyClick(page.grid, Qt.Key.Key_Escape)
    assert small.section.passages.isVisible()
    assert small.router.currentWidget() is small.section.view


def test_a_log_that_cannot_be_used_is_told_and_the_demo_rack_serves(
    tmp_path: Path, dressed: QApplication, monkeypatch: pytest.MonkeyPatch
) -> None:
    from conftest import small_plan  # noqa: PLC0415

    folder = tmp_path / "xdg_data_home" / "zesty-veil"
    folder.mkdir(parents=True)
    (folder / "log.sqlite").write_bytes(b"no log " * 400)
    window = MainWindow(small_plan())
    window.show()
    assert window.wait_until_idle()
    assert "damaged or is no log" in window.line.words.text()
    assert len(window.section.rack.paints()) == len(demo_rack())
    page = opened(window)
    take(page, "Kiln Yellow")
    QTest.mouseClick(page.card.statuses["empty"], Qt.MouseButton.LeftButton)
    settle(window)
    assert (folder / "log.sqlite").read_bytes().startswith(b"no log ")
    window.document.forget()
    closed(window)
