"""The plan's file: opening, saving, what others do to it, and what a window that died left."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtWidgets import QFileDialog, QWidget

from zesty_veil.desktop.kit.messageline import Answer, MessageLine
from zesty_veil.desktop.session.autosave import Autosave, forget, recovered
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.recent import remember
from zesty_veil.errors import VeilError, WrittenElsewhereError
from zesty_veil.plan.fileformat import SUFFIX, carried_over
from zesty_veil.plan.model import Plan
from zesty_veil.plan.openfile import OpenLock

FILTER = f"Plans (*{SUFFIX})"
_LOOK_MS = 2000


class FileWork(QObject):
    """Opens and saves the plan of one window; asks in its line before anything could be lost."""

    opened = Signal()  # another plan is there

    def __init__(
        self, window: QWidget, document: Document, line: MessageLine, autosave: Autosave
    ) -> None:
        super().__init__(window)
        self._window, self._document, self._line = window, document, line
        self._autosave = autosave
        self._lock = OpenLock()
        self._asked_of: object = None  # the file's state that was asked about last
        # Somebody else may save the same file, or let it go.
        self._timer = QTimer(self)
        self._timer.setInterval(_LOOK_MS)
        self._timer.timeout.connect(self.look)
        self._timer.start()
        self._hold(told=False)

    def folder(self) -> Path:
        """Return where files are looked for: beside the plan."""
        path = self._document.path
        return path.parent if path is not None else Path.home()

    def show(self, plan: Plan, path: Path | None) -> None:
        """Put another plan in place of this one; it counts as saved."""
        self._document.replace(plan, path)
        self._begun()

    def choose_and_open(self) -> None:
        """Let a file be chosen and open it."""

        def ask() -> None:
            name, _ = QFileDialog.getOpenFileName(
                self._window, "Open a plan", str(self.folder()), FILTER
            )
            if name:
                self.open(Path(name))

        self.when_free(ask)

    def open(self, path: Path) -> bool:
        """Open a file in place of this plan; on failure say why and change nothing."""
        try:
            self._document.open(path)
        except VeilError as error:
            self._line.say(str(error))
            return False
        remember(path)
        self._begun()
        if self._document.carried_over:
            self._line.say(carried_over(path.name))
        return True

    def reopen(self, path: Path) -> None:
        """Open a file that was open before."""
        self.open(path)

    def save(self) -> bool:
        """Save to the plan's file, or ask for one if it has none."""
        path = self._document.path
        return self.save_as() if path is None else self.save_to(path)

    def save_as(self) -> bool:
        """Ask for a file and save to it."""
        start = self._document.path or self.folder() / file_name(self._document.plan)
        name, _ = QFileDialog.getSaveFileName(self._window, "Save the plan", str(start), FILTER)
        if not name:
            return False
        chosen = Path(name)
        path = with_suffix(chosen, SUFFIX)
        return self.when_named(chosen, path, lambda: self.save_to(path), self.save_as)

    def when_named(
        self,
        chosen: Path,
        path: Path,
        act: Callable[[], object],
        again: Callable[[], object],
    ) -> bool:
        """Write to a file that was chosen, and that an ending was perhaps added to.

        Whoever chose a name was asked about a file of that name, but not about one with the
        ending. Return whether `act` did it at once.
        """
        if path == chosen or not path.exists():
            return act() is not False
        self._line.ask(
            "replace",
            f"{path.name} is there already.",
            {
                "other": Answer("Choose another name", again),
                "replace": Answer("Replace it", act),
                "stay": Answer("Leave it", _nothing),
            },
        )
        return False

    def save_to(self, path: Path, over: bool = False) -> bool:
        """Save to a file; on failure say why and change nothing."""
        before = self._document.path
        try:
            self._document.save(path, over)
        except WrittenElsewhereError as error:
            self._ask_whose(str(error))
            return False
        except VeilError as error:
            self._line.say(str(error))
            return False
        remember(path)
        self._line.withdraw("elsewhere")
        if path != before:
            self._hold(told=True)
        self._line.say(f"Saved {path.name}.")
        return True

    def look(self) -> None:
        """See whether somebody else has saved the plan's file."""
        document = self._document
        if document.path is None:
            return
        if not self._lock.held:
            self._hold(told=False)
        state = document.file_state()
        if state == self._asked_of or not document.written_elsewhere():
            return
        self._asked_of = state
        self._ask_whose(f"{document.path.name} was saved by somebody else just now.")

    def when_free(self, go_on: Callable[[], None]) -> None:
        """Do something that would lose unsaved work only after asking, in the line below."""
        document = self._document
        if not document.unsaved:
            go_on()
            return

        def saved() -> None:
            if self.save():
                go_on()

        def dropped() -> None:
            document.forget()
            go_on()

        self._line.ask(
            "leave",
            f"“{document.plan.title}” has changes that are not saved.",
            {
                "save": Answer("Save first", saved),
                "drop": Answer("Go on without saving", dropped),
                "stay": Answer("Stay here", _nothing),
            },
        )

    def offer(self, kept: Path) -> None:
        """Offer to open the unsaved work of a window that died."""
        try:
            plan, moment = recovered(kept)
        except VeilError as error:
            self._line.say(str(error))
            return
        when = time.strftime("%d %B, %H:%M", time.localtime(moment))
        self._line.ask(
            f"recover {kept.name}",
            f"Unsaved work on “{plan.title}” was kept on {when} from a window that did not close.",
            {
                "recover": Answer("Open it", lambda: self.when_free(lambda: self._recover(kept))),
                "discard": Answer("Throw it away", lambda: forget(kept)),
                "later": Answer("Not now", _nothing),
            },
        )

    def close(self) -> None:
        """Let go of the file."""
        self._timer.stop()
        self._lock.let_go()

    def _recover(self, kept: Path) -> None:
        try:
            self._document.recover(recovered(kept)[0])
        except VeilError as error:
            self._line.say(str(error))
            return
        self._begun()
        # What was kept goes only when it is kept again under this window's name.
        self._autosave.keep(lambda: forget(kept))

    def _ask_whose(self, words: str) -> None:
        def theirs() -> None:
            try:
                self._document.take_theirs()
            except VeilError as error:
                self._line.say(str(error))
            else:
                self._line.say("This is what was saved elsewhere; undo brings back what was here.")

        path = self._document.path
        self._line.ask(
            "elsewhere",
            words,
            {
                "copy": Answer("Save mine as a copy", self._save_copy),
                "theirs": Answer("Take theirs", theirs),
                "mine": Answer("Keep mine", lambda: path and self.save_to(path, over=True)),
                "later": Answer("Not now", _nothing),
            },
        )

    def _save_copy(self) -> None:
        """Save beside the plan's file, under a name that is free, and go on with that."""
        path = self._document.path
        if path is not None:
            names = (path.with_name(f"{path.stem} {n}{path.suffix}") for n in range(2, 1000))
            free = next((name for name in names if not name.exists()), None)
            _ = self.save_as() if free is None else self.save_to(free)

    def _begun(self) -> None:
        self._asked_of = None
        for kind in ("elsewhere", "replace"):
            self._line.withdraw(kind)
        self.opened.emit()
        self._line.say("")
        self._hold(told=True)

    def _hold(self, told: bool) -> None:
        """Say in the plan's folder that it is open here; say here if it is open elsewhere."""
        path = self._document.path
        if path is None:
            self._lock.let_go()
            return
        other = self._lock.take(path)
        if other is not None and told:
            self._line.say(
                f"{path.name} is also open: {other.words}. Whoever saves second is asked first."
            )


def file_name(plan: Plan, suffix: str = SUFFIX) -> str:
    """Return what to call a plan's file: its title, as letters and figures."""
    kept = "".join(c if c.isalnum() else "-" for c in plan.title.lower())
    return ("-".join(filter(None, kept.split("-")))[:60] or "plan") + suffix


def with_suffix(path: Path, suffix: str) -> Path:
    """Return a path with an ending, if it has none."""
    return path if path.suffix else path.with_name(path.name + suffix)


def _nothing() -> None:
    """Answer a question without doing anything."""
