"""The plan's file: opening, saving, what others do to it, and what a window that died left."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtWidgets import QFileDialog, QWidget

from zesty_veil.desktop.kit.messageline import MessageLine, Reply
from zesty_veil.desktop.session.autosave import Autosave, Recovered, forget, left_behind, recovered
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.filequeues import FileQueues
from zesty_veil.desktop.session.planfile import Own, Read, read_plan, write_plan
from zesty_veil.desktop.session.recent import recent, remember
from zesty_veil.desktop.shell.oldlook import tell_old_look
from zesty_veil.errors import WrittenElsewhereError
from zesty_veil.plan.fileformat import SUFFIX
from zesty_veil.plan.model import Plan
from zesty_veil.plan.openfile import Holder, OpenLock
from zesty_veil.tr import tr

PLAN_FILTER = f"Plans (*{SUFFIX})"
_LOOK_MS = 2000
# Which files are still there is asked of any file system: that holds nothing else up.
_RECENT = "files that were opened last"


def _nothing() -> None:
    """Answer a question without doing anything."""


class FileWork(QObject):
    """Opens and saves the plan of one window; asks in its line before anything could be lost.

    Files are read, written and looked at by one worker, in the order in which that is asked for.
    """

    opened = Signal()  # another plan is there

    def __init__(
        self,
        window: QWidget,
        document: Document,
        line: MessageLine,
        autosave: Autosave,
        writes: FileQueues,
    ) -> None:
        super().__init__(window)
        self._writes = writes
        self.recent: tuple[Path, ...] = ()
        self._window, self._document, self._line = window, document, line
        self._autosave = autosave
        self._lock = OpenLock()  # only the worker of its plan's file system touches it
        self._locked: Path | None = None  # the plan that it was taken for
        self._held = False  # whether this window has the plan open first
        self._written: dict[Path, Own] = {}  # by the worker, which alone looks at it
        self._asked_of: object = None  # the file's state that was asked about last
        # Somebody else may save the same file, or let it go.
        self._timer = QTimer(self)
        self._timer.setInterval(_LOOK_MS)
        self._timer.timeout.connect(self.look)
        self._timer.start()
        self._hold(told=True)
        self.look_at_recent()

    def look_at_recent(self, then: Callable[[], object] = _nothing) -> None:
        """Read anew which files were opened last."""

        def read(found: tuple[Path, ...]) -> None:
            self.recent = found
            then()

        self._writes.do(recent, read, at=_RECENT)

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
                self._window, tr("Open a plan"), str(self.folder()), PLAN_FILTER
            )
            if name:
                self.open(Path(name))

        self.when_free(ask)

    def open(self, path: Path, then: Callable[[], object] = _nothing) -> None:
        """Open a file in place of this plan, then go on; on failure say why and change nothing."""
        asked_of = self._document.history

        def read(found: Read) -> None:
            if self._document.history is not asked_of:  # work went on meanwhile, and is not lost
                self.when_free(lambda: taken(found))
            else:
                taken(found)

        def taken(found: Read) -> None:
            self._document.take_read(found)
            self._begun()
            tell_old_look(found, self._document, self._line)
            self._remember(path)
            then()

        words = tr("Opening {0}").format(path.name)
        self._writes.do(lambda: read_plan(path), read, self._say_why, path, words)

    def tell_look(self, path: Path) -> None:
        """Tell of a plan that the window began with whether it looks otherwise than when saved."""
        opened = self._document.opened

        def read(found: Read) -> None:
            if opened == self._document.opened:
                tell_old_look(found, self._document, self._line)

        self._writes.do(lambda: read_plan(path), read, self._say_why, path)

    def save(self, then: Callable[[], object] = _nothing) -> None:
        """Save to the plan's file, or ask for one if it has none, then go on."""
        path = self._document.path
        if path is None:
            self.save_as(then)
        else:
            self.save_to(path, then)

    def save_as(self, then: Callable[[], object] = _nothing) -> None:
        """Ask for a file, save to it, then go on."""
        start = self._document.path or self.folder() / file_name(self._document.plan)
        name, _ = QFileDialog.getSaveFileName(
            self._window, tr("Save the plan"), str(start), PLAN_FILTER
        )
        if name:
            chosen = Path(name)
            path = with_suffix(chosen, SUFFIX)
            self.when_named(
                chosen, path, lambda: self.save_to(path, then), lambda: self.save_as(then)
            )

    def when_named(
        self,
        chosen: Path,
        path: Path,
        act: Callable[[], object],
        again: Callable[[], object],
    ) -> None:
        """Write to a file that was chosen, and that an ending was perhaps added to.

        Whoever chose a name was asked about a file of that name, but not about one with the
        ending.
        """
        if path == chosen or not path.exists():
            act()
            return
        self._line.ask(
            "replace",
            tr("{0} is there already.").format(path.name),
            {
                "other": Reply(tr("Choose another name"), again),
                "replace": Reply(tr("Replace it"), act),
                "stay": Reply(tr("Leave it"), _nothing),
            },
            pressed=True,
        )

    def save_to(
        self, path: Path, then: Callable[[], object] = _nothing, over: bool = False
    ) -> None:
        """Save to a file, then go on; on failure say why and change nothing."""
        plan, own = self._document.history.plan, self._document.own
        opened = self._document.opened

        def write() -> Own:
            self._written[path] = write_plan(plan, path, own, over, self._written.get(path))
            return self._written[path]

        def saved(now: Own) -> None:
            if opened == self._document.opened:  # else another plan has taken its place
                self._document.was_saved(plan, now)
                self._line.withdraw("elsewhere")
                if path != own.path:
                    self._hold(told=True)
            self._line.say(tr("Saved {0}.").format(path.name), passing=True)
            self._remember(path)
            then()

        def failed(error: Exception) -> None:
            if isinstance(error, WrittenElsewhereError):
                self._ask_whose(str(error))
            else:
                self._say_why(error)

        self._writes.do(write, saved, failed, path, tr("Saving {0}").format(path.name))

    def look(self) -> None:
        """See whether somebody else has saved the plan's file."""
        own, asked_of = self._document.own, self._asked_of
        if own.path is None or not self._writes.idle(own.path):
            return
        if not self._held:
            self._hold(told=False)

        def looked() -> tuple[tuple[int, ...], bool]:
            state = own.state()
            return state, state != asked_of and own.written_elsewhere()

        def found(what: tuple[tuple[int, ...], bool]) -> None:
            state, elsewhere = what
            if elsewhere and own == self._document.own and own.path is not None:
                self._asked_of = state
                self._ask_whose(
                    tr("{0} was saved by somebody else just now.").format(own.path.name)
                )

        self._writes.do(looked, found, at=own.path)

    def when_free(self, go_on: Callable[[], None]) -> None:
        """Do something that would lose unsaved work only after asking, in the line below."""
        document = self._document
        if not document.unsaved:
            go_on()
            return

        def dropped() -> None:
            document.forget()
            go_on()

        self._line.ask(
            "leave",
            tr("“{0}” has changes that are not saved.").format(document.plan.title),
            {
                "save": Reply(tr("Save first"), lambda: self.save(lambda: self.when_free(go_on))),
                "drop": Reply(tr("Go on without saving"), dropped),
                "stay": Reply(tr("Stay here"), _nothing),
            },
            pressed=True,
        )

    def offer_left_behind(self, most: int) -> None:
        """Offer the unsaved work of windows that died, the newest first; only so much of it."""

        def found(paths: tuple[Path, ...]) -> None:
            for kept in reversed(paths[:most]):
                self.offer(kept)

        self._writes.do(left_behind, found)

    def offer(self, kept: Path) -> None:
        """Offer to open the unsaved work of a window that died."""

        def read(found: Recovered) -> None:
            when = time.strftime("%d %B, %H:%M", time.localtime(found.moment))
            self._line.ask(
                f"recover {kept.name}",
                tr(
                    "Unsaved work on “{0}” was kept on {1} from a window that did not close."
                ).format(found.plan.title, when),
                {
                    "recover": Reply(
                        tr("Open it"), lambda: self.when_free(lambda: self._recover(kept))
                    ),
                    "discard": Reply(
                        tr("Throw it away"), lambda: self._writes.do(lambda: forget(kept))
                    ),
                    "later": Reply(tr("Not now"), _nothing),
                },
            )

        self._writes.do(lambda: recovered(kept), read, self._say_why)

    def close(self) -> None:
        """Let go of the file, once all that was asked for is written."""
        self._timer.stop()
        if self._locked is not None:
            self._writes.do(self._lock.let_go, at=self._locked)

    def _recover(self, kept: Path) -> None:
        def read(found: Recovered) -> None:
            self._document.recover(found.plan, found.own)
            self._begun()
            # What was kept goes only when it is kept again under this window's name.
            self._autosave.keep(lambda: forget(kept))

        self._writes.do(lambda: recovered(kept), read, self._say_why)

    def _say_why(self, error: Exception) -> None:
        self._line.say(str(error))

    def _remember(self, path: Path) -> None:
        self._writes.do(lambda: remember(path), at=_RECENT)
        self.look_at_recent()

    def _ask_whose(self, words: str) -> None:
        path, opened = self._document.path, self._document.opened
        if path is None:
            return

        def taken(found: Read) -> None:
            if opened != self._document.opened:
                return
            self._document.take_theirs(found)
            self._line.say(tr("This is what was saved elsewhere; undo brings back what was here."))

        def theirs() -> None:
            words = tr("Opening {0}").format(path.name)
            self._writes.do(lambda: read_plan(path), taken, self._say_why, path, words)

        self._line.ask(
            "elsewhere",
            words,
            {
                "copy": Reply(tr("Save mine as a copy"), self._save_copy),
                "theirs": Reply(tr("Take theirs"), theirs),
                "mine": Reply(tr("Keep mine"), lambda: self.save_to(path, over=True)),
                "later": Reply(tr("Not now"), _nothing),
            },
        )

    def _save_copy(self) -> None:
        """Save beside the plan's file, under a name that is free, and go on with that."""
        path = self._document.path
        if path is not None:
            names = (path.with_name(f"{path.stem} {n}{path.suffix}") for n in range(2, 1000))
            free = next((name for name in names if not name.exists()), None)
            if free is None:
                self.save_as()
            else:
                self.save_to(free)

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
        if path != self._locked and self._locked is not None:
            # Where that file lies: the share of the plan before may not answer any more.
            self._writes.do(self._lock.let_go, at=self._locked)
            self._lock = OpenLock()
        self._locked, lock = path, self._lock
        if path is None:
            return

        def taken(other: Holder | None) -> None:
            self._held = other is None
            if other is not None and told:
                self._line.say(
                    tr("{0} is also open: {1}. Whoever saves second is asked first.").format(
                        path.name, other.words
                    )
                )

        self._writes.do(lambda: lock.take(path), taken, at=path)


def file_name(plan: Plan, suffix: str = SUFFIX) -> str:
    """Return what to call a plan's file: its title, as letters and figures."""
    kept = "".join(c if c.isalnum() else "-" for c in plan.title.lower())
    return ("-".join(filter(None, kept.split("-")))[:60] or "plan") + suffix


def with_suffix(path: Path, suffix: str) -> Path:
    """Return a path with an ending, if it has none."""
    return path if path.suffix else path.with_name(path.name + suffix)
