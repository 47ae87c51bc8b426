"""Pots that may come next, each with the colours on the way there: seen before one is chosen."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.accessible import ListedItem
from zesty_veil.desktop.kit.ribbons import draw_ribbon
from zesty_veil.desktop.kit.theme import CAPTION, SURROUNDS, Surround, font
from zesty_veil.desktop.kit.writing import RIGHT, write
from zesty_veil.services.ladders import PairShown
from zesty_veil.tr import tr

_ROW, _MARGIN, _RIBBON = 40.0, 8.0, 14.0
# Between a pot's name and what is said at the end of its line.
_GAP = 10.0


class PairsList(QWidget):
    """One row for each pot; one is in hand; a press or Space takes it."""

    taken = Signal(str)
    moved = Signal()  # to another row

    def __init__(self) -> None:
        super().__init__()
        self.pairs: tuple[PairShown, ...] = ()
        self.in_hand = 0
        self._surround = SURROUNDS["middle"]
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        self.setAccessibleName(tr("pots that may come next"))
        self.setToolTip(tr("The colours between, from the last pot to each other; press to take"))

    def sizeHint(self) -> QSize:
        return QSize(300, round(2 * _MARGIN + _ROW * max(len(self.pairs), 1)))

    def minimumSizeHint(self) -> QSize:
        return QSize(240, self.sizeHint().height())

    def set_surround(self, surround: Surround) -> None:
        """Put the colours into another grey field."""
        self._surround = surround
        self.update()

    def show_pairs(self, pairs: tuple[PairShown, ...]) -> None:
        """Show other pots; the one in hand stays so if it is there."""
        held = self.pairs[self.in_hand].name if self.pairs else ""
        self.pairs = pairs
        names = [pair.name for pair in pairs]
        self.in_hand = names.index(held) if held in names else 0
        self.updateGeometry()
        self.update()

    def row(self, index: int) -> QRectF:
        """Return where a pot stands."""
        top = _MARGIN + index * _ROW
        return QRectF(_MARGIN, top, self.width() - 2 * _MARGIN, _ROW - 2)

    def listed(self) -> list[ListedItem]:
        """Return the pots for assistive technology."""
        return [
            ListedItem(
                pair.name,
                tr("through {0}").format(pair.mud) if pair.mud else tr("stays clean"),
                self.row(i), i == self.in_hand, partial(self.taken.emit, pair.name),
            )
            for i, pair in enumerate(self.pairs)
        ]  # fmt: skip

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._surround.colour)
        painter.setFont(font())
        for i, pair in enumerate(self.pairs):
            row = self.row(i)
            if row.intersects(QRectF(event.rect())):
                self._draw(painter, row, pair, i == self.in_hand)
        painter.end()

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

    def under(self, point: QPointF) -> int | None:
        """Return which pot is at a point."""
        for i in range(len(self.pairs)):
            if self.row(i).contains(point):
                return i
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at = self.under(event.position())
        if at is not None:
            self.in_hand = at
            self.update()
            self.taken.emit(self.pairs[at].name)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and down take another row in hand, Space the pot on it."""
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        if step is not None and self.pairs:
            self.in_hand = min(max(self.in_hand + step, 0), len(self.pairs) - 1)
            self.moved.emit()
            self.update()
        elif event.key() == Qt.Key.Key_Space and self.pairs:
            self.taken.emit(self.pairs[self.in_hand].name)
        else:
            event.ignore()
            return
        event.accept()
