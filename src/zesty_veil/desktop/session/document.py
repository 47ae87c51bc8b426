"""The open plan: its history, its file and the gesture under way; only this changes it."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from zesty_veil.desktop.session.planfile import Own, Read, read_plan
from zesty_veil.errors import InputError, PlanFileError
from zesty_veil.plan.check import check_edit
from zesty_veil.plan.history import History
from zesty_veil.plan.model import Plan
from zesty_veil.plan.openfile import Stamp
from zesty_veil.plan.refining import laid_by_own_hand
from zesty_veil.tr import tr

# Notches of one turn of the wheel, or repeats of a held key, are one step of undo.
_ONE_GESTURE_S = 0.8


class Document(QObject):
    """A plan being worked on.

    `changed` is sent whenever what is seen must follow, also in the middle of a gesture.

    Parameters
    ----------
    plan, path
        What is worked on, and its file, if it has one.
    now
        A clock in seconds, by which edits that follow each other quickly are one gesture.
    """

    changed = Signal()
    refused = Signal(str)

    def __init__(
        self,
        plan: Plan,
        path: Path | None = None,
        parent: QObject | None = None,
        now: Callable[[], float] = time.monotonic,
    ) -> None:
        super().__init__(parent)
        self._now = now
        self._history = History(plan)
        self._preview: Plan | None = None
        self._saved = plan
        self._own = Own(path, None if path is None else _stamp_of(path))
        self._last: tuple[str, float] = ("", 0.0)
        self._before = self._history  # the gesture that edits belong to, if they do
        self.opened = 0  # how often another plan was put in place of the one before

    @property
    def plan(self) -> Plan:
        """The plan as it is seen: in the middle of a gesture, as the gesture has it."""
        return self._preview if self._preview is not None else self._history.plan

    @property
    def own(self) -> Own:
        """What is known of its file."""
        return self._own

    @property
    def path(self) -> Path | None:
        """Its file, if it has one."""
        return self._own.path

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
            self.refused.emit(tr("{0} Nothing was changed.").format(error))
            return
        now = self._now()
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

    def show_again(self) -> None:
        """Have the plan shown as it is, whatever was shown in place of it."""
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
        self.opened += 1
        self._preview = None
        self._history = History(plan)
        self._saved = plan
        self._last = ("", 0.0)
        self._own = Own(path, None)
        self.changed.emit()

    def take_read(self, found: Read) -> None:
        """Put a plan that was read from a file in place of this one."""
        self.replace(found.plan, found.path)
        self._own = Own(found.path, found.stamp)

    def was_saved(self, plan: Plan, own: Own) -> None:
        """Take note that a plan of this history was written to a file, and go on with that."""
        self._own = own
        self._saved = plan
        self.changed.emit()

    def take_theirs(self, found: Read) -> None:
        """Take what somebody else saved in this plan's file, as one step of undo.

        What was here can be had back by undoing.
        """
        self._own = Own(found.path, found.stamp)
        self._saved = found.plan
        self._last = ("", 0.0)
        self._preview = None
        self._history = self._history.did(found.plan, tr("taking what was saved elsewhere"))
        self.changed.emit()

    def recover(self, plan: Plan, own: Own) -> None:
        """Put unsaved work on a file's plan in place of this one; it counts as not saved."""
        self.replace(Plan(""), None)
        self._history, self._own = History(plan), own
        self.changed.emit()

    def forget(self) -> None:
        """Count the plan as saved although it is not: its owner has said so."""
        self._saved = self._history.plan

    def _move(self, history: History) -> None:
        self._preview = None
        self._last = ("", 0.0)
        self._history = history
        self.changed.emit()


def _stamp_of(path: Path) -> Stamp | None:
    try:
        return read_plan(path).stamp
    except PlanFileError:
        return None
