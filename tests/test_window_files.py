"""Files, titles, leaving and failures in the real main window."""

from __future__ import annotations

import sys
import threading
from pathlib import Path
from types import FrameType
from xml.etree import ElementTree

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog

from conftest import small_plan
from driving import add_from_rack, closed, coats, looked, opens, saved, scene
from zesty_veil.desktop.session.recent import recent
from zesty_veil.desktop.shell.exporting import export_filter
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.errors import PlanFileError
from zesty_veil.plan import edits
from zesty_veil.plan.fileformat import load, save


def test_the_plan_is_given_a_title(small: MainWindow, tmp_path: Path) -> None:
    title = small.header.title
    title.setFocus()
    title.selectAll()
    QTest.keyClicks(title, "Torch  bearer")
    QTest.keyClick(title, Qt.Key.Key_Return)
    assert small.document.plan.title == "Torch bearer"
    assert small.windowTitle().startswith("Torch bearer")
    small.document.undo()
    assert title.text() == "A small plan"


def test_a_file_that_is_no_plan_changes_nothing(small: MainWindow, tmp_path: Path) -> None:
    path = tmp_path / "bad.veil"
    path.write_text('{"format": "zesty-veil plan", "schema": 99}')
    before = small.document.plan
    assert not opens(small, path)
    assert "newer version" in small.line.words.text()
    assert small.document.plan is before
    assert not saved(small, tmp_path / "no" / "x.veil")
    assert "cannot be written" in small.line.words.text()


def test_work_that_went_on_while_a_file_was_read_is_asked_about(
    small: MainWindow, tmp_path: Path
) -> None:
    save(edits.retitle(small_plan(), "Another"), tmp_path / "other.veil")
    small.files.open(tmp_path / "other.veil")
    small.section.more_passes(1)
    mine = small.document.plan
    assert small.user_store.writes.wait_until_idle()
    assert small.document.plan == mine
    assert "changes that are not saved" in small.line.words.text()
    QTest.mouseClick(small.line.answers["drop"], Qt.MouseButton.LeftButton)
    assert small.document.plan.title == "Another"


def test_saving_twice_at_once_is_no_quarrel_with_oneself(small: MainWindow, tmp_path: Path) -> None:
    """The second is asked for before the first is known to be done."""
    path = tmp_path / "a.veil"
    assert saved(small, path)
    for _ in range(3):
        small.section.more_passes(1)
        small.files.save()
    assert small.user_store.writes.wait_until_idle()
    assert not small.line.answers
    assert not small.document.unsaved
    assert load(path) == edits.used_only(small.document.plan)


def test_a_plan_that_was_let_go_while_it_was_saved_leaves_its_file_alone(
    small: MainWindow, tmp_path: Path
) -> None:
    """What takes its place must not be saved over it."""
    path = tmp_path / "a.veil"
    small.section.more_passes(1)
    mine = small.document.plan
    small.files.save_to(path)
    small.menus.actions["new"].trigger()
    QTest.mouseClick(small.line.answers["drop"], Qt.MouseButton.LeftButton)
    assert small.user_store.writes.wait_until_idle()
    assert small.document.plan.title == "New plan"
    assert small.document.path is None
    assert load(path) == edits.used_only(mine)


def test_what_is_done_while_saving_first_is_asked_about_too(
    small: MainWindow, tmp_path: Path
) -> None:
    assert saved(small, tmp_path / "a.veil")
    small.section.more_passes(1)
    small.menus.actions["new"].trigger()
    QTest.mouseClick(small.line.answers["save"], Qt.MouseButton.LeftButton)
    small.section.more_passes(1)  # before the worker is done
    assert small.user_store.writes.wait_until_idle()
    assert small.document.plan.title == "A small plan"
    assert "changes that are not saved" in small.line.words.text()
    QTest.mouseClick(small.line.answers["save"], Qt.MouseButton.LeftButton)
    assert small.user_store.writes.wait_until_idle()
    assert small.document.plan.title == "New plan"


def test_recent_files(small: MainWindow, tmp_path: Path) -> None:
    assert recent() == ()
    for name in ("a.veil", "b.veil"):
        assert saved(small, tmp_path / name)
    assert [p.name for p in recent()] == ["b.veil", "a.veil"]
    (tmp_path / "b.veil").unlink()
    assert [p.name for p in recent()] == ["a.veil"]
    small.menus.recent.aboutToShow.emit()
    assert small.user_store.writes.wait_until_idle()
    (action,) = small.menus.recent.actions()
    QTest.keyClick(small.section.view, Qt.Key.Key_Plus)
    small.document.forget()
    action.trigger()
    assert small.user_store.writes.wait_until_idle()
    assert small.document.plan == load(tmp_path / "a.veil")


def test_steps_are_written_for_the_bench(small: MainWindow, tmp_path: Path) -> None:
    small.exporter.export(small.document.plan, tmp_path / "bench.md")
    assert small.user_store.writes.wait_until_idle()
    assert small.line.words.text() == "Wrote bench.md."
    assert "1. **Lime White" in (tmp_path / "bench.md").read_text()
    small.exporter.export(small.document.plan, tmp_path / "no" / "bench.md")
    assert small.user_store.writes.wait_until_idle()
    assert "cannot be written" in small.line.words.text()


