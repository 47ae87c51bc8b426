"""Work away from the interface thread: where the newest request wins, and where none is dropped.

A request is frozen and carries all it needs. One worker answers, a thread or the helper process;
an answer, or a failure, reaches the receiver on the interface thread, and only if no newer request
has been made since.
"""

from __future__ import annotations

import os
import time
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from contextlib import suppress
from pathlib import Path
from typing import Any, Generic, TypeVar

from PySide6.QtCore import QEventLoop, QObject, Qt, QTimer, Signal

from zesty_veil.desktop.session.apart.link import Channel, Which, helpers
from zesty_veil.faultlog import told

# Seconds in which less than this share is computed: nothing moves.
PATIENCE_S, _STANDS = 120.0, 0.02

_Asked = TypeVar("_Asked")
_Answer = TypeVar("_Answer")
_Found = TypeVar("_Found")


class NewestWins(QObject, Generic[_Asked, _Answer]):
    """One worker for one kind of request.

    Parameters
    ----------
    work
        Called on the worker with a request and a function that tells whether it is still wanted;
        yields answers, cheap ones first.
    apart
        Which helper process does the work, where the program has begun them. Requests and answers
        must be such as can be sent, and the work must stand in a module without Qt.
    """

    answered = Signal(object)
    failed = Signal(Exception)
    _arrived = Signal(int, object, object, bool)
    _rested = Signal()

    def __init__(
        self,
        work: Callable[[_Asked, Callable[[], bool]], Iterator[_Answer]],
        parent: QObject | None = None,
        apart: Which | None = None,
    ) -> None:
        super().__init__(parent)
        self._work, self._apart = work, apart
        self._channel: Channel | None = None
        self._newest = 0
        self._open = 0
        self._closed = False
        self._pool = ThreadPoolExecutor(max_workers=1, thread_name_prefix="forecast")
        self._queued: Future[None] | None = None
        self._arrived.connect(self._apply, Qt.ConnectionType.QueuedConnection)

    def ask(self, request: _Asked) -> None:
        """Take a request; older ones are dropped, whether they wait or run."""
        if self._closed:
            return
        self._newest += 1
        self._open += 1
        link = None if self._apart is None else helpers.link(self._apart)
        if link is None:
            self._take_back()
            self._queued = self._pool.submit(self._run, self._newest, request)
            return
        if self._channel is None or self._channel.link is not link:
            self._channel = Channel(link, self._work, self._arrived.emit)
        self._channel.ask(self._newest, request)

    def drop(self) -> None:
        """Want none of the answers that are under way any more."""
        self._newest += 1
        self._take_back()
        if self._channel is not None:
            self._channel.drop(self._newest)
        if self.idle():
            self._rested.emit()

    def idle(self) -> bool:
        """Tell whether nothing is under way."""
        return self._open == 0

    def wait_until_idle(self, patience: float = PATIENCE_S) -> bool:
        """Run the interface's events until every answer is in; False if nothing moves any more."""
        return waited(self, self._rested, patience)

    def close(self) -> None:
        """Drop everything and end the worker."""
        self._newest += 1
        self._closed = True
        if self._channel is not None:
            self._channel.close(self._newest)
        self._pool.shutdown(wait=True, cancel_futures=True)

    def _take_back(self) -> None:
        """Drop a request for which no thread was free yet."""
        if self._queued is not None and self._queued.cancel():
            self._open -= 1
            self._queued = None

    def _run(self, number: int, request: _Asked) -> None:
        failure: Exception | None = None
        try:
            for answer in self._work(request, lambda: number == self._newest):
                self._arrived.emit(number, answer, None, False)
                if number != self._newest:
                    break
        except Exception as error:
            failure = told(error, self._work)
        self._arrived.emit(number, None, failure, True)

    def _apply(self, number: int, answer: Any, failure: Exception | None, last: bool) -> None:
        if last:
            self._open -= 1
        if number == self._newest:
            if failure is not None:
                self.failed.emit(failure)
            elif answer is not None:
                self.answered.emit(answer)
        if self.idle():
            self._rested.emit()


class EachInTurn(QObject):
    """One worker that does all it is given, in order, and drops none: what is written.

    `failed` is sent with the error of an act for which nobody else hears of it; closing waits for
    all.
    """

    failed = Signal(Exception)
    _arrived = Signal(object, object)
    _rested = Signal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._open = 0
        self._closed = False
        self._pool = ThreadPoolExecutor(max_workers=1, thread_name_prefix="writing")
        self._arrived.connect(self._apply, Qt.ConnectionType.QueuedConnection)

    def do(
        self,
        act: Callable[[], _Found],
        then: Callable[[_Found], object] | None = None,
        failed: Callable[[Exception], object] | None = None,
    ) -> None:
        """Do something after all that was given before.

        `then` gets what it returned and `failed` its error, back on the interface thread. Once it
        is closed nothing more is taken: the window is gone.
        """
        if self._closed:
            return
        self._open += 1
        self._pool.submit(self._run, act, then, failed)

    def idle(self) -> bool:
        """Tell whether all is done."""
        return self._open == 0

    def wait_until_idle(self, patience: float = PATIENCE_S) -> bool:
        """Run the interface's events until all is done; False if nothing moves any more."""
        return waited(self, self._rested, patience)

    def close(self) -> None:
        """Do what is left, and end the worker."""
        self._closed = True
        self._pool.shutdown(wait=True)

    def _run(self, act: Callable[[], Any], then: Any, failed: Any) -> None:
        try:
            found = act()
        except Exception as error:
            self._arrived.emit(failed or self.failed.emit, told(error, act))
        else:
            self._arrived.emit(then, found)

    def _apply(self, hears: Callable[[Any], object] | None, found: Any) -> None:
        self._open -= 1
        if hears is not None:
            hears(found)
        if self.idle():
            self._rested.emit()


def waited(jobs: Any, rested: Any, patience: float = PATIENCE_S) -> bool:
    """Run events until jobs are idle, as long as anything moves, whatever else the machine does.

    patience : seconds in which neither an answer comes nor anybody here computes, until it is
    given up.
    """
    # A real loop sleeps between events, and so leaves the interpreter to the worker.
    loop = QEventLoop()
    rested.connect(loop.quit)
    watch = QTimer(loop)
    before, moves = _computed(), True

    def look() -> None:
        nonlocal before, moves
        now = _computed()
        moves = now - before >= _STANDS * patience
        before = now
        if not moves:
            loop.quit()

    watch.timeout.connect(look)
    watch.start(round(1000 * patience))
    while moves and not jobs.idle():  # an answer may have led to the next request
        loop.exec()
    # What is connected holds the loop, which holds that: neither would ever go.
    watch.timeout.disconnect(look)
    rested.disconnect(loop.quit)
    return bool(jobs.idle())


def _computed() -> float:
    """Return how many seconds this process and its helpers have computed."""
    ticks = 0
    for process in helpers.processes():
        with suppress(OSError, IndexError, ValueError):
            stat = Path(f"/proc/{process}/stat").read_text().rsplit(")", 1)[1].split()
            ticks += int(stat[11]) + int(stat[12])
    return time.process_time() + ticks / os.sysconf("SC_CLK_TCK")
