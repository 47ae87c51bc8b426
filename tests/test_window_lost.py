"""Work that must not be lost in the window: two windows on a plan, names, undo, refused edits."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path

import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from conftest import small_plan
from driving import closed, coats, looked, offered, opened, opens, saved
from zesty_veil.desktop.kit.theme import font
from zesty_veil.desktop.session.autosave import left_behind
from zesty_veil.desktop.session.recent import recent, remember
from zesty_veil.desktop.shell import exporting
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.rack import demo_rack
from zesty_veil.paths import unsaved_folder
from zesty_veil.plan import edits
from zesty_veil.plan.fileformat import load, save
from zesty_veil.plan.model import Coat, Passage, Plan


@pytest.fixture
def other(qtbot: QtBot, dressed: QApplication) -> Iterator[MainWindow]:
    """A second window."""
    yield from opened(qtbot, small_plan())


def press(window: MainWindow, answer: str) -> None:
    QTest.mouseClick(window.line.answers[answer], Qt.MouseButton.LeftButton)
    assert window.user_store.writes.wait_until_idle()


def both_open(one: MainWindow, other: MainWindow, path: Path) -> None:
    """Open a plan in two windows, and let each change it otherwise; the first one saves."""
    save(small_plan(), path)
    assert opens(one, path)
    assert opens(other, path)
    one.section.more_passes(3)
    other.section.more_passes(-1)
    assert saved(one)


def test_the_second_window_is_told_who_was_first(
    small: MainWindow, other: MainWindow, tmp_path: Path
) -> None:
    path = tmp_path / "a.veil"
    save(small_plan(), path)
    assert opens(small, path)
    assert small.line.words.text() == small.line._rest
    assert opens(other, path)
    assert "a.veil is also open" in other.line.words.text()
    assert "another window" in other.line.words.text()
    # When the first is closed the second one holds it, and nothing is left beside the plan.
    closed(small)
    looked(other)
    assert other.files._lock.held
    closed(other)
    assert [p.name for p in tmp_path.iterdir() if p.is_file()] == ["a.veil"]


def test_saving_second_asks_and_each_answer_keeps_both(
    small: MainWindow, other: MainWindow, tmp_path: Path
) -> None:
    path = tmp_path / "a.veil"
    both_open(small, other, path)
    assert not saved(other)
    assert "saved by somebody else" in other.line.words.text()
    assert load(path).passages[0].coats[1].passes == 5
    press(other, "later")
    assert not saved(other)
    press(other, "copy")
    assert load(tmp_path / "a 2.veil").passages[0].coats[1].passes == 1
    assert load(path).passages[0].coats[1].passes == 5
    assert other.document.path == tmp_path / "a 2.veil"


def test_theirs_is_taken_as_a_step_that_can_be_undone(
    small: MainWindow, other: MainWindow, tmp_path: Path
) -> None:
    path = tmp_path / "a.veil"
    both_open(small, other, path)
    looked(other)  # as the clock does every two seconds
    assert "saved by somebody else just now" in other.line.words.text()
    press(other, "theirs")
    assert coats(other)[1].passes == 5
    assert not other.document.unsaved
    other.document.undo()
    assert coats(other)[1].passes == 1
    assert saved(other)  # what is there has been seen now
    looked(small)
    press(small, "mine")
    assert load(path).passages[0].coats[1].passes == 5
    looked(small)
    assert not small.line.answers


def test_a_file_that_was_only_touched_or_moved_away_asks_nothing(
    small: MainWindow, tmp_path: Path
) -> None:
    path = tmp_path / "a.veil"
    assert saved(small, path)
    path.write_bytes(path.read_bytes())
    looked(small)
    assert not small.line.answers
    path.unlink()
    looked(small)
    small.section.more_passes(1)
    assert saved(small)
    assert load(path).passages[0].coats[1].passes == 3


def test_an_ending_that_is_added_never_replaces_a_file_unasked(
    small: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "flame.veil"
    save(edits.retitle(small_plan(), "Precious"), path)
    chosen = str(tmp_path / "flame")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (chosen, ""))
    small.menus.actions["save as"].trigger()
    assert "flame.veil is there already" in small.line.words.text()
    press(small, "stay")
    assert load(path).title == "Precious"
    small.menus.actions["save as"].trigger()
    press(small, "replace")
    assert load(path).title == "A small plan"
    (tmp_path / "flame.md").write_text("precious")
    small.menus.actions["steps"].trigger()
    assert small.user_store.writes.wait_until_idle()
    assert (tmp_path / "flame.md").read_text() == "precious"
    press(small, "replace")
    assert small.user_store.writes.wait_until_idle()
    assert "Lime White" in (tmp_path / "flame.md").read_text()


def test_three_exports_in_a_row_are_all_written_and_every_failure_is_said(
    small: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    gate, said = threading.Event(), []
    plain = exporting.write_export

    def slow(plan: Plan, path: Path) -> None:
        assert gate.wait(10)
        plain(plan, path)

    monkeypatch.setattr(exporting, "write_export", slow)
    small.exporter.said.connect(said.append)
    for name in ("no/a.md", "b.md", "c.md"):
        small.exporter.export(small.document.plan, tmp_path / name)
    gate.set()
    assert small.user_store.writes.wait_until_idle()
    assert {p.name for p in tmp_path.iterdir()} >= {"b.md", "c.md"}
    assert any("a.md cannot be written" in words for words in said)


def test_a_gesture_that_ends_where_it_began_takes_no_step_from_before(small: MainWindow) -> None:
    document = small.document
    document.edit(edits.retitle(document.plan, "Torch"), "title")
    for more in (1, -1, 1):
        small.section.more_passes(more)
    assert coats(small)[1].passes == 3
    document.undo()
    assert coats(small)[1].passes == 2
    assert document.plan.title == "Torch"
    document.undo()
    assert document.plan.title == "A small plan"


def test_a_paint_swapped_for_one_that_is_in_the_pot_keeps_within_limits() -> None:
    coat = Coat(Mixture((Part("a", 60), Part("b", 60))))
    (part,) = edits.swap_paint(coat, "a", "b").mixture.parts
    assert part.parts == 99  # what a file can hold


def test_an_edit_that_no_file_could_hold_is_refused(small: MainWindow) -> None:
    before = small.document.plan
    mixture = Mixture((Part("Lime White", 120.0),))
    small.section.editor.change(0, Coat(mixture), "too much")
    assert small.document.plan is before
    assert "parts of 'Lime White' is 120; it must be from 0.01 to 99" in small.line.words.text()
    small.document.preview(edits.set_coat(before, 0, 0, Coat(mixture)))
    small.document.commit("too much")
    assert small.document.plan is before
    assert not small.document.unsaved


def test_a_remedy_is_of_the_plan_that_is_shown(small: MainWindow, tmp_path: Path) -> None:
    """Between a new plan's first forecast and its remarks, those of the old plan do nothing."""
    plan = small_plan()
    rack = {paint.name: paint for paint in demo_rack()}
    flame = plan.passages[0]
    hidden = replace(flame, coats=(*flame.coats, edits.usual_coat(rack["Lime White"])))
    hidden = replace(hidden, coats=(*hidden.coats, edits.with_passes(hidden.coats[-1], 4)))
    old = replace(plan, passages=(hidden,))
    small.files.show(old, None)
    assert small.wait_until_idle()
    remarks = small.section.forecast.remarks if small.section.forecast else ()
    assert remarks
    remark = next(r for r in remarks if r.mend is not None)
    new = Plan("Another", (Passage("empty"), replace(flame, name="other")), plan.paints)
    small.files.show(new, None)
    assert not small.line.mend.isVisible()
    for _ in range(200):
        small.section.remedies.apply(remark)
        QApplication.processEvents()
        if small.section.forecast is not None and small.section.forecast.remarks is not None:
            break
        time.sleep(0.002)
    small.section.remedies.apply(remark)
    assert small.document.plan == new