@pytest.mark.parametrize("ending", [".pdf", ".cxf", ".colours.csv", ".svg", ".form.png"])
def test_the_plan_is_exported_in_the_format_chosen(
    small: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, ending: str
) -> None:
    chosen = str(tmp_path / "out")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (chosen, f"What (*{ending})"))
    small.menus.actions["steps"].trigger()
    assert small.user_store.writes.wait_until_idle()
    assert small.line.words.text() == f"Wrote out{ending}."
    assert (tmp_path / f"out{ending}").stat().st_size > 500
    assert ending in export_filter()
    if ending == ".form.png":
        shown = small.section.passages.form_view.grab().toImage()
        kept = QImage(str(tmp_path / "out.form.png"))
        assert kept.size() == shown.size()
        middle = shown.rect().center()
        assert kept.pixelColor(middle) == shown.pixelColor(middle)
    if ending == ".svg":
        drawing = ElementTree.parse(tmp_path / "out.svg").getroot()
        words = " ".join("".join(each.itertext()) for each in drawing.iter())
        assert "ridge" in words
        assert "Ember Orange" in words
        small.exporter.export(small.document.plan, tmp_path / "no" / "out.svg")
        assert small.user_store.writes.wait_until_idle()
        assert "cannot be written" in small.line.words.text()


def test_file_dialogs(small: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    chosen = str(tmp_path / "named")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (chosen, ""))
    small.menus.actions["save"].trigger()
    assert small.user_store.writes.wait_until_idle()
    assert (tmp_path / "named.veil").is_file()
    small.menus.actions["steps"].trigger()
    assert small.user_store.writes.wait_until_idle()
    assert (tmp_path / "named.md").is_file()
    save(edits.retitle(small_plan(), "Another"), tmp_path / "other.veil")
    name = str(tmp_path / "other.veil")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (name, ""))
    small.menus.actions["open"].trigger()
    assert small.user_store.writes.wait_until_idle()
    assert small.document.plan.title == "Another"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: ("", ""))
    small.menus.actions["save as"].trigger()
    assert small.user_store.writes.idle()


def test_leaving_asks_in_the_window_and_loses_nothing(small: MainWindow, tmp_path: Path) -> None:
    QTest.keyClick(small.section.view, Qt.Key.Key_Plus)
    for answer in ("stay", "save"):
        closed(small)
        assert small.isVisible()
        assert "not saved" in small.line.words.text()
        assert small.line.answers["save"].isVisible()
        if answer == "save":
            assert saved(small, tmp_path / "kept.veil")
            small.section.more_passes(1)  # keys do nothing while it is asked
        QTest.mouseClick(small.line.answers[answer], Qt.MouseButton.LeftButton)
    assert small.user_store.writes.wait_until_idle()
    assert not small.isVisible()
    assert load(tmp_path / "kept.veil").passages[0].coats[1].passes == 4


def test_a_new_plan_after_going_on_without_saving(small: MainWindow) -> None:
    QTest.keyClick(small.section.view, Qt.Key.Key_Plus)
    small.menus.actions["new"].trigger()
    QTest.mouseClick(small.line.answers["drop"], Qt.MouseButton.LeftButton)
    assert small.document.plan.title == "New plan"
    assert not small.document.unsaved
    add_from_rack(small, "Lime White")
    assert len(coats(small)) == 1
    small.wait_until_idle()


def test_a_failure_while_computing_is_told_and_the_next_edit_goes_on(
    small: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    from zesty_veil.services import forecast  # noqa: PLC0415

    def broken(*_: object, **__: object) -> None:
        raise PlanFileError("The forecast cannot be made.")

    with monkeypatch.context() as patch:
        patch.setattr(forecast, "field_of", broken)
        QTest.keyClick(small.section.view, Qt.Key.Key_Plus)
        small.wait_until_idle()
        assert "forecast cannot be made" in small.line.words.text()
    QTest.keyClick(small.section.view, Qt.Key.Key_Plus)
    assert scene(small).passage.coats[1].passes == 4


def test_calls_of_qt_keep_their_references(small: MainWindow) -> None:
    # PySide6 6.12.0 lost one reference to None with every call that returns nothing; on Python
    # 3.11 the process dies when they run out. Newer Pythons cannot lose it.
    before = sys.getrefcount(None)
    for _ in range(200):
        small.setToolTip("still here")
    assert sys.getrefcount(None) > before - 100


_TOUCHED: list[str] | None = None  # what this thread did with files, while it is watched


def _watch(event: str, given: tuple[object, ...]) -> None:
    """Write down what the thread that draws does with files; hooks can never be taken out."""
    watched = {"open", "sqlite3.connect", "os.listdir", "os.scandir", "os.rename", "os.mkdir"}
    if _TOUCHED is None or event not in watched:
        return
    if threading.current_thread() is threading.main_thread():
        frame: FrameType | None = sys._getframe()
        names = []
        while frame is not None:
            names.append(f"{Path(frame.f_code.co_filename).name}:{frame.f_code.co_name}")
            frame = frame.f_back
        if any(
            name.startswith(("filework", "document", "userstore", "menus", "sittingview"))
            for name in names
        ):
            _TOUCHED.append(f"{event} {given[:1]} in {names[1:5]}")


sys.addaudithook(_watch)


def test_the_thread_that_draws_touches_no_file(
    small: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Saving, opening, what was open before, who else has it, racks and log: a worker does it."""
    monkeypatch.setattr(sys.modules[__name__], "_TOUCHED", [])
    assert saved(small, tmp_path / "a.veil")
    looked(small)
    small.menus.recent.aboutToShow.emit()
    for name in ("rack", "log", "guess"):
        small.router.go(name)
        assert small.user_store.wait_until_idle()
        small.router.give_up()
    small.section.more_passes(1)
    assert saved(small)
    assert opens(small, tmp_path / "a.veil")
    small.document.undo()
    assert small.wait_until_idle()
    assert _TOUCHED == []
