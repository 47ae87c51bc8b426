"""The middle of the window: the section, or the form at large, or the painter's own sculpt."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFileDialog, QStackedWidget, QWidget

from zesty_veil.desktop.form.formstage import FormStage, lengthened
from zesty_veil.desktop.form.handles import handles
from zesty_veil.desktop.form.sculptview import SculptView
from zesty_veil.desktop.glow.glowview import GlowView
from zesty_veil.desktop.guess.guesspage import GuessPage
from zesty_veil.desktop.kit.hand import Hand
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.theme import Surround
from zesty_veil.desktop.logbook.logpage import LogPage
from zesty_veil.desktop.match.matchview import MatchView
from zesty_veil.desktop.rack.rackpage import RackPage
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.sitting.sittingview import SittingView
from zesty_veil.plan import edits
from zesty_veil.plan.grounds import with_nozzles
from zesty_veil.plan.model import FORM_NAMES, Axis, Plan, Sculpt
from zesty_veil.predict.forms.facing import nozzle_of, tilt
from zesty_veil.predict.forms.sculpted import usual_axis
from zesty_veil.predict.forms.shapes import form, shape_of

_FILTER = "Sculpts (*.stl *.obj *.STL *.OBJ)"
_TILT_PIXELS = 128
_HINT_FORM = "A click goes back to the section.  "
_HINT_NOZZLE = "Drag the nozzle round the form (Shift: by single degrees), or [ and ]."
_HINT_AXIS = "Drag from the light to the far end, or either end.  R: in rings round the light."
_HINT_MATCH = "Up, down: ways.  Left, right: coats.  P: keep one.  Enter: lay it.  Esc: leave."
_HINT_GLOW = "Drag the light, or arrows; wheel: nearer.  F: find coats.  Enter: write.  Esc: leave."
_HINT_SITTING = "Space: laid.  Backspace: not yet.  S: later.  P: pause.  R: rescue.  Esc: leave."
_HINT_RACK = "Arrows: paint in hand.  M or Enter: measure it from a card.  Esc: leave."
_HINT_LOG = "Up, down: record in hand.  N: write down what came out of this plan.  Esc: leave."
_HINT_GUESS = "1 to 5: pick.  Space: another one.  Esc: leave."
_HINT_SCULPT = "Hold the sculpt as you want to see it, then take the view (Enter).  Esc: leave it."


class Stage(QStackedWidget):
    """Shows one of the three, and does to the passage what is done on form and sculpt."""

    switched = Signal()
    offered = Signal(str, str, object)

    def __init__(
        self, view: QWidget, document: Document, hand: Hand, say: Callable[[str], None]
    ) -> None:
        super().__init__()
        self._document, self._hand, self._say = document, hand, say
        self.view = view
        self.form = FormStage(document, hand)
        self.form.clicked.connect(self.toggle_form)
        self.form.dragged.connect(self._settle)
        self.sculpt = SculptView(self._free_name)
        self.sculpt.complained.connect(say)
        self.sculpt.taken.connect(self._wear)
        self.sculpt.left.connect(lambda: self._show(self.view))
        self.match: MatchView | None = None
        self.glow: GlowView | None = None
        self.sitting: SittingView | None = None
        self.rack: RackPage | None = None
        self.log: LogPage | None = None
        self.guess: GuessPage | None = None
        self._rack: Callable[[], RackPage] | None = None
        self._log: Callable[[], LogPage] | None = None
        self._guess: Callable[[], GuessPage] | None = None
        self._pages: dict[Page, str] = {}  # with the hint for each
        for page in (self.view, self.form, self.sculpt):
            self.addWidget(page)

    def add(self, page: Page, hint: str) -> None:
        """Take a page that stands in place of the section while work on it lasts."""
        self._pages[page] = hint
        page.left.connect(lambda: self._show(self.view))
        page.complained.connect(self._say)
        page.offered.connect(self.offered.emit)
        page.turned.connect(self.switched.emit)
        self.addWidget(page)

    def add_match(self, match: MatchView) -> None:
        """Take the page on which coats are found."""
        self.match = match
        self.add(match, _HINT_MATCH)

    def add_glow(self, glow: GlowView) -> None:
        """Take the page on which a light is dragged."""
        self.glow = glow
        self.add(glow, _HINT_GLOW)

    def add_sitting(self, sitting: SittingView) -> None:
        """Take the page that leads through a sitting."""
        self.sitting = sitting
        self.add(sitting, _HINT_SITTING)

    def add_later(
        self,
        rack: Callable[[], RackPage],
        log: Callable[[], LogPage],
        guess: Callable[[], GuessPage],
    ) -> None:
        """Take what makes the pages that are made only when they are first wanted."""
        self._rack, self._log, self._guess = rack, log, guess

    def open_rack(self) -> None:
        """Look at the paints of the rack."""
        if self.rack is None and self._rack is not None:
            self.rack = self._rack()
            self.add(self.rack, _HINT_RACK)
        if self.rack is not None:
            self.turn_to(self.rack)

    def open_log(self) -> None:
        """Look at what was painted."""
        if self.log is None and self._log is not None:
            self.log = self._log()
            self.add(self.log, _HINT_LOG)
        if self.log is not None:
            self.turn_to(self.log)

    def guess_first(self) -> None:
        """Guess what stacks of one's own paints look like."""
        if self.guess is None and self._guess is not None:
            self.guess = self._guess()
            self.add(self.guess, _HINT_GUESS)
        if self.guess is not None:
            self.turn_to(self.guess)

    def turn_to(self, page: Page) -> None:
        """Open a page, unless it says that it cannot be opened."""
        if page.open():
            self._show(page)

    def sit_down(self) -> None:
        """Begin a sitting, or go on with it."""
        if self.sitting is not None:
            self.turn_to(self.sitting)

    def plan_light(self) -> None:
        """Drag a painted light before what it lights."""
        if self.glow is not None and self.glow.open():
            self._show(self.glow)
            self.glow.view.setFocus()

    def find_coats(self, in_hand: int | None) -> None:
        """Find coats for the targets of the passage in view."""
        if self.match is None or self._hand.passage is None:
            self._say("There is no passage to find coats for; add one on the left first.")
            return
        self._show(self.match)
        self.match.open(in_hand)

    @property
    def form_is_big(self) -> bool:
        """Whether the form stands in place of the section."""
        return self.currentWidget() is self.form

    def toggle_form(self) -> None:
        """Show the form in place of the section, or the section again."""
        self._show(self.view if self.form_is_big else self.form)

    def set_surround(self, surround: Surround) -> None:
        """Put form and sculpt into another grey field."""
        self.form.set_surround(surround)
        self.sculpt.set_surround(surround)
        if self.match is not None:
            self.match.set_surround(surround)
        if self.glow is not None:
            self.glow.set_surround(surround)

    def refresh_match(self) -> None:
        """Let a search that is shown follow the plan."""
        if self.match is not None and self.currentWidget() is self.match:
            self.match.refresh()
        elif self.glow is not None and self.currentWidget() is self.glow:
            self.glow.refresh()

    @property
    def matching(self) -> bool:
        """Whether coats are sought or laid on a page of its own, and the card is in the way."""
        return self.currentWidget() in self._pages

    @property
    def whole(self) -> bool:
        """Whether a page is shown that needs the whole window."""
        page = self.currentWidget()
        return isinstance(page, Page) and page.whole

    @property
    def turning(self) -> bool:
        """Whether a sculpt is turned or coats are sought, and keys are for that."""
        return self.currentWidget() is self.sculpt or self.matching

    def hint(self) -> str:
        """Return what can be done on the page that is shown; nothing for the section."""
        if self.currentWidget() is self.sculpt:
            return _HINT_SCULPT
        for page, words in self._pages.items():
            if self.currentWidget() is page:
                return page.hint() or words
        if not self.form_is_big:
            return ""
        now = self.form.handles
        more = (
            _HINT_AXIS if now.axis is not None else _HINT_NOZZLE if now.nozzle is not None else ""
        )
        return _HINT_FORM + more

    def leave_sculpt(self) -> None:
        """Go back from a sculpt that is being turned, or from a page."""
        if self.currentWidget() is self.sculpt:
            self.sculpt.give_up()
        for page in self._pages:
            if self.currentWidget() is page:
                page.give_up()

    def choose_sculpt(self) -> None:
        """Let a sculpt's file be chosen and open it."""
        path = self._document.path
        folder = str(path.parent if path else Path.home())
        name, _ = QFileDialog.getOpenFileName(self, "Open a sculpt", folder, _FILTER)
        if name:
            self.open_sculpt(Path(name))

    def open_sculpt(self, path: Path) -> None:
        """Open a sculpt, to see the passage in view on it."""
        if self._hand.passage is None:
            self._say("There is no passage to see on a sculpt; add one on the left first.")
            return
        self._show(self.sculpt)
        self.sculpt.open(path)

    def choose_form(self, name: str) -> None:
        """See the passage in view on another form, or on a sculpt that the plan has."""
        if self._hand.passage is not None:
            index = self._hand.passage_index
            plan = edits.shape(self._document.plan, index, name)
            if self._hand.passage.axis == Axis():
                plan = _with_usual_axis(plan, index)
            self._document.edit(_faced(plan, index), "form of the passage")

    def turn_nozzle(self, more: float) -> None:
        """Lead the spray of the ground from further round."""
        passage = self._hand.passage
        now = handles(self._document.plan, passage).nozzle if passage else None
        if now is None:
            self._say("This ground is not sprayed from a side; choose one under Ground.")
            return
        turned = (now + more + 180) % 360 - 180
        plan = with_nozzles(self._document.plan, self._hand.passage_index, turned)
        self._document.edit(_faced(plan, self._hand.passage_index), "nozzle", "nozzle")

    def ring_axis(self) -> None:
        """Let the axis over a sculpt run in rings round the light, or straight again."""
        passage, plan = self._hand.passage, self._document.plan
        if passage is None or handles(plan, passage).axis is None:
            self._say("The axis is the form's own here; on a sculpt of yours you lay it yourself.")
            return
        axis = replace(passage.axis, rings=not passage.axis.rings)
        words = "axis in rings" if axis.rings else "straight axis"
        self._document.edit(edits.run(plan, self._hand.passage_index, axis), words)

    def prepared(self, plan: Plan) -> Plan:
        """Return a plan with the passage in view tilted as its form is, if it is sprayed."""
        return _faced(plan, self._hand.passage_index)

    def close_jobs(self) -> None:
        """End the workers."""
        self.sculpt.close_jobs()
        for page in self._pages:
            page.close_jobs()

    def _show(self, page: QWidget) -> None:
        self.setCurrentWidget(page)
        page.setFocus()
        self.switched.emit()

    def _settle(self, words: str) -> None:
        """Keep what was dragged on the form, and let the section follow."""
        self._document.preview(_faced(self._document.plan, self._hand.passage_index))
        self._document.commit(words)

    def _wear(self, sculpt: Sculpt) -> None:
        index = self._hand.passage_index
        if self._hand.passage is None:
            return
        plan = edits.wear(self._document.plan, index, sculpt, usual_axis(sculpt))
        self._document.edit(_faced(lengthened(plan, index), index), f"view of {sculpt.name}")
        self._show(self.form)
        self._say(
            "Drag on the sculpt from where the light is to the far end; the passage is then as "
            "long as that."
        )

    def _free_name(self, stem: str) -> str:
        """Return what to call a view: the file's name, unless another passage has one so called."""
        wanted = " ".join(stem.split())[:60] or "sculpt"
        index = self._hand.passage_index
        others = {p.form for i, p in enumerate(self._document.plan.passages) if i != index}
        taken = {*FORM_NAMES, *others}
        names = (wanted if n == 1 else f"{wanted} {n}" for n in range(1, len(taken) + 3))
        return next(name for name in names if name not in taken)


def _with_usual_axis(plan: Plan, index: int) -> Plan:
    """Return the plan with a passage's axis from the top to the bottom of its sculpt, if any."""
    for sculpt in plan.sculpts:
        if sculpt.name == plan.passages[index].form:
            return edits.run(plan, index, usual_axis(sculpt))
    return plan


def _faced(plan: Plan, index: int) -> Plan:
    """Return the plan with a passage that is sprayed tilted as its form is.

    So the section shows along the axis what the spray does on the form.
    """
    passage = plan.passages[index] if 0 <= index < len(plan.passages) else None
    nozzle = nozzle_of(passage) if passage is not None else None
    if passage is None or nozzle is None:
        return plan
    turned = tilt(form(shape_of(plan, passage), _TILT_PIXELS, rough=False), nozzle)
    return edits.set_passage(plan, index, replace(passage, tilt=turned))