def test_stale_state_is_put_aside_and_work_goes_on(tmp_path: Path) -> None:
    assert remember(tmp_path / "a.veil")
    store = unsaved_folder().parent / "recent.json"
    for raw in (b'["\xff\xfe"]', b"[1, 2]", b"{", b"[" * 100_000):
        store.write_bytes(raw)
        assert recent() == ()
        assert not store.exists()
    locked = tmp_path / "locked"
    locked.mkdir()
    (tmp_path / "b.veil").write_bytes(b"x")
    names = [str(locked / "c.veil"), "x" * 5000, str(tmp_path / "b.veil"), "a\0b"]
    store.write_text(
        "[" + ",".join(f'"{n}"' if "\0" not in n else '"a\\u0000b"' for n in names) + "]"
    )
    assert recent() == (tmp_path / "b.veil",)
    odd = tmp_path / "od\udcffd.veil"
    odd.write_bytes(b"x")
    assert remember(odd)
    assert recent()[0] == odd


def test_odd_names_among_unsaved_work_are_passed_over(small: MainWindow) -> None:
    unsaved_folder().mkdir(parents=True, exist_ok=True)
    (unsaved_folder() / "²-1.veil").mkdir()
    (unsaved_folder() / "link.veil").symlink_to("/nowhere/at/all")
    save(small_plan(), unsaved_folder() / "1-dead.veil")  # of process 1, which always lives
    (found,) = left_behind()
    assert found.name == "1-dead.veil"
    offered(small, found)
    assert "Unsaved work on “A small plan” was kept on" in small.line.words.text()


