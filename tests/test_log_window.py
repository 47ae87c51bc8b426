"""The Log driven as a painter does: what came out is written, paints learn, it is undone."""

from __future__ import annotations

import csv
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from driving import closed
from zesty_veil.desktop.guess.guesspage import GuessPage
from zesty_veil.desktop.guess.station import GuessStation
from zesty_veil.desktop.logbook.logpage import LogPage
from zesty_veil.desktop.logbook.station import LogStation
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.srgb import lab_of
from zesty_veil.log.guess import Guesses
from zesty_veil.log.logbook import photograph_path
from zesty_veil.log.store import opened as opened_log


def opened(window: MainWindow) -> LogPage:
    window.menus.actions["to log"].trigger()
    page = window.router.at(LogStation).view
    settle(window)
    return page


def settle(window: MainWindow) -> None:
    for _ in range(3):
        QApplication.processEvents()
        assert window.user_store.wait_until_idle()
        assert window.router.at(LogStation).view.wait_until_idle()


def write(window: MainWindow, words: str, colour: str = "70 40 60") -> None:
    """Write down what came out at 5 mm of the flame."""
    page = opened(window)
    QTest.mouseClick(page.new, Qt.MouseButton.LeftButton)
    entry = page.entry
    assert page.pages.currentWidget() is entry
    field = entry.fields.field(0)
    field.setFocus()
    QTest.keyClicks(field, colour)
    QTest.keyClick(field, Qt.Key.Key_Tab)
    entry.notes.setPlainText(words)
    QTest.mouseClick(entry.accept, Qt.MouseButton.LeftButton)
    settle(window)


def test_a_result_is_logged_a_paint_refined_and_it_is_undone(small: MainWindow) -> None:
    before = small.user_store.rack.find("Ember Orange").paint
    write(small, "darker than I thought", "76 24 28")
    page = small.router.at(LogStation).view
    record = page.in_hand
    assert record is not None
    assert record.words == "darker than I thought"
    assert record.seen[0].lab == (76, 24, 28)
    refined = small.user_store.rack.find("Ember Orange").paint
    assert refined != before
    assert "Paints and hand learn from it" in page.record.taught.text()
    # The plan is told what would change, and has not changed.
    assert small.document.plan.rack()["Ember Orange"] == before
    page.give_up()
    assert small.wait_until_idle()
    assert "known better now" in small.line.words.text()
    # Undone: nothing is learnt from it any more.
    page = opened(small)
    QTest.mouseClick(page.record.count, Qt.MouseButton.LeftButton)
    settle(small)
    assert small.user_store.rack.find("Ember Orange").paint == before
    assert not small.user_store.hand
    assert "do not learn" in page.record.taught.text()
    QTest.mouseClick(page.record.count, Qt.MouseButton.LeftButton)
    settle(small)
    again = small.user_store.rack.find("Ember Orange").paint
    np.testing.assert_allclose(again.mu_a, refined.mu_a, rtol=1e-3)  # it is some seconds older now
    QTest.mouseClick(page.record.remove, Qt.MouseButton.LeftButton)
    settle(small)
    assert small.user_store.rack.find("Ember Orange").paint == before
    assert not page.list.lines


def test_colours_are_read_from_a_photograph(small: MainWindow, tmp_path: Path) -> None:
    """A warm light: against what is white in it, the colours come out right."""
    image = QImage(600, 400, QImage.Format.Format_RGB888)
    image.fill(QColor(90, 80, 70))
    for x in range(600):
        for y in range(400):
            if x < 150:
                image.setPixelColor(x, y, QColor(240, 225, 190))
            elif x > 400:
                image.setPixelColor(x, y, QColor(225, 120, 40))
    path = tmp_path / "figure.png"
    image.save(str(path))
    page = opened(small)
    page.enter()
    entry = page.entry
    entry.open_photograph(path)
    assert entry.wait_until_idle()
    view = entry.picture
    view.resize(600, 400)
    QTest.mouseClick(view, Qt.MouseButton.LeftButton, pos=view.at((0.8, 0.5)).toPoint())
    assert "what is white" in entry.words.text()
    shift = Qt.KeyboardModifier.ShiftModifier
    QTest.mouseClick(view, Qt.MouseButton.LeftButton, shift, view.at((0.1, 0.5)).toPoint())
    QTest.mouseClick(view, Qt.MouseButton.LeftButton, pos=view.at((0.8, 0.5)).toPoint())
    lab = entry.rows[0].lab
    assert lab is not None
    assert entry.rows[0].how == "photograph"
    plain = lab_of(np.array([225, 120, 40]) / 255)
    assert lab[2] < plain[2]  # the warm light is taken out of it
    QTest.mouseClick(entry.accept, Qt.MouseButton.LeftButton)
    settle(small)
    record = page.in_hand
    assert record is not None
    assert (
        photograph_path(small.user_store.log, record.photograph).read_bytes() == path.read_bytes()
    )
    assert page.list.lines[0].thumbnail
    assert page.record.photo.jobs.wait_until_idle()
    assert page.record.photo.isVisible()
    (tmp_path / "none.png").write_bytes(b"none")
    entry.open_photograph(tmp_path / "none.png")
    assert entry.wait_until_idle()
    assert "no picture" in entry.words.text()


