"""A random hand on the real window: clicks, keys, drags, files and edits in all stations.

It records what a painter would notice: errors, moments in which the window stands still, and memory
that grows. The same seed makes the same choices.

    python tools/randomhand.py --seed 1 --minutes 2
"""

from __future__ import annotations

import argparse
import gc
import json
import os
import random
import sys
import tempfile
import threading
import time
import traceback
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import asdict, dataclass, field
from pathlib import Path
from typing import Any

GAP_S = 0.25
_TICK_MS = 10
_WAITS_S = 20.0
_EVERY = 500  # acts between two looks at memory


@dataclass
class Told:
    """What came of a hand: acts done, errors, gaps over a quarter second, and memory in MB.

    Of each gap, how long it was, how much of that the machine gave to others, and where it was.
    """

    seed: int
    acts: int = 0
    errors: list[str] = field(default_factory=list)
    gaps: list[tuple[float, float, str, str]] = field(default_factory=list)
    longest: float = 0.0
    longest_own: float = 0.0
    memory: list[tuple[int, float]] = field(default_factory=list)
    done: dict[str, int] = field(default_factory=dict)

    def growth(self, warm: int = 2000) -> float | None:
        """Return MB a thousand acts after the first ones, fitted; None if there are too few."""
        points = [(n, mb) for n, mb in self.memory if n >= warm]
        if len(points) < 4:
            return None
        mean_n = sum(n for n, _ in points) / len(points)
        mean_mb = sum(mb for _, mb in points) / len(points)
        over = sum((n - mean_n) * (mb - mean_mb) for n, mb in points)
        return 1000 * over / sum((n - mean_n) ** 2 for n, _ in points)


def kept_waiting() -> float:
    """Return the seconds in which this thread could have run and the machine did not let it.

    That is what others took of the processors, in this system and in others on the same machine.
    """
    delay = int(Path("/proc/thread-self/schedstat").read_text().split()[1]) / 1e9
    stolen = int(Path("/proc/stat").read_text().split(maxsplit=9)[8]) / os.sysconf("SC_CLK_TCK")
    return delay + stolen


def resident_mb(others: tuple[int, ...] = ()) -> float:
    """Return the memory that the process has in use, and others by their numbers."""
    pages = sum(
        int(Path(f"/proc/{one}/statm").read_text().split()[1]) for one in (os.getpid(), *others)
    )
    return pages * os.sysconf("SC_PAGE_SIZE") / 1e6


@contextmanager
def own_home() -> Iterator[Path]:
    """Give the program folders of its own, which go afterwards."""
    with tempfile.TemporaryDirectory(prefix="veil-hand-") as folder:
        os.environ["HOME"] = folder
        for name in ("STATE", "CONFIG", "DATA", "CACHE"):
            os.environ[f"XDG_{name}_HOME"] = f"{folder}/{name.lower()}"
        yield Path(folder)


