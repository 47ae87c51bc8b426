"""Sitting: one pass after another, by the clock, with what dries and what comes next."""

from __future__ import annotations

import time
from collections.abc import Callable

from msgspec.structs import replace
from PySide6.QtCore import QTimer, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QApplication,
)

from zesty_veil.bench import sitting as bench
from zesty_veil.bench.resume import most_figures_laid
from zesty_veil.bench.sitting import Sitting, Where
from zesty_veil.bench.tasks import MOST_FIGURES_AT_ONCE
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.filequeues import FileQueues
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.sitting.lanes import clock
from zesty_veil.desktop.sitting.sittingpage import SittingPage
from zesty_veil.paths import sitting_path
from zesty_veil.plan.model import Plan
from zesty_veil.services.sittingcard import (
    Beginning,
    Begun,
    Telling,
    Told,
    beginning,
    pass_of,
    telling,
)
from zesty_veil.tr import counted, tr

_TICK_MS = 500
_LANES = 148  # high at most, in pixels; more lanes are scrolled


class SittingView(SittingPage):
    """Leads through a sitting; every key is written down at once, so that nothing is lost.

    Parameters
    ----------
    document
        The open plan; it is not changed.
    writes
        Writes each state down; each plan has a sitting of its own.
    now
        The clock on the wall, in seconds.
    """

    wrong_wanted = Signal(int, object)  # a passage, and how many coats of each passage are laid

    def __init__(
        self, document: Document, writes: FileQueues, now: Callable[[], float] = time.time
    ) -> None:
        super().__init__()
        self._document, self._writes, self.now = document, writes, now
        self.sitting: Sitting | None = None
        self._waited_for: Where | None = None
        self.begins: NewestWins[Beginning, Begun] = NewestWins(beginning, self, "short")
        self.begins.answered.connect(self._begun)
        self.begins.failed.connect(self._failed)
        self.tells: NewestWins[Telling, Told] = NewestWins(telling, self, "short")
        self.tells.answered.connect(self._told)
        self.tells.failed.connect(self._failed)
        self._asked: Telling | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(_TICK_MS)
        self._timer.timeout.connect(self.tick)
        for button, act in (
            (self.laid, self.lay), (self.redo, self.take_back), (self.later, self.put_off),
            (self.hold, self.pause), (self.wrong, self.rescue), (self.again, self.start_over),
            (self.reschedule, self.go_on), (self.full, self.full_wanted.emit),
            (self.leave, self.go),
        ):  # fmt: skip
            button.clicked.connect(lambda _=False, act=act: act())
        self.bench.changed.connect(self._offer_order)
        document.changed.connect(self._offer_order)

    def open(self) -> bool:
        """Go on with the sitting of this plan, or begin one; say why if neither can be."""
        path, title = self._document.path, self._document.plan.title
        if self.sitting is None:
            self.bench.figures.setValue(min(self._document.plan.figures, MOST_FIGURES_AT_ONCE))
        if self.sitting is not None and self.sitting.plan.title != title:
            self.sitting = self._asked = None
            self.card.show_words("")
            self.card.show_told(None, 0, 0)
        self._writes.do(lambda: bench.sitting_of(path, title), self._found, self._unreadable)
        self._timer.start()
        return True

    def _unreadable(self, error: Exception) -> None:
        self.complained.emit(str(error))
        self._found(None)

    def _found(self, found: Sitting | None) -> None:
        """Go on with what was written down, unless nothing is left to do of it."""
        if not self._timer.isActive():
            return  # left meanwhile
        if found is not None and found.laid:
            self.bench.show_sitting(found)
            self._take(found)
            self._offer_order()
        else:
            self.begin()

    def start_over(self) -> None:
        """Begin anew; what is laid is asked about first, unless all of it is."""
        laid = len(self.sitting.laid) if self.sitting is not None else 0
        if self.sitting is None or not laid or bench.current(self.sitting, self.now()) is None:
            self.begin()
            return
        words = tr("{0} would no longer count as laid. Start over?").format(
            counted(laid, "{0} pass", "{0} passes")
        )
        self.asks.emit("start over", words, tr("Start over"), self.begin)

    def begin(self) -> None:
        """Schedule the plan anew."""
        self.sitting = self._asked = None
        self.card.show_words(tr("Scheduling …"), tr("Esc stops it."))
        self.card.show_told(None, 0, 0)
        self._schedule(None)

    def go_on(self) -> None:
        """Put what is left in order again, for the plan, air and time as they are now."""
        if self.sitting is None:
            self.begin()
        elif self._other_order():
            self._schedule(self.sitting)

    def _schedule(self, before: Sitting | None) -> None:
        self.words.setText(tr("Scheduling …"))
        self.progress.setVisible(True)
        self.reschedule.hide()
        plan = replace(self._document.plan, figures=self.bench.figures.value())
        self.begins.ask(Beginning(plan, self.bench.air(), self.now(), self.bench.minutes(), before))

    def _other_order(self) -> bool:
        """Tell whether the sitting is of another plan, air or time by now."""
        sitting = self.sitting
        if sitting is None:
            return False
        return self.bench.differs(sitting) or _unlike(sitting.plan, self._document.plan)

    def _offer_order(self) -> None:
        """Offer to reschedule where something is different by now, and say what that keeps."""
        if self.sitting is None or not self.isVisible():
            return
        figures = most_figures_laid(self.sitting)
        kept = self.bench.keep_figures(figures)
        other = self._other_order()
        self.reschedule.setVisible(other)
        if kept:
            self.words.setText(tr("Figure {0} has laid passes, so it stays.").format(figures))
        elif not other:
            self.words.setText("")
        elif _unlike(self.sitting.plan, self._document.plan):
            self.words.setText(
                tr("The plan has changed since this sitting began. Reschedule takes it as it is.")
            )
        else:
            laid = len(self.sitting.laid)
            count = counted(laid, "{0} laid pass", "{0} laid passes")
            keeps = tr("Reschedule keeps {0}.").format(count)
            self.words.setText(keeps if laid else tr("Reschedule to go by these."))

    def lay(self) -> None:
        """The pass in hand is laid."""
        self._set(lambda s: bench.lay_pass(s, self.now()))
        if self.sitting is not None and len(self.sitting.evenings) > 1:
            number_, done = bench.evening_of(self.sitting)
            if done and number_ < len(self.sitting.evenings):
                self.words.setText(
                    tr("Evening {0} of {1} is done; all will be dry for the next one.").format(
                        number_, len(self.sitting.evenings)
                    )
                )

    def take_back(self) -> None:
        """The last pass is not laid yet."""
        self._set(bench.redo)

    def put_off(self) -> None:
        """Something else first."""
        self._set(lambda s: bench.put_off(s, self.now()))

    def pause(self) -> None:
        """Pause, or go on."""
        self._set(lambda s: bench.pause(s, self.now()))

    def rescue(self) -> None:
        """The coat that was laid last went wrong: ask what is there now."""
        if self.sitting is None or not self.sitting.laid:
            self.words.setText(tr("Nothing is laid yet."))
            return
        laid: dict[int, int] = {}
        for one in self.sitting.laid:
            what = pass_of(self.sitting, one.where)
            ground = len(self.sitting.plan.passages[what.passage].ground.coats)
            laid[what.passage] = max(laid.get(what.passage, 0), what.coat - ground + 1)
        last = pass_of(self.sitting, self.sitting.laid[-1].where).passage
        self.wrong_wanted.emit(last, laid)

    def go(self) -> None:
        """Go back to the section; what dries goes on drying."""
        self._timer.stop()
        self.begins.drop()
        self.progress.setVisible(False)
        self.left.emit()

    def give_up(self) -> None:
        """Go back to the section; nothing of the sitting is lost."""
        self.go()

    def tick(self) -> None:
        """Show the time."""
        sitting = self.sitting
        if sitting is None:
            return
        now = self.now()
        sitting = bench.taken(sitting, now)
        if sitting is not self.sitting:
            self._take(sitting)
            return
        self.lanes.show_sitting(sitting, now)
        self.field.setFixedHeight(min(self.lanes.sizeHint().height(), _LANES))
        where = bench.current(sitting, now)
        if where is None:
            self._show_done(sitting)
            return
        left = bench.seconds_left(sitting, where[0], now) if sitting.in_hand is None else 0.0
        if self._waited_for == where and left <= 0:
            QApplication.beep()
            self._waited_for = None
        if left > 0:
            self._waited_for = where
        self._show_pass(sitting, where, left)

    def wait_until_idle(self) -> bool:
        """Run events until all that was asked is there; False if nothing moves any more."""
        every = (self._writes, self.begins, self.tells)
        return all(jobs.wait_until_idle() for jobs in every)

    def close_jobs(self) -> None:
        """End the workers and the clock."""
        self._timer.stop()
        self.begins.close()
        self.tells.close()

    def _set(self, change: Callable[[Sitting], Sitting]) -> None:
        if self.sitting is not None:
            self._take(bench.taken(change(self.sitting), self.now()))

    def _take(self, sitting: Sitting) -> None:
        """Take another state, and have it written down."""
        self.sitting = sitting
        self.state_changed.emit()
        if self.reschedule.isVisible():
            self._offer_order()
        path = sitting_path(self._document.path, sitting.plan.title)
        self._writes.do(
            lambda: bench.keep_sitting(sitting, path),
            failed=lambda error: self.words.setText(
                tr("This sitting cannot be kept: {0}").format(error)
            ),
        )
        self.tick()

    def _begun(self, begun: Begun) -> None:
        before, sitting = begun.asked.before, begun.sitting
        if before is not None and (self.sitting is None or self.sitting.laid != before.laid):
            self.go_on()  # something was laid meanwhile
            return
        self.progress.setVisible(False)
        count = len(sitting.order) - len(sitting.laid)
        work = bench.minutes_of_work_left(sitting)
        self.words.setText(
            tr(
                "{0} passes in about {1:.0f} min, {2:.0f} of them with the brush on; {3} pots "
                "wet at once."
            ).format(count, sitting.minutes, work, sitting.pots)
        )
        self.bench.show_sitting(sitting)
        if begun.dropped:
            dropped = counted(begun.dropped, "{0} laid pass is", "{0} laid passes are")
            words = tr("{0} of coats that have changed, and no longer count.").format(dropped)
            self.words.setText(f"{words} {self.words.text()}")
        self._take(bench.taken(sitting, self.now()))

    def _failed(self, error: Exception) -> None:
        self.progress.setVisible(False)
        self.words.setText(str(error))
        if self.sitting is not None:  # what was there goes on as it was
            self.reschedule.setVisible(self._other_order())
            return
        self.card.show_words(str(error))
        self.card.show_told(None, 0, 0)

    def _show_pass(self, sitting: Sitting, where: Where, left: float) -> None:
        what = pass_of(sitting, where)
        passage = sitting.plan.passages[what.passage]
        figure = bench.work_at(sitting, where).figure + 1
        of = (
            tr("figure {0} of {1}").format(figure, sitting.plan.figures)
            if sitting.plan.figures > 1
            else ""
        )
        waits = tr("dry in {0}").format(clock(left)) if left > 0 else ""
        if sitting.paused is not None:
            waits = tr("paused")
        self.card.show_words(passage.name, of, waits)
        asked = Telling(sitting.plan, what)
        if asked != self._asked:
            self._asked = asked
            self.card.show_told(None, 0, 0)
            self.tells.ask(asked)

    def _show_done(self, sitting: Sitting) -> None:
        self.card.show_words(
            tr("All passes are laid."),
            tr("“{0}” may dry now. F8: write into the log what came out.").format(
                sitting.plan.title
            ),
        )
        self.card.show_told(None, 0, 0)

    def _told(self, told: Told) -> None:
        if told.telling == self._asked:
            self.card.show_told(told, told.telling.what.number, told.coat.passes)

    def state_words(self) -> str:
        """Return how far the sitting is."""
        if self.sitting is None:
            return ""
        count = sum(len(chain) for chain in bench.chains_of(self.sitting))
        return tr("{0} of {1} laid").format(
            len(self.sitting.laid), counted(count, "{0} pass", "{0} passes")
        )

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Do what the key means here."""
        acts = {
            "laid": self.lay,
            "not yet": self.take_back,
            "later pass": self.put_off,
            "pause": self.pause,
            "rescue": self.rescue,
            "start over": self.start_over,
            "reschedule": self.go_on,
            "leave sitting": self.go,
            "full screen": self.full_wanted.emit,
        }
        act = acts.get(self.keys.pressed(event) or "")
        if act is None:
            event.ignore()
            return
        act()
        event.accept()


def _unlike(one: Plan, other: Plan) -> bool:
    """Tell whether two plans lay other coats."""
    return one.passages != other.passages
