"""A coat over white and over black, side by side."""

from __future__ import annotations

from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from zesty_veil.desktop.section.forecast import Drawn
from zesty_veil.desktop.section.ribbons import colour


class CoatSwatch(QWidget):
    """A coat over white and over black, side by side."""

    def __init__(self) -> None:
        super().__init__()
        self.layer: Drawn | None = None
        self.setFixedHeight(44)
        self.setAccessibleName("The coat over white and over black primer")

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self.layer is not None:
            half = self.width() // 2
            painter.fillRect(0, 0, half, self.height(), colour(self.layer.swatch.over_white))
            painter.fillRect(
                half, 0, self.width(), self.height(), colour(self.layer.swatch.over_black)
            )
        painter.end()