class Hand:
    """Does one thing after the other to a window, from within its event loop."""

    def __init__(self, seed: int, folder: Path, until: Callable[[Told], bool]) -> None:
        # Qt is imported only when the folders are set.
        from PySide6.QtCore import QTimer  # noqa: PLC0415
        from PySide6.QtWidgets import QApplication, QFileDialog  # noqa: PLC0415

        from zesty_veil.desktop.kit.theme import dress  # noqa: PLC0415
        from zesty_veil.desktop.session.apart.link import helpers  # noqa: PLC0415
        from zesty_veil.desktop.shell.window import MainWindow  # noqa: PLC0415
        from zesty_veil.memory import keep_freed_memory, let_the_window_breathe  # noqa: PLC0415
        from zesty_veil.plan.samples import sample  # noqa: PLC0415

        keep_freed_memory()
        let_the_window_breathe()
        helpers.begin()  # as the program does
        self.helpers = helpers
        self.chance, self.folder, self.until = random.Random(seed), folder, until
        self.told, self.now = Told(seed), "start"
        self.files = _files(folder)
        self.app = QApplication.instance() or QApplication([])
        dress(self.app)  # type: ignore[arg-type]
        chooser: Any = QFileDialog
        chooser.getOpenFileName = staticmethod(lambda *_: (self._some_file(), ""))
        chooser.getSaveFileName = staticmethod(lambda *_: (self._new_file(), ""))
        QApplication.setQuitOnLastWindowClosed(False)
        self._opened: Callable[[], Any] = lambda: MainWindow(sample("glasswright"))
        self.window = self._opened()
        self.window.show()
        self.last, self.waited = time.perf_counter(), kept_waiting()
        self.stood_in = ""
        threading.Thread(target=self._watch, args=(threading.get_ident(),), daemon=True).start()
        self._timers = []
        for milliseconds, act in ((_TICK_MS, self._tick), (97, self._popups)):
            timer = QTimer(self.app)
            timer.timeout.connect(act)
            timer.start(milliseconds)
            self._timers.append(timer)
        sys.excepthook = self._failed

    def run(self) -> Told:
        """Go on until it is enough."""
        from PySide6.QtCore import QTimer  # noqa: PLC0415

        QTimer.singleShot(300, self._step)
        self.app.exec()
        sys.excepthook = sys.__excepthook__
        self._timers[0].stop()
        self.window.document.forget()
        self.window.close()
        self.helpers.end()
        self.told.errors += _faults()
        return self.told

    def _failed(self, kind: Any, error: BaseException, trace: Any) -> None:
        words = "".join(traceback.format_exception(kind, error, trace))
        self.told.errors.append(f"{self.now}\n{words}")

    def _tick(self) -> None:
        now, waited = time.perf_counter(), kept_waiting()
        gap, self.last = now - self.last - _TICK_MS / 1000, now
        others, self.waited = min(waited - self.waited, gap), waited
        self.told.longest = max(self.told.longest, gap)
        self.told.longest_own = max(self.told.longest_own, gap - others)
        if gap > GAP_S:
            self.told.gaps.append((round(gap, 3), round(others, 3), self.now, self.stood_in))
            words = f"{gap:.3f} s, {others:.3f} of them others': {self.now}: {self.stood_in}"
            print(words, file=sys.stderr, flush=True)
        self.stood_in = ""

    def _watch(self, thread: int) -> None:
        """Note in which lines the window stands while it stands, or waits for ever."""
        acts, since = 0, time.perf_counter()
        while True:
            time.sleep(0.04)
            if self.told.acts != acts:
                acts, since = self.told.acts, time.perf_counter()
            elif time.perf_counter() - since > _WAITS_S:
                frames = traceback.format_stack(sys._current_frames()[thread])
                self.told.errors.append(f"{self.now}\nwaits for ever in\n{''.join(frames[-6:])}")
                since = float("inf")
            if time.perf_counter() - self.last > GAP_S / 2:
                stack = traceback.extract_stack(sys._current_frames()[thread])
                lines = [f"{Path(f.filename).name}:{f.lineno}" for f in stack[-5:]]
                self.stood_in += f" [{' '.join(lines)}]"

    def _popups(self) -> None:
        """Choose from a menu that is open, or close it."""
        from PySide6.QtWidgets import QApplication, QMenu  # noqa: PLC0415

        popup = QApplication.activePopupWidget()
        if popup is None:
            return
        actions = popup.actions() if isinstance(popup, QMenu) else []
        usable = [a for a in actions if a.isEnabled() and a.menu() is None and not a.isSeparator()]
        popup.close()
        if usable and self.chance.random() < 0.7:
            self.chance.choice(usable).trigger()

    def _step(self) -> None:
        from PySide6.QtCore import QTimer  # noqa: PLC0415

        told = self.told
        if told.acts % _EVERY == 0:
            gc.collect()
            told.memory.append((told.acts, round(resident_mb(self.helpers.processes()), 1)))
        if self.until(told):
            self.app.exit(0)  # quit() asks the window, which asks the painter
            return
        told.acts += 1
        if not self.window.isVisible():  # it left, by a menu
            told.done["left"] = told.done.get("left", 0) + 1
            self.window.deleteLater()
            self.window = self._opened()
            self.window.show()
            # Nobody waits for a window that is not there yet.
            self.last, self.waited = time.perf_counter(), kept_waiting()
        try:
            name, act = self._choose()
            self.now = name
            kind = name.split()[0]
            told.done[kind] = told.done.get(kind, 0) + 1
            act()
        except Exception as error:
            self._failed(type(error), error, error.__traceback__)
        # Mostly at once, at times only when all is computed: both find other things.
        pause = 0 if self.chance.random() < 0.8 else self.chance.randint(20, 200)
        QTimer.singleShot(pause, self._step)

    def _choose(self) -> tuple[str, Callable[[], object]]:
        kinds = (
            (self._action, 30), (self._button, 18), (self._mouse, 16), (self._key, 16),
            (self._type, 6), (self._choice, 6), (self._file, 4), (self._answer, 4),
            (self._stale, 8),
        )  # fmt: skip
        kind = self.chance.choices([k for k, _ in kinds], [w for _, w in kinds])[0]
        return kind()

    def _action(self) -> tuple[str, Callable[[], object]]:
        names = sorted(set(self.window.menus.actions) - {"leave"})
        name = self.chance.choice(names)
        return f"action {name}", self.window.menus.actions[name].trigger

    def _seen(self, kind: type) -> list[Any]:
        found: list[Any] = self.window.findChildren(kind)
        return [w for w in found if w.isVisible() and w.isEnabled()]

    def _button(self) -> tuple[str, Callable[[], object]]:
        from PySide6.QtWidgets import QAbstractButton  # noqa: PLC0415

        buttons = self._seen(QAbstractButton)
        if not buttons:
            return "nothing", lambda: None
        button = self.chance.choice(buttons)
        return f"button {button.accessibleName() or button.text()}", button.click

    def _widget(self) -> Any:
        from PySide6.QtWidgets import QWidget  # noqa: PLC0415

        return self.chance.choice(self._seen(QWidget) or [self.window])

    def _point(self, widget: Any) -> Any:
        from PySide6.QtCore import QPoint  # noqa: PLC0415

        return QPoint(
            self.chance.randint(0, max(widget.width() - 1, 0)),
            self.chance.randint(0, max(widget.height() - 1, 0)),
        )

    def _mouse(self) -> tuple[str, Callable[[], object]]:
        from PySide6.QtCore import Qt  # noqa: PLC0415
        from PySide6.QtTest import QTest  # noqa: PLC0415

        widget, left = self._widget(), Qt.MouseButton.LeftButton
        keys = self.chance.choice(
            (Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ShiftModifier)
        )
        start, end = self._point(widget), self._point(widget)

        def drag() -> None:
            QTest.mousePress(widget, left, keys, start)
            for k in range(1, 4):
                QTest.mouseMove(widget, start + (end - start) * k / 3)
            QTest.mouseRelease(widget, left, keys, end)

        act = (
            drag
            if self.chance.random() < 0.5
            else lambda: QTest.mouseClick(widget, left, keys, start)
        )
        return f"mouse {type(widget).__name__}", act

    def _key(self) -> tuple[str, Callable[[], object]]:
        from PySide6.QtCore import Qt  # noqa: PLC0415
        from PySide6.QtTest import QTest  # noqa: PLC0415
        from PySide6.QtWidgets import QApplication  # noqa: PLC0415

        focus = QApplication.focusWidget() or self.window
        names = ("Up", "Down", "Left", "Right", "Return", "Escape", "Space", "Tab", "Plus", "Minus",
                 "Delete", "Home", "End", "PageDown", *"ACDHKMNPRSTXYZ1234")  # fmt: skip
        key = getattr(Qt.Key, f"Key_{self.chance.choice(names)}")
        modifier = self.chance.choice(
            (Qt.KeyboardModifier.NoModifier,) * 4
            + (Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.ControlModifier)
        )
        return f"key {key.name} on {type(focus).__name__}", lambda: QTest.keyClick(
            focus, key, modifier
        )

    def _type(self) -> tuple[str, Callable[[], object]]:
        from PySide6.QtTest import QTest  # noqa: PLC0415
        from PySide6.QtWidgets import QAbstractSpinBox, QLineEdit, QPlainTextEdit  # noqa: PLC0415

        fields = [
            w for kind in (QLineEdit, QAbstractSpinBox, QPlainTextEdit) for w in self._seen(kind)
        ]
        words = self.chance.choice(
            (
                "2,5",
                "1e9",
                "-3",
                "#ff8a1e",
                "70 40 60",
                "strong orange",
                "<b>x</b>",
                "",
                "&&",
                "x" * 90,
            )
        )
        if not fields:
            return "nothing", lambda: None
        one = self.chance.choice(fields)

        def write() -> None:
            one.setFocus()
            if hasattr(one, "selectAll"):
                one.selectAll()
            QTest.keyClicks(one, words)

        return f"type {type(one).__name__}", write

    def _choice(self) -> tuple[str, Callable[[], object]]:
        from PySide6.QtWidgets import QComboBox  # noqa: PLC0415

        boxes = [b for b in self._seen(QComboBox) if b.count()]
        if not boxes:
            return "nothing", lambda: None
        box = self.chance.choice(boxes)
        row = self.chance.randrange(box.count())

        def choose() -> None:
            box.setCurrentIndex(row)
            box.activated.emit(row)

        return f"choice {box.accessibleName()}", choose

    def _file(self) -> tuple[str, Callable[[], object]]:
        window, path = self.window, Path(self._some_file())
        new = Path(self._new_file())
        acts: dict[str, Callable[[], object]] = {
            "open": lambda: window.when_free(lambda: window.files.open(path)),
            "save": lambda: window.files.save_to(new),
            "export": lambda: window.exporter.export(window.document.plan, new),
            "sculpt": lambda: window.router.forms.open_sculpt(path),
            "look": window.files.look,
        }
        name = self.chance.choice(sorted(acts))
        return f"file {name} {path.suffix}", acts[name]

    def _answer(self) -> tuple[str, Callable[[], object]]:
        answers = self.window.line.answers
        if not answers:
            return "nothing", lambda: None
        key = self.chance.choice(sorted(answers))
        return f"answer {key}", answers[key].click

    def _stale(self) -> tuple[str, Callable[[], object]]:
        """Press something, and at once change what it was for; or press keys where others go."""
        from PySide6.QtCore import Qt  # noqa: PLC0415
        from PySide6.QtTest import QTest  # noqa: PLC0415
        from PySide6.QtWidgets import QAbstractButton, QWidget  # noqa: PLC0415

        window, chance = self.window, self.chance
        kind = chance.choice(("swap", "leave", "focus"))
        if kind == "focus":
            takers = [w for w in self._seen(QWidget) if w.focusPolicy() & Qt.FocusPolicy.TabFocus]
            if not takers:
                return "nothing", lambda: None
            taker = chance.choice(takers)
            key = getattr(Qt.Key, f"Key_{chance.choice(('Space', 'Return', 'N', 'E', 'Escape'))}")

            def act() -> None:
                taker.setFocus()
                QTest.keyClick(taker, key)

            return f"stale focus {type(taker).__name__}", act
        # What takes long is pressed more often than the rest.
        page = window.router.page
        names = ("find_coats", "lay", "use", "write", "keep", "reschedule", "again", "made")
        own = [getattr(page, name, None) for name in names]
        buttons = [b for b in own if isinstance(b, QAbstractButton) and b.isEnabled()]
        buttons = buttons or self._seen(QAbstractButton)
        button = chance.choice(buttons) if buttons else None
        station = chance.choice(sorted(window.router.stations))
        plan = self._some_plan()

        def then() -> None:
            if button is not None:
                button.click()
            if kind == "swap":
                window.files.show(plan, None)
            else:
                window.router.go(station)

        return f"stale {kind}", then

    def _some_plan(self) -> Any:
        """Return a plan of another shape than the one that is open, perhaps of nothing."""
        from zesty_veil.plan.model import Passage, Plan  # noqa: PLC0415
        from zesty_veil.plan.samples import SAMPLES, sample  # noqa: PLC0415

        made = [sample(name) for name in SAMPLES]
        made += [Plan("nothing"), Plan("bare", (Passage("bare"),))]
        return self.chance.choice(made)

    def _some_file(self) -> str:
        return str(self.chance.choice(self.files))

    def _new_file(self) -> str:
        endings = ("", ".veil", ".md", ".csv", ".cxf", ".json", ".png", ".svg", ".pdf", ".no/x.md")
        return str(self.folder / f"out{self.chance.randint(1, 4)}{self.chance.choice(endings)}")


