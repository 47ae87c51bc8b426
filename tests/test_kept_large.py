"""Large racks and logs, damaged ones, and what was taken out and comes back."""

from __future__ import annotations

import sqlite3
import stat
import threading
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

import racking
from conftest import small_plan
from test_log import record, seen
from test_log_window import opened as opened_page
from test_log_window import settle, write
from zesty_veil.desktop.rack import takings
from zesty_veil.desktop.window import MainWindow
from zesty_veil.errors import LogError
from zesty_veil.faultlog import fault_path
from zesty_veil.log.drawn import Laid, drawn, one_by_one
from zesty_veil.log.guess import Guesses
from zesty_veil.log.learning import Learning
from zesty_veil.log.logbook import Logbook
from zesty_veil.log.racks import DEMO, Kept, Rack, Racks
from zesty_veil.log.store import Store, log_path
from zesty_veil.log.store import opened as opened_log
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import USUAL_TOOL
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.model import Coat


def press(window: MainWindow, answer: str) -> None:
    QTest.mouseClick(window.line.answers[answer], Qt.MouseButton.LeftButton)


def many_paints(count: int) -> tuple[Kept, ...]:
    paints = demo_rack()
    return tuple(Kept(replace(paints[i % 31], name=f"Paint {i}")) for i in range(count))


@pytest.fixture
def book() -> Logbook:
    return Logbook(Store())


@pytest.mark.parametrize("indexed", [True, False])
def test_searching_is_the_same_with_and_without_an_index(book: Logbook, indexed: bool) -> None:
    book._store.indexed = indexed
    book.add(record("2026-01-01T00:00:00+00:00", 'Said "50 % off_\\ x" & ÄRGER'))
    book.add(record("2026-02-01T00:00:00+00:00", "clean"))
    for words, wanted in (
        ("ärger", (1,)), ('"50', (1,)), ("off_", (1,)), ("o_f", ()), ("%", (1,)), ("100%", ()),
        ("\\", (1,)), ("cl", (2,)), ("an", (2, 1)), ("lean EMBER", (2,)), ("", (2, 1)),
        ("NEAR OR AND", ()), ("*", ()), ("(", ()),
    ):  # fmt: skip
        assert book.numbers(words) == wanted, words


def test_lists_follow_what_is_added_and_taken_out(book: Logbook) -> None:
    numbers = [book.add(record(f"2026-01-{d:02d}T00:00:00+00:00", f"day{d}")) for d in (3, 1, 2)]
    assert book.numbers() == (numbers[0], numbers[2], numbers[1])
    assert book.numbers("day2") == (numbers[2],)
    removed = book.remove(numbers[2])
    assert removed is not None
    assert book.numbers("day2") == ()
    assert book.numbers() == (numbers[0], numbers[1])
    assert book.put_back(removed) == numbers[2]
    assert book.numbers("day2") == (numbers[2],)
    assert book.get(numbers[2]) == removed.record
    with opened_log() as other:
        Logbook(other).add(record("2026-05-01T00:00:00+00:00", "from another window"))
    assert len(book.numbers()) == 4
    assert [line.words for line in book.page(book.numbers("another"))] == ["from another window"]


def test_a_record_comes_back_with_its_photograph(book: Logbook) -> None:
    number = book.add(record(), (".jpg", b"picture"), b"small")
    name = book.get(number).photograph
    removed = book.remove(number)
    assert removed is not None
    assert not book.photograph_path(name).exists()
    book.put_back(removed)
    assert book.photograph_path(name).read_bytes() == b"picture"
    assert stat.S_IMODE(book.photograph_path(name).stat().st_mode) == 0o600
    assert stat.S_IMODE(book.photograph_path(name).parent.stat().st_mode) == 0o700
    assert stat.S_IMODE(log_path().stat().st_mode) == 0o600
    assert book.page([number])[0].thumbnail == b"small"


