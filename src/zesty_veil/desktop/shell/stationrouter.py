"""All stations of one window: what turns from the section to each, and how each is made."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from zesty_veil.desktop.form.formwork import FormWork
from zesty_veil.desktop.glow.glowview import GlowView
from zesty_veil.desktop.glow.lightstart import LightStart
from zesty_veil.desktop.guess.guesspage import GuessPage
from zesty_veil.desktop.kit.page import PageRouter
from zesty_veil.desktop.logbook.logpage import LogPage
from zesty_veil.desktop.match.matchview import MatchView
from zesty_veil.desktop.rack.rackpage import RackPage
from zesty_veil.desktop.section.station import SectionStation
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.userstore import UserStore
from zesty_veil.desktop.sitting.sittingstart import SittingStart
from zesty_veil.desktop.sitting.sittingview import SittingView
from zesty_veil.desktop.start.startpage import StartPage
from zesty_veil.paint.mixture import Mixture
from zesty_veil.tr import tr


class StationRouter(PageRouter):
    """Holds form, sculpt and pages, and ties each to the section that it was turned from.

    The rack, the log and the guess are made when they are first wanted: most sittings need none
    of them, and they take as long to make as half of the window.
    """

    start_made = Signal(object)  # StartPage, once

    def __init__(self, section: SectionStation, document: Document, user_store: UserStore) -> None:
        say = section.complained.emit
        self.forms = FormWork(document, section.editor, say, self.show_page)
        super().__init__(section.view, self.forms.form, say)
        self._section, self._document, self._user_store = section, document, user_store
        self.sculpt = self.forms.sculpt
        self.match = MatchView(document, section.editor, section.rack, section.look, self._place)
        self.glow = GlowView(document, section.editor, section.rack)
        self.light_start = LightStart(document)
        self.light_start.lit.connect(self.plan_light)
        self.sitting = SittingView(document, user_store.writes)
        self.sitting.rescue_wanted.connect(self._rescue)
        self.sitting_start = SittingStart()
        self.sitting_start.coat_wanted.connect(self._add_coat)
        self.sitting_start.plans_wanted.connect(self.open_start)
        self.rack: RackPage | None = None
        self.log: LogPage | None = None
        self.guess: GuessPage | None = None
        self.start: StartPage | None = None
        section.passages.form_wanted.connect(self.forms.choose_form)
        section.passages.sculpt_wanted.connect(self.forms.choose_sculpt)
        for page in (
            self.sculpt, self.match, self.glow, self.light_start, self.sitting, self.sitting_start,
        ):  # fmt: skip
            self.add(page)

    def hint(self) -> str:
        """Return what can be done on the page that is shown; nothing for the section."""
        return self.forms.hint() if self.form_is_big else super().hint()

    @property
    def station(self) -> str:
        """The command that leads to the station that is shown."""
        found: dict[QWidget | None, str] = {
            self.start: "start", self.glow: "to light", self.light_start: "to light",
            self.sitting_start: "sit", self.match: "to match",
            self.sitting: "sit", self.rack: "rack", self.log: "log", self.guess: "guess",
        }  # fmt: skip
        return found.get(self.page, "section") if self.page is not None else "section"

    def show_section(self) -> None:
        """Go back to the section, whatever is open."""
        if self.page is self.sculpt:
            self.sculpt.give_up()
        self.show_page(self.view)

    def open_start(self) -> None:
        """Look at the plans that can be begun or gone on with."""
        if self.start is None:
            self.start = StartPage(self._section.rack)
            self.start.rack_wanted.connect(self.open_rack)
            self.add(self.start)
            self.start_made.emit(self.start)
        self.turn_to(self.start)

    def find_coats(self, in_hand: int | None) -> None:
        """Find coats for the targets of the passage in view."""
        if self._section.editor.passage is None:
            self._say(tr("There is no passage to find coats for; add one on the left first."))
            return
        self.show_page(self.match)
        self.match.open(in_hand)

    def plan_light(self) -> None:
        """Drag a painted light before what it lights."""
        if not any(passage.lit_by for passage in self._document.plan.passages):
            self.turn_to(self.light_start)
        elif self.glow.open():
            self.show_page(self.glow)
            self.glow.view.setFocus()

    def sit_down(self) -> None:
        """Begin a sitting, or go on with it."""
        passages = self._document.plan.passages
        laid = any(p.coats or p.ground.coats for p in passages)
        self.turn_to(self.sitting if laid else self.sitting_start)

    def open_rack(self) -> None:
        """Look at the paints of the rack."""
        if self.rack is None:
            self.rack = RackPage(self._document, self._user_store, self._mixture_in_hand)
            self.rack.lay_wanted.connect(self._section.add_coat)
            self.add(self.rack)
        self.turn_to(self.rack)

    def open_log(self) -> None:
        """Look at what was painted."""
        if self.log is None:
            self.log = LogPage(self._document, self._user_store, self._passage_and_place)
            self.log.again_wanted.connect(self._section.again_wanted.emit)
            self.add(self.log)
        self.turn_to(self.log)

    def guess_first(self) -> None:
        """Guess what stacks of one's own paints look like."""
        if self.guess is None:
            self.guess = GuessPage(self._document, self._user_store)
            self.add(self.guess)
        self.turn_to(self.guess)

    def _add_coat(self) -> None:
        """Go to the section and offer the paints."""
        self.show_section()
        self._section.open_rack()

    def _rescue(self, passage: int, coat: int) -> None:
        """Find a way on from a coat that came out wrong."""
        if passage < len(self._document.plan.passages):
            self._section.choose_passage(passage)
            self._section.choose_coat(coat)
            self.find_coats(coat)

    def _place(self) -> float:
        """Return the place along the section that is read."""
        return self._section.view.place

    def _passage_and_place(self) -> tuple[int, float]:
        return self._section.editor.passage_index, self._place()

    def _mixture_in_hand(self) -> Mixture | None:
        """Return the mixture of the coat in hand, if there is one."""
        passage, coat = self._section.editor.passage, self._section.coat
        if passage is None or coat is None or coat >= len(passage.coats):
            return None
        return passage.coats[coat].mixture
