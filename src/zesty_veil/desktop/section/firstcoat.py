"""What stands on the section of a bare passage: three ways to begin it."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.commands import tooltip
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.theme import CARD, Surround, font
from zesty_veil.tr import tr

_WIDE = 340


class FirstCoat(QWidget):
    """Offers to lay a coat, to find coats for a colour, or to paint a light."""

    coat_wanted = Signal()
    station_wanted = Signal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.words = Label(tr("No coat yet. How shall it begin?"))
        self.words.setFont(font(CARD, bold=True))
        self.lay = QPushButton(tr("Lay a coat of a paint"))
        self.lay.setToolTip(tooltip("add coat"))
        self.match = QPushButton(tr("Find coats for a colour"))
        self.match.setToolTip(tr("Name or pick a colour, and see which coats lead to it"))
        self.light = QPushButton(tr("Paint a light that falls on it"))
        self.light.setToolTip(tr("A flame, a lamp, a glowing blade beside it"))
        self.lay.clicked.connect(self.coat_wanted.emit)
        self.match.clicked.connect(lambda: self.station_wanted.emit("match"))
        self.light.clicked.connect(lambda: self.station_wanted.emit("light"))
        column = QVBoxLayout(self)
        column.setSpacing(8)
        column.addWidget(self.words)
        for button in (self.lay, self.match, self.light):
            column.addWidget(button)
        self.setFixedWidth(_WIDE)
        self.hide()

    def set_surround(self, surround: Surround) -> None:
        """Write in what reads on another grey field."""
        self.words.setStyleSheet(f"color: {surround.text.name()};")

    def show_over(self, room: QWidget, bare: bool, top: int) -> None:
        """Stand in the middle below a height of what is behind it, or go."""
        self.setVisible(bare)
        if bare:
            self.adjustSize()
            middle = top + (room.height() - top - self.height()) // 2
            self.move((room.width() - self.width()) // 2, max(middle, top))
