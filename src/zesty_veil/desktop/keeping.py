"""What the windows keep between plans: racks, log, what was learnt; one object for all stations."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from PySide6.QtCore import QObject, QTimer, Signal

from zesty_veil.desktop.jobs import NewestWins
from zesty_veil.errors import LogError
from zesty_veil.log.learn import Learnt, lesson
from zesty_veil.log.learning import Learning
from zesty_veil.log.logbook import Logbook
from zesty_veil.log.racks import DEMO, Kept, Rack, Racks
from zesty_veil.log.record import Record
from zesty_veil.log.store import Store
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.model import OwnTool

_LOOK_MS = 3000
_TELL_EVERY = 20  # colours between two tellings of how far a lesson is


@dataclass(frozen=True)
class ToLearn:
    """Records and the paints that they may refine."""

    rack: str
    records: tuple[Record, ...]
    paints: tuple[Paint, ...]
    hand: tuple[OwnTool, ...]  # as its strips tell


@dataclass(frozen=True)
class Lesson:
    """How far a lesson has come, and at its end what it taught."""

    asked: ToLearn
    done: int
    total: int
    found: Learnt | None = None


def lessons(asked: ToLearn, wanted: Callable[[], bool]) -> Iterator[Lesson]:
    """Yield now and then how far it is, and at last what the records teach."""
    paints = {paint.name: paint for paint in asked.paints}
    for step in lesson(asked.records, paints, hand=asked.hand):
        if not wanted():
            return
        if isinstance(step, Learnt):
            yield Lesson(asked, 1, 1, step)
        elif step[0] % _TELL_EVERY == 0:
            yield Lesson(asked, *step)


class Keeping(QObject):
    """The log's file, open; `changed` is sent when rack, records or what was learnt change.

    Where the file cannot be used, the demo rack is at hand and nothing is kept; `complained` says
    so once.
    """

    changed = Signal()
    complained = Signal(str)
    learning_now = Signal(int, int)  # colours done, and in all; 0 done when it is at its end

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.store: Store | None = None
        self.trouble = ""
        self._rack = Rack(DEMO, tuple(Kept(paint) for paint in demo_rack()))
        self._base = self._rack
        self._hand: tuple[OwnTool, ...] = ()
        self._records: tuple[Record, ...] | None = None  # read when they are asked for
        try:
            self.store = Store()
            self.racks = Racks(self.store)
            self.book = Logbook(self.store)
            self.learning = Learning(self.store)
            self._seen = self.store.changes()
            self._read()
        except LogError as error:
            self.trouble = f"{error} Nothing of racks and log is kept until then."
            if self.store is not None:
                self.store.close()
                self.store = None
        self.jobs: NewestWins[ToLearn, Lesson] = NewestWins(lessons, self)
        self.jobs.answered.connect(self._learnt)
        self.jobs.failed.connect(lambda error: self.complained.emit(str(error)))
        # Another window may write to the same log.
        self._timer = QTimer(self)
        self._timer.setInterval(_LOOK_MS)
        self._timer.timeout.connect(self.look)
        if self.store is not None:
            self._timer.start()

    @property
    def rack(self) -> Rack:
        """The rack in use, its paints as they are known now."""
        return self._rack

    @property
    def base(self) -> Rack:
        """The rack in use as cards and makers say, without what the log taught."""
        return self._base

    @property
    def hand(self) -> tuple[OwnTool, ...]:
        """The painter's hand as it is known now."""
        return self._hand

    def own_paints(self) -> tuple[Paint, ...]:
        """Return the paints of the rack in use that are at hand."""
        return tuple(kept.paint for kept in self._rack.paints if kept.status == "own")

    def records(self) -> tuple[Record, ...]:
        """Return all records of the log; none, with a complaint, where it cannot be read."""
        if self._records is None and self.store is not None:
            try:
                self._records = self.book.all()
            except LogError as error:
                self.complained.emit(str(error))
        return self._records or ()

    def do(self, act: Callable[[], object]) -> bool:
        """Do something to racks or log, and tell everybody; say what went wrong."""
        if self.store is None:
            self.complained.emit(self.trouble)
            return False
        try:
            act()
            self._read()
        except LogError as error:
            self.complained.emit(str(error))
            return False
        self.changed.emit()
        return True

    def learn(self) -> None:
        """Work out anew what the records that count teach."""
        if self.store is None:
            return
        records = self.records()
        paints = tuple(kept.paint for kept in self._base.paints)
        self.jobs.ask(ToLearn(self._base.name, records, paints, self.learning.strips()))

    def stop_learning(self) -> None:
        """Leave what was learnt as it is; the next record begins anew."""
        self.jobs.drop()
        self.learning_now.emit(0, 1)

    def look(self) -> None:
        """See whether another window has written."""
        if self.store is None:
            return
        try:
            now = self.store.changes()
            if now != self._seen:
                self._seen = now
                self._read()
                self.changed.emit()
        except LogError as error:
            self.complained.emit(str(error))

    def wait_until_idle(self, milliseconds: int = 20_000) -> bool:
        """Run events until what can be learnt is learnt."""
        return self.jobs.wait_until_idle(milliseconds)

    def close(self) -> None:
        """End the worker and close the file."""
        self._timer.stop()
        self.jobs.close()
        if self.store is not None:
            self.store.close()
            self.store = None

    def _read(self) -> None:
        self._records = None
        self._base = self.racks.get()
        self._rack = self.learning.known(self._base)
        self._hand = self.learning.hand(self._base.name)

    def _learnt(self, told: Lesson) -> None:
        found, asked = told.found, told.asked
        self.learning_now.emit(0 if found is not None else told.done, told.total)
        if found is None:
            return
        bases = {paint.name: paint for paint in asked.paints}
        self.do(lambda: self.learning.keep(asked.rack, bases, found))
