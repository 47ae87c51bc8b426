"""What reads and writes files of the painter's choosing: a queue for each file system.

Within a queue all is done in turn, and nothing is dropped. A share that does not answer holds up
what is meant for it and nothing else, and it is said what waits.
"""

from __future__ import annotations

import itertools
import os
import re
import time
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import NamedTuple, TypeVar

from PySide6.QtCore import QObject, QTimer, Signal

from zesty_veil.desktop.session.jobs import PATIENCE_S, EachInTurn, waited
from zesty_veil.tr import tr

_Found = TypeVar("_Found")
_LOOK_MS = 1000
_SLOW_S, _MOUNTS_S = 4.0, 5.0
_MOUNTS = Path("/proc/self/mountinfo")
_HERE = "/"


class _Waiting(NamedTuple):
    """Something that is not done yet: what to call it, its file, and since when."""

    words: str
    at: Path | str | None
    since: float


class FileQueues(QObject):
    """One worker for each file system; `slow` says once of each act that it takes long."""

    failed = Signal(Exception)
    slow = Signal(str)
    rested = Signal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._queues: dict[str, EachInTurn] = {}
        self._waiting: dict[int, _Waiting] = {}
        self._told: set[int] = set()
        self._numbers = itertools.count()
        self._closed = False
        self._mounts = mounts()
        self._looked_s = time.monotonic()
        self._look = QTimer(self)
        self._look.setInterval(_LOOK_MS)
        self._look.timeout.connect(self._tell_slow)

    def do(
        self,
        act: Callable[[], _Found],
        then: Callable[[_Found], object] | None = None,
        failed: Callable[[Exception], object] | None = None,
        at: Path | str | None = None,
        words: str = "",
    ) -> None:
        """Do something after all that was given before for the same file system.

        `then` gets what it returned and `failed` its error, back on the interface thread. at : the
        file it is about, none for the program's own, or the name of a queue that is for this alone.
        words : what to call it if it takes long.
        """
        if self._closed:
            return
        self._look_at_mounts()
        number = next(self._numbers)
        self._waiting[number] = _Waiting(words, at, time.monotonic())
        self._look.start()

        def done(found: _Found) -> None:
            self._done(number)
            if then is not None:
                then(found)
            self._rest()

        def went_wrong(error: Exception) -> None:
            self._done(number)
            (failed or self.failed.emit)(error)
            self._rest()

        self._queue(at).do(act, done, went_wrong)

    def idle(self, at: Path | str | None = None) -> bool:
        """Tell whether all is done, or all that is meant for the file system of a file."""
        return self._queue(at).idle() if at is not None else not self._waiting

    def wait_until_idle(self, patience: float = PATIENCE_S) -> bool:
        """Run the interface's events until all is done; False if nothing moves any more."""
        return waited(self, self.rested, patience)

    def waits(self) -> str:
        """Return what the oldest act that is not done waits for, as a sentence; '' for none."""
        if not self._waiting:
            return ""
        oldest = min(self._waiting.values(), key=lambda each: each.since)
        if not isinstance(oldest.at, Path):
            return tr("The disk does not answer.")
        what = oldest.words or tr("Reading {0}").format(oldest.at.name)
        return tr("{0} is not done: {1} does not answer.").format(what, oldest.at.parent)

    def close(self) -> None:
        """Do what is left, and end the workers."""
        self._closed = True
        self._look.stop()
        for queue in self._queues.values():
            queue.close()

    def _queue(self, at: Path | str | None) -> EachInTurn:
        key = mount_of(at, self._mounts) if isinstance(at, Path) else at or _HERE
        if key not in self._queues:
            self._queues[key] = EachInTurn(self)
        return self._queues[key]

    def _look_at_mounts(self) -> None:
        """Read anew what is mounted, now and then, without waiting for it."""
        now = time.monotonic()
        if now - self._looked_s > _MOUNTS_S:
            self._looked_s = now
            self._queue("mounts").do(mounts, self._mounted)

    def _mounted(self, found: tuple[str, ...]) -> None:
        self._mounts = found

    def _done(self, number: int) -> None:
        self._waiting.pop(number, None)
        self._told.discard(number)
        if not self._waiting:
            self._look.stop()

    def _rest(self) -> None:
        if self.idle():
            self.rested.emit()

    def _tell_slow(self) -> None:
        oldest = min(self._waiting, key=lambda each: self._waiting[each].since, default=None)
        if oldest is None or oldest in self._told:
            return
        if time.monotonic() - self._waiting[oldest].since >= _SLOW_S:
            self._told.add(oldest)
            self.slow.emit(tr("{0} Files in other places can be used.").format(self.waits()))


def mounts() -> tuple[str, ...]:
    """Return where file systems are mounted, the deepest first."""
    try:
        lines = _MOUNTS.read_text(errors="surrogateescape").splitlines()
    except OSError:
        return ()
    places = (line.split()[4].encode(errors="surrogateescape") for line in lines)
    return tuple(sorted((_unescaped(place) for place in places), key=len, reverse=True))


def _unescaped(raw: bytes) -> str:
    """Return a place as the system writes it, with spaces and the like as octal numbers."""
    return os.fsdecode(re.sub(rb"\\([0-7]{3})", lambda found: bytes([int(found[1], 8)]), raw))


def mount_of(path: Path, places: Sequence[str]) -> str:
    """Return where the file system of a path is mounted, by the path's letters alone.

    To look at the file itself would wait for the very share that may not answer.

    >>> mount_of(Path("/mnt/share/a.veil"), ("/mnt/share", "/mnt", "/"))
    '/mnt/share'
    >>> mount_of(Path("/mnt/shared/a.veil"), ("/mnt/share", "/"))
    '/'
    """
    whole = os.path.abspath(path)
    inside = (each for each in places if whole == each or whole.startswith(each.rstrip("/") + "/"))
    return next(inside, _HERE)
