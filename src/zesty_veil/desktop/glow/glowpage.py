"""What stands on the page of a light, and where: form, ladder, and the panels below."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from zesty_veil.advise.glow.painting import SCHOOLS
from zesty_veil.desktop.glow.depth import Depth
from zesty_veil.desktop.glow.fallson import FallsOn, ShadowOf
from zesty_veil.desktop.glow.keys import LIGHT
from zesty_veil.desktop.glow.ladder import Ladder
from zesty_veil.desktop.glow.laid import LaidWords
from zesty_veil.desktop.glow.lightbar import LightBar
from zesty_veil.desktop.glow.lightview import LightView
from zesty_veil.desktop.glow.notes import Notes
from zesty_veil.desktop.glow.surfacerow import SurfaceRow
from zesty_veil.desktop.glow.winsdial import WinsDial
from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.numbersrow import NumbersRow
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.panel import Panel, heading, quiet_words
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.theme import NUMBER
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.tr import counted, tr

_SCHOOL_WORDS = {
    "inward": "dark first, lighter inward",
    "sketch": "bright sketch, darker outward",
    "white": "white under all, glazes outward",
    "spot": "airbrush spots, edges by brush",
}

_PANELS, _ANSWER = 168, 240
_LOW = 600


class GlowPage(Page):
    """Holds what the light's page shows; who makes it work is `GlowView`."""

    keys = LIGHT
    whole = True

    def __init__(self, rack: RackView) -> None:
        super().__init__()
        self.view, self.ladder = LightView(), Ladder()
        self.row, self.numbers = SurfaceRow(rack), NumbersRow()
        self.dark, self.notes = Depth(), Notes()
        self.school = Choice(tr("how it is painted"))
        for school in SCHOOLS:
            self.school.addItem(tr(_SCHOOL_WORDS[school]), school)
        self.school.setCurrentIndex(self.school.findData("inward"))
        self.flame = Choice(tr("how the light itself is painted"))
        self.keep = Choice(tr("what becomes of the coats that are there"))
        self.keep.setMinimumContentsLength(14)
        self.keep.addItem(tr("painted anew"), False)
        self.keep.addItem(tr("over what is there"), True)
        self.wins, self.falls_on, self.shadow_of = WinsDial(), FallsOn(), ShadowOf()
        self.bar = LightBar()
        self.find_coats, self.stop = self.bar.find_coats, self.bar.stop
        self.write, self.leave = self.bar.write, self.bar.leave
        self.progress = self.bar.progress
        self.head = heading("", NUMBER)
        self.words = quiet_words()
        self.laid, self.laid_head = LaidWords(), heading("")
        self.say_remarks(0)
        self._lay_out()

    def say_remarks(self, count: int) -> None:
        """Say over the coats how many remarks stand below them."""
        words = tr("What to lay")
        more = counted(count, "{0} remark", "{0} remarks")
        self.laid_head.setText(f"{words}  ·  {more}" if count else words)

    def tools(self) -> QWidget | None:
        """Return what finds coats and writes them."""
        return self.bar

    def _lay_out(self) -> None:
        light = Panel()
        title = QHBoxLayout()
        title.setSpacing(16)
        title.addWidget(heading(tr("Light")), 4)
        core = QHBoxLayout()
        core.addWidget(Label(tr("Core")))
        core.addWidget(self.row.curve, 1)
        title.addLayout(core, 5)
        light.body.addLayout(title)
        lines = QHBoxLayout()
        lines.setSpacing(16)
        lines.addWidget(self.numbers, 4)
        lines.addWidget(self.row, 5)
        light.body.addLayout(lines)
        answer = Panel()
        answer.body.addWidget(self.laid_head)
        told = QWidget()
        column = QVBoxLayout(told)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(self.laid)
        column.addWidget(self.notes)
        column.addStretch(1)
        laid = QScrollArea()
        laid.setWidget(told)
        laid.setWidgetResizable(True)
        laid.setObjectName("clear")
        laid.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        laid.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        answer.body.addWidget(laid, 1)
        answer.setMinimumWidth(_ANSWER)
        for panel in (light, answer):
            panel.setFixedHeight(_PANELS)
        how = QHBoxLayout()
        how.setSpacing(8)
        how.addWidget(self.school, 1)
        how.addWidget(self.flame, 1)
        over = QHBoxLayout()
        over.setSpacing(16)
        over.addWidget(self.keep)
        over.addWidget(self.falls_on)
        over.addWidget(self.shadow_of)
        over.addWidget(self.wins, 1)
        left = QVBoxLayout()
        left.setSpacing(8)
        left.addWidget(self.view, 1)
        left.addLayout(over)
        right = QVBoxLayout()
        right.setSpacing(6)
        right.addWidget(self.head)
        right.addWidget(self.words)
        right.addLayout(how)
        right.addWidget(self.ladder, 1)
        right.addWidget(self.dark)
        above = QHBoxLayout()
        above.setSpacing(16)
        above.addLayout(left, 6)
        above.addLayout(right, 5)
        below = QHBoxLayout()
        below.setSpacing(8)
        below.addWidget(light, 2)
        below.addWidget(answer, 1)
        page = QVBoxLayout(self)
        page.setContentsMargins(8, 0, 16, 8)
        page.setSpacing(8)
        page.addLayout(above, 1)
        page.addLayout(below)

    def resizeEvent(self, event: QResizeEvent) -> None:
        # On a low screen the ladder needs the room; its last row says how dark it is away.
        self.dark.setVisible(self.height() >= _LOW)
        super().resizeEvent(event)
