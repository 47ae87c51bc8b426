"""The start page: plans to begin with, plans to go on with, and one glaze to try at once."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.advise.templates.every import TEMPLATES
from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.commands import tooltip
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.taborder import tab_after
from zesty_veil.desktop.kit.theme import CARD, NUMBER, font
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.desktop.start.cards import GlazeRibbons, StartCard, TemplateCard
from zesty_veil.desktop.start.keys import START
from zesty_veil.paint.primer import PRIMERS
from zesty_veil.plan.edits import usual_coat
from zesty_veil.services.starting import (
    DEMOS,
    GlazeShown,
    GlazeTrial,
    PlanCard,
    Shelf,
    plan_of,
    shelved,
    tried,
)  # fmt: skip
from zesty_veil.tr import tr

_MOST_RECENT = 4
_ACROSS = 3  # cards side by side
_TEMPLATES = 4
_RIGHT = 300
_THINNINGS = (0.0, 0.5, 1.0, 2.0, 3.0, 5.0, 7.0)


class StartPage(Page):
    """What will you paint.

    Parameters
    ----------
    rack
        The paints that a glaze is tried of.
    """

    keys = START
    whole = True
    demo_wanted = Signal(str)
    file_wanted = Signal(object)  # Path
    plan_wanted = Signal(object)  # Plan
    empty_wanted = Signal()
    choose_wanted = Signal()
    rack_wanted = Signal()
    round_wanted = Signal()  # to be shown round
    template_wanted = Signal(str)  # by its id

    def __init__(self, rack: RackView) -> None:
        super().__init__()
        self._rack = rack
        self._files: tuple[Path, ...] = ()
        self.cards: list[StartCard] = []
        self.shelves: NewestWins[Shelf, PlanCard] = NewestWins(shelved, self, "long")
        self.shelves.answered.connect(self._show_card)
        self.shelves.failed.connect(lambda error: self.complained.emit(str(error)))
        self.trials: NewestWins[GlazeTrial, GlazeShown] = NewestWins(tried, self, "short")
        self.trials.failed.connect(lambda error: self.complained.emit(str(error)))
        self.glaze = GlazeRibbons()
        self.trials.answered.connect(self.glaze.show_glaze)
        self.ground, self.paint = Choice(tr("ground of the glaze")), Choice(tr("paint to try"))
        self.thinning = Choice(tr("thinning of the glaze"))
        self.use = QPushButton(tr("Make a plan of it"))
        self.use.setToolTip(tr("Begin a plan with two passes of this glaze over this ground"))
        self._lay_out()
        self._fill()

    def open(self) -> bool:
        """Show the plans anew."""
        self._fill_paints()
        self._try()
        self._ask_for_cards()
        return True

    def show_recent(self, files: tuple[Path, ...]) -> None:
        """Say which plans were open last."""
        if files[:_MOST_RECENT] != self._files:
            self._files = files[:_MOST_RECENT]
            self._ask_for_cards()

    def wait_until_idle(self) -> bool:
        """Run events until all that was asked is there; False if nothing moves any more."""
        return all(jobs.wait_until_idle() for jobs in (self.shelves, self.trials))

    def close_jobs(self) -> None:
        """End the workers."""
        self.shelves.close()
        self.trials.close()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Go on with the plan that is open."""
        if self.keys.pressed(event) == "leave start":
            self.give_up()
            event.accept()
        else:
            event.ignore()

    def _ask_for_cards(self) -> None:
        for card in self.cards:
            card.setParent(None)
            card.deleteLater()
        self.cards = []
        self.nothing.setVisible(not self._files)
        self.shelves.ask(Shelf(DEMOS, self._files))

    def _show_card(self, shown: PlanCard) -> None:
        card = StartCard(
            shown.title, shown.words, shown.ribbons, small=shown.demo is None, picture=shown.picture
        )
        self.cards.append(card)
        if shown.demo is not None:
            card.clicked.connect(lambda _=False, d=shown.demo: self.demo_wanted.emit(d))
            self.begin.addWidget(card, *divmod(DEMOS.index(shown.demo), _ACROSS))
        else:
            card.clicked.connect(lambda _=False, f=shown.file: self.file_wanted.emit(f))
            self.again.addWidget(card)
        self._order_tabs()
        # What does not fit is scrolled to; cards are not squeezed.
        self._inner.setMinimumHeight(self._inner.sizeHint().height())

    def _order_tabs(self) -> None:
        """Let Tab lead through the cards where they stand, not after all else."""
        count = min(len(self.cards), len(DEMOS))
        first, again = self.cards[:count], self.cards[count:]
        glaze = (self.paint, self.thinning, self.ground, self.use, self.round, self.own)
        tab_after(self.made[0], (*self.made, *first, self.empty, *glaze, *again, self.choose))

    def _fill(self) -> None:
        for primer in PRIMERS:
            self.ground.addItem(tr("{0} primer").format(tr(primer)), primer)
        for parts in _THINNINGS:
            words = tr("neat") if parts == 0 else tr("{0:g}:1 water").format(parts)
            self.thinning.addItem(words, parts)
        for choice in (self.ground, self.thinning):
            choice.activated.connect(lambda _: self._try())
        self.paint.activated.connect(lambda _: self._paint_chosen())
        self.use.clicked.connect(lambda _=False: self._use())

    def _fill_paints(self) -> None:
        before = self.paint.currentText()
        self.paint.clear()
        for paint in sorted(self._rack.paints(), key=lambda p: p.name):
            self.paint.addItem(paint.name, paint)
        first = next((p.name for p in self._rack.paints() if p.kind == "ink"), "")
        self.paint.setCurrentIndex(max(self.paint.findText(before or first), 0))
        if not before:
            self._paint_chosen()

    def _paint_chosen(self) -> None:
        """Thin another paint as its kind usually is."""
        paint = self.paint.currentData()
        if paint is not None:
            usual = usual_coat(paint).mixture.thinning
            nearest = min(_THINNINGS, key=lambda parts: abs(parts - usual))
            self.thinning.setCurrentIndex(_THINNINGS.index(nearest))
            self._try()

    @property
    def trial(self) -> GlazeTrial | None:
        """What is tried now; none without a paint."""
        paint = self.paint.currentData()
        if paint is None:
            return None
        return GlazeTrial(paint, self.ground.currentData(), self.thinning.currentData())

    def _try(self) -> None:
        if self.trial is not None:
            self.trials.ask(self.trial)

    def _use(self) -> None:
        if self.trial is not None:
            self.plan_wanted.emit(plan_of(self.trial))

    def _lay_out(self) -> None:
        left, right = QVBoxLayout(), QVBoxLayout()
        for column in (left, right):
            column.setSpacing(8)
        title = Label(tr("What will you paint?"))
        title.setFont(font(NUMBER, bold=True))
        left.addWidget(title)
        left.addWidget(
            Label(tr("Each begins a plan from the paints at hand; all of it can be changed."))
        )
        self.templates = QGridLayout()
        self.templates.setSpacing(8)
        self.made: list[TemplateCard] = []
        for number, each in enumerate(TEMPLATES):
            made = TemplateCard(tr(each.title), tr(each.words))
            made.clicked.connect(lambda _=False, t=each.id: self.template_wanted.emit(t))
            self.templates.addWidget(made, *divmod(number, _TEMPLATES))
            self.made.append(made)
        left.addLayout(self.templates)
        left.addSpacing(8)
        left.addWidget(_heading(tr("Or from a plan")))
        self.begin = QGridLayout()
        self.begin.setSpacing(8)
        self.empty = StartCard(tr("Empty plan"), tr("one passage, and what you lay on it"))
        self.empty.clicked.connect(lambda _=False: self.empty_wanted.emit())
        self.begin.addWidget(self.empty, *divmod(len(DEMOS), _ACROSS))
        for column_ in range(_ACROSS):
            self.begin.setColumnStretch(column_, 1)
        left.addLayout(self.begin)
        left.addSpacing(16)
        left.addWidget(_heading(tr("Try one glaze")))
        row = QHBoxLayout()
        row.setSpacing(6)
        for widget, letters in ((self.paint, 22), (self.thinning, 9), (self.ground, 12)):
            widget.setMinimumContentsLength(letters)
            row.addWidget(widget)
        row.addStretch(1)
        row.addWidget(self.use)
        left.addLayout(row)
        left.addWidget(self.glaze)
        left.addStretch(1)
        self.own = own = QPushButton(tr("Bring in my own paints …"))
        own.setToolTip(tr("Open the rack: take in a file of paints, or measure a card"))
        own.clicked.connect(lambda _=False: self.rack_wanted.emit())
        self.round = QPushButton(tr("Show me round"))
        self.round.setToolTip(tr("Five steps over the demo: what is where, and what it is for"))
        self.round.clicked.connect(lambda _=False: self.round_wanted.emit())
        ways = QHBoxLayout()
        ways.setSpacing(8)
        ways.addWidget(self.round)
        ways.addWidget(own)
        ways.addStretch(1)
        left.addLayout(ways)
        right.addWidget(_heading(tr("Go on with")))
        self.again = QVBoxLayout()
        self.again.setSpacing(8)
        right.addLayout(self.again)
        self.nothing = Label(tr("Plans that you save stand here next time."))
        self.nothing.setWordWrap(True)
        right.addWidget(self.nothing)
        self.choose = choose = QPushButton(tr("Open a plan …"))
        choose.setToolTip(tooltip("open"))
        choose.clicked.connect(lambda _=False: self.choose_wanted.emit())
        right.addWidget(choose)
        right.addStretch(1)
        beside = QWidget()
        beside.setLayout(right)
        beside.setFixedWidth(_RIGHT)
        page = QHBoxLayout(self)
        page.setContentsMargins(24, 8, 24, 16)
        page.setSpacing(32)
        inner = self._inner = QWidget()
        inner.setObjectName("clear")
        left.setContentsMargins(0, 0, 8, 0)
        inner.setLayout(left)
        self.sight = QScrollArea()
        self.sight.setWidget(inner)
        self.sight.setWidgetResizable(True)
        self.sight.setObjectName("clear")
        self.sight.setFrameShape(QFrame.Shape.NoFrame)
        self.sight.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.sight.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        page.addWidget(self.sight, 1)
        page.addWidget(beside)


def _heading(words: str) -> Label:
    label = Label(words)
    label.setFont(font(CARD, bold=True))
    return label
