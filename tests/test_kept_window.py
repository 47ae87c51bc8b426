"""Racks and log in the window: large, locked, half filled, and what comes back."""

from __future__ import annotations

import sqlite3
import threading
from pathlib import Path

import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

import racking
from conftest import small_plan
from driving import closed
from test_log_window import opened as opened_page
from test_log_window import settle, write
from zesty_veil.desktop.logbook.station import LogStation
from zesty_veil.desktop.rack import takings
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.log.learning import Learning
from zesty_veil.log.racks import DEMO, Kept, Rack, Racks
from zesty_veil.log.store import Store
from zesty_veil.log.store import opened as opened_log
from zesty_veil.paint.rack import demo_rack
from zesty_veil.paths import fault_path, log_path


def press(window: MainWindow, answer: str) -> None:
    QTest.mouseClick(window.line.answers[answer], Qt.MouseButton.LeftButton)


def many_paints(count: int) -> tuple[Kept, ...]:
    paints = demo_rack()
    return tuple(Kept(replace(paints[i % len(paints)], name=f"Paint {i}")) for i in range(count))


@pytest.mark.parametrize(
    "value", ["{", "[1]", '[{"tool": "no such"}]', '[{"tool":"glaze","film":1e9}]']
)
def test_a_damaged_hand_is_set_aside_and_the_window_opens(
    value: str, dressed: QApplication
) -> None:
    Store().set("hand", value)
    window = MainWindow(small_plan())
    window.show()
    assert window.wait_until_idle()
    assert window.user_store.wait_until_idle()
    assert "your hand could not be read and is set aside" in window.line.words.text()
    assert window.user_store.hand == ()
    closed(window)
    with opened_log() as store:
        assert Learning(store).strips() == ()
        assert not store.trouble


def test_a_paint_that_was_taken_out_can_be_put_back(small: MainWindow) -> None:
    page = racking.opened(small)
    racking.take(page, "Ember Orange")
    before = small.user_store.rack
    QTest.mouseClick(page.card.drop, Qt.MouseButton.LeftButton)
    racking.settle(small)
    assert len(small.user_store.rack.paints) == len(demo_rack()) - 1
    assert "Ember Orange is out of the rack" in small.line.words.text()
    press(small, "offer")
    racking.settle(small)
    assert small.user_store.rack == before
    assert not small.line.answers


def test_a_record_that_was_taken_out_can_be_put_back(small: MainWindow) -> None:
    write(small, "first")
    page = opened_page(small)
    QTest.mouseClick(page.record.remove, Qt.MouseButton.LeftButton)
    settle(small)
    assert not page.list.rows
    press(small, "offer")
    settle(small)
    page.list.grab()
    settle(small)
    assert [line.words for line in page.list.lines] == ["first"]
    # An offer is over when something else is said.
    QTest.mouseClick(page.record.remove, Qt.MouseButton.LeftButton)
    settle(small)
    small.say("something else")
    assert not small.line.answers


def test_a_half_filled_card_is_there_again(small: MainWindow) -> None:
    page = racking.opened(small)
    racking.take(page, "Ember Orange")
    page.measure(page.in_hand)
    measuring = page.measuring
    measuring.form.thinning.setValue(2.0)
    measuring.typed.setText("70 40 60")
    measuring.type_colour()
    QTest.keyClick(measuring.card, Qt.Key.Key_Escape)
    assert page.pages.currentWidget() is page.shelf
    racking.take(page, "Kiln Yellow")
    page.measure(page.in_hand)
    assert not measuring._patches
    page.give_up()
    racking.take(page, "Ember Orange")
    page.measure(page.in_hand)
    assert len(measuring._patches) == 1
    assert measuring.form.thinning.value() == 2.0
    assert "as you left it" in measuring.words.text()
    QTest.mouseClick(measuring.anew, Qt.MouseButton.LeftButton)
    assert not measuring._patches
    racking.settle(small)


def test_a_half_written_record_is_there_again(small: MainWindow) -> None:
    page = opened_page(small)
    page.enter()
    page.entry.notes.setPlainText("pooled")
    page.entry.write(0, "50 20 20")
    page.give_up()
    page.enter()
    assert page.entry.notes.toPlainText() == "pooled"
    assert page.entry.rows[0].lab == (50, 20, 20)
    assert "not written down yet" in page.entry.words.text()
    QTest.mouseClick(page.entry.accept, Qt.MouseButton.LeftButton)
    settle(small)
    page.enter()
    assert page.entry.notes.toPlainText() == ""
    assert page.entry.wait_until_idle()


def test_a_typed_colour_stays_with_its_row_when_the_passage_is_another(window: MainWindow) -> None:
    page = opened_page(window)
    page.enter()
    entry = page.entry
    field = entry.fields.field(0)
    field.setFocus()
    QTest.keyClicks(field, "50 20 20")
    entry.fields.to_passage(0, 1)
    assert entry.rows[0].passage == 1
    assert entry.rows[0].lab == (50, 20, 20)
    assert entry.wait_until_idle()


