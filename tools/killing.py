"""Kills at random moments: whatever was told as written is there afterwards, and whole.

Two victims. One writes plans, records, paints and sittings as fast as it can; it is forked, so that
hundreds are killed in a minute. The other is the window itself, with edits that nobody saved.

    python tools/killing.py --count 100 --windows 5 --seed 1
"""

from __future__ import annotations

import argparse
import itertools
import os
import random
import select
import signal
import sqlite3
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

MOST_LOST_S = 5.0


@dataclass
class Killed:
    """What came of kills: how many, what was lost or broken, and the most of unsaved edits lost."""

    kills: int = 0
    windows: int = 0
    faults: list[str] = field(default_factory=list)
    lost_s: float = 0.0


def _write_all(folder: Path, told: int) -> None:
    """Write for ever; after each write, tell which one is on the disk."""
    from msgspec.structs import replace  # noqa: PLC0415

    from zesty_veil.bench import sitting as bench  # noqa: PLC0415
    from zesty_veil.bench.air import Air  # noqa: PLC0415
    from zesty_veil.log.logbook import Logbook  # noqa: PLC0415
    from zesty_veil.log.racks import DEMO, Racks  # noqa: PLC0415
    from zesty_veil.log.record import Record  # noqa: PLC0415
    from zesty_veil.log.store import Store  # noqa: PLC0415
    from zesty_veil.plan import edits  # noqa: PLC0415
    from zesty_veil.plan.fileformat import save  # noqa: PLC0415
    from zesty_veil.plan.samples import sample  # noqa: PLC0415

    plan, store = sample("diver"), Store(folder / "log.sqlite")
    book, racks = Logbook(store), Racks(store)
    sitting = bench.begun(plan, Air(), 0.0)
    assert sitting is not None
    writes: tuple[Callable[[int], object], ...] = (
        lambda n: save(edits.retitle(plan, f"number {n}"), folder / "plan.veil"),
        lambda n: book.add(
            Record("2026-01-01T00:00:00+00:00", plan, words=f"number {n}"),
            (".jpg", f"number {n}".encode()),
        ),
        lambda n: racks.change(
            DEMO, "Kiln Yellow", lambda kept: replace(kept, notes=f"number {n}")
        ),
        lambda n: bench.keep_sitting(replace(sitting, minutes=float(n)), folder / "sitting.json"),
    )
    for number in itertools.count(1):
        for kind, write in enumerate(writes):
            write(number)
            os.write(told, f"{kind} {number}\n".encode())


def _looked_at(folder: Path, last: list[int]) -> list[str]:
    """Return what is not as it was told."""
    from zesty_veil.bench import sitting as bench  # noqa: PLC0415
    from zesty_veil.log.logbook import Logbook  # noqa: PLC0415
    from zesty_veil.log.racks import Racks  # noqa: PLC0415
    from zesty_veil.log.store import Store  # noqa: PLC0415
    from zesty_veil.plan.fileformat import load  # noqa: PLC0415

    faults = []
    # What was being written when it was killed may be there or not.
    if last[0] and int(load(folder / "plan.veil").title.split()[1]) not in (last[0], last[0] + 1):
        faults.append("the plan is not the last one saved")
    with sqlite3.connect(folder / "log.sqlite") as db:
        if db.execute("PRAGMA integrity_check").fetchone() != ("ok",):
            faults.append("the log is damaged")
    store = Store(folder / "log.sqlite")
    try:
        book = Logbook(store)
        found = {record.words for record in book.all()}
        missing = [n for n in range(1, last[1] + 1) if f"number {n}" not in found]
        if missing or len(book.numbers("number")) != len(found):
            faults.append(f"records are missing: {missing[:5]}")
        for record in book.all():
            if book.photograph_path(record.photograph).read_bytes() != record.words.encode():
                faults.append(f"the photograph of {record.words} is not its own")
        notes = Racks(store).get().find("Kiln Yellow").notes
        if last[2] and notes not in (f"number {last[2]}", f"number {last[2] + 1}"):
            faults.append(f"the note is {notes}, and {last[2]} was told")
    finally:
        store.close()
    kept = bench.kept_sitting(folder / "sitting.json") if last[3] else None
    if last[3] and (kept is None or kept.minutes not in (last[3], last[3] + 1)):
        faults.append("the sitting is not the last one kept")
    return faults


