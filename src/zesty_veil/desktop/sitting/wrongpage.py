"""It went wrong: which passage, what it is now, and the way back to what was planned."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.colourfield import ColourField
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.panel import Panel, heading, quiet_words
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.ribbons import draw_ribbon
from zesty_veil.desktop.kit.theme import CARD, QUIET, TITLE, font, grey
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.desktop.sitting.keys import WENT_WRONG
from zesty_veil.errors import VeilError
from zesty_veil.light.grid import Array
from zesty_veil.plan.model import coat_name
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.services.colours import parse_colour
from zesty_veil.services.mending import (
    HUE,
    LIGHTNESS,
    STRENGTH,
    CameOut,
    Wrong,
    WrongSeen,
    seen_wrong,
)
from zesty_veil.tr import tr

_ASKED, _HIGH = 420, 54.0


class BothRibbons(QWidget):
    """Draws what was planned above what it is now."""

    def __init__(self) -> None:
        super().__init__()
        self.before: Array | None = None
        self.now: Array | None = None
        self.setMinimumHeight(round(2 * _HIGH) + 44)
        self.setAccessibleName(tr("as planned, and as it is now"))

    def sizeHint(self) -> QSize:
        return QSize(_ASKED, round(2 * _HIGH) + 44)

    def show_both(self, before: Array, now: Array) -> None:
        """Show colours along the axis, (n, 3) encoded sRGB each."""
        self.before, self.now = before, now
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setFont(font(CARD))
        y = 0.0
        for words, rgb in ((tr("as planned"), self.before), (tr("as it is now"), self.now)):
            painter.setPen(grey(QUIET))
            painter.drawText(QRectF(0, y, self.width(), 18), Qt.AlignmentFlag.AlignLeft, words)
            if rgb is not None:
                draw_ribbon(painter, QRectF(0, y + 18, self.width(), _HIGH), np.asarray(rgb))
            y += _HIGH + 24
        painter.end()


class WrongPage(Page):
    """Asks what a passage is now; one press looks for the way back.

    Parameters
    ----------
    document, rack, look
        The open plan, the paints at hand, and how colours are looked at.
    """

    keys = WENT_WRONG
    whole = True
    back_wanted = Signal(object)  # a WaySearch

    def __init__(
        self, document: Document, rack: RackView, look: Callable[[], ViewingConditions]
    ) -> None:
        super().__init__()
        self._document, self._rack, self._look = document, rack, look
        self._laid: dict[int, int] = {}
        self.jobs: NewestWins[Wrong, WrongSeen] = NewestWins(seen_wrong, self, "short")
        self.jobs.answered.connect(self._seen)
        self.jobs.failed.connect(lambda error: self.words.setText(str(error)))
        self.passage = Choice(tr("which passage went wrong"))
        self.lightness = _scale(tr("how light it is"), LIGHTNESS)
        self.strength = _scale(tr("how strong its colour is"), STRENGTH)
        self.hue = _scale(tr("which way its hue has gone"), HUE)
        self.colour = ColourField(
            tr("the colour that it is now"), tr("words, #rrggbb or Lab"), rack
        )
        self.both = BothRibbons()
        self.words: Label = quiet_words()
        self.coat = quiet_words()
        self.seek = QPushButton(tr("Find the way back"))
        self.seek.setObjectName("main")
        self.seek.setToolTip(
            WENT_WRONG.tooltip("find way back", tr("Compare going on with covering it first"))
        )
        self.leave = QPushButton(tr("Back"))
        self.leave.setToolTip(WENT_WRONG.tooltip("leave wrong", tr("Back, without doing anything")))
        self._lay_out()
        for choice in (self.passage, self.lightness, self.strength, self.hue):
            choice.activated.connect(self._ask)
        self.colour.returnPressed.connect(self._ask)
        self.seek.clicked.connect(self.look_for_it)
        self.leave.clicked.connect(self.give_up)

    def show_passage(self, passage: int, laid: dict[int, int]) -> None:
        """Ask about a passage; `laid` is how many coats of each lie on the bench."""
        self._laid = laid
        self.passage.clear()
        for number, each in enumerate(self._document.plan.passages):
            if laid.get(number, 0):
                self.passage.addItem(each.name, number)
        self.passage.setCurrentIndex(max(self.passage.findData(passage), 0))
        for scale in (self.lightness, self.strength, self.hue):
            scale.setCurrentIndex(0)
        self.colour.clear()
        self._ask()

    def take_focus(self) -> None:
        """Begin with how light it is: that goes wrong most often."""
        self.lightness.setFocus()

    def look_for_it(self) -> None:
        """Look for the way back from what is said."""
        self._ask(back=True)

    def rest(self) -> None:
        """Drop what was asked."""
        self.jobs.drop()

    def wait_until_idle(self) -> bool:
        """Run events until all that was asked is there."""
        return self.jobs.wait_until_idle()

    def close_jobs(self) -> None:
        """End the worker."""
        self.jobs.close()

    def _out(self) -> CameOut | None:
        passage = self.passage.currentData()
        if passage is None:
            self.words.setText(tr("Nothing is laid yet."))
            return None
        seen = parse_colour(self.colour.text()) if self.colour.text().strip() else None
        return CameOut(
            self._document.plan, int(passage), self._laid[int(passage)],
            str(self.lightness.currentData()), str(self.strength.currentData()),
            str(self.hue.currentData()), seen,
        )  # fmt: skip

    def _ask(self, _: int = 0, back: bool = False) -> None:
        try:
            out = self._out()
        except VeilError as error:
            self.words.setText(str(error))
            return
        if out is None:
            return
        coats = out.meant.coats
        self.coat.setText(tr("Laid last: {0}").format(coat_name(coats[-1])) if coats else "")
        self.jobs.ask(Wrong(out, self._look(), self._rack.paints(), back=back))

    def _seen(self, seen: WrongSeen) -> None:
        self.both.show_both(seen.before, seen.now)
        self.words.setText(seen.words)
        if seen.search is not None:
            self.back_wanted.emit(seen.search)

    def _lay_out(self) -> None:
        rows = QGridLayout()
        rows.setHorizontalSpacing(12)
        rows.setVerticalSpacing(10)
        for row, (words, field) in enumerate(
            (
                (tr("Passage"), self.passage), (tr("Lightness"), self.lightness),
                (tr("Strength"), self.strength), (tr("Hue"), self.hue),
                (tr("Or its colour"), self.colour),
            )
        ):  # fmt: skip
            label = Label(words)
            label.setBuddy(field)
            rows.addWidget(label, row, 0)
            rows.addWidget(field, row, 1)
        panel = Panel()
        panel.setFixedWidth(_ASKED)
        panel.body.addWidget(heading(tr("What is it now?"), TITLE))
        panel.body.addWidget(self.coat)
        panel.body.addLayout(rows)
        panel.body.addStretch(1)
        buttons = QHBoxLayout()
        buttons.addWidget(self.seek)
        buttons.addWidget(self.leave)
        panel.body.addLayout(buttons)
        beside = QVBoxLayout()
        beside.addWidget(self.both)
        beside.addWidget(self.words)
        beside.addStretch(1)
        page = QHBoxLayout(self)
        page.setContentsMargins(8, 0, 16, 8)
        page.setSpacing(16)
        page.addWidget(panel)
        page.addLayout(beside, 1)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Find the way back, or leave."""
        acts = {"find way back": self.look_for_it, "leave wrong": self.give_up}
        act = acts.get(self.keys.pressed(event) or "")
        if act is None:
            event.ignore()
            return
        act()
        event.accept()


def _scale(name: str, words: dict[str, float] | dict[str, tuple[float, float]]) -> Choice:
    choice = Choice(name)
    for each in words:
        choice.addItem(tr(each), each)
    return choice