def test_a_row_more_leaves_the_other_rows_their_fields(small: MainWindow) -> None:
    page = opened_page(small)
    page.enter()
    entry = page.entry
    entry.write(0, "50 20 20")
    before = [entry.fields.field(i) for i in range(len(entry.rows))]
    entry.add_row()
    QTest.keyClicks(entry.fields.field(len(before)), "30 5 5")
    assert [entry.fields.field(i) for i in range(len(before))] == before
    assert before[0].text() == "50.0 20.0 20.0"
    assert entry.wait_until_idle()


def test_fields_of_a_record_that_is_written_down_tell_no_more(small: MainWindow) -> None:
    page = opened_page(small)
    page.enter()
    entry = page.entry
    fields = entry.fields
    entry.write(0, "50 20 20")
    QTest.mouseClick(entry.accept, Qt.MouseButton.LeftButton)
    settle(small)
    assert entry.rows == []
    assert not fields._lines
    assert entry.wait_until_idle()
    # What was typed for another plan is not taken over into the next one's rows.
    page.enter()
    field = fields.field(0)
    field.setFocus()
    QTest.keyClicks(field, "70 1 1")
    entry.begin(replace(small.document.plan, title="Another"), 0, 0.5)
    assert entry.rows[0].lab is None
    assert fields.field(0).text() == ""
    assert entry.wait_until_idle()
    assert not fault_path().exists()


def test_a_locked_log_stops_nothing(small: MainWindow) -> None:
    """Another program holds the file: the window goes on, and what was asked is done after."""
    page = racking.opened(small)
    racking.take(page, "Kiln Yellow")
    racking.settle(small)
    with sqlite3.connect(log_path(), isolation_level=None) as db:
        db.execute("BEGIN EXCLUSIVE")
        QTest.mouseClick(page.card.statuses["empty"], Qt.MouseButton.LeftButton)
        small.section.more_passes(1)
        assert small.wait_until_idle()  # the section follows while the log waits
        assert not small.user_store._queue.idle()
        assert small.user_store.rack.find("Kiln Yellow").status == "own"
        db.execute("ROLLBACK")
    racking.settle(small)
    assert small.user_store.rack.find("Kiln Yellow").status == "empty"


def test_only_workers_open_the_log(small: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    main, threads = threading.get_ident(), set[int]()
    plain = Store.reading

    def watched(self: Store) -> object:
        threads.add(threading.get_ident())
        return plain(self)

    monkeypatch.setattr(Store, "reading", watched)
    write(small, "first")
    small.router.at(LogStation).view.give_up()
    racking.opened(small)
    assert threads
    assert main not in threads


def test_a_large_rack_is_drawn_as_it_is_seen(small: MainWindow) -> None:
    with opened_log() as store:
        Racks(store).put(Rack("Large", many_paints(300)))
        Racks(store).choose("Large")
    small.user_store.look()
    assert small.user_store.wait_until_idle()
    page = racking.opened(small)
    page.bar.order.setCurrentIndex(page.bar.order.findData("rack"))
    page.bar.changed.emit()
    racking.settle(small)
    assert page.bar.count.text() == "300 paints"
    assert page.grid.verticalScrollBar().maximum() > 4 * page.grid.height()
    QTest.keyClick(page.grid, Qt.Key.Key_End)
    racking.settle(small)
    assert page.card.name.text() == "Paint 299"
    cell = page.grid.cell("Paint 299").toRect()
    assert page.grid.viewport().rect().contains(cell.center())
    image = page.grid.viewport().grab(cell).toImage()
    assert image.pixelColor(40, 60) != image.pixelColor(40, 3)
    # Of so many a few typed letters find one.
    page.give_up()
    menu = small.section.head.paints
    menu.fill()
    QTest.keyClicks(menu.picker.search, "paint 299")
    QTest.keyClick(menu.picker.search, Qt.Key.Key_Return)
    assert menu.jobs.wait_until_idle()
    assert small.document.plan.passages[0].coats[-1].mixture.parts[0].paint.startswith("Paint ")
    assert small.wait_until_idle()


def test_taking_in_a_rack_shows_how_far_it_is_and_can_be_stopped(
    small: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(takings, "_TELL_S", 0.0)
    (tmp_path / "mine.csv").write_text(
        "name,kind,white\n" + "".join(f"P{i},ink,#8040{i:02d}\n" for i in range(40))
    )
    page = racking.opened(small)
    told: list[tuple[str, int, int]] = []
    page.takings.going.connect(lambda *what: told.append(what))

    def stop(words: str, done: int, total: int) -> None:
        if done >= 3:
            QTest.mouseClick(page.bar.stop, Qt.MouseButton.LeftButton)

    page.takings.going.connect(stop)
    page.import_from(tmp_path / "mine.csv")
    racking.settle(small)
    assert told[0][2] == 40
    assert told[-1] == ("", 0, 0)
    assert small.line.words.text() == "Stopped."
    assert small.user_store.rack.name == DEMO
    assert not page.bar.stop.isVisible()


def test_racks_given_out_one_after_the_other_are_all_written(
    small: MainWindow, tmp_path: Path
) -> None:
    page = racking.opened(small)
    for name in ("a.json", "b.gpl", "c.json"):
        page.export_to(tmp_path / name)
    racking.settle(small)
    assert {"a.json", "b.gpl", "c.json"} <= {p.name for p in tmp_path.iterdir()}
