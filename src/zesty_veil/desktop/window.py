"""The main window: menus, the station, and one line for what has to be said."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QCloseEvent
from PySide6.QtWidgets import QFileDialog, QMainWindow, QVBoxLayout, QWidget

from zesty_veil.desktop.autosave import Autosave
from zesty_veil.desktop.document import Document
from zesty_veil.desktop.exporting import Exporter
from zesty_veil.desktop.keeping import Keeping
from zesty_veil.desktop.menus import Menus
from zesty_veil.desktop.messageline import MessageLine
from zesty_veil.desktop.planstrip import PlanStrip
from zesty_veil.desktop.recent import remember
from zesty_veil.desktop.section.station import SectionStation
from zesty_veil.errors import VeilError
from zesty_veil.plan.fileformat import SUFFIX, load
from zesty_veil.plan.model import Passage, Plan

_FILTER = f"Plans (*{SUFFIX})"
_LEAVING = {"save": "Save first", "drop": "Go on without saving", "stay": "Stay here"}
_RECOVERING = {"recover": "Open it", "discard": "Throw it away", "later": "Not now"}


class MainWindow(QMainWindow):
    """One plan in one window."""

    def __init__(self, plan: Plan, path: Path | None = None) -> None:
        super().__init__()
        self.document = Document(plan, path, self)
        self.keeping = Keeping(self)
        self.station = SectionStation(self.document, self.keeping)
        self.station.complained.connect(self.say)
        self._leave: Callable[[], None] | None = None
        self._kept: Path | None = None
        self.autosave = Autosave(self.document, self)
        self.exporter = Exporter(self, self.station.view, self.station.passages.form_view)
        self.exporter.said.connect(self.say)

        self.line = MessageLine()
        self.line.answered.connect(self._answer)
        self.line.mend_wanted.connect(self.station.mend)
        self.station.remarked.connect(self.line.show_remarks)
        self.station.again_wanted.connect(
            lambda plan: self.when_free(lambda: self._show(plan, None))
        )
        self.autosave.failed.connect(self.say)
        body = QWidget()
        column = QVBoxLayout(body)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.station, 1)
        column.addWidget(self.line)
        self.setCentralWidget(body)
        self.strip = PlanStrip(self.document)
        self.menuBar().setCornerWidget(self.strip, Qt.Corner.TopRightCorner)
        self.menus = Menus(self)
        self.station.stage.switched.connect(self._page_turned)
        self.document.changed.connect(self._changed)
        self.setMinimumSize(1160, 640)
        self.resize(1280, 800)
        self._changed()
        self.station.view.setFocus()
        self.say(self.keeping.trouble)

    def say(self, words: str) -> None:
        """Put a sentence in the line below the work; nothing puts remarks or a hint there."""
        self.line.say(words)

    def wait_until_idle(self) -> bool:
        """Run events until what is shown is the plan."""
        return self.station.wait_until_idle()

    def new_plan(self) -> None:
        """Begin an empty plan, asking first if this one is not saved."""
        self.when_free(lambda: self._show(Plan("New plan", (Passage("new passage"),)), None))

    def choose_and_open(self) -> None:
        """Let a file be chosen and open it."""

        def ask() -> None:
            name, _ = QFileDialog.getOpenFileName(self, "Open a plan", self._folder(), _FILTER)
            if name:
                self.open(Path(name))

        self.when_free(ask)

    def choose_and_keep(self) -> None:
        """Let a plan's file be chosen, to see it by turns with the open one."""
        name, _ = QFileDialog.getOpenFileName(self, "Keep a plan", self._folder(), _FILTER)
        if name:
            self.keep_to_turn(Path(name))

    def keep_to_turn(self, path: Path) -> None:
        """See the plan of a file by turns with the open one; on failure say why."""
        try:
            self.station.looks.keep(load(path))
        except VeilError as error:
            self.say(str(error))

    def open(self, path: Path) -> bool:
        """Open a file in place of this plan; on failure say why and change nothing."""
        try:
            self.document.open(path)
        except VeilError as error:
            self.say(str(error))
            return False
        remember(path)
        self.station.start_over()
        self.say("")
        return True

    def reopen(self, path: Path) -> None:
        """Open a file that was open before."""
        self.open(path)

    def save(self) -> bool:
        """Save to the plan's file, or ask for one if it has none."""
        return self.save_as() if self.document.path is None else self.save_to(self.document.path)

    def save_as(self) -> bool:
        """Ask for a file and save to it."""
        start = str(self.document.path or Path(self._folder()) / _file_name(self.document.plan))
        name, _ = QFileDialog.getSaveFileName(self, "Save the plan", start, _FILTER)
        return self.save_to(_with_suffix(Path(name), SUFFIX)) if name else False

    def save_to(self, path: Path) -> bool:
        """Save to a file; on failure say why and change nothing."""
        try:
            self.document.save(path)
        except VeilError as error:
            self.say(str(error))
            return False
        remember(path)
        self.say(f"Saved {path.name}.")
        return True

    def choose_and_export(self) -> None:
        """Ask for a file and write the plan to it in the format of its name."""
        plan = self.document.plan
        self.exporter.choose(plan, Path(self._folder()) / _file_name(plan, "-steps.md"))

    def closeEvent(self, event: QCloseEvent) -> None:
        if self.document.unsaved and self._leave is None:
            event.ignore()
            self.when_free(lambda: _ignore(self.close()))
            return
        if self.document.unsaved:
            event.ignore()
            return
        self.station.stop()
        self.keeping.close()
        self.exporter.jobs.close()
        self.autosave.close()
        event.accept()

    def when_free(self, go_on: Callable[[], None]) -> None:
        """Do something that would lose unsaved work only after asking, in the line below."""
        if not self.document.unsaved:
            go_on()
            return
        self._leave = go_on
        self.line.ask(f"“{self.document.plan.title}” has changes that are not saved.", _LEAVING)

    def offer(self, kept: Path) -> None:
        """Offer to open the unsaved work of a window that died."""
        self._kept = kept
        self.line.ask("Unsaved work was kept from a window that did not close.", _RECOVERING)

    def _recover(self, key: str) -> None:
        kept, self._kept = self._kept, None
        if kept is None or key == "later":
            return
        try:
            if key == "recover":
                self.document.recover(load(kept))
                self.station.start_over()
                self.autosave.keep()
            kept.unlink(missing_ok=True)
        except (VeilError, OSError) as error:
            self.say(str(error))

    def _answer(self, key: str) -> None:
        go_on, self._leave = self._leave, None
        self.line.asked()
        if key in _RECOVERING:
            self._recover(key)
            return
        if key == "stay" or (key == "save" and not self.save()):
            return
        if key == "drop":
            self.document.forget()
        if go_on is not None:
            go_on()

    def _show(self, plan: Plan, path: Path | None) -> None:
        self.document.replace(plan, path)
        self.station.start_over()
        self.say("")

    def _changed(self) -> None:
        document = self.document
        if self._leave is None and self._kept is None:
            self.say("")  # what was said of the plan before is said no longer
        mark = "  ·  not saved" if document.unsaved else ""
        self.setWindowTitle(f"{document.plan.title}{mark}  –  Zesty Veil")
        self._page_turned()

    def _page_turned(self) -> None:
        self.menus.refresh()
        stage = self.station.stage
        self.line.set_rest(stage.hint(), alone=stage.turning)

    @property
    def actions_by_name(self) -> dict[str, QAction]:
        """What the menus hold, by the names of `keys.KEYS`."""
        return self.menus.actions

    def show_keys(self) -> None:
        """Say the keys that are used most."""
        self.say(
            "Up, down: coat in hand.  Left, right: its far end (Shift: light end).  "
            "N: add a coat.  F, D: feathers.  P: primer.  "
            "Comma, point: move the reading.  More in the menus."
        )

    def _folder(self) -> str:
        return str(self.document.path.parent if self.document.path else Path.home())


def _ignore(_: object) -> None:
    """Turn an answer that nobody needs into none."""


def _file_name(plan: Plan, suffix: str = SUFFIX) -> str:
    kept = "".join(c if c.isalnum() else "-" for c in plan.title.lower())
    return "-".join(filter(None, kept.split("-")))[:60] + suffix


def _with_suffix(path: Path, suffix: str) -> Path:
    return path if path.suffix else path.with_name(path.name + suffix)
