"""Unsaved work kept aside, so that a crash or a power cut loses no more than a few seconds.

Each window keeps one file, named by its process; it goes when the work is saved or let go. What is
found at the start with no living process belongs to a window that died.
"""

from __future__ import annotations

import os
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from pathlib import Path

from platformdirs import user_state_path
from PySide6.QtCore import QObject, QTimer, Signal

from zesty_veil.desktop.document import Document
from zesty_veil.errors import FileError
from zesty_veil.files import make_private, write_atomically
from zesty_veil.plan.fileformat import SUFFIX, dump

_AFTER_MS = 1500


def folder() -> Path:
    """Return where unsaved work is kept."""
    return user_state_path("zesty-veil") / "unsaved"


def left_behind() -> tuple[Path, ...]:
    """Return the work of windows that died, newest first."""
    found = [p for p in folder().glob(f"*{SUFFIX}") if not _alive(p)] if folder().is_dir() else []
    return tuple(sorted(found, key=lambda path: path.stat().st_mtime, reverse=True))


def _alive(path: Path) -> bool:
    """Tell whether the process that a file is named by still runs."""
    number = path.stem.partition("-")[0]
    if not number.isdigit():
        return False
    try:
        os.kill(int(number), 0)
    except ProcessLookupError:
        return False
    except (PermissionError, OverflowError):
        return True
    return True


class Autosave(QObject):
    """Keeps the unsaved work of one document aside, away from the interface thread."""

    failed = Signal(str)

    def __init__(self, document: Document, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document = document
        # Two windows of one process keep two files.
        self.path = folder() / f"{os.getpid()}-{id(self):x}{SUFFIX}"
        self._pool = ThreadPoolExecutor(max_workers=1, thread_name_prefix="autosave")
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(_AFTER_MS)
        self._timer.timeout.connect(self.keep)
        self._told = False
        document.changed.connect(self._changed)

    def keep(self) -> None:
        """Write the work down now, without waiting for it."""
        self._timer.stop()
        if self._document.unsaved:
            self._pool.submit(self._write, dump(self._document.history.plan))

    def let_go(self) -> None:
        """Forget what was kept: it is saved, or its owner has let it go."""
        self._timer.stop()
        self._pool.submit(self._remove)

    def close(self) -> None:
        """Forget what was kept and end the worker."""
        self.let_go()
        self._pool.shutdown(wait=True)

    def _changed(self) -> None:
        if not self._document.unsaved:
            self.let_go()
        elif not self._timer.isActive():
            self._timer.start()

    def _write(self, raw: bytes) -> None:
        try:
            make_private(self.path.parent)
            write_atomically(self.path, raw, private=True)
        except FileError:
            if not self._told:
                self._told = True
                self.failed.emit(
                    f"Unsaved work cannot be kept aside in {self.path.parent}; save often."
                )

    def _remove(self) -> None:
        with suppress(OSError):
            self.path.unlink(missing_ok=True)