def kill_writers(count: int, seed: int, out: Killed) -> None:
    """Fork a writer, kill it after some milliseconds, and look at what it left; `count` times."""
    chance = random.Random(seed)
    from zesty_veil.plan.samples import sample  # noqa: PLC0415

    sample("diver")  # once, before any is forked
    for _ in range(count):
        with tempfile.TemporaryDirectory(prefix="veil-kill-") as name:
            folder, (mine, theirs) = Path(name), os.pipe()
            child = os.fork()
            if child == 0:
                try:
                    _write_all(folder, theirs)
                finally:
                    os._exit(1)
            os.close(theirs)
            # Some are killed while the log is made, most in the middle of it all.
            time.sleep(chance.choice((0.02, 0.15, 0.15, 0.15)) + chance.random() * 0.12)
            os.kill(child, signal.SIGKILL)
            os.waitpid(child, 0)
            with os.fdopen(mine, "rb") as told:
                lines = told.read().split(b"\n")[:-1]
            last = [0, 0, 0, 0]
            for line in lines:
                kind, number = map(int, line.split())
                last[kind] = number
            out.kills += 1
            try:
                out.faults += [f"kill {out.kills}: {fault}" for fault in _looked_at(folder, last)]
            except Exception as error:
                out.faults.append(f"kill {out.kills}: {type(error).__name__}: {error}")


_WINDOW = """
import os, sys, time
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.plan import edits
from zesty_veil.plan.samples import sample
app = QApplication([])
window = MainWindow(sample("diver"))
window.show()
count = [0]
def edit():
    count[0] += 1
    document = window.document
    document.edit(edits.retitle(document.plan, f"number {count[0]}"), "title")
    print(count[0], time.time(), flush=True)
timer = QTimer()
timer.timeout.connect(edit)
timer.start(40)
app.exec()
"""


def kill_windows(count: int, seed: int, out: Killed) -> None:
    """Kill windows with unsaved edits, and see how many seconds of them are lost."""
    chance = random.Random(seed)
    for _ in range(count):
        with tempfile.TemporaryDirectory(prefix="veil-kill-") as name:
            own = {
                f"XDG_{n}_HOME": f"{name}/{n.lower()}" for n in ("STATE", "DATA", "CONFIG", "CACHE")
            }
            env = {**os.environ, **own, "HOME": name, "QT_QPA_PLATFORM": "offscreen"}
            command = [sys.executable, "-c", _WINDOW]
            with subprocess.Popen(
                command, env=env, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL
            ) as window:
                assert window.stdout is not None
                select.select([window.stdout], [], [], 60)
                time.sleep(1.6 + chance.random() * 3.5)
                window.kill()
                lines = window.stdout.read().split(b"\n")[:-1]
            moments = {int(n): float(at) for n, at in (line.split() for line in lines)}
            out.windows += 1
            lost = _lost(Path(name), moments)
            if lost is None:
                out.faults.append(f"window {out.windows}: it made no edit")
                continue
            out.lost_s = max(out.lost_s, lost)
            if lost > MOST_LOST_S:
                out.faults.append(f"window {out.windows}: {lost:.1f} s of edits are lost")


def _lost(home: Path, moments: dict[int, float]) -> float | None:
    """Return how many seconds of edits are not in what was kept."""
    from zesty_veil.plan.fileformat import load  # noqa: PLC0415

    found = sorted(home.glob("state/zesty-veil/unsaved/*.veil"))
    if not moments:
        return None
    newest = max(moments)
    if not found:  # killed before the first of them could be kept
        return moments[newest] - moments[min(moments)]
    number = int(load(found[0]).title.split()[1])
    return moments[newest] - moments[min(number + 1, newest)] if number < newest else 0.0


def campaign(count: int, windows: int, seed: int) -> Killed:
    """Kill writers and windows; return what came of it."""
    out = Killed()
    kill_writers(count, seed, out)
    kill_windows(windows, seed, out)
    return out


def main() -> int:
    """Kill, and print what came of it."""
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--count", type=int, default=50)
    asked.add_argument("--windows", type=int, default=3)
    asked.add_argument("--seed", type=int, default=1)
    chosen = asked.parse_args()
    out = campaign(chosen.count, chosen.windows, chosen.seed)
    print(f"{out.kills} writers and {out.windows} windows killed; {len(out.faults)} faults; "
          f"at most {out.lost_s:.1f} s of unsaved edits lost")  # fmt: skip
    print("\n".join(out.faults[:20]))
    return 1 if out.faults else 0


if __name__ == "__main__":
    sys.exit(main())