def test_an_index_that_another_program_left_behind_is_made_anew(book: Logbook) -> None:
    book._store.indexed = False  # as a program without the index writes
    book.add(record(words="unindexed"))
    book._store.close()
    assert len(Logbook(Store()).numbers("unindexed")) == 1


def test_the_newest_of_each_paint_teach(book: Logbook) -> None:
    other = replace(small_plan(), passages=(replace(small_plan().passages[0], coats=()),))
    rare = book.add(record("2025-01-01T00:00:00+00:00"))
    book.add(record("2026-06-01T00:00:00+00:00", plan=other, seen=()))
    ignored = book.add(record("2026-05-01T00:00:00+00:00"))
    book.count(ignored, False)
    numbers = [book.add(record(f"2026-01-{d:02d}T00:00:00+00:00")) for d in range(1, 9)]
    assert book.that_teach(3, 100) == tuple(reversed(numbers[-3:]))
    assert book.that_teach(100, 100) == (*reversed(numbers), rare)
    assert len(book.that_teach(100, 4)) == 4


def test_what_an_older_program_wrote_is_listed_at_once_and_reckoned_later(book: Logbook) -> None:
    number = book.add(record(words="Old", seen=(seen((66.0, 40.0, 50.0)),)))
    with book._store.writing() as db:
        db.execute("UPDATE listing SET de = NULL, reckoned = 0")
        db.execute("DELETE FROM used")
    assert book.trend() == ()
    assert book.numbers("old") == (number,)
    assert book.reckon() == 1
    assert book.reckon() == 0
    assert len(book.trend()) == 1
    assert "Ember Orange" in book.titles()


def spoil(table: str, value: object, where: str = "1") -> None:
    with sqlite3.connect(log_path()) as db:
        db.execute(f"UPDATE {table} SET document = ? WHERE {where}", (value,))


@pytest.mark.parametrize("value", [b"\xff{", b"{}", "text", 7, 2.5, b"[" * 50_000])
def test_damaged_records_are_left_out_said_and_taken_out(book: Logbook, value: object) -> None:
    one, other = book.add(record(words="good")), book.add(record(words="bad"))
    spoil("record", value, f"number = {other}")
    assert [r.number for r in book.all()] == [one]
    with pytest.raises(LogError, match=f"Record {other} of the log is damaged"):
        book.get(other)
    assert book.remove(other) is None
    assert book.numbers() == (one,)


@pytest.mark.parametrize("value", [b"\xff{", b"{}", "text", 10**9])
def test_a_damaged_paint_is_set_aside_and_said_once(value: object) -> None:
    store = Store()
    racks = Racks(store)
    spoil("racked", value, "paint = 'Kiln Yellow'")
    assert len(racks.get().paints) == 30
    assert len(store.trouble) == 1
    assert "Kiln Yellow could not be read and is set aside" in store.trouble[0]
    assert len(racks.get().paints) == 30
    assert len(store.trouble) == 1
    with store.reading() as db:
        assert db.execute("SELECT count(*) FROM damaged").fetchone() == (1,)


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
    assert window.keeping.wait_until_idle()
    assert "your hand could not be read and is set aside" in window.line.words.text()
    assert window.keeping.hand == ()
    window.close()
    with opened_log() as store:
        assert Learning(store).strips() == ()
        assert not store.trouble


def test_damaged_guesses_do_not_count() -> None:
    store = Store()
    with store.writing() as db:
        for value in (b"{", "x", 5):
            db.execute("INSERT INTO guess (moment, document) VALUES ('', ?)", (value,))
    assert Guesses(store).all() == ()


def test_a_closed_log_is_not_called_damaged() -> None:
    store = Store()
    store.close()
    with pytest.raises(LogError, match="closed database"):
        store.setting("rack")


def test_a_paint_that_was_taken_out_can_be_put_back(small: MainWindow) -> None:
    page = racking.opened(small)
    racking.take(page, "Ember Orange")
    before = small.keeping.rack
    QTest.mouseClick(page.card.drop, Qt.MouseButton.LeftButton)
    racking.settle(small)
    assert len(small.keeping.rack.paints) == 30
    assert "Ember Orange is out of the rack" in small.line.words.text()
    press(small, "offer")
    racking.settle(small)
    assert small.keeping.rack == before
    assert not small.line.answers


