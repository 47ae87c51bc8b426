"""The leaf on which a paint is measured: where its parts stand."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.entryline import EntryLine
from zesty_veil.desktop.kit.panel import Panel, quiet_words
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.theme import TITLE, font
from zesty_veil.desktop.rack.cardview import CardView
from zesty_veil.desktop.rack.fitresult import FitResult
from zesty_veil.desktop.rack.keys import MEASURE
from zesty_veil.desktop.rack.meterbar import MeterBar
from zesty_veil.desktop.rack.paintform import PaintForm
from zesty_veil.desktop.rack.photoview import PhotoView
from zesty_veil.tr import tr

_PAINT_IT = (
    "Print it at 100 %, and lay 1, 2 and 4 passes of the paint over both halves; let each dry."
)


class MeasureLeaf(QWidget):
    """Three steps: the card is painted, then read, on the left; the paint is kept, on the right."""

    def __init__(self, meter: MeterBar) -> None:
        super().__init__()
        self.form, self.photo, self.card = PaintForm(), PhotoView(), CardView()
        self.meter = meter
        self.setFocusProxy(self.card)
        self.title, self.words = Label(), Label()
        self.title.setFont(font(TITLE, bold=True))
        self.words.setWordWrap(True)
        self.print = QPushButton(tr("A card to print …"))
        self.print.setToolTip(tr("Write the test card as a PDF"))
        self.from_photo = QPushButton(tr("Photograph …"))
        self.from_file = QPushButton(tr("Instrument's file …"))
        self.from_meter = QPushButton(tr("Bench meter (simulated)"))
        self.accept = QPushButton(tr("Keep it in the rack"))
        self.accept.setToolTip(tr("Ctrl+Enter"))
        self.hand = QPushButton(tr("Learn my hand from it"))
        self.hand.setToolTip(
            tr("Strips of 1 to 6 passes of a measured paint show your film per pass")
        )
        self.forget = QPushButton(tr("Forget my hand"))
        self.anew = QPushButton(tr("Begin anew"))
        self.anew.setToolTip(tr("Forget what was read of this card"))
        self.leave = QPushButton(tr("Back"))
        self.leave.setToolTip(MEASURE.tooltip("leave measure", tr("Go back to the rack")))
        self.which, self.typed = Label(), EntryLine()
        self.which.setMinimumWidth(150)
        self.typed.setPlaceholderText(tr("#rrggbb, or L a b; Enter takes it and goes on"))
        self.typed.setAccessibleName(tr("colour of the patch in hand"))
        self.shown = FitResult()
        self.accept.setObjectName("main")
        self.head = QWidget()
        head, ways, typing = QHBoxLayout(self.head), QHBoxLayout(), QHBoxLayout()
        for row in (head, ways, typing):
            row.setContentsMargins(0, 0, 0, 0)
            row.setSpacing(8)
        for button in (self.hand, self.forget, self.anew, self.accept, self.leave):
            head.addWidget(button)
        one = Panel(tr("1   Print the card and paint it"))
        row = QHBoxLayout()
        row.addWidget(quiet_words(tr(_PAINT_IT)), 1)
        row.addWidget(self.print)
        one.body.addLayout(row)
        two = Panel(tr("2   Read it"))
        for way in (self.from_photo, self.from_file, self.from_meter):
            ways.addWidget(way)
        ways.addStretch(1)
        typing.addWidget(self.which)
        typing.addWidget(self.typed, 1)
        two.body.addLayout(ways)
        two.body.addWidget(self.words)
        two.body.addWidget(self.photo, 1)
        two.body.addWidget(self.meter)
        two.body.addWidget(self.card)
        two.body.addLayout(typing)
        two.body.addStretch(0)
        three = Panel(tr("3   Say what it is, and keep it"))
        three.body.addWidget(self.form)
        three.body.addWidget(self.shown, 1)
        left = QVBoxLayout()
        left.setSpacing(8)
        left.addWidget(self.title)
        left.addWidget(one)
        left.addWidget(two, 1)
        page = QHBoxLayout(self)
        page.setContentsMargins(8, 0, 16, 4)
        page.setSpacing(8)
        page.addLayout(left, 3)
        page.addWidget(three, 2)
