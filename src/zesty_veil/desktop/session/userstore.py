"""What the windows keep between plans: racks, log, what was learnt; one object for all stations.

The log's file may be large, slow, or locked by another window, so only workers open it. What is
known of rack and hand is read anew after each change and stands here, whole, for all to see.
"""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, NamedTuple, TypeVar

from PySide6.QtCore import QObject, QTimer, Signal

from zesty_veil.desktop.session.filequeues import FileQueues
from zesty_veil.desktop.session.jobs import EachInTurn, NewestWins
from zesty_veil.errors import LogError
from zesty_veil.files import missing
from zesty_veil.log.learning import Learning
from zesty_veil.log.lessons import Lesson, ToLearn, lessons
from zesty_veil.log.logbook import Logbook
from zesty_veil.log.racks import DEMO, Kept, Rack, Racks
from zesty_veil.log.store import Store
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.paths import log_path
from zesty_veil.plan.model import OwnTool
from zesty_veil.tr import tr

_LOOK_MS = 3000
# A log of usual size is read in less; the window does not wait longer for any.
_FIRST_S = 0.25

_Found = TypeVar("_Found")


def _demo() -> Rack:
    return Rack(DEMO, tuple(Kept(paint) for paint in demo_rack()))


@dataclass(frozen=True)
class KnownRack:
    """What is known of rack and hand.

    rack : the one in use, its paints as they are known now. base : the same as cards and makers
    say. names : of all racks. accuracy : median dE00 before and after learning. weights : how much
    each record counted.
    """

    rack: Rack = field(default_factory=_demo)
    base: Rack = field(default_factory=_demo)
    hand: tuple[OwnTool, ...] = ()
    names: tuple[str, ...] = (DEMO,)
    accuracy: tuple[float, float] = (0.0, 0.0)
    weights: dict[int, float] = field(default_factory=dict)


class Desk:
    """The log as a worker has it open."""

    def __init__(self, path: Path) -> None:
        self.store = Store(path)
        self.racks, self.book = Racks(self.store), Logbook(self.store)
        self.learning = Learning(self.store)
        self.seen = self.store.changes()

    def known(self) -> KnownRack:
        """Return what is known; raises LogError."""
        self.seen = self.store.changes()
        base, learning = self.racks.get(), self.learning
        return KnownRack(
            learning.known(base), base, learning.hand(base.name), self.racks.names(),
            learning.accuracy(base.name), learning.weights(base.name),
        )  # fmt: skip


class _Done(NamedTuple):
    """What came of an act on the worker."""

    found: Any
    known: KnownRack | None
    then: Callable[[Any], object] | None
    told: tuple[str, ...]


