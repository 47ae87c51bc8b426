"""Racks taken in and given out, one after the other, with how far they are and a way to stop."""

from __future__ import annotations

import time
from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from zesty_veil.desktop.session.jobs import EachInTurn
from zesty_veil.desktop.session.userstore import Desk, UserStore
from zesty_veil.errors import DroppedError
from zesty_veil.exchange.rackfile import read_rack, write_rack
from zesty_veil.log.racks import Rack, free_name
from zesty_veil.tr import tr

_TELL_S = 0.2


class Takings(QObject):
    """Reads and writes files of racks on a worker; `said` tells what came of each."""

    said = Signal(str)
    going = Signal(str, int, int)  # what, paints done, and in all; no words at the end

    def __init__(self, user_store: UserStore, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._user_store = user_store
        self._stopped = False
        self.jobs = EachInTurn(self)

    def take(self, path: Path) -> None:
        """Take a rack from a file and use it."""
        known = self._user_store.base

        def act() -> Callable[[], None]:
            telling = self._telling(tr("Taking in {0}").format(path.name))
            rack = read_rack(path, known, telling)
            return lambda: self._put(rack, path.name)

        self._begin(self.jobs.do, act)

    def give(self, path: Path) -> None:
        """Write the rack in use to a file."""
        rack = self._user_store.rack

        def act() -> Callable[[], None]:
            write_rack(rack, path, self._telling(tr("Writing {0}").format(path.name)))
            return lambda: self.said.emit(tr("Wrote {0}.").format(path.name))

        words = tr("Writing {0}").format(path.name)
        self._begin(partial(self._user_store.writes.do, at=path, words=words), act)

    def stop(self) -> None:
        """Leave what is under way; nothing of it is kept."""
        self._stopped = True

    def close(self) -> None:
        """End the worker: what is read is left, what is written is written."""
        self._stopped = True
        self.jobs.close()

    def _begin(self, do: Callable[..., None], act: Callable[[], Callable[[], None]]) -> None:
        def begun() -> Callable[[], None]:
            self._stopped = False
            return act()

        do(begun, self._done, self._failed)

    def _telling(self, words: str) -> Callable[[int, int], None]:
        begun = last = time.monotonic()

        def tell(done: int, total: int) -> None:
            nonlocal last
            if self._stopped:
                raise DroppedError
            now = time.monotonic()
            if now - last > _TELL_S and now - begun > 2 * _TELL_S:
                last = now
                self.going.emit(
                    tr("{0}: {1} of {2} paints").format(words, done, total), done, total
                )

        return tell

    def _put(self, rack: Rack, file: str) -> None:
        def put(desk: Desk) -> None:
            named = Rack(free_name(rack.name, desk.racks.names()), rack.paints)
            desk.racks.put(named)
            desk.racks.choose(named.name)

        def told(_: object) -> None:
            self._user_store.learn()
            self.said.emit(tr("Took {0} paints from {1}.").format(len(rack.paints), file))

        self._user_store.do(put, told)

    def _done(self, then: Callable[[], None]) -> None:
        self.going.emit("", 0, 0)
        then()

    def _failed(self, error: Exception) -> None:
        self.going.emit("", 0, 0)
        self.said.emit(str(error))
