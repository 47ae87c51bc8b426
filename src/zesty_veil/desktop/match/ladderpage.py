"""Steps between pots: which pots, how many steps, where they lie, and what comes."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from zesty_veil.advise.ladder import LEAST_RUNGS, MOST_POTS, MOST_RUNGS, LadderEnd, LadderStyle
from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.numberbox import CountBox
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.panel import Panel, heading, quiet_words
from zesty_veil.desktop.kit.passageeditor import PassageEditor
from zesty_veil.desktop.kit.plain import Label, name_control
from zesty_veil.desktop.kit.searchline import search_line
from zesty_veil.desktop.kit.theme import Surround
from zesty_veil.desktop.match.keys import LADDER
from zesty_veil.desktop.match.ladderstrip import LadderStrip
from zesty_veil.desktop.match.pairslist import PairsList
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.paint.laydown import SITES, Site
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.services.ladders import LadderRequest, LadderShown, climbing
from zesty_veil.tr import tr

_STYLES: dict[LadderStyle, str] = {"even": "evenly spaced", "pairs": "A, A+B, B, B+C, C"}
_ENDS: dict[LadderEnd, str] = {
    "far": "each shorter, to the far end",
    "light": "each further in, to the light",
    "both": "to both ends, as edges of a panel",
}
_SITES: dict[str, tuple[Site, ...]] = {
    "all": SITES, "ridge": ("ridge",), "recess": ("recess",),
}  # fmt: skip
_SITE_WORDS = {"all": "on everything", "ridge": "on ridges alone", "recess": "in recesses alone"}
_LIST = 320


class LadderPage(Page):
    """Nothing of the plan changes until the ladder is laid.

    Parameters
    ----------
    document, editor, rack, look
        The open plan, the passage in view, the paints at hand, and how they are looked at.
    """

    keys = LADDER
    colours_wanted = Signal()

    def __init__(
        self,
        document: Document,
        editor: PassageEditor,
        rack: RackView,
        look: Callable[[], ViewingConditions],
    ) -> None:
        super().__init__()
        self._document, self._editor, self._rack, self._look = document, editor, rack, look
        self.pots: tuple[str, ...] = ()
        self.shown: LadderShown | None = None
        self.jobs: NewestWins[LadderRequest, LadderShown] = NewestWins(climbing, self, "short")
        self.jobs.answered.connect(self._answered)
        self.jobs.failed.connect(lambda error: self.strip_says(str(error)))
        self.pairs, self.strip = PairsList(), LadderStrip()
        self.pairs.taken.connect(self.take)
        self.words, self.head = quiet_words(), heading(tr("Between pots"))
        self.count = CountBox()
        self.count.setRange(LEAST_RUNGS, MOST_RUNGS)
        self.count.setValue(5)
        name_control(self.count, tr("how many steps, the pots among them"))
        self.style_of = _choice(tr("how the steps are spaced"), _STYLES)
        self.end = _choice(tr("where later steps lie"), _ENDS)
        self.site = _choice(tr("what later steps reach"), _SITE_WORDS)
        self.count.valueChanged.connect(lambda _: self.ask())
        self.share = CountBox()
        self.share.setRange(20, 100)
        self.share.setSingleStep(10)
        self.share.setValue(100)
        self.share.setSuffix(" %")
        name_control(self.share, tr("how much of the axis the steps take"))
        self.share.setToolTip(
            tr("The rest stays the base's: half for each where two ladders share one base")
        )
        self.share.valueChanged.connect(lambda _: self.ask())
        self.search = search_line(tr("search the pots"), tr("Search"))
        self.search.textChanged.connect(lambda _: self._show_pairs())
        for choice in (self.style_of, self.end, self.site):
            choice.activated.connect(lambda _: self.ask())
        self.fewer = _button(
            tr("Leave the last out"), LADDER.tooltip("drop pot", tr("Leave the last pot out"))
        )
        self.fewer.clicked.connect(self.drop_last)
        self.lay = _button(tr("Lay it"), LADDER.tooltip("lay ladder", tr("Lay the steps")))
        self.lay.setObjectName("main")
        self.lay.clicked.connect(self.lay_it)
        self.colours = _button(tr("Wanted colours"), tr("Find coats for colours that are wanted"))
        self.colours.clicked.connect(self.colours_wanted.emit)
        self.leave = _button(tr("Back"), LADDER.tooltip("leave ladder", tr("Back to the section")))
        self.leave.clicked.connect(self.give_up)
        self._lay_out()

    def _lay_out(self) -> None:
        self._bar = QWidget()
        bar = QHBoxLayout(self._bar)
        bar.setContentsMargins(0, 0, 0, 0)
        bar.setSpacing(8)
        for button in (self.colours, self.fewer, self.lay, self.leave):
            bar.addWidget(button)
        self.pairs.setFixedWidth(_LIST)
        how = Panel()
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(Label(tr("Steps")))
        row.addWidget(self.count)
        row.addWidget(self.style_of, 1)
        row.addWidget(self.site, 1)
        how.body.addLayout(row)
        lies = QHBoxLayout()
        lies.setSpacing(8)
        lies.addWidget(self.end, 1)
        lies.addWidget(Label(tr("Share")))
        lies.addWidget(self.share)
        how.body.addLayout(lies)
        right = QVBoxLayout()
        right.setSpacing(8)
        for each in (self.head, self.words, how):
            right.addWidget(each)
        right.addWidget(self.strip, 1)
        page = QHBoxLayout(self)
        page.setContentsMargins(8, 0, 16, 8)
        page.setSpacing(16)
        left = QVBoxLayout()
        left.setSpacing(8)
        self.search.setFixedWidth(_LIST)
        left.addWidget(self.search)
        left.addWidget(self.pairs, 1)
        page.addLayout(left)
        page.addLayout(right, 1)

    def tools(self) -> QWidget | None:
        """Return what takes pots out and lays the ladder."""
        return self._bar

    def open(self) -> bool:
        """Show which pots there are."""
        names = {paint.name for paint in self._rack.paints()}
        self.pots = tuple(name for name in self.pots if name in names)
        self.ask()
        return True

    def strip_says(self, words: str) -> None:
        """Say what could not be done."""
        self.words.setText(words)

    def take_focus(self) -> None:
        """Begin with the pots."""
        self.pairs.setFocus()

    def follow(self) -> None:
        """Look again: the plan, the passage or the look may be others."""
        self.ask()

    def take(self, name: str) -> None:
        """Take a pot as the next one."""
        if len(self.pots) < MOST_POTS:
            self.pots = (*self.pots, name)
            self.ask()
        else:
            self.words.setText(tr("Four pots are the most; leave the last out first."))

    def drop_last(self) -> None:
        """Leave the last pot out."""
        self.pots = self.pots[:-1]
        self.ask()

    def ask(self) -> None:
        """Ask what comes with the pots and choices as they are."""
        passage = self._editor.passage_index
        if self._editor.passage is None:
            return
        self.count.setEnabled(self.style_of.currentData() == "even")
        self.lay.setEnabled(False)
        self.fewer.setEnabled(bool(self.pots))
        self.jobs.ask(
            LadderRequest(
                self._document.plan, passage, self.pots, self._rack.paints(), self._look(),
                max(self.count.value(), len(self.pots)), self.style_of.currentData(),
                self.end.currentData(), _SITES[self.site.currentData()], self.share.value() / 100,
            )
        )  # fmt: skip

    def lay_it(self) -> None:
        """Lay the ladder over what is there, as one step."""
        shown = self.shown
        if shown is None or shown.plan is None or shown.asked.plan != self._document.plan:
            return
        self.left.emit()
        self._document.edit(shown.plan, tr("steps between pots"))

    def give_up(self) -> None:
        """Go back; the pots are kept for next time."""
        self.jobs.drop()
        self.left.emit()

    def set_surround(self, surround: Surround) -> None:
        """Put predicted colours into another grey field."""
        self.pairs.set_surround(surround)
        self.strip.set_surround(surround)

    def wait_until_idle(self) -> bool:
        """Run events until the answer is there."""
        return self.jobs.wait_until_idle()

    def close_jobs(self) -> None:
        """End the worker."""
        self.jobs.close()

    def _answered(self, shown: LadderShown) -> None:
        self.shown = shown
        self._show_pairs()
        self.strip.show_ladder(shown)
        self.lay.setEnabled(shown.plan is not None)
        self.head.setText(" → ".join(self.pots) or tr("Between pots"))
        self.words.setText(_said(shown))

    def _show_pairs(self) -> None:
        """Show the pots whose names hold what is searched for."""
        words = self.search.text().casefold().split()
        pairs = () if self.shown is None else self.shown.pairs
        self.pairs.show_pairs(
            tuple(pair for pair in pairs if all(w in pair.name.casefold() for w in words))
        )

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter lays the ladder, Backspace leaves a pot out, Escape goes back."""
        acts = {"drop pot": self.drop_last, "lay ladder": self.lay_it,
                "leave ladder": self.give_up}  # fmt: skip
        act = acts.get(self.keys.pressed(event) or "")
        if act is None:
            event.ignore()
            return
        act()
        event.accept()


def _choice(
    name: str, words: dict[str, str] | dict[LadderStyle, str] | dict[LadderEnd, str]
) -> Choice:
    choice = Choice(name)
    for key, said in words.items():
        choice.addItem(tr(said), key)
    return choice


def _button(words: str, tip: str) -> QPushButton:
    button = QPushButton(words)
    button.setToolTip(tip)
    return button


def _said(shown: LadderShown) -> str:
    if shown.wrong:
        return shown.wrong
    if not shown.asked.pots:
        return tr("Take the first pot: the lightest, or the one that lies over all.")
    if shown.found is None:
        return tr("Each row shows what lies between this pot and that one. Take the next.")
    steps = [rung.step for rung in shown.found.rungs[1:]]
    return tr(
        "Steps of dE {0:.0f} to {1:.0f}, in whole drops, each at its share of the way."
    ).format(min(steps), max(steps))
