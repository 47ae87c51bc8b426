"""The open plan: its history, its file and the gesture under way; only this changes it."""

from __future__ import annotations

import os
import time
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from zesty_veil.errors import InputError, PlanFileError, WrittenElsewhereError
from zesty_veil.files import write_atomically
from zesty_veil.plan.check import check_edit
from zesty_veil.plan.fileformat import MOST_BYTES, dump, older, parse, read
from zesty_veil.plan.history import History
from zesty_veil.plan.model import Plan
from zesty_veil.plan.openfile import Stamp, holder, stamp, written_since
from zesty_veil.plan.refining import laid_by_own_hand

# Notches of one turn of the wheel, or repeats of a held key, are one step of undo.
_ONE_GESTURE_S = 0.8


class Document(QObject):
    """A plan being worked on.

    `changed` is sent whenever what is seen must follow, also in the middle of a gesture.
    """

    changed = Signal()
    refused = Signal(str)

    def __init__(self, plan: Plan, path: Path | None = None, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._history = History(plan)
        self._preview: Plan | None = None
        self._saved = plan
        self._stamp = None if path is None else self._stamp_of(path)
        self._last: tuple[str, float] = ("", 0.0)
        self._before = self._history  # the gesture that edits belong to, if they do
        self.path = path
        self.carried_over = False  # whether the file was of an older schema

    @property
    def plan(self) -> Plan:
        """The plan as it is seen: in the middle of a gesture, as the gesture has it."""
        return self._preview if self._preview is not None else self._history.plan

    @property
    def history(self) -> History:
        """The plan with its past and future."""
        return self._history

    @property
    def unsaved(self) -> bool:
        """Whether the file, if any, does not hold what is here."""
        return self._history.plan != self._saved

    def edit(self, plan: Plan, words: str, gesture: str = "") -> None:
        """Take an edited plan as one step of undo.

        Edits that come quickly one after the other with the same `gesture` are one step. A plan
        that its own file could not hold is refused: `refused` is sent, and nothing changes.
        """
        had, self._preview = self._preview is not None, None
        plan = laid_by_own_hand(plan)
        try:
            check_edit(plan, self._history.plan)
        except InputError as error:
            if had:
                self.changed.emit()
            self.refused.emit(f"{error} Nothing was changed.")
            return
        now = time.monotonic()
        last, when = self._last
        if not (gesture and gesture == last and now - when < _ONE_GESTURE_S):
            self._before = self._history
        self._last = (gesture, now)
        # From before the gesture: its first steps may have led back to where it began.
        self._history = self._before.did(plan, words)
        self.changed.emit()

    def preview(self, plan: Plan) -> None:
        """Show a plan in the middle of a gesture, without a step of undo."""
        self._preview = laid_by_own_hand(plan)
        self.changed.emit()

    def commit(self, words: str) -> None:
        """End a gesture and keep what it did."""
        if self._preview is not None:
            self.edit(self._preview, words)

    def abort(self) -> None:
        """End a gesture and take back what it did."""
        if self._preview is not None:
            self._preview = None
            self.changed.emit()

    def undo(self, steps: int = 1) -> None:
        """Go some steps back."""
        history = self._history
        for _ in range(steps):
            history = history.undone()
        self._move(history)

    def redo(self) -> None:
        """Go one step forward again."""
        self._move(self._history.redone())

    def replace(self, plan: Plan, path: Path | None) -> None:
        """Put another plan in place of this one, with no past; it counts as saved."""
        self._preview = None
        self._history = History(plan)
        self._saved = plan
        self._last = ("", 0.0)
        self.path = path
        self._stamp = None
        self.carried_over = False
        self.changed.emit()

    def open(self, path: Path) -> None:
        """Open a file in place of this plan; raises PlanFileError and then changes nothing."""
        raw = read(path)
        self.replace(parse(raw, str(path)), path)
        self._stamp = stamp(path, raw)
        self.carried_over = older(raw)

    def save(self, path: Path, over: bool = False) -> None:
        """Save to a file and keep working on it.

        Raises
        ------
        FileError
            If it cannot be written; nothing changes then.
        WrittenElsewhereError
            Unless `over`, if this plan's own file holds something that was never seen here.
        """
        if not over and self.written_elsewhere() and _same(path, self.path):
            raise WrittenElsewhereError(
                f"{path.name} was saved by somebody else since it was opened here{_who(path)}."
            )
        raw = dump(self._history.plan)
        write_atomically(path, raw)
        self.path = path
        self._stamp = stamp(path, raw)
        self._saved = self._history.plan
        self.changed.emit()

    def written_elsewhere(self) -> bool:
        """Tell whether this plan's file holds something that was never seen here."""
        return self.path is not None and written_since(self.path, self._stamp, MOST_BYTES)

    def file_state(self) -> tuple[int, ...]:
        """Return what tells one state of this plan's file from another, without reading it."""
        try:
            found = self.path.stat() if self.path is not None else None
        except (OSError, ValueError):
            found = None
        return () if found is None else (found.st_ino, found.st_size, found.st_mtime_ns)

    def take_theirs(self) -> None:
        """Take what somebody else saved, as one step of undo; raises PlanFileError.

        What was here can be had back by undoing.
        """
        if self.path is None:
            return
        raw = read(self.path)
        plan = parse(raw, str(self.path))
        self._stamp = stamp(self.path, raw)
        self._saved = plan
        self._last = ("", 0.0)
        self._preview = None
        self._history = self._history.did(plan, "taking what was saved elsewhere")
        self.changed.emit()

    def recover(self, plan: Plan) -> None:
        """Put unsaved work in place of this plan; it counts as not saved."""
        self.replace(Plan(""), None)
        self._history = History(plan)
        self.changed.emit()

    def forget(self) -> None:
        """Count the plan as saved although it is not: its owner has said so."""
        self._saved = self._history.plan

    @staticmethod
    def _stamp_of(path: Path) -> Stamp | None:
        try:
            return stamp(path, read(path))
        except PlanFileError:
            return None

    def _move(self, history: History) -> None:
        self._preview = None
        self._last = ("", 0.0)
        self._history = history
        self.changed.emit()


def _same(one: Path, other: Path | None) -> bool:
    return other is not None and one.resolve() == other.resolve()


def _who(path: Path) -> str:
    found = holder(path)
    return (
        f" ({found.words} has it open)"
        if found is not None and found.process != os.getpid()
        else ""
    )
