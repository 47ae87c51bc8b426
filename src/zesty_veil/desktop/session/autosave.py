"""Unsaved work kept aside, so that a crash or a power cut loses no more than a few seconds.

Each window keeps one file, one that tells which plan's file the work belongs to, and one that it
holds locked as long as it lives: the system lets go of that lock when the process ends, however it
ends. What is found at the start without a held lock belongs to a window that died.
"""

from __future__ import annotations

import fcntl
import os
import secrets
import stat
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import NamedTuple

import msgspec
from PySide6.QtCore import QObject, QTimer, Signal

from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.jobs import EachInTurn
from zesty_veil.desktop.session.planfile import Own
from zesty_veil.errors import FileError, PlanFileError, VeilError
from zesty_veil.files import make_private, put_aside, read_limited, write_atomically
from zesty_veil.paths import unsaved_folder
from zesty_veil.plan.fileformat import SUFFIX, dump, load
from zesty_veil.plan.model import Plan
from zesty_veil.plan.openfile import Stamp
from zesty_veil.tr import tr

_AFTER_MS = 1500
_MOST_OWN_BYTES = 20_000


def left_behind() -> tuple[Path, ...]:
    """Return the work of windows that died, newest first."""
    found = []
    try:
        paths = list(unsaved_folder().glob(f"*{SUFFIX}"))
    except OSError:
        return ()
    for path in paths:
        try:
            status = path.stat()
        except (OSError, ValueError):
            continue  # gone meanwhile: its window let it go
        if stat.S_ISREG(status.st_mode) and not _held(_lock_of(path)):
            found.append((status.st_mtime, path))
    return tuple(path for _, path in sorted(found, reverse=True))


class Recovered(NamedTuple):
    """Unsaved work that was kept: its plan, when, in seconds of the clock, and of which file."""

    plan: Plan
    moment: float
    own: Own


def recovered(path: Path) -> Recovered:
    """Return unsaved work that was kept.

    Raises
    ------
    PlanFileError
        If it cannot be read; it is then put aside, so that it is told of once and not lost.
    """
    try:
        return Recovered(load(path), path.stat().st_mtime, _own_kept(path))
    except OSError as error:
        raise PlanFileError(
            tr("Unsaved work cannot be read: {0}.").format(error.strerror)
        ) from None
    except PlanFileError as error:
        aside = put_aside(path)
        told = tr("Unsaved work that was kept is damaged: {0}").format(error)
        where = "" if aside is None else tr(" It lies in {0}.").format(aside)
        raise PlanFileError(told + where) from None


def forget(path: Path) -> None:
    """Throw kept work away."""
    for each in (path, _file_of(path), _lock_of(path)):
        with suppress(OSError):
            each.unlink(missing_ok=True)


def _lock_of(path: Path) -> Path:
    return path.with_suffix(".lock")


def _file_of(path: Path) -> Path:
    return path.with_suffix(".file")


def _own_kept(path: Path) -> Own:
    """Return which file kept work belongs to; none if it is of none, or that cannot be told."""
    try:
        raw = read_limited(_file_of(path), _MOST_OWN_BYTES, "file")
        where, stamp = msgspec.json.decode(raw, type=tuple[bytes, Stamp | None])
    except (VeilError, OSError, msgspec.MsgspecError, UnicodeError):
        return Own(None, None)
    return Own(Path(os.fsdecode(where)), stamp)


def _held(lock: Path) -> bool:
    """Tell whether a living window holds a lock."""
    try:
        handle = os.open(lock, os.O_RDWR | os.O_CLOEXEC | os.O_NOFOLLOW)
    except OSError:
        return False
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return True
    finally:
        os.close(handle)
    return False


class Autosave(QObject):
    """Keeps the unsaved work of one document aside, away from the interface thread.

    Its queue is its own, and not that of the files which the painter chooses: while a save to a
    share that does not answer hangs, work must still be kept on the disk here.
    """

    failed = Signal(str)

    def __init__(self, document: Document, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.path = unsaved_folder() / f"{os.getpid()}-{secrets.token_hex(6)}{SUFFIX}"
        self._lock: int | None = None
        self.writes = EachInTurn(self)
        self.writes.failed.connect(self._tell)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(_AFTER_MS)
        self._timer.timeout.connect(self.keep)
        self._told = False
        document.changed.connect(self._changed)

    def keep(self, after: Callable[[], object] = lambda: None) -> None:
        """Write the work down now, without waiting for it; then do something on the worker."""
        self._timer.stop()
        if self._document.unsaved:
            plan, own = self._document.history.plan, self._document.own
            self.writes.do(lambda: self._write(plan, own, after))

    def let_go(self) -> None:
        """Forget what was kept: it is saved, or its owner has let it go."""
        self._timer.stop()
        self.writes.do(self._remove)

    def close(self) -> None:
        """Forget what was kept and end the worker."""
        self.let_go()
        self.writes.close()

    def _changed(self) -> None:
        if not self._document.unsaved:
            self.let_go()
        elif not self._timer.isActive():
            self._timer.start()

    def _write(self, plan: Plan, own: Own, after: Callable[[], object]) -> None:
        try:
            make_private(self.path.parent)
            self._hold()
            if own.path is None:
                _file_of(self.path).unlink(missing_ok=True)
            else:
                raw = msgspec.json.encode((os.fsencode(own.path.absolute()), own.stamp))
                write_atomically(_file_of(self.path), raw, private=True)
            write_atomically(self.path, dump(plan), private=True)
        except (OSError, FileError):
            raise FileError(
                tr("Unsaved work cannot be kept aside in {0}; save often.").format(self.path.parent)
            ) from None
        after()

    def _tell(self, error: Exception) -> None:
        """Say once that work is not kept; it will be tried again with each change."""
        if not self._told:
            self._told = True
            self.failed.emit(str(error))

    def _hold(self) -> None:
        """Hold the lock that says that this window lives."""
        if self._lock is None:
            flags = os.O_RDWR | os.O_CREAT | os.O_CLOEXEC
            self._lock = os.open(_lock_of(self.path), flags, 0o600)
            fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)

    def _remove(self) -> None:
        forget(self.path)
        if self._lock is not None:
            os.close(self._lock)
            self._lock = None
