"""Match: what is wanted and what may be done above, the ways there below, compared."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtGui import QKeyEvent

from zesty_veil.desktop.kit.passageeditor import PassageEditor
from zesty_veil.desktop.kit.theme import Surround
from zesty_veil.desktop.match.matchpage import MatchPage
from zesty_veil.desktop.match.picturetaking import PictureTaking
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.errors import VeilError
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat, Target
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.services.colours import target_of
from zesty_veil.services.finding import (
    FoundWays,
    KeptWay,
    WaySearch,
    finding,
    laid_way,
    target_ribbon,
)
from zesty_veil.services.picking import Picking
from zesty_veil.services.thinnings import Copying, Thinned, Thinnings, copying, thinnings
from zesty_veil.tr import counted, tr

_NO_TARGET = "No target yet: write a colour above, or keep one on the section with K."
_HOW_TO_READ = "Upper ribbon: wanted; lower: what comes. Enter lays the one in hand."
_TRY = ("dark violet", "strong orange")
_KEEPS = 4


class MatchView(MatchPage):
    """Finds coats for the targets of the passage in view, and lays a way into the plan.

    Parameters
    ----------
    document, editor
        The open plan and the passage in view.
    rack
        The paints at hand.
    look, place, coat
        Return how colours are looked at, the place that is read, and the coat in hand.
    """

    mended = Signal()  # the way back from what came out wrong is in the plan

    def __init__(
        self,
        document: Document,
        editor: PassageEditor,
        rack: RackView,
        look: Callable[[], ViewingConditions],
        place: Callable[[], float],
        coat: Callable[[], int | None],
    ) -> None:
        super().__init__(rack, self._picking)
        self._document, self._editor = document, editor
        self._rack, self._look, self._place, self._coat = rack, look, place, coat
        self._search: WaySearch | None = None
        self._shown_for: WaySearch | None = None
        self._kept: tuple[KeptWay, ...] = ()
        self._mending: WaySearch | None = None
        self._passage = -1
        self.jobs: NewestWins[WaySearch, FoundWays] = NewestWins(finding, self, "long")
        self.jobs.answered.connect(self._found)
        self.jobs.failed.connect(self._failed)
        self.taking = PictureTaking(self, document)
        self.taking.opened.connect(self._opened)
        self.taking.taken.connect(lambda targets: self._want(targets, tr("a picture")))
        self.copies: NewestWins[Copying, tuple[Target, ...]] = NewestWins(copying, self, "short")
        self.copies.answered.connect(lambda targets: self._want(targets, tr("another passage")))
        self.copies.failed.connect(self._failed)
        self.others: NewestWins[Thinnings, tuple[Thinned, ...]] = NewestWins(
            thinnings, self, "short"
        )
        self.others.answered.connect(self._thinned)
        self.others.failed.connect(self._failed)
        self.wanted.passage_chosen.connect(self.passage_wanted.emit)
        self.wanted.written.connect(self.add_target)
        self.wanted.like_passage.connect(self.want_like)
        self.wanted.start_changed.connect(self.search)
        self.limits.changed.connect(self.search)
        self.list.opened.connect(self.lay_way)
        self.list.in_hand_changed.connect(self._in_hand)
        self.plot.taken.connect(self.list.take)
        self.table.picked.connect(self.keep_thinned)
        self.stop.clicked.connect(self._stop)
        self.keep.clicked.connect(self.keep_way)
        self.lay.clicked.connect(lambda: self.lay_way(self.list.in_hand))
        self.leave.clicked.connect(self.give_up)
        self.empty.show_starts(
            [
                (tr("Write the colour: words, hex or Lab"), self.wanted.target.setFocus),
                (tr("Take it from a picture …"), self.taking.choose),
                *((tr("Try it with {0}").format(tr(w)), partial(self.add_target, w)) for w in _TRY),
            ]
        )

    def state_words(self) -> str:
        """Return for which passage coats are found, and how many colours are wanted on it."""
        passage = self._editor.passage
        if passage is None:
            return ""
        count = counted(len(passage.targets), "{0} colour wanted", "{0} colours wanted")
        return tr("Coats for {0}  ·  {1}").format(passage.name, count)

    def open(self) -> bool:
        """Search for the passage in view; the ways may go on from the coat in hand."""
        passage = self._editor.passage
        self._kept, self._search, self._passage = (), None, self._editor.passage_index
        self._mending = None
        self.taking.jobs.drop()
        if passage is None:
            self._rest(tr("There is no passage in view; add one on the left first."))
            return False
        self.wanted.show_plan(self._document.plan, self._editor.passage_index, self._coat())
        self.list.show_ways((), None)
        self.show_picture_page(False)
        self.search()
        return True

    def mend(self, search: WaySearch) -> None:
        """Find ways back from what came out wrong."""
        self._mending = search
        self.search()
        self.list.setFocus()

    def take_focus(self) -> None:
        """Begin with the ways, or with the colour that is still to be written."""
        passage = self._editor.passage
        if passage is not None and not passage.targets:
            self.wanted.target.setFocus()
        else:
            self.list.setFocus()

    def follow(self) -> None:
        """Search again if the plan, the passage in view or how it is looked at has changed."""
        search, index = self._search, self._editor.passage_index
        if search is None or search.plan != self._document.plan:
            self.copies.drop()  # of a plan that is another by now
        if self._editor.passage is None:
            self.give_up()
        elif index != self._passage:
            self.open()
            self.take_focus()
        elif search is None or (search.plan, search.look) != (self._document.plan, self._look()):
            self.search()

    def _opened(self) -> None:
        self.jobs.drop()
        self.progress.hide()
        self.show_picture_page(True)
        self.picture.setFocus()

    def want_like(self, index: int) -> None:
        """Want the colours of another passage here too."""
        # What is offered may be a moment older than the plan.
        if not 0 <= index < len(self._document.plan.passages):
            return
        count = self.wanted.count.value()
        self.copies.ask(Copying(self._document.plan, index, self._look(), count))

    def add_target(self, words: str) -> None:
        """Want the colour that is written at the place that is read, and search again."""
        if self._editor.passage is None:
            return
        try:
            target = target_of(words, self._place())
            plan = edits.set_target(self._document.plan, self._editor.passage_index, target)
        except VeilError as error:
            self.words.setText(str(error))
            return
        self.wanted.target.clear()
        self._document.edit(plan, tr("target"))
        self.search()

    def search(self) -> None:
        """Search again, for what is wanted and allowed now."""
        passage = self._editor.passage
        wanted = passage is not None and bool(passage.targets or self._mending)
        self.show_empty(not wanted)
        if passage is None or not wanted:
            self._rest(tr(_NO_TARGET))
            return
        if self.wanted.measured_is_missing:
            self._rest(tr("Write the colour that you measured on the figure; Enter takes it."))
            return
        try:
            starts, limits = self.wanted.starts(passage), self.limits.limits()
        except VeilError as error:
            self._rest(str(error))
            return
        if self._mending is not None:
            self._search = replace(
                self._mending, rack=self.limits.usable(), limits=limits, look=self._look(),
                kept=self._kept,
            )  # fmt: skip
        else:
            self._search = WaySearch(
                self._document.plan, self._editor.passage_index, starts, self.limits.usable(),
                limits, self._look(), self.wanted.rescuing, self._kept,
            )  # fmt: skip
        self.words.setText(tr("Searching …"))
        self.show_progress(0.0)
        self._enable(True)
        self.jobs.ask(self._search)

    def _picking(self) -> Picking | None:
        """Return where a paint would lie: on what the ways start from, at the place read."""
        passage, plan = self._editor.passage, self._document.plan
        if passage is None or self.wanted.measured_is_missing:
            return None
        index = self._editor.passage_index
        try:
            started = edits.set_passage(plan, index, self.wanted.starts(passage)[0])
        except VeilError:
            return None  # what is written there is no colour; the page says so already
        return Picking(started, index, None, self._place(), self._rack.paints(), self._look())

    def keep_way(self) -> None:
        """Keep the way in hand beside whatever is found next, or let it go again."""
        way = self.list.way
        if way is None:
            return
        this = (way.base, way.coats)
        if this in self._kept:
            self._kept = tuple(kept for kept in self._kept if kept != this)
        else:
            self._kept = (*self._kept, this)[-_KEEPS:]
        self.search()

    def keep_thinned(self, coat: Coat) -> None:
        """Keep a way like the one in hand whose coat in hand is laid at another thinning."""
        way, at = self.list.way, self.list.coat
        if way is not None and way.coats:
            coats = (*way.coats[:at], coat, *way.coats[at + 1 :])
            if (way.base, coats) not in self._kept:
                self._kept = (*self._kept, (way.base, coats))[-_KEEPS:]
                self.search()

    def lay_way(self, index: int) -> None:
        """Lay a way into the plan as one step, and go back to the section."""
        search = self._shown_for
        if search is None or not 0 <= index < len(self.list.ways):
            return
        if self._document.plan != search.plan:
            return  # the plan has moved on, and ways for it are sought already
        plan = laid_way(search, self.list.ways[index])
        mending = self._mending is not None
        self._mending = None
        self.give_up()
        self._document.edit(plan, tr("the way back") if mending else tr("matched coats"))
        if mending:
            self.mended.emit()

    def rest(self) -> None:
        """Stop searching, and whatever else was asked for."""
        for jobs in (self.jobs, self.copies, self.others, self.taking.jobs):
            jobs.drop()
        self.progress.hide()

    def set_surround(self, surround: Surround) -> None:
        """Put the colours into another grey field."""
        self.list.set_surround(surround)
        self.picture.set_surround(surround)

    def wait_until_idle(self) -> bool:
        """Run events until all that was asked is there; False if nothing moves any more."""
        every = (self.taking.jobs, self.copies, self.jobs, self.others)
        return all(jobs.wait_until_idle() for jobs in every)

    def close_jobs(self) -> None:
        """End the workers."""
        for jobs in (self.taking.jobs, self.jobs, self.copies, self.others):
            jobs.close()
        self.limits.ticks.stop()
        self.wanted.target.stop()

    def _want(self, targets: tuple[Target, ...], whence: str) -> None:
        plan = edits.aim_at(self._document.plan, self._editor.passage_index, targets)
        self._document.edit(plan, tr("targets from {0}").format(whence))
        self.show_picture_page(False)
        self.list.setFocus()
        self.search()

    def _stop(self) -> None:
        self.jobs.drop()
        count = len(self.list.ways)
        self._rest(
            tr("Stopped; {0} so far.").format(counted(count, "{0} way", "{0} ways")), keep=True
        )

    def _rest(self, words: str, keep: bool = False) -> None:
        """Say why nothing is sought; what is found stays only if it is kept."""
        self.jobs.drop()
        if not keep:
            self.list.show_ways((), None)
        self.words.setText(words)
        self.progress.hide()
        self._enable(False)

    def _found(self, found: FoundWays) -> None:
        search = self._search
        assert search is not None
        self._shown_for = search
        aimed = edits.aim_at(search.plan, search.passage, search.targets)
        self.list.show_ways(found.ways, target_ribbon(aimed.passages[search.passage]))
        self.show_progress(found.share)
        count = sum(not way.kept for way in found.ways)
        ways = counted(count, "{0} way", "{0} ways")
        if found.share < 1:
            self.words.setText(tr("Searching … {0} so far.").format(ways))
        else:
            self.words.setText(found.words or f"{ways}. {tr(_HOW_TO_READ)}")
        self._enable(found.share < 1)

    def _failed(self, error: Exception) -> None:
        self._rest(str(error))

    def _in_hand(self) -> None:
        """Show the way in hand in the plot, and its coat at other thinnings."""
        way, search = self.list.way, self._shown_for
        self.plot.show_ways(self.list.ways, self.list.in_hand)
        self.keep.setText(tr("Let go") if way is not None and way.kept else tr("Keep"))
        self.table.show_rows(None, ())
        if way is not None and way.coats and search is not None:
            self.others.ask(Thinnings(search, way, self.list.coat))

    def _thinned(self, rows: tuple[Thinned, ...]) -> None:
        way = self.list.way
        if way is not None and way.coats:
            self.table.show_rows(way.coats[self.list.coat], rows)

    def _enable(self, searching: bool) -> None:
        self.stop.setEnabled(searching)
        for button in (self.lay, self.keep):
            button.setEnabled(bool(self.list.ways))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """P keeps the way in hand; Escape goes back."""
        command = self.keys.pressed(event)
        if command == "leave match" and self.shows_picture:
            self.show_picture_page(False)
            self.search()
        elif command == "leave match":
            self.give_up()
        elif command == "keep way":
            self.keep_way()
        else:
            event.ignore()
            return
        event.accept()
