"""Folders, files and shares as they are met: closed, too long, gone, or standing still."""

from __future__ import annotations

import json
import os
import shutil
import signal
import socket
import subprocess
import sys
import threading
from collections.abc import Iterator
from pathlib import Path

import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from conftest import small_plan
from driving import coats, opened, settled
from test_log_window import opened as opened_page
from test_log_window import write
from zesty_veil.desktop.kit.paintpicker import PaintPicker
from zesty_veil.desktop.session import clipboard, filequeues
from zesty_veil.desktop.session.autosave import left_behind
from zesty_veil.desktop.shell import leaving, start
from zesty_veil.desktop.shell import window as windows
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.desktop.start.cards import StartCard
from zesty_veil.errors import FileError, InputError
from zesty_veil.files import read_limited
from zesty_veil.log.logbook import Logbook
from zesty_veil.log.store import opened as opened_log
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.fileformat import load, save
from zesty_veil.plan.openfile import OpenLock, holder, lock_path

LEFT = Qt.MouseButton.LeftButton
# Root may enter every folder, unless that is taken from it.
_BOUND = ["setpriv", "--bounding-set=-dac_override,-dac_read_search"]


def bound(*words: str) -> subprocess.CompletedProcess[str]:
    """Run the command line as somebody who may not enter every folder."""
    command = [*(_BOUND if os.geteuid() == 0 else []), sys.executable, "-m", "zesty_veil", *words]
    return subprocess.run(command, capture_output=True, text=True, check=False)


