"""How a window ends: when all is written, after asking, or at once."""

from __future__ import annotations

import os
from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer
from PySide6.QtWidgets import QApplication

from zesty_veil.desktop.kit.messageline import MessageLine, Reply
from zesty_veil.desktop.session.apart.link import helpers
from zesty_veil.desktop.session.autosave import Autosave
from zesty_veil.desktop.session.userstore import UserStore
from zesty_veil.tr import tr

# How long a closing window waits for what is written, and one that must go at once.
_WAITS_MS, _ENDS_S = 2500, 2.0
leave_process = os._exit


class Leaving(QObject):
    """Closes a window as soon as all that it writes is written.

    Parameters
    ----------
    close
        Closes the window, which asks `ready` first.
    shut
        Hides it and ends all of its workers but those that write.
    """

    def __init__(
        self,
        parent: QObject,
        line: MessageLine,
        user_store: UserStore,
        autosave: Autosave,
        close: Callable[[], object],
        shut: Callable[[], object],
    ) -> None:
        super().__init__(parent)
        self._line, self._user_store, self._autosave = line, user_store, autosave
        self._close, self._shut = close, shut
        self.waiting = False  # whether the window closes when all is written
        self._ended = False
        user_store.writes.rested.connect(self._written)

    def ready(self) -> bool:
        """Tell whether all is written; else the window closes later, or asks whether to wait."""
        if self._user_store.writes.idle():
            self.waiting = False
            return True
        if not self.waiting:
            self.waiting = True
            QTimer.singleShot(_WAITS_MS, self, self._ask)
        return False

    def stay(self) -> None:
        """Close no more when all is written."""
        self.waiting = False

    def end_at_once(self) -> None:
        """End without asking anything; unsaved work is kept aside, and offered at the next start.

        What a share that does not answer was asked for is not waited for.
        """
        if self._ended:
            return
        self._ended = True
        self._autosave.keep()
        self._autosave.writes.close()
        self._shut()
        self._user_store.writes.wait_until_idle(_ENDS_S)
        if self._user_store.all_written():
            self._user_store.close()
            QApplication.exit(0)
        else:
            helpers.end()
            leave_process(0)

    def _written(self) -> None:
        if self.waiting:
            self._close()

    def _ask(self) -> None:
        if not self.waiting:
            return
        self.waiting = False
        self._line.ask(
            "waits",
            self._user_store.writes.waits(),
            {
                "wait": Reply(tr("Keep waiting"), self._close),
                "end": Reply(tr("Close without it"), self.end_at_once),
                "stay": Reply(tr("Don't close"), self.stay),
            },
            pressed=True,
        )
