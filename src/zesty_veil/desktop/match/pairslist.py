"""Pots that may come next, each with the colours on the way there: seen before one is chosen."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QFontMetricsF, QKeyEvent, QPainter, QPen

from zesty_veil.desktop.kit.drawnlist import DrawnList
from zesty_veil.desktop.kit.ribbons import draw_ribbon
from zesty_veil.desktop.kit.theme import CAPTION, SURROUNDS, Surround, font
from zesty_veil.desktop.kit.writing import RIGHT, write
from zesty_veil.services.ladders import PairShown
from zesty_veil.tr import tr

_ROW, _MARGIN, _RIBBON = 40, 8.0, 14.0
# Between a pot's name and what is said at the end of its line.
_GAP = 10.0


class PairsList(DrawnList[PairShown]):
    """One row for each pot; one is in hand; a press or Space takes it."""

    taken = Signal(str)

    def __init__(self) -> None:
        super().__init__(tr("pots that may come next"))
        self._surround = SURROUNDS["middle"]
        self.setMinimumWidth(240)
        self.setToolTip(tr("The colours between, from the last pot to each other; press to take"))
        self.clicked.connect(lambda index: self.taken.emit(self.rows[index.row()].name))

    def set_surround(self, surround: Surround) -> None:
        """Put the colours into another grey field."""
        self._surround = surround
        self.viewport().update()

    def show_pairs(self, pairs: tuple[PairShown, ...]) -> None:
        """Show other pots; the one in hand stays so if it is there."""
        held = self.rows[self.at].name if self.at >= 0 else ""
        names = [pair.name for pair in pairs]
        self.show_rows(pairs, names.index(held) if held in names else min(0, len(names) - 1))

    def said(self, row: PairShown, at: int) -> tuple[str, str]:
        return row.name, tr("through {0}").format(row.mud) if row.mud else tr("stays clean")

    def size_of(self, row: PairShown, at: int) -> QSize:
        return QSize(240, _ROW)

    def ground(self) -> QColor:
        return self._surround.colour

    def draw(self, painter: QPainter, box: QRectF, row: PairShown, at: int) -> None:
        self._draw(painter, box.adjusted(_MARGIN, 0, -_MARGIN, -2), row, at == self.at)

    def _draw(self, painter: QPainter, row: QRectF, pair: PairShown, held: bool) -> None:
        ink = self._surround.text
        line = QRectF(row.x() + 6, row.y() + 2, row.width() - 12, 20)
        name = QFontMetricsF(font(bold=held)).horizontalAdvance(pair.name)
        write(painter, line, pair.name, ink, bold=held)
        if pair.mud:
            rest = line.adjusted(name + _GAP, 0, 0, 0)
            write(painter, rest, tr("through {0}").format(pair.mud), ink, RIGHT, pixels=CAPTION)
        ribbon = QRectF(row.x() + 6, row.bottom() - _RIBBON - 3, row.width() - 12, _RIBBON)
        draw_ribbon(painter, ribbon, pair.ribbon)
        if held and self.hasFocus():
            painter.setPen(QPen(ink, 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(row, 5, 5)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Space takes the pot in hand."""
        if event.key() == Qt.Key.Key_Space and self.at >= 0:
            self.taken.emit(self.rows[self.at].name)
            event.accept()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            event.ignore()  # lays the whole ladder
        else:
            super().keyPressEvent(event)