def test_rows_are_added_moved_and_left_out(window: MainWindow) -> None:
    page = opened(window)
    page.enter()
    entry = page.entry
    assert entry.wait_until_idle()
    passages = [p for p in window.document.plan.passages if p.coats]
    assert len(entry.rows) == len(passages)
    entry.add_row()
    assert len(entry.rows) == len(passages) + 1
    entry.write(0, "50 20 20")
    entry.write(len(passages), "nonsense")
    assert "no colour" in entry.words.text()
    assert entry.wait_until_idle()
    record = entry.record()
    assert [seen.passage for seen in record.seen] == [passages[0].name]
    # A colour in words is taken as near to what was predicted as the words allow.
    entry.write(0, "dark blue")
    assert entry.fields.field(0).text() == "dark blue"
    (seen,) = entry.record().seen
    assert seen.how == "words"
    assert seen.lab[2] < -5
    QTest.mouseClick(entry.leave, Qt.MouseButton.LeftButton)
    assert page.pages.currentWidget() is page.shelf
    assert not page.list.lines


def test_nothing_is_written_where_nothing_was_noted(small: MainWindow) -> None:
    page = opened(small)
    QTest.keyClick(page.list, Qt.Key.Key_N)
    QTest.mouseClick(page.entry.accept, Qt.MouseButton.LeftButton)
    assert "Nothing is noted yet" in page.entry.words.text()
    page.entry.notes.setPlainText("only words")
    page.entry.minutes_text.setText("two hours")
    QTest.mouseClick(page.entry.accept, Qt.MouseButton.LeftButton)
    assert "time taken" in page.entry.words.text()
    page.entry.minutes_text.setText("120")
    QTest.mouseClick(page.entry.accept, Qt.MouseButton.LeftButton)
    settle(small)
    record = page.in_hand
    assert record is not None
    assert (record.words, record.minutes) == ("only words", 120)


def test_a_logged_plan_is_painted_again(small: MainWindow) -> None:
    write(small, "first")
    logged = small.document.plan
    small.router.give_up()
    small.section.editor.remove(1)
    assert small.document.plan != logged
    small.document.forget()
    page = opened(small)
    QTest.mouseClick(page.record.again, Qt.MouseButton.LeftButton)
    assert small.document.plan == logged
    assert small.document.path is None
    assert small.router.currentWidget() is small.section.view


def test_unsaved_work_is_asked_for_before_a_logged_plan_opens(small: MainWindow) -> None:
    write(small, "first")
    small.router.give_up()
    small.section.editor.remove(1)
    changed = small.document.plan
    page = opened(small)
    QTest.mouseClick(page.record.again, Qt.MouseButton.LeftButton)
    assert "not saved" in small.line.words.text()
    assert small.document.plan == changed
    QTest.mouseClick(small.line.answers["drop"], Qt.MouseButton.LeftButton)
    assert len(small.document.plan.passages[0].coats) == 2


def test_records_are_searched_and_given_out(small: MainWindow, tmp_path: Path) -> None:
    write(small, "pooled")
    page = small.router.at(LogStation).view
    page.give_up()
    write(small, "clean")
    page.search.setText("pooled")
    settle(small)
    assert [line.words for line in page.list.lines] == ["pooled"]
    page.search.setText("")
    settle(small)
    page.list.grab()
    settle(small)
    assert len(page.list.lines) == 2
    QTest.keyClick(page.list, Qt.Key.Key_Down)
    page.export_to(tmp_path / "log.csv")
    settle(small)
    with (tmp_path / "log.csv").open() as file:
        assert len(list(csv.DictReader(file))) == 2
    page.export_to(tmp_path / "log.doc")
    settle(small)
    assert "must end in" in small.line.words.text()


def test_another_window_sees_what_was_logged(small: MainWindow, qtbot: object) -> None:
    from conftest import small_plan  # noqa: PLC0415

    other = MainWindow(small_plan())
    other.show()
    assert other.wait_until_idle()
    write(small, "from the first window", "60 50 60")
    refined = small.user_store.rack.find("Ember Orange").paint
    other.user_store.look()
    assert other.user_store.wait_until_idle()
    assert other.user_store.rack.find("Ember Orange").paint == refined
    page = opened(other)
    assert [line.words for line in page.list.lines] == ["from the first window"]
    other.document.forget()
    closed(other)


@pytest.mark.parametrize("choice", range(5))
def test_a_guess_is_picked_shown_and_tallied(small: MainWindow, choice: int) -> None:
    small.menus.actions["to guess"].trigger()
    page = small.router.at(GuessStation).view
    assert isinstance(page, GuessPage)
    page.ask(11)
    assert page.wait_until_idle()
    asked = page.question
    assert asked is not None
    hidden = page.field.grab().toImage()
    QTest.keyClick(page.field, Qt.Key(int(Qt.Key.Key_1) + choice))
    assert page.field.grab().toImage() != hidden
    right = choice == asked.right
    assert page.told.text().startswith("Right" if right else "You expected it")
    settle(small)
    assert page.tally.text().startswith("1 of 1" if right else "0 of 1")
    # A second key does not change the answer.
    QTest.keyClick(page.field, Qt.Key.Key_5 if choice < 4 else Qt.Key.Key_1)
    with opened_log() as store:
        (kept,) = Guesses(store).all()
    assert float(ciede2000(np.array(kept.picked), asked.choices[choice])) < 1e-9
    QTest.keyClick(page.field, Qt.Key.Key_Space)
    assert page.wait_until_idle()
    assert page.question is not asked
    QTest.mouseClick(page.anew, Qt.MouseButton.LeftButton)
    settle(small)
    assert page.tally.text() == "No guess yet."
    QTest.keyClick(page.field, Qt.Key.Key_Escape)
    assert small.router.currentWidget() is small.section.view


def test_keys_hold_however_late_the_empty_log_is_found_empty(small: MainWindow) -> None:
    page = opened(small)  # all that was asked is answered here
    assert page.pages.currentWidget() is page.empty
    focus = QApplication.focusWidget()
    assert focus is not None
    assert page.isAncestorOf(focus)
    QTest.keyClick(focus, Qt.Key.Key_N)
    assert page.pages.currentWidget() is page.entry
    page.give_up()
