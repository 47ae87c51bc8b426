"""A coat over white and over black, side by side."""

from __future__ import annotations

from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from zesty_veil.desktop.kit.ribbons import reading_ink, screen_colour
from zesty_veil.desktop.kit.theme import font
from zesty_veil.services.forecast import DrawnCoat
from zesty_veil.tr import tr


class CoatSwatch(QWidget):
    """A coat over white and over black, side by side."""

    def __init__(self) -> None:
        super().__init__()
        self.layer: DrawnCoat | None = None
        self.setFixedHeight(44)
        self.setAccessibleName(tr("The coat over white and over black primer"))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self.layer is not None:
            half = self.width() // 2
            swatch = self.layer.swatch
            for x, rgb, words in (
                (0, swatch.over_white, tr("over white")),
                (half, swatch.over_black, tr("over black")),
            ):
                painter.fillRect(x, 0, half, self.height(), screen_colour(rgb))
                painter.setFont(font())
                painter.setPen(reading_ink(rgb))
                painter.drawText(x + 8, self.height() - 9, words)
        painter.end()
