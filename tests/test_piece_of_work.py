"""A window is worked in from an empty plan on, killed, and its work is there again."""

from __future__ import annotations

import os
import subprocess
import sys
import time
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from driving import coats, offered, opens
from zesty_veil.desktop.session.autosave import left_behind
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.paths import unsaved_folder
from zesty_veil.plan.fileformat import load

HERE = Path(__file__).resolve().parent


def test_work_from_nothing_to_kill_and_back(small: MainWindow, tmp_path: Path) -> None:
    path = tmp_path / "lantern.veil"
    worker = subprocess.Popen(
        [sys.executable, str(HERE / "piece_of_work.py"), str(path)],
        stdout=subprocess.PIPE,
        text=True,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen", "PYTHONPATH": str(HERE)},
    )
    try:
        assert worker.stdout is not None
        assert worker.stdout.readline() == "saved\n"
        assert worker.stdout.readline() == "went on\n"
        deadline = time.monotonic() + 20
        while not list(unsaved_folder().glob("*.veil")) and time.monotonic() < deadline:
            time.sleep(0.05)
    finally:
        worker.kill()  # as kill -9
        worker.wait()
        assert worker.stdout is not None
        worker.stdout.close()

    plan = load(path)
    (passage,) = plan.passages
    assert plan.title == "Lantern"
    assert passage.ground.primer == "black"
    assert passage.ground.coats[0].nozzle == 0
    names = [coat.mixture.parts[0].paint for coat in passage.coats]
    for name in ("Lime White", "Kiln Yellow", "Ember Orange", "Furnace Red"):
        assert name in names
    # Four coats, the mid mix over a border, a small highlight of two coats and a small dark.
    assert len(passage.coats) == 8
    assert [coat.span[0] for coat in passage.coats[:3]] == [0.0, 0.7, 0.9]
    assert passage.coats[3].mixture.thinner == "medium"

    assert opens(small, path)
    assert coats(small) == passage.coats
    (kept,) = left_behind()
    offered(small, kept)
    QTest.mouseClick(small.line.answers["recover"], Qt.MouseButton.LeftButton)
    assert small.user_store.writes.wait_until_idle()
    more = sum(c.passes for c in coats(small)) - sum(c.passes for c in passage.coats)
    assert more == 2  # what was done after saving is there too
    small.wait_until_idle()
