"""The section's desk: passages on the left, the section in the middle, the brush card right."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.advise.remark import Remark
from zesty_veil.desktop.kit.formview import FormView
from zesty_veil.desktop.kit.geometry import Grip
from zesty_veil.desktop.kit.page import PageRouter
from zesty_veil.desktop.kit.passageeditor import PassageEditor
from zesty_veil.desktop.kit.theme import SURROUNDS
from zesty_veil.desktop.section.brushcard import BrushCard
from zesty_veil.desktop.section.forecasting import Forecasting
from zesty_veil.desktop.section.groundinview import GroundInView
from zesty_veil.desktop.section.handkeys import take_key
from zesty_veil.desktop.section.lookbar import LookBar
from zesty_veil.desktop.section.moves import Moves
from zesty_veil.desktop.section.named import CoatAloud
from zesty_veil.desktop.section.passages import PassagesPanel
from zesty_veil.desktop.section.remedies import Remedies
from zesty_veil.desktop.section.view import SectionView
from zesty_veil.desktop.section.viewoptions import ViewOptions
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.desktop.session.userstore import UserStore
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Hand as PaintersHand
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.services.forecast import Forecast, Request
from zesty_veil.services.picking import Picking
from zesty_veil.tr import tr


class SectionDesk(QWidget):
    """Holds the three parts together: which passage and coat are in hand, and their forecast.

    Parameters
    ----------
    document, user_store
        The open plan, and the painter's store.
    make_router
        Makes what shows the section, or the form or another station's page in its place; it is
        called with this desk once its section, rack and look can be had.
    """

    complained = Signal(str)
    remarked = Signal(object)  # tuple of Remark
    station_wanted = Signal(str)  # by its id

    def __init__(
        self,
        document: Document,
        user_store: UserStore,
        make_router: Callable[[SectionDesk], PageRouter],
    ) -> None:
        super().__init__()
        self._document, self.user_store = document, user_store
        self.editor = PassageEditor(document, self.complained.emit)
        self._coat: int | None = None
        self.surround = "middle"
        self._surround = SURROUNDS[self.surround]
        self._forecast: Forecast | None = None
        self.rack = RackView(document, user_store)
        user_store.changed.connect(self._look_changed)
        user_store.complained.connect(self.complained.emit)
        self.looks = ViewOptions(self._look_changed, self.complained.emit)
        self.forecasting = Forecasting(self._request, self)
        self.forecasting.jobs.answered.connect(self._answered)
        self.forecasting.jobs.failed.connect(lambda error: self.complained.emit(str(error)))

        self.passages = PassagesPanel(document)
        self.passages.chosen.connect(self.choose_passage)
        self.passages.complained.connect(self.complained.emit)
        self.view = SectionView(self.editor)
        self.view.selected.connect(lambda i: self.choose_coat(None if i < 0 else i))
        self.view.key_pressed.connect(lambda event: take_key(self, event))
        self.view.first.coat_wanted.connect(self.open_rack)
        self.view.first.station_wanted.connect(self.station_wanted.emit)
        self.card = BrushCard(self.editor, self.rack, self._within)
        self.card.move_wanted.connect(self.move_coat)
        self.card.remove_wanted.connect(self.remove_coat)
        complain = self.complained.emit
        self._lay_out(make_router)
        self.moves = Moves(
            document,
            self.editor,
            self.rack,
            self.view,
            self.look,
            self._in_hand,
            complain,
        )
        self.ground = GroundInView(self.editor, self.moves, self._in_hand, self._hold, complain)
        self.remedies = Remedies(self._remarks, self.moves.mend, complain)
        self.head.ground_wanted.connect(self.ground.prepare)
        self.head.ground_shown.connect(self.ground.show)
        self.head.as_coats_wanted.connect(self.ground.count_none)
        self.head.as_ground_wanted.connect(self.ground.count_coats)
        self.view.ground_pressed.connect(self.ground.toggle)
        # What other stations count are coats alone.
        self.router.switched.connect(lambda: self.ground.show(False) if self.router.page else None)
        self._aloud = CoatAloud(self.view)
        document.changed.connect(self._changed)
        if document.plan.passages and document.plan.passages[0].coats:
            self._coat = len(document.plan.passages[0].coats) - 1
        self._changed()

    @property
    def coat(self) -> int | None:
        """The coat in hand, by its place in the passage; none if it is of the ground."""
        return self.ground.coat

    def look(self) -> ViewingConditions:
        """Return how the colours are looked at now."""
        return self.head.look()

    @property
    def forecast(self) -> Forecast | None:
        """What is shown."""
        return self._forecast

    def wait_until_idle(self) -> bool:
        """Run events until what is shown is the plan; False if nothing moves any more."""
        return self.forecasting.wait_until_idle()

    def stop(self) -> None:
        """End the worker; nothing is computed any more."""
        self.forecasting.stop()
        self.moves.clipboard.close()
        self.head.paints.stop()
        self.card.mixture.stop()
        self.router.close_jobs()

    def start_over(self) -> None:
        """Show the first passage of another plan."""
        plan = self._document.plan
        self.router.give_up()
        self.editor.passage_index, self.editor.ground_open = 0 if plan.passages else -1, False
        coats = plan.passages[0].coats if plan.passages else ()
        self._coat = len(coats) - 1 if coats else None
        self._forecast = None
        # What is under way is of the plan before; nothing of that may be shown or pressed.
        self.forecasting.drop()
        self.remedies.forget()
        self.remarked.emit(())
        self._changed()

    def choose_passage(self, index: int) -> None:
        """Put a passage in view."""
        self.editor.passage_index, self.editor.ground_open = index, False
        self.looks.lay_all()
        passage = self.editor.passage
        self._coat = len(passage.coats) - 1 if passage is not None and passage.coats else None
        self._changed()

    def choose_coat(self, index: int | None) -> None:
        """Take a coat in hand, or none; counted as they are drawn, perhaps a moment ago."""
        if index is not None and self.editor.coat(index) is None:
            return
        self._coat = index
        self.view.select(index)
        self._show_card()
        self._tell_coat()
        if self.looks.hidden:
            self._look_changed()

    def _in_hand(self) -> int | None:
        """Return the coat in hand, as drawn; none if it is gone from a plan that just changes."""
        return None if self._coat is None or self.editor.coat(self._coat) is None else self._coat

    @property
    def in_hand(self) -> int | None:
        """The coat in hand, as drawn."""
        return self._in_hand()

    def _hold(self, index: int | None) -> None:
        self._coat = index
        self.looks.lay_all()
        self._changed()

    def add_coat(self, paint: Paint) -> None:
        """Add a usual coat of a paint above the one in hand."""
        at = self.editor.add(paint, self._coat, self.view.place)
        if at is not None:
            self.choose_coat(at)

    def remove_coat(self) -> None:
        """Take the coat in hand away, and take the one below in hand."""
        if self._coat is not None:
            gone = self._coat
            left = len(self.editor.drawn.coats) - 1 if self.editor.drawn else 0
            self._coat = max(gone - 1, 0) if left else None
            self.editor.remove(gone)

    def move_coat(self, up: int) -> None:
        """Lay the coat in hand later (+1) or sooner (-1)."""
        if self._coat is not None:
            self.choose_coat(self.editor.step(self._coat, up))

    def step_coat(self, up: int) -> None:
        """Take the coat above (+1) or below (-1) in hand."""
        passage = self.editor.drawn
        if passage is not None and passage.coats:
            now = -1 if self._coat is None else self._coat
            self.choose_coat(min(max(now + up, 0), len(passage.coats) - 1))

    def step_passage(self, down: int) -> None:
        """Put the next (+1) or previous (-1) passage in view."""
        count = len(self._document.plan.passages)
        if count:
            self.choose_passage(min(max(self.editor.passage_index + down, 0), count - 1))

    def more_passes(self, more: int) -> None:
        """Add passes to the coat in hand, or take them."""
        if self._coat is not None:
            self.editor.passes(self._coat, more)

    def thin(self, parts: float) -> None:
        """Thin the coat in hand, or strengthen it."""
        if self._coat is not None:
            self.editor.thin(self._coat, parts)

    def nudge(self, grip: Grip, mm: float) -> None:
        """Move an end or feather of the coat in hand by some millimetres."""
        if self._coat is not None:
            self.editor.nudge(self._coat, grip, mm)

    def set_surround(self, name: str) -> None:
        """Put predicted colours into a light, middle or dark field."""
        self.surround, self._surround = name, SURROUNDS[name]
        for shown in (self.view, self.router, self.passages.form_view):
            shown.set_surround(self._surround)
        self.head.show_surround(name)
        self._look_changed()

    def _remarks(self) -> tuple[Remark, ...] | None:
        """Return the remarks on the plan as it is now; none while they are not known."""
        # Of two plans the first forecast of the new one comes before its remarks do.
        shown = self._forecast
        fresh = shown is not None and self.forecasting.up_to_date(shown)
        return shown.remarks if fresh and shown is not None else None

    def step_coats(self) -> None:
        """Lay the coats of the passage in view one by one."""
        passage = self.editor.drawn
        self.looks.step(len(passage.coats) if passage is not None else 0)

    def set_observer(self, degrees: int) -> None:
        """See colours as a small (2) or a large (10 degrees) field."""
        self.head.set_observer(degrees)

    def set_hand(self, hand: PaintersHand) -> None:
        """Plan for a steady, ordinary or loose hand."""
        plan = edits.set_hand(self._document.plan, hand)
        self._document.edit(plan, tr("{0} hand").format(hand))

    def open_rack(self) -> None:
        """Offer the paints to add a coat of, under the place where it will lie."""
        place = self.view.surface_at(self._coat)
        if self.router.page is not None or place is None:
            self.head.paints.open_below(self.add_button)
        else:
            self.head.paints.adjustSize()
            self.head.paints.open_at(self.view.mapToGlobal(place), self.view)

    def _lay_out(self, make_router: Callable[[SectionDesk], PageRouter]) -> None:
        self.head = LookBar(self.rack, self._document, self._here, self._preview)
        self.head.coat_wanted.connect(self.add_coat)
        self.head.changed.connect(self._look_changed)
        self.add_button = self.head.add

        self.head.panel.surround.chosen.connect(self.set_surround)
        self.head.panel.field.chosen.connect(self.set_observer)
        self.head.panel.hand.chosen.connect(self.set_hand)
        middle = QVBoxLayout()
        middle.setSpacing(0)
        self.router = make_router(self)
        self.router.switched.connect(self._look_changed)
        middle.addWidget(self.router, 1)
        self.passages.form_view.clicked.connect(self.router.toggle_form)
        scroll = QScrollArea()
        scroll.setWidget(self.card)
        scroll.setAccessibleName(tr("the coat in hand"))
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setFixedWidth(self.card.width() + 12)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.passages)
        row.addLayout(middle, 1)
        row.addWidget(scroll)
        # Match compares coats of its own, and takes the room of the card.
        self.router.switched.connect(lambda: scroll.setVisible(not self.router.hides_card))
        self.router.switched.connect(lambda: self.passages.setVisible(not self.router.whole))

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.card.fit(self.height())
        super().resizeEvent(event)

    def _here(self) -> Picking | None:
        """Return where a new coat would lie: above the one in hand, at the place that is read."""
        if self.editor.passage is None:
            return None
        return Picking(
            self.editor.settled_plan, self.editor.passage_index, self._coat, self.view.place,
            self.rack.paints(), self.head.look(),
        )  # fmt: skip

    def _preview(self, paint: Paint | None) -> None:
        self.editor.preview(paint, self._coat, self.view.place)

    def _within(self, coat: int, swapped: str) -> Picking | None:
        """Return where a paint would come into a coat, in place of another or as a drop more."""
        here = self._here()
        return None if here is None else replace(here, within=coat, swapped=swapped)

    def _changed(self) -> None:
        plan = self._document.plan
        self.looks.back_to_now()
        index = min(self.editor.passage_index, len(plan.passages) - 1)
        if index < 0 and plan.passages:
            index = 0
        if index != self.editor.passage_index:
            self.editor.passage_index, self.editor.ground_open = index, False
        passage = self.editor.passage
        if passage is None or not passage.ground.coats:
            self.editor.ground_open = False
        count = len(self.editor.drawn.coats) if self.editor.drawn is not None else 0
        if self._coat is not None and self._coat >= count:
            self._coat = count - 1 if count else None
        self.head.show_plan(plan)
        self.head.show_ground(self.editor.passage, self.editor.ground_open)
        self.passages.show_plan(plan, self.editor.passage_index)
        self._show_card()
        self._tell_coat()
        self.forecasting.changed()
        self.router.follow()

    def _request(self) -> Request:
        looks = self.looks
        return Request(
            self.editor.drawn_plan,
            self.editor.passage_index,
            self.rack.paints(),
            self.head.look(),
            self._surround.luminance,
            self.head.sure.isChecked(),
            self._form_shown().wanted_size(),
            looks.how,
            looks.squint_mm,
            looks.split if looks.split != self._document.plan.light else None,
            looks.instead,
            looks.inside,
            looks.laid(self.editor.drawn, self._coat),
            looks.photograph,
            self._surround.field / 255,
            tuple(kept.paint for kept in self.user_store.rack.paints),
            self.user_store.hand,
            self.editor.ground_coats,
        )

    def _answered(self, forecast: Forecast) -> None:
        self._forecast = forecast
        if forecast.paints is not None and forecast.ribbons is not None:
            self.rack.swatches = forecast.paints
            self.passages.show_ribbons(forecast.ribbons)
        self.head.show_metal(forecast.metal)
        if forecast.form is not None or forecast.request.passage < 0:
            self.router.form.set_mirrored(forecast.request.how.mirrored)
            self.router.form.set_split(forecast.request.look.light, forecast.request.split)
            for shown in (self._form_shown(), self.passages.form_view):
                shown.show_form(forecast.form)
        if forecast.remarks is not None or forecast.request.passage < 0:
            self.remarked.emit(forecast.remarks or ())
        self.view.select(self._coat)
        self.view.show_forecast(forecast)
        self._show_card()
        self.remedies.look()

    def _form_shown(self) -> FormView:
        return self.router.form if self.router.form_is_big else self.passages.form_view

    def _show_card(self) -> None:
        plan, passage, index = self.editor.drawn_plan, self.editor.drawn, self._coat
        layer, adds, passes, patchy = None, None, None, False
        shown = self._forecast
        ground = self.editor.ground_coats
        drawn = shown is not None and shown.request.ground_coats == ground
        if shown is not None and drawn and index is not None and index < len(shown.layers):
            layer = shown.layers[index]
            fresh = self.forecasting.up_to_date(shown)
            adds = shown.adds[index] if fresh and shown.adds is not None else None
            passes = shown.passes[index] if fresh and shown.passes is not None else None
            patchy = fresh and shown.is_patchy(index)
        self.card.show_coat(plan, passage, index, layer, adds, passes, ground, patchy)

    def _tell_coat(self) -> None:
        coat = None if self._coat is None else self.editor.coat(self._coat)
        self._aloud.tell(self.editor.passage_index, self._coat, coat)

    def _look_changed(self) -> None:
        self.forecasting.changed()
        self.router.follow()