def _files(folder: Path) -> list[Path]:
    """Put some files to open into a folder: sound ones, and ones that are not what they say."""
    from zesty_veil.plan.samples import SAMPLES, sample_bytes  # noqa: PLC0415

    inputs = folder / "in"
    inputs.mkdir()
    for name in SAMPLES:
        (inputs / f"{name}.veil").write_bytes(sample_bytes(name))
    (inputs / "cut.veil").write_bytes(sample_bytes("diver")[:5000])
    (inputs / "gone.veil").symlink_to("nowhere")
    (inputs / "x.obj").write_text("v 0 0 0\nv 9 0 0\nv 0 9 0\nv 0 0 9\nf 1 2 3\nf 1 3 4\nf 1 2 4\n")
    (inputs / "x.stl").write_bytes(b"solid nothing")
    (inputs / "rack.csv").write_text("name,kind,white\nA,ink,#804020\nB,opaque,#e0e0d0\n")
    (inputs / "card.csv").write_text("name,L,a,b\nwhite 1,60,30,40\nwhite 2,50,40,50\n")
    (inputs / "photo.jpg").write_bytes(b"\xff\xd8\xff\xe0" + bytes(64))
    os.mkfifo(inputs / "pipe.veil")
    return sorted(inputs.iterdir())


def _faults() -> list[str]:
    from zesty_veil.paths import fault_path  # noqa: PLC0415

    return [fault_path().read_text()] if fault_path().exists() else []


def main() -> int:
    """Run a hand in this process and print what came of it as JSON."""
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--seed", type=int, default=1)
    asked.add_argument("--minutes", type=float, default=2.0)
    asked.add_argument("--acts", type=int, default=10**9)
    chosen = asked.parse_args()
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    end = time.monotonic() + 60 * chosen.minutes
    with own_home() as folder:
        hand = Hand(chosen.seed, folder, lambda t: t.acts >= chosen.acts or time.monotonic() > end)
        told = hand.run()
        out = asdict(told)
        out["growth"] = told.growth()
        print(json.dumps(out), flush=True)
    # What the toolkit does while the interpreter ends is nobody's concern here.
    os._exit(0)


if __name__ == "__main__":
    sys.exit(main())
