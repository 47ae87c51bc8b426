"""The leaf on which a paint is measured: where its parts stand."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.entryline import EntryLine
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.theme import CARD, font
from zesty_veil.desktop.rack.cardview import CardView
from zesty_veil.desktop.rack.fitresult import FitResult
from zesty_veil.desktop.rack.meterbar import MeterBar
from zesty_veil.desktop.rack.paintform import PaintForm
from zesty_veil.desktop.rack.photoview import PhotoView
from zesty_veil.tr import tr


class MeasureLeaf(QWidget):
    """Ways to read a card and the card as it is read, left; the paint and its fit, right."""

    def __init__(self, meter: MeterBar) -> None:
        super().__init__()
        self.form, self.photo, self.card = PaintForm(), PhotoView(), CardView()
        self.meter = meter
        self.setFocusProxy(self.card)
        self.title, self.words = Label(), Label()
        self.title.setFont(font(CARD, bold=True))
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
        self.which, self.typed = Label(), EntryLine()
        self.which.setMinimumWidth(150)
        self.typed.setPlaceholderText(tr("#rrggbb, or L a b; Enter takes it and goes on"))
        self.typed.setAccessibleName(tr("colour of the patch in hand"))
        self.shown = FitResult()
        head, ways, typing = QHBoxLayout(), QHBoxLayout(), QHBoxLayout()
        head.addWidget(self.title, 1)
        head.addWidget(self.hand)
        head.addWidget(self.forget)
        head.addWidget(self.anew)
        head.addWidget(self.accept)
        head.addWidget(self.leave)
        for way in (self.from_photo, self.from_file, self.from_meter):
            ways.addWidget(way)
        ways.addStretch(1)
        ways.addWidget(self.print)
        typing.addWidget(self.which)
        typing.addWidget(self.typed, 1)
        left = QVBoxLayout()
        left.setSpacing(8)
        left.addLayout(ways)
        left.addWidget(self.words)
        left.addWidget(self.photo, 1)
        left.addWidget(self.meter)
        left.addWidget(self.card)
        left.addLayout(typing)
        left.addStretch(0)
        right = QVBoxLayout()
        right.setSpacing(8)
        right.addWidget(self.form)
        right.addWidget(self.shown, 1)
        body = QHBoxLayout()
        body.setSpacing(16)
        body.addLayout(left, 3)
        body.addLayout(right, 2)
        page = QVBoxLayout(self)
        page.setContentsMargins(12, 8, 12, 4)
        page.addLayout(head)
        page.addLayout(body, 1)
