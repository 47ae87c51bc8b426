"""Unsaved work outlives the window: kept aside, offered, opened or thrown away."""

from __future__ import annotations

import os
import subprocess
import sys
import threading
import time
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from conftest import small_plan
from driving import coats, offered, saved
from zesty_veil.desktop.session.autosave import left_behind
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.paths import unsaved_folder
from zesty_veil.plan.fileformat import load, save

DYING_WINDOW = """
import os, signal, sys
os.environ["QT_QPA_PLATFORM"] = "offscreen"
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication
from zesty_veil.desktop.shell.window import MainWindow
from pathlib import Path
from zesty_veil.plan.fileformat import load
app = QApplication([])
window = MainWindow(load(Path(sys.argv[1])))
window.show()
window.section.more_passes(3)
print("worked", flush=True)
app.exec()
"""


def test_work_is_there_after_kill(small: MainWindow, tmp_path: Path) -> None:
    start = tmp_path / "start.veil"
    save(small_plan(), start)
    window = subprocess.Popen(
        [sys.executable, "-c", DYING_WINDOW, str(start)], stdout=subprocess.PIPE, text=True
    )
    try:
        assert window.stdout is not None
        assert window.stdout.readline() == "worked\n"
        deadline = time.monotonic() + 20
        while not list(unsaved_folder().glob("*.veil")) and time.monotonic() < deadline:
            time.sleep(0.05)
        assert left_behind() == ()  # its window still lives
    finally:
        window.kill()  # as kill -9
        window.wait()
        assert window.stdout is not None
        window.stdout.close()

    (kept,) = left_behind()
    offered(small, kept)
    assert "Unsaved work on “A small plan” was kept on" in small.line.words.text()
    QTest.mouseClick(small.line.answers["recover"], Qt.MouseButton.LeftButton)
    assert small.user_store.writes.wait_until_idle()
    assert coats(small)[1].passes == 5
    assert small.document.unsaved
    assert small.autosave.writes.wait_until_idle()
    assert left_behind() == ()
    assert load(small.autosave.path).passages[0].coats[1].passes == 5
    small.wait_until_idle()


@pytest.fixture
def kept() -> Path:
    """Work left behind by a process that is long gone."""
    unsaved_folder().mkdir(parents=True)
    path = unsaved_folder() / "4194303-1.veil"
    save(small_plan(), path)
    return path


def test_it_can_be_thrown_away_or_left_for_later(small: MainWindow, kept: Path) -> None:
    before = small.document.plan
    offered(small, kept)
    QTest.mouseClick(small.line.answers["later"], Qt.MouseButton.LeftButton)
    assert left_behind() == (kept,)
    offered(small, kept)
    QTest.mouseClick(small.line.answers["discard"], Qt.MouseButton.LeftButton)
    assert small.user_store.writes.wait_until_idle()
    assert left_behind() == ()
    assert small.document.plan is before


def test_damaged_work_gets_a_sentence_and_changes_nothing(small: MainWindow, kept: Path) -> None:
    kept.write_bytes(kept.read_bytes()[:100])
    before = small.document.plan
    offered(small, kept)
    assert "cut short" in small.line.words.text()
    assert small.document.plan is before
    # It is put aside: neither offered again nor lost.
    assert left_behind() == ()
    assert kept.with_name(f"{kept.name}.damaged-1").exists()


def test_saving_and_leaving_take_it_away(small: MainWindow, tmp_path: Path) -> None:
    small.section.more_passes(1)
    small.autosave.keep()
    assert small.autosave.writes.wait_until_idle()
    assert load(small.autosave.path).passages[0].coats[1].passes == 3
    assert saved(small, tmp_path / "kept.veil")
    assert small.autosave.writes.wait_until_idle()
    assert not small.autosave.path.exists()
    small.section.more_passes(1)
    small.autosave.keep()
    small.document.forget()
    small.close()
    assert not small.autosave.path.exists()


def test_where_it_cannot_be_kept_is_said_once(small: MainWindow) -> None:
    unsaved_folder().parent.mkdir(parents=True, exist_ok=True)
    unsaved_folder().write_text("a file stands where the folder should")
    for told in (True, False):
        small.section.more_passes(1)
        small.autosave.keep()
        assert small.autosave.writes.wait_until_idle()
        small.wait_until_idle()
        assert ("cannot be kept aside" in small.line.words.text()) == told
    assert os.path.isfile(unsaved_folder())


def test_a_save_that_hangs_keeps_no_work_from_being_kept(small: MainWindow, tmp_path: Path) -> None:
    hangs, answers = threading.Event(), threading.Event()

    def share_without_answer() -> None:
        hangs.set()
        answers.wait(20)

    small.user_store.writes.do(share_without_answer)
    assert hangs.wait(20)
    # Every state that is asked for is written, one after the other: none is dropped.
    seen: list[int] = []
    for passes in (3, 4, 5):
        small.section.more_passes(1)
        assert coats(small)[1].passes == passes
        small.autosave.keep(
            lambda: seen.append(load(small.autosave.path).passages[0].coats[1].passes)
        )
    assert small.autosave.writes.wait_until_idle()
    assert seen == [3, 4, 5]
    assert not small.user_store.writes.idle()
    answers.set()
    assert saved(small, tmp_path / "kept.veil")
    assert load(tmp_path / "kept.veil").passages[0].coats[1].passes == 5
