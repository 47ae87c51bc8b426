"""The Log's page: records to search, the one in hand, and the trend."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.kit.emptystate import EmptyState
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.searchline import search_line
from zesty_veil.desktop.logbook.entryview import EntryView
from zesty_veil.desktop.logbook.keys import ENTRY, LOG
from zesty_veil.desktop.logbook.recordlist import RecordList
from zesty_veil.desktop.logbook.recordview import RecordView, Trend
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.session.userstore import UserStore
from zesty_veil.exchange.logfile import write_log
from zesty_veil.log.judge import TrendPoint
from zesty_veil.log.logbook import Line, Logbook, Removed, photograph_path
from zesty_veil.log.record import Record
from zesty_veil.log.store import opened
from zesty_veil.services.browsing import (
    Listed,
    LogSearch,
    One,
    Searching,
    Some,
    lines,
    looking,
)
from zesty_veil.tr import counted, tr

_BESIDE = 330
_WHAT_FOR = (
    "The log keeps what was painted and what came out: colours beside what was predicted, a "
    "photograph, a few words. From that the program learns your paints and your hand, and its "
    "predictions come nearer."
)


class LogPage(Page):
    """Shows the log; writing a record stands on a page of its own within it.

    Parameters
    ----------
    document, user_store
        The open plan, and what is kept.
    place
        Returns the passage in view and the place that is read.
    """

    keys = LOG
    whole = True
    again_wanted = Signal(object)  # Plan

    def __init__(
        self, document: Document, user_store: UserStore, place: Callable[[], tuple[int, float]]
    ) -> None:
        super().__init__()
        self._document, self._user_store, self._place = document, user_store, place
        self.list, self.record, self.trend = RecordList(), RecordView(), Trend()
        self._shown: Record | None = None
        self._fresh = 0  # a record that was just written, to be taken in hand
        self.entry = EntryView(user_store)
        self.setFocusProxy(self.list)
        self.entry.done.connect(self._entered)
        self._searching = Searching()
        self.searches: NewestWins[LogSearch, Listed] = NewestWins(self._searching, self)
        self.pagings: NewestWins[Some, tuple[Line, ...]] = NewestWins(lines, self)
        self.looks: NewestWins[One, Record] = NewestWins(looking, self)
        self.searches.answered.connect(self._listed)
        self.pagings.answered.connect(self.list.show_lines)
        self.looks.answered.connect(self._looked)
        for jobs in (self.searches, self.pagings):
            jobs.failed.connect(lambda error: self.complained.emit(str(error)))
        self.looks.failed.connect(self._unlooked)
        user_store.changed.connect(self._changed)
        user_store.learning_now.connect(self._show_progress)
        self.list.chosen.connect(self._take)
        self.list.wanted.connect(lambda some: self.pagings.ask(Some(user_store.log, some)))
        self.record.again_wanted.connect(self._again)
        self.record.count_wanted.connect(self.toggle)
        self.record.remove_wanted.connect(self._remove)
        self._lay_out()

    def open(self) -> bool:
        """Show the log."""
        if self._user_store.trouble:
            self.complained.emit(self._user_store.trouble)
        self.pages.setCurrentWidget(self.shelf)
        self.refresh()
        self.list.setFocus()
        return True

    def tools(self) -> QWidget | None:
        """Return what is done to the log, or to the record that is written."""
        return self.entry.head if self.pages.currentWidget() is self.entry else self.head

    def state_words(self) -> str:
        """Return how many records are listed."""
        count = self.list.count
        return counted(count, "{0} record", "{0} records") if count else tr("no records yet")

    def refresh(self, anew: bool = True) -> None:
        """Search the log; with `anew`, what was read before may have changed."""
        self.searches.ask(LogSearch(self._user_store.log, self.search.text(), anew))

    @property
    def in_hand(self) -> Record | None:
        """The record in hand, when it is read."""
        shown = self._shown
        return shown if shown is not None and shown.number == self.list.in_hand else None

    def enter(self) -> None:
        """Write down what came out of the open plan."""
        passage, place = self._place()
        self.entry.begin(self._document.plan, passage, place)
        self.pages.setCurrentWidget(self.entry)
        self.entry.setFocus()

    def toggle(self) -> None:
        """Let paints and hand learn from the record in hand, or not."""
        record = self.in_hand
        if record is not None:
            number, counts = record.number, not record.counts
            self._user_store.do(
                lambda desk: desk.book.count(number, counts), lambda _: self._user_store.learn()
            )

    def export_to(self, path: Path) -> None:
        """Write the log to a file."""

        log = self._user_store.log

        def export() -> str:
            with opened(log) as store:
                book = Logbook(store)
                count = write_log(book.each(book.numbers()[::-1]), path)
            return tr("Wrote {0} records to {1}.").format(count, path.name)

        self.complained.emit(tr("Writing {0} …").format(path.name))
        complain = self.complained.emit
        self._user_store.writes.do(
            export, complain, lambda error: complain(str(error)), path,
            tr("Writing {0}").format(path.name),
        )  # fmt: skip

    def wait_until_idle(self) -> bool:
        """Run events until all that is asked of the log is there."""
        photo = self.record.photo.jobs
        every = (self.searches, self.pagings, self.looks, self._user_store.writes, photo)
        while not all(jobs.idle() for jobs in every):
            if not all(jobs.wait_until_idle() for jobs in every):
                return False
        return True

    def close_jobs(self) -> None:
        """End the workers."""
        self.entry.close_jobs()
        every = (self.searches, self.pagings, self.looks, self.record.photo.jobs)
        for jobs in every:
            jobs.close()
        self._searching.close()

    def hint(self) -> str:
        """Return what can be done while a record is written."""
        return (ENTRY if self.pages.currentWidget() is self.entry else LOG).hint()

    def give_up(self) -> None:
        """Leave writing for the log, or the log for the section."""
        if self.pages.currentWidget() is self.entry:
            self._entered(0)
            return
        self.left.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Write down, or leave."""
        command = self.keys.pressed(event)
        if command == "leave log":
            self.give_up()
        elif command == "enter" and self.pages.currentWidget() is not self.entry:
            self.enter()
        else:
            event.ignore()
            return
        event.accept()

    def _listed(self, found: Listed) -> None:
        if found.trend is not None:
            self._show_trend(found.trend)
            return
        numbers, hand = found.numbers, self._fresh or self.list.in_hand
        self._fresh = 0
        at_hand = hand in set(numbers)
        self.list.show_numbers(
            numbers, hand if at_hand else next(iter(numbers), 0), found.asked.anew
        )
        self._take(self.list.in_hand)
        if self.pages.currentWidget() is not self.entry:
            nothing = not numbers and not self.search.text()
            held = self.list.hasFocus() or self.empty.buttons[0].hasFocus()
            self.pages.setCurrentWidget(self.empty if nothing else self.shelf)
            if held:  # the keyboard stays on what is shown, whose keys are told below
                (self.empty.buttons[0] if nothing else self.list).setFocus()
        self.state_changed.emit()

    def _show_trend(self, points: tuple[TrendPoint, ...]) -> None:
        self.trend.show_points(points)
        for widget in (self.trend, self.learnt):
            widget.setVisible(bool(points))
        before, after = self._user_store.known.accuracy
        self.learnt.setText(
            tr(
                "Half of all colours came out within dE {0:.1f} of what was predicted; with "
                "what was learnt since, it would be {1:.1f}."
            ).format(before, after)
            if before
            else tr("How far predictions were off (dE), record by record.")
        )

    def _take(self, number: int) -> None:
        """Take a record in hand; it is shown when it is read."""
        if number:
            self.looks.ask(One(self._user_store.log, number))
        else:
            self.looks.drop()
            self._looked(None)

    def _looked(self, record: Record | None) -> None:
        self._shown = record
        photo, weight = None, None
        if record is not None:
            if record.photograph:
                photo = photograph_path(self._user_store.log, record.photograph)
            weight = self._user_store.known.weights.get(record.number)
        self.record.show_record(record, photo, weight)

    def _unlooked(self, error: Exception) -> None:
        """Say what is wrong with a record, and let it be taken out all the same."""
        self._looked(None)
        number = self.list.in_hand
        self.offered.emit(str(error), tr("Take it out"), lambda: self._take_out(number))

    def _again(self) -> None:
        record = self.in_hand
        if record is not None:
            self.left.emit()
            self.again_wanted.emit(record.plan)

    def _remove(self) -> None:
        if self.in_hand is not None:
            self._take_out(self.list.in_hand)

    def _take_out(self, number: int) -> None:
        """Take a record out, and offer to put it back."""

        def put_back(removed: Removed) -> None:
            self._user_store.do(
                lambda desk: desk.book.put_back(removed), lambda _: self._user_store.learn()
            )

        def gone(removed: Removed | None) -> None:
            self._user_store.learn()
            if removed is not None:
                title = removed.record.plan.title
                self.offered.emit(
                    tr("The record of “{0}” is out of the log.").format(title), tr("Put it back"),
                    lambda: put_back(removed),
                )  # fmt: skip

        self._user_store.do(lambda desk: desk.book.remove(number), gone)

    def _entered(self, number: int) -> None:
        self._fresh = number
        self.pages.setCurrentWidget(self.shelf)
        self.refresh()
        self.list.setFocus()

    def _changed(self) -> None:
        if self.isVisible():
            self.refresh()

    def _show_progress(self, done: int, total: int) -> None:
        for widget in (self.progress, self.stop):
            widget.setVisible(done > 0)
        self.progress.setRange(0, total)
        self.progress.setValue(done)

    def _choose_export(self) -> None:
        start = str(Path.home() / "log.csv")
        name, _ = QFileDialog.getSaveFileName(
            self, tr("Give the log out"), start, tr("Log (*.csv *.json)")
        )
        if name:
            self.export_to(Path(name))

    def _lay_out(self) -> None:
        self.search = search_line(tr("find records"), tr("Find a plan, paint, passage, day, word"))
        self.search.textChanged.connect(lambda _: self.refresh(anew=False))
        self.new = QPushButton(tr("Write down what came out …"))
        self.new.setToolTip(LOG.tooltip("enter", tr("Of the open plan")))
        self.new.clicked.connect(lambda _=False: self.enter())
        self.give = QPushButton(tr("Give out …"))
        self.give.clicked.connect(lambda _=False: self._choose_export())
        self.give.setToolTip(tr("The records as JSON or CSV"))
        self.leave = QPushButton(tr("Back"))
        self.leave.setToolTip(LOG.tooltip("leave log", tr("Go back to the section")))
        self.leave.clicked.connect(lambda _=False: self.give_up())
        self.learnt = Label()
        self.learnt.setWordWrap(True)
        self.head = QWidget()
        head = QHBoxLayout(self.head)
        head.setContentsMargins(0, 0, 0, 0)
        head.setSpacing(8)
        self.new.setObjectName("main")
        for button in (self.give, self.new, self.leave):
            head.addWidget(button)
        self.empty = EmptyState("log", tr("What really came out"), tr(_WHAT_FOR))
        self.empty.show_starts([(tr("Write down what came out …"), self.enter)])
        self.list.setFixedWidth(_BESIDE)
        right = QVBoxLayout()
        right.setContentsMargins(0, 0, 0, 0)
        right.addWidget(self.record, 1)
        right.addStretch(0)
        self.progress = QProgressBar()
        self.progress.setAccessibleName(tr("learning from the log"))
        self.progress.setTextVisible(False)
        self.progress.setFixedSize(160, 6)
        self.stop = QPushButton(tr("Stop"))
        self.stop.clicked.connect(lambda _=False: self._user_store.stop_learning())
        self._show_progress(0, 1)
        said = QHBoxLayout()
        for widget in (self.progress, self.stop):
            said.addWidget(widget)
        said.insertWidget(0, self.learnt, 1)
        right.addLayout(said)
        right.addWidget(self.trend)
        body = QHBoxLayout()
        body.setContentsMargins(0, 0, 0, 0)
        body.setSpacing(16)
        body.addWidget(self.list)
        body.addLayout(right, 1)
        self.shelf = QWidget()
        column = QVBoxLayout(self.shelf)
        column.setContentsMargins(8, 0, 16, 0)
        column.setSpacing(8)
        column.addWidget(self.search)
        column.addLayout(body, 1)
        self.pages = QStackedWidget()
        self.pages.addWidget(self.shelf)
        self.pages.addWidget(self.empty)
        self.pages.addWidget(self.entry)
        page = QVBoxLayout(self)
        page.setContentsMargins(0, 0, 0, 4)
        page.addWidget(self.pages)
        self.pages.currentChanged.connect(lambda _: self.turned.emit())