@pytest.mark.skipif(
    os.geteuid() == 0 and shutil.which("setpriv") is None, reason="root may enter every folder"
)
@pytest.mark.parametrize("kind", ["XDG_DATA_HOME", "XDG_STATE_HOME"])
def test_a_folder_that_may_not_be_entered_ends_no_command_in_a_traceback(
    kind: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    closed = tmp_path / "closed"
    (closed / "zesty-veil").mkdir(parents=True)
    closed.chmod(0o000)
    monkeypatch.setenv(kind, str(closed))
    try:
        save(small_plan(), tmp_path / "a.veil")
        done = bound("predict", str(tmp_path / "a.veil"))
        assert (done.returncode, done.stderr) == (0, "")
        done = bound("rack")
        assert "Traceback" not in done.stderr
        if kind == "XDG_DATA_HOME":
            assert done.returncode == 2
            assert done.stderr.startswith("zesty-veil: The log ")
            assert done.stderr.count("\n") == 1
    finally:
        closed.chmod(0o700)


@pytest.mark.parametrize("kind", ["XDG_DATA_HOME", "XDG_STATE_HOME"])
def test_a_folder_with_a_name_that_no_system_has(
    kind: str, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setenv(kind, "/" + "/".join("x" * 200 for _ in range(30)))
    save(small_plan(), tmp_path / "a.veil")
    done = bound("predict", str(tmp_path / "a.veil"))
    assert "Traceback" not in done.stderr
    done = bound("rack")
    assert "Traceback" not in done.stderr
    assert done.stderr.count("\n") <= 1


def program(*words: str, **environment: str) -> subprocess.Popen[str]:
    return subprocess.Popen(
        [sys.executable, "-m", "zesty_veil", *words], text=True, stdout=subprocess.PIPE,
        stderr=subprocess.PIPE, env={**os.environ, "QT_QPA_PLATFORM": "offscreen", **environment},
    )  # fmt: skip


@pytest.mark.parametrize(("words", "scale"), [("1,5", 1.5), ("2", 2.0), ("", 1.0), ("large", 1.0)])
def test_a_scale_may_be_written_with_a_comma(
    words: str, scale: float, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("QT_SCALE_FACTOR", words)
    assert start.asked_scale() == scale
    assert os.environ["QT_SCALE_FACTOR"] in {"", f"{scale:g}"}


def test_a_picture_into_a_pipe_that_nobody_reads_is_refused(tmp_path: Path) -> None:
    pipe = tmp_path / "pipe"
    os.mkfifo(pipe)
    done = program("demo", "--shot", str(pipe))
    said = done.communicate()[1]
    assert done.returncode == 2
    assert "pipe cannot be written" in said
    assert said.count("\n") == 1


def test_an_absurd_time_in_a_lock_is_no_time(tmp_path: Path) -> None:
    plan = tmp_path / "a.veil"
    for since in (1e300, -1e300, 1e18):
        raw = {"user": "vera", "host": socket.gethostname(), "process": 1, "since": since}
        lock_path(plan).write_text(json.dumps(raw))
        found = holder(plan)
        assert found is not None
        assert found.words.startswith("vera in another window")
        # From another machine, and of a time to come: left there by a crash, or a wrong clock.
        lock_path(plan).write_text(json.dumps({**raw, "host": "elsewhere"}))
        lock = OpenLock()
        assert lock.take(plan) is None
        lock.let_go()


def handles() -> int:
    return len(os.listdir("/proc/self/fd"))


def test_to_try_and_open_a_folder_leaves_no_handle_open(tmp_path: Path) -> None:
    before = handles()
    for _ in range(20):
        with pytest.raises(FileError, match="isn't a file"):
            read_limited(tmp_path, 100, "plan")
    assert handles() == before


def test_no_tooltip_of_card_or_picker_reads_a_name_as_markup(dressed: QApplication) -> None:
    card = StartCard("<b>bold</b> & co", "<i>words</i>")
    assert "<b>" not in card.toolTip()
    assert "&lt;b&gt;" in card.toolTip()
    picker = PaintPicker()
    paint = replace(demo_rack()[0], name="<b>White</b>")
    picker.show_paints((paint,), frozenset(), {}, {})
    model = picker.list.model()
    tips = (model.index(row, 0).data(Qt.ItemDataRole.ToolTipRole) for row in range(2))
    told = [words for words in tips if words]
    assert told
    assert all("<b>" not in words and "&lt;b&gt;" in words for words in told)


# Shares that stand still.


@pytest.fixture
def share(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> Iterator[tuple[Path, threading.Event]]:
    """A folder that counts as a file system of its own, whose writing waits for an event."""
    folder, answers = tmp_path / "share", threading.Event()
    folder.mkdir()
    real = windows.FileWork.save_to.__globals__["write_plan"]

    def stands(plan: object, path: Path, *rest: object, **more: object) -> object:
        if folder in path.parents:
            answers.wait(60)
        return real(plan, path, *rest, **more)

    monkeypatch.setitem(windows.FileWork.save_to.__globals__, "write_plan", stands)
    monkeypatch.setattr(filequeues, "mounts", lambda: (str(folder), "/"))
    yield folder, answers
    answers.set()


@pytest.fixture
def shared(
    share: tuple[Path, threading.Event], qtbot: QtBot, dressed: QApplication
) -> Iterator[MainWindow]:
    yield from opened(qtbot, small_plan())


def test_a_share_that_stands_still_holds_up_nothing_else(
    shared: MainWindow, share: tuple[Path, threading.Event], tmp_path: Path, qtbot: QtBot
) -> None:
    folder, answers = share
    writes = shared.user_store.writes
    shared.files.save_to(folder / "far.veil")
    well: list[bool] = []
    shared.files.save_to(tmp_path / "near.veil", lambda: well.append(True))
    qtbot.waitUntil(lambda: bool(well), timeout=20_000)
    assert load(tmp_path / "near.veil") == shared.document.plan
    assert not writes.idle(folder / "far.veil")
    # What waits is named, once.
    writes._waiting = {k: v._replace(since=v.since - 60) for k, v in writes._waiting.items()}
    writes._look.timeout.emit()
    words = shared.line.words.text()
    assert words.startswith("Saving far.veil is not done: ")
    assert "Files in other places can be used." in words
    shared.say("")
    writes._look.timeout.emit()
    assert shared.line.words.text() != words
    answers.set()
    assert writes.wait_until_idle()
    assert load(folder / "far.veil") == shared.document.plan


def test_closing_over_a_save_that_stands_still_asks_and_ends(
    shared: MainWindow,
    share: tuple[Path, threading.Event],
    monkeypatch: pytest.MonkeyPatch,
    qtbot: QtBot,
) -> None:
    folder, answers = share
    left: list[int] = []
    monkeypatch.setattr(leaving, "leave_process", left.append)
    monkeypatch.setattr(leaving, "_WAITS_MS", 1)
    monkeypatch.setattr(leaving, "_ENDS_S", 0.05)
    shared.section.more_passes(1)
    shared.files.save_to(folder / "far.veil")
    line = shared.line
    assert not shared.close()
    qtbot.waitUntil(lambda: "end" in line.answers, timeout=20_000)
    assert line.words.text().startswith("Saving far.veil is not done: ")
    assert list(line.answers) == ["wait", "end", "stay"]
    QTest.mouseClick(line.answers["stay"], LEFT)
    assert shared.isVisible()
    shared.close()
    qtbot.waitUntil(lambda: "end" in line.answers, timeout=20_000)
    QTest.mouseClick(line.answers["end"], LEFT)
    assert left == [0]
    # The work is kept aside, and offered at the next start.
    (kept,) = shared.autosave.path.parent.glob("*.veil")
    assert load(kept) == shared.document.plan
    answers.set()
    assert shared.user_store.writes.wait_until_idle()
    shared.user_store.close()


@pytest.mark.parametrize("number", [signal.SIGTERM, signal.SIGHUP, signal.SIGINT])
def test_a_signal_keeps_work_aside_and_ends(number: signal.Signals, tmp_path: Path) -> None:
    code = f"""
import os, signal, sys
from PySide6.QtCore import QTimer
from zesty_veil.desktop.shell.window import MainWindow
shown = MainWindow.showEvent
def acts(self, event):
    shown(self, event)
    self.section.more_passes(1)
    QTimer.singleShot(300, lambda: os.kill(os.getpid(), {int(number)}))
MainWindow.showEvent = acts
from zesty_veil.__main__ import main
sys.argv[1:] = ["demo"]
sys.exit(main())
"""
    done = subprocess.run(
        [sys.executable, "-c", code], capture_output=True, text=True, check=False,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
    )  # fmt: skip
    assert (done.returncode, done.stderr) == (0, "")
    (kept,) = left_behind()
    assert load(kept).title == "The glasswright at the furnace mouth"


def test_a_log_that_is_deleted_under_a_window_is_made_again(small: MainWindow) -> None:
    write(small, "first")
    log = small.user_store.log
    for path in log.parent.glob(f"{log.name}*"):
        path.unlink()
    small.user_store.look()
    assert small.user_store.wait_until_idle()
    assert "was written again" in small.line.words.text()
    write(small, "second")
    with opened_log() as store:
        assert len(Logbook(store).numbers()) == 2
    # One that was put in its place is taken for what it is.
    other = log.with_name("other")
    shutil.copy(log, other)
    os.replace(other, log)
    write(small, "third")
    with opened_log() as store:
        assert len(Logbook(store).numbers()) == 3
    page = opened_page(small)
    assert page.list.count == 3
    settled(small)


def test_a_clipboard_whose_holder_stands_still_holds_up_nothing(
    small: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Under X11 the holder is asked for what lies there, and may never answer."""
    small.section.choose_coat(1)
    small.section.moves.copy_coat()
    text = QGuiApplication.clipboard().text()
    answers, asked_apart = threading.Event(), clipboard.asked_apart

    def stands() -> str:
        answers.wait(60)
        return text

    monkeypatch.setattr(QGuiApplication, "platformName", lambda: "xcb")
    monkeypatch.setattr(clipboard, "asked_apart", stands)
    monkeypatch.setattr(type(QGuiApplication.clipboard()), "ownsClipboard", lambda _: False)
    small.menus.actions["paste coat"].trigger()
    assert len(coats(small)) == 2
    small.section.more_passes(1)  # the window goes on
    answers.set()
    assert small.section.moves.clipboard.jobs.wait_until_idle()
    assert len(coats(small)) == 3
    # Whoever does not answer at all is told of.
    monkeypatch.setattr(clipboard, "_PATIENCE_S", 0.001)
    with pytest.raises(InputError, match="holds the clipboard doesn't answer"):
        asked_apart()
    assert small.wait_until_idle()