def test_a_record_that_was_taken_out_can_be_put_back(small: MainWindow) -> None:
    write(small, "first")
    page = opened_page(small)
    QTest.mouseClick(page.record.remove, Qt.MouseButton.LeftButton)
    settle(small)
    assert not page.list.numbers
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
    entry.fields._passage(0, 1)
    assert entry.rows[0].passage == 1
    assert entry.rows[0].lab == (50, 20, 20)
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
    assert not fields._fields
    assert entry.wait_until_idle()
    # What was typed for another plan is not taken over into the next one's rows.
    page.enter()
    field = fields.field(0)
    field.setFocus()
    QTest.keyClicks(field, "70 1 1")
    entry.begin(replace(small.document.plan, title="Another"), 0, 0.5)
    assert entry.rows[0].lab is None
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
        small.station.more_passes(1)
        assert small.wait_until_idle()  # the section follows while the log waits
        assert not small.keeping._queue.idle()
        assert small.keeping.rack.find("Kiln Yellow").status == "own"
        db.execute("ROLLBACK")
    racking.settle(small)
    assert small.keeping.rack.find("Kiln Yellow").status == "empty"


def test_only_workers_open_the_log(small: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    main, threads = threading.get_ident(), set[int]()
    plain = Store.reading

    def watched(self: Store) -> object:
        threads.add(threading.get_ident())
        return plain(self)

    monkeypatch.setattr(Store, "reading", watched)
    write(small, "first")
    small.station.stage.log.give_up()  # type: ignore[union-attr]
    racking.opened(small)
    assert threads
    assert main not in threads


def test_a_large_rack_is_drawn_as_it_is_seen(small: MainWindow) -> None:
    with opened_log() as store:
        Racks(store).put(Rack("Large", many_paints(300)))
        Racks(store).choose("Large")
    small.keeping.look()
    assert small.keeping.wait_until_idle()
    page = racking.opened(small)
    assert page.bar.count.text() == "300 paints"
    assert page.grid.minimumHeight() > 5 * page.shelves.height()
    QTest.keyClick(page.grid, Qt.Key.Key_End)
    racking.settle(small)
    assert page.card.name.text() == "Paint 299"
    cell = page.grid.cell("Paint 299").toRect()
    assert page.grid.visibleRegion().contains(cell.center())
    image = page.grid.grab(cell).toImage()
    assert image.pixelColor(40, 60) != image.pixelColor(40, 3)
    # A menu of so many is parted.
    page.give_up()
    menu = small.station.add_button.menu()
    menu.aboutToShow.emit()
    assert len(menu.actions()) < 12
    part = menu.actions()[0].menu()
    part.aboutToShow.emit()
    part.actions()[-1].trigger()
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
    assert small.keeping.rack.name == DEMO
    assert not page.bar.stop.isVisible()


def test_racks_given_out_one_after_the_other_are_all_written(
    small: MainWindow, tmp_path: Path
) -> None:
    page = racking.opened(small)
    for name in ("a.json", "b.gpl", "c.json"):
        page.export_to(tmp_path / name)
    racking.settle(small)
    assert {"a.json", "b.gpl", "c.json"} <= {p.name for p in tmp_path.iterdir()}


def test_films_at_once_are_films_one_by_one() -> None:
    """What a drawdown shows at once equals its passes followed one by one, for every paint."""
    for paint in demo_rack():
        for laid in (Laid(), Laid(3.0, "medium"), Laid(6.0), Laid(1.0, "water", "sponge")):
            coat = Coat(
                Mixture((Part(paint.name),), laid.thinner, laid.thinning),
                laid.tool or USUAL_TOOL[paint.kind],
            )
            slow = one_by_one(coat, {paint.name: paint}, np.zeros(1))
            np.testing.assert_allclose(drawn(paint, laid).lab, slow, atol=1e-9)
