"""The Rack's page: which rack, how it is laid and sorted, its drawdowns, and the paint in hand."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.rack.grid import RackGrid
from zesty_veil.desktop.rack.keys import MEASURE, RACK
from zesty_veil.desktop.rack.measuring import MeasureView
from zesty_veil.desktop.rack.model import (
    Beside,
    PaintNeighbours,
    RackRequest,
    RackShown,
    neighbours,
    showing,
)
from zesty_veil.desktop.rack.paintcard import PaintCard
from zesty_veil.desktop.rack.rackbar import RackBar
from zesty_veil.desktop.rack.takings import Takings
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.session.userstore import Desk, UserStore
from zesty_veil.log.racks import Kept, Rack, free_name
from zesty_veil.paint.kinds import KINDS
from zesty_veil.paint.mixture import Mixture
from zesty_veil.paint.paint import Paint
from zesty_veil.tr import counted, tr

_FILTER = "Racks (*.json *.csv)"
_OUT = "Racks (*.json *.csv *.gpl)"


class RackPage(Page):
    """Shows the rack in use; measuring stands on a page of its own within it.

    Parameters
    ----------
    document, user_store
        The open plan, and what is kept.
    in_hand
        Returns the mixture of the coat in hand, as which drawdowns are thinned at first.
    """

    keys = RACK
    whole = True
    lay_wanted = Signal(object)  # Paint

    def __init__(
        self,
        document: Document,
        user_store: UserStore,
        in_hand: Callable[[], Mixture | None] = lambda: None,
    ) -> None:
        super().__init__()
        self._document, self._user_store, self._mixture = document, user_store, in_hand
        self._shown: RackShown | None = None
        self._name = ""
        self._beside: PaintNeighbours | None = None
        self.jobs: NewestWins[RackRequest, RackShown] = NewestWins(showing, self, "short")
        self.jobs.answered.connect(self._answered)
        self.jobs.failed.connect(lambda error: self.complained.emit(str(error)))
        self.besides: NewestWins[Beside, PaintNeighbours] = NewestWins(neighbours, self, "short")
        self.besides.answered.connect(self._known)
        self.besides.failed.connect(lambda error: self.complained.emit(str(error)))
        self.takings = Takings(user_store, self)
        self.takings.said.connect(self.complained.emit)
        user_store.changed.connect(self._changed)
        self.bar, self.grid, self.card = RackBar(), RackGrid(), PaintCard()
        self.measuring = MeasureView(user_store)
        self.measuring.done.connect(self._measured)
        self.measuring.complained.connect(self.complained.emit)
        self.setFocusProxy(self.grid)
        self._lay_out()
        self._connect()

    @property
    def in_hand(self) -> Kept | None:
        """The paint in hand, as it is known now."""
        found = (k for k in self._user_store.rack.paints if k.paint.name == self._name)
        return next(found, None)

    def open(self) -> bool:
        """Show the rack in use."""
        if self._user_store.trouble:
            self.complained.emit(self._user_store.trouble)
        self.pages.setCurrentWidget(self.shelf)
        mixture = self._mixture()
        if mixture is not None:
            self.bar.lay_as(mixture)
        self._beside = None
        self._fill_racks()
        self.refresh()
        self.grid.setFocus()
        return True

    def tools(self) -> QWidget | None:
        """Return what is done to the rack, or to the card that is measured."""
        measuring = self.pages.currentWidget() is self.measuring
        return self.measuring.head if measuring else self.bar.head

    def state_words(self) -> str:
        """Return which rack it is."""
        rack = self._user_store.rack
        return tr("Rack {0}  ·  {1}").format(
            rack.name, counted(len(rack.paints), "{0} paint", "{0} paints")
        )

    def show_paint(self, name: str) -> None:
        """Take a paint in hand."""
        self.bar.search.clear()
        self._choose(name)
        self.refresh()

    def refresh(self) -> None:
        """Ask for the drawdowns anew."""
        bar = self.bar
        asked = RackRequest(
            self._user_store.rack, bar.laid, bar.order.currentData(), bar.status.currentData(),
            bar.search.text(),
        )  # fmt: skip
        self.jobs.ask(asked)

    def measure(self, kept: Kept | None) -> None:
        """Measure a paint of the rack, or a new one."""
        if kept is not None and KINDS[kept.paint.kind].unfit:
            kind = kept.paint.kind
            self.complained.emit(
                tr("{0} is {1}, and a card cannot measure it: {2}.").format(
                    kept.paint.name, kind, KINDS[kind].unfit
                )
            )
            return
        self.card.keep_notes()
        self.measuring.begin(kept)
        self.pages.setCurrentWidget(self.measuring)
        self.measuring.setFocus()

    def import_from(self, path: Path) -> None:
        """Take a rack from a file and use it; say what is wrong with it otherwise."""
        self.takings.take(path)

    def export_to(self, path: Path) -> None:
        """Write the rack in use to a file."""
        self.takings.give(path)

    def wait_until_idle(self) -> bool:
        """Run events until the rack is shown."""
        every = (self.takings.jobs, self.jobs, self.besides)
        return all(jobs.wait_until_idle() for jobs in every)

    def close_jobs(self) -> None:
        """End the workers."""
        for jobs in (self.jobs, self.besides):
            jobs.close()
        self.takings.close()
        self.measuring.close_jobs()

    def hint(self) -> str:
        """Return what can be done while a paint is measured."""
        return (MEASURE if self.pages.currentWidget() is self.measuring else RACK).hint()

    def give_up(self) -> None:
        """Leave measuring for the shelf, or the shelf for the section."""
        if self.pages.currentWidget() is self.measuring:
            self._measured(None)
            return
        self.card.keep_notes()
        self.left.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Measure, or leave."""
        command = self.keys.pressed(event)
        if command == "leave rack":
            self.give_up()
        elif command == "measure" and self.pages.currentWidget() is self.shelf:
            self.measure(self.in_hand)
        else:
            event.ignore()
            return
        event.accept()

    def _answered(self, shown: RackShown) -> None:
        self._shown = shown
        names = [kept.paint.name for kept in shown.kept]
        if self._name not in names and names and shown.whole:
            self._name = names[0]
        self.bar.show_count(len(names), shown.asked.rack)
        self.grid.show_rack(shown, self._name)
        self._show_card()

    def _show_card(self) -> None:
        shown, kept = self._shown, self.in_hand
        if kept is None or shown is None:
            self.card.show_paint(None, None, None, None, (), ())
            return
        place = next((i for i, k in enumerate(shown.kept) if k.paint == kept.paint), None)
        base = next(
            (k.paint for k in self._user_store.base.paints if k.paint.name == self._name), None
        )
        asked = Beside(
            self._user_store.rack,
            self._name,
            shown.asked.laid,
            self._document.plan,
            self._user_store.log,
        )
        known = self._beside if self._beside is not None else None
        if known is None or known.asked != asked:
            self.besides.ask(asked)
        same = known if known is not None and known.asked.name == self._name else None
        self.card.show_paint(
            kept,
            base,
            None if place is None else shown.drawn[place],
            None if place is None else shown.rgb[place],
            same.near if same is not None else (),
            same.used if same is not None else (),
        )

    def _known(self, known: PaintNeighbours) -> None:
        self._beside = known
        self._show_card()

    def _choose(self, name: str) -> None:
        self.card.keep_notes()
        self._name = name
        self.grid.take(name)
        self._show_card()

    def _change(self, edit: Callable[[Kept], Kept]) -> None:
        rack, name = self._user_store.base.name, self._name
        self._user_store.do(lambda desk: desk.racks.change(rack, name, edit))

    def _undo(self) -> None:
        rack, name = self._user_store.base.name, self._name
        self._user_store.do(
            lambda desk: desk.racks.unmeasure(rack, name), lambda _: self._user_store.learn()
        )

    def _drop(self) -> None:
        """Take the paint in hand out, and offer to put it back."""
        rack, name = self._user_store.base.name, self._name

        def put_back(kept: Kept, place: int) -> None:
            self._name = name
            self._user_store.do(lambda desk: desk.racks.put_back(rack, kept, place))

        def gone(was: tuple[Kept, int] | None) -> None:
            if was is not None:
                self.offered.emit(
                    tr("{0} is out of the rack.").format(name),
                    tr("Put it back"),
                    lambda: put_back(*was),
                )

        self._user_store.do(lambda desk: desk.racks.drop(rack, name), gone)

    def _lay(self) -> None:
        kept = self.in_hand
        if kept is not None:
            self.give_up()
            self.lay_wanted.emit(kept.paint)

    def _measured(self, paint: Paint | None) -> None:
        if paint is None:
            self.measuring.put_down()
        else:
            self._name = paint.name
            self._user_store.learn()
        self.pages.setCurrentWidget(self.shelf)
        self.refresh()
        self.grid.setFocus()

    def _changed(self) -> None:
        if self.isVisible():
            self._fill_racks()
            self.refresh()

    def _use(self, name: str) -> None:
        self._user_store.do(
            lambda desk: desk.racks.choose(name), lambda _: self._user_store.learn()
        )

    def _new_rack(self) -> None:
        def make(desk: Desk) -> None:
            name = free_name(tr("My paints"), desk.racks.names())
            desk.racks.put(Rack(name))
            desk.racks.choose(name)

        self._user_store.do(make, lambda _: self._user_store.learn())

    def _fill_racks(self) -> None:
        self.bar.show_racks(self._user_store.known.names, self._user_store.rack.name)

    def _choose_import(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, tr("Take in a rack"), str(Path.home()), _FILTER)
        if name:
            self.import_from(Path(name))

    def _choose_export(self) -> None:
        start = str(Path.home() / f"{self._user_store.rack.name}.json")
        name, _ = QFileDialog.getSaveFileName(self, tr("Give the rack out"), start, _OUT)
        if name:
            self.export_to(Path(name))

    def _connect(self) -> None:
        self.grid.chosen.connect(self._choose)
        self.grid.measured.connect(lambda _: self.measure(self.in_hand))
        self.card.status_wanted.connect(
            lambda s: self._change(lambda kept: replace(kept, status=s))
        )
        self.card.notes_written.connect(
            lambda words: self._change(lambda kept: replace(kept, notes=words[:2000]))
        )
        self.card.measure_wanted.connect(lambda: self.measure(self.in_hand))
        self.card.undo_wanted.connect(self._undo)
        self.card.lay_wanted.connect(self._lay)
        self.card.drop_wanted.connect(self._drop)
        bar = self.bar
        bar.changed.connect(self.refresh)
        bar.chosen.connect(self._use)
        bar.stop.clicked.connect(lambda _=False: self.takings.stop())
        self.takings.going.connect(bar.show_going)
        for button, act in (
            (bar.fresh, lambda: self.measure(None)), (bar.new, self._new_rack),
            (bar.take, self._choose_import), (bar.give, self._choose_export),
            (bar.leave, self.give_up),
        ):  # fmt: skip
            button.clicked.connect(lambda _=False, a=act: a())

    def _lay_out(self) -> None:
        neighbours = QScrollArea()
        neighbours.setWidget(self.card)
        neighbours.setAccessibleName(tr("the paint in hand"))
        neighbours.setWidgetResizable(True)
        neighbours.setFrameShape(QFrame.Shape.NoFrame)
        neighbours.setFixedWidth(self.card.width() + 14)
        field = QHBoxLayout()
        field.setSpacing(0)
        field.addWidget(self.grid, 1)
        field.addWidget(neighbours)
        self.shelf = QWidget()
        column = QVBoxLayout(self.shelf)
        column.setContentsMargins(8, 0, 16, 0)
        column.setSpacing(8)
        column.addWidget(self.bar)
        column.addLayout(field, 1)
        self.pages = QStackedWidget()
        self.pages.addWidget(self.shelf)
        self.pages.addWidget(self.measuring)
        page = QVBoxLayout(self)
        page.setContentsMargins(0, 0, 0, 4)
        page.addWidget(self.pages)
        self.pages.currentChanged.connect(lambda _: self.turned.emit())