class UserStore(QObject):
    """Racks and log; `changed` is sent when rack, records or what was learnt change.

    Where the file cannot be used, the demo rack is at hand and nothing is kept; `complained` says
    so.
    """

    changed = Signal()
    complained = Signal(str)
    learning_now = Signal(int, int)  # records done, and in all; 0 done when it is at its end

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.log = log_path()
        self.trouble = ""
        self._known = KnownRack()
        self._desk: Desk | None = None  # only the worker touches it
        self._found_gone = False  # so is this: whether the log's file was
        self._queue = EachInTurn(self)
        self._queue.failed.connect(lambda error: self.complained.emit(str(error)))
        # Files of the painter's choosing, each written whole before the next.
        self.writes = FileQueues(self)
        self.writes.slow.connect(self.complained.emit)
        self.writes.failed.connect(lambda error: self.complained.emit(str(error)))
        self.jobs: NewestWins[ToLearn, Lesson] = NewestWins(lessons, self, "long")
        self.jobs.answered.connect(self._learnt)
        self.jobs.failed.connect(lambda error: self.complained.emit(str(error)))
        self._begin()
        # Another window may write to the same log.
        self._timer = QTimer(self)
        self._timer.setInterval(_LOOK_MS)
        self._timer.timeout.connect(self.look)
        self._timer.start()

    @property
    def known(self) -> KnownRack:
        """What is known of rack and hand."""
        return self._known

    @property
    def rack(self) -> Rack:
        """The rack in use, its paints as they are known now."""
        return self._known.rack

    @property
    def base(self) -> Rack:
        """The rack in use as cards and makers say, without what the log taught."""
        return self._known.base

    @property
    def hand(self) -> tuple[OwnTool, ...]:
        """The painter's hand as it is known now."""
        return self._known.hand

    def own_paints(self) -> tuple[Paint, ...]:
        """Return the paints of the rack in use that are at hand."""
        return tuple(kept.paint for kept in self.rack.paints if kept.status == "own")

    def do(
        self,
        act: Callable[[Desk], _Found],
        then: Callable[[_Found], object] | None = None,
        anew: bool = True,
    ) -> None:
        """Do something to racks or log on the worker, after all that was asked before.

        Parameters
        ----------
        act
            Gets the open log; what it raises is said.
        then
            Gets what `act` returned, back on the interface thread.
        anew
            Whether rack and hand are to be read anew, and everybody told.
        """
        self._queue.do(lambda: self._done(act, then, anew), self._apply)

    def learn(self) -> None:
        """Work out anew what the records that count teach, once all is written."""
        self.do(lambda _: None, lambda _: self._ask_to_learn(), anew=False)

    def stop_learning(self) -> None:
        """Leave what was learnt as it is; the next record begins anew."""
        self.jobs.drop()
        self.learning_now.emit(0, 1)

    def look(self) -> None:
        """See whether another window has written, and reckon what an older program left."""
        if self._queue.idle():
            self._queue.do(self._looked, self._apply)

    def wait_until_idle(self) -> bool:
        """Run events until all is written and what can be learnt is learnt."""
        every = (self._queue, self.jobs, self.writes)
        while not all(jobs.idle() for jobs in every):
            if not all(jobs.wait_until_idle() for jobs in every):
                return False
        return True

    def all_written(self) -> bool:
        """Tell whether nothing is left to be written, to the log or elsewhere."""
        return self._queue.idle() and self.writes.idle()

    def close(self) -> None:
        """Write what is left, end the workers and close the file."""
        self._timer.stop()
        self.jobs.close()
        self.writes.close()
        self._queue.do(self._shut)
        self._queue.close()

    def _begin(self) -> None:
        """Open the log; if that is soon done, before anything is shown."""
        first, read = threading.Event(), list[KnownRack]()

        def begun() -> _Done:
            try:
                read.append(self._open().known())
            except LogError as error:
                self.trouble = tr("{0} Nothing of racks and log is kept until then.").format(error)
                return _Done(None, None, None, (self.trouble,))
            finally:
                first.set()
            return _Done(None, read[0], None, self._told())

        self._queue.do(begun, self._apply)
        if first.wait(_FIRST_S) and read:
            self._known = read[0]

    def _open(self) -> Desk:
        if self._desk is not None and self._desk.store.parted():
            self._take_up_again(self._desk)
        if self._desk is None:
            self._desk = Desk(self.log)
            self.trouble = ""
        return self._desk

    def _take_up_again(self, desk: Desk) -> None:
        """Open the log anew whose file was deleted, or replaced, under this window.

        What is held open of a deleted one is written again: nothing of it is lost.
        """
        if missing(self.log):
            desk.store.write_again()
            self._found_gone = True
        desk.store.close()
        self._desk = None

    def _told(self) -> tuple[str, ...]:
        """Return what was found damaged since it was told last."""
        if self._desk is None:
            return ()
        told = tuple(self._desk.store.trouble)
        self._desk.store.trouble.clear()
        if self._found_gone:
            self._found_gone = False
            words = tr("The log {0} was gone. It was written again as this window knows it.")
            told = (*told, words.format(self.log))
        return told

    def _done(
        self, act: Callable[[Desk], Any], then: Callable[[Any], object] | None, anew: bool
    ) -> _Done:
        desk = self._open()
        found = act(desk)
        return _Done(found, desk.known() if anew else None, then, self._told())

    def _looked(self) -> _Done:
        if self._desk is None:
            return _Done(None, None, None, ())  # whoever wants to write is told
        before, desk = self._desk, self._open()
        if desk is not before:
            return _Done(None, desk.known(), None, self._told())
        known = desk.known() if desk.store.changes() != desk.seen else None
        desk.book.reckon()
        return _Done(None, known, None, self._told())

    def _shut(self) -> None:
        if self._desk is not None:
            self._desk.store.close()
            self._desk = None

    def _apply(self, done: _Done) -> None:
        if done.known is not None:
            self._known = done.known
            self.changed.emit()
        for words in done.told:
            self.complained.emit(words)
        if done.then is not None:
            done.then(done.found)

    def _ask_to_learn(self) -> None:
        paints = tuple(kept.paint for kept in self.base.paints)
        self.jobs.ask(ToLearn(self.log, self.base.name, paints))

    def _learnt(self, told: Lesson) -> None:
        found, asked = told.found, told.asked
        self.learning_now.emit(0 if found is not None else told.done, told.total)
        if found is None:
            return
        bases = {paint.name: paint for paint in asked.paints}
        self.do(lambda desk: desk.learning.keep(asked.rack, bases, found))