def test_questions_wait_for_each_other(small: MainWindow, tmp_path: Path) -> None:
    unsaved_folder().mkdir(parents=True, exist_ok=True)
    for name in ("a", "b"):
        save(edits.retitle(small_plan(), name), unsaved_folder() / f"{name}.veil")
    for kept in reversed(left_behind()):
        offered(small, kept)
    small.section.more_passes(1)
    small.menus.actions["new"].trigger()
    assert "changes that are not saved" in small.line.words.text()
    small.say("a.veil cannot be written.")
    assert "cannot be written" in small.line.words.text()
    press(small, "stay")
    assert "Unsaved work on “b”" in small.line.words.text()
    press(small, "later")
    assert "Unsaved work on “a”" in small.line.words.text()
    press(small, "recover")
    assert "changes that are not saved" in small.line.words.text()
    press(small, "drop")
    assert small.document.plan.title == "a"
    assert small.document.unsaved


def test_the_folder_of_the_plan_may_be_read_only(
    small: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "a.veil"
    save(small_plan(), path)
    small.files._lock.let_go()
    monkeypatch.setattr("os.open", _refusing)
    try:
        small.files._lock.take(path)
    finally:
        monkeypatch.undo()
    assert not small.files._lock.held


def _refusing(*_: object, **__: object) -> int:
    raise PermissionError(13, "Permission denied")


@pytest.mark.parametrize("pixels", [13, 18, 26])
def test_no_title_is_drawn_over_the_tools(small: MainWindow, pixels: int) -> None:
    """Whatever the width of the window, the size of its type and the station."""
    header = small.header
    header.title.setFont(font(pixels))
    small.document.edit(edits.retitle(small.document.plan, "A long title " * 8), "title")
    small.document.forget()
    for width, height in ((1280, 800), (1160, 640), (1700, 900)):
        small.resize(width, height)
        for station in ("section", "match", "rack"):
            small.router.go(station)
            assert small.wait_until_idle()
            QApplication.processEvents()
            shown = [w for w in (header.undo, header.redo, header.tools) if w.isVisible()]
            ends = [w.geometry() for w in (header.title, *shown)]
            assert all(a.right() < b.left() for a, b in pairwise(ends))
            assert ends[-1].right() <= header.width()
            assert small.width() == width


def test_while_a_question_waits_single_letters_do_nothing(small: MainWindow) -> None:
    """Who types an answer, or leans on the keys, must not thin a coat by it."""
    small.section.more_passes(1)
    before = small.document.plan
    small.menus.actions["new"].trigger()
    assert small.line.answers["save"].hasFocus()
    for key in (Qt.Key.Key_T, Qt.Key.Key_F, Qt.Key.Key_P, Qt.Key.Key_Plus, Qt.Key.Key_O):
        QTest.keyClick(small.line.answers["save"], key)
        QTest.keyClick(small.section.view, key)
    assert small.document.plan == before
    assert not small.router.form_is_big
    press(small, "stay")
    QTest.keyClick(small.section.view, Qt.Key.Key_T)
    assert small.document.plan != before
    # An offer may be taken or not: it holds nothing.
    small.line.offer("Gone.", "Put it back", lambda: None)
    thinner = small.document.plan
    QTest.keyClick(small.section.view, Qt.Key.Key_T)
    assert small.document.plan != thinner
