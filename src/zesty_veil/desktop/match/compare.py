"""The ways against each other: how near, how long, how many pots, how touchy."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.marks import draw_tally
from zesty_veil.desktop.kit.theme import EDGE, ON_STRONG, STRONG, TEXT, WELL, font, grey
from zesty_veil.desktop.kit.writing import MIDDLE, RIGHT, write
from zesty_veil.desktop.match.wayslist import way_marks
from zesty_veil.services.finding import ShownWay
from zesty_veil.tr import tr

_LEFT, _RIGHT, _TOP, _BOTTOM = 40.0, 8.0, 30.0, 46.0
_RADIUS = 11.0
_STEPS = (0.5, 1, 2, 5, 10, 20, 30, 60, 120, 240)
_MOST_TICKS = 5


class ComparePlot(QWidget):
    """Draws each way at its minutes and its dE, with how far it strays, and its pots as a tally.

    A press takes the nearest one in hand.
    """

    taken = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self._ways: tuple[ShownWay, ...] = ()
        self._in_hand = 0
        self._most = 75.0, 4.48
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(tr("ways against each other"))
        self.setAccessibleDescription(
            tr(
                "Each way by its minutes to the right and its dE upward; the whisker is how "
                "far an ordinary hand strays, the tally is its pots. The list says the same in "
                "words."
            )
        )

    def sizeHint(self) -> QSize:
        return QSize(320, 300)

    def minimumSizeHint(self) -> QSize:
        return QSize(260, 110)

    def show_ways(self, ways: tuple[ShownWay, ...], in_hand: int) -> None:
        """Show other ways, and which is in hand."""
        if ways is not self._ways:
            minutes = max((way.answer.minutes for way in ways), default=60.0)
            off = max((way.mean + way.answer.sensitivity for way in ways), default=4.0)
            # Minutes and dE at the far ends of the axes.
            self._most = max(minutes, 10.0) * 1.25, max(off, 2.0) * 1.12
        self._ways, self._in_hand = ways, in_hand
        self.update()

    def point(self, index: int) -> QPointF:
        """Return where a way stands."""
        way = self._ways[index]
        return QPointF(self._x(way.answer.minutes), self._y(way.mean))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setFont(font())
        field = self._field()
        painter.fillRect(field, grey(WELL))
        self._axes(painter, field)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        names = way_marks(self._ways)
        # The one in hand lies over the others.
        for index in sorted(range(len(self._ways)), key=lambda i: i == self._in_hand):
            self._mark(painter, index, names[index])
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._ways:
            at = event.position()
            gaps = [(self.point(i) - at).manhattanLength() for i in range(len(self._ways))]
            self.taken.emit(gaps.index(min(gaps)))

    def _field(self) -> QRectF:
        return QRectF(self.rect()).adjusted(_LEFT, _TOP, -_RIGHT, -_BOTTOM)

    def _x(self, minutes: float) -> float:
        field = self._field()
        return field.x() + field.width() * minutes / self._most[0]

    def _y(self, off: float) -> float:
        field = self._field()
        return field.bottom() - field.height() * off / self._most[1]

    def _axes(self, painter: QPainter, field: QRectF) -> None:
        minutes, off = self._most
        painter.setPen(QPen(grey(EDGE), 1))
        ink = grey(TEXT)
        for value in _ticks(minutes):
            x = self._x(value)
            painter.drawLine(QPointF(x, field.bottom()), QPointF(x, field.bottom() + 4))
            write(painter, QRectF(x - 30, field.bottom() + 5, 60, 18), f"{value:g}", ink, MIDDLE)
            painter.setPen(QPen(grey(EDGE), 1))
        for value in _ticks(off):
            y = self._y(value)
            painter.drawLine(QPointF(field.x() - 4, y), QPointF(field.x(), y))
            write(painter, QRectF(0, y - 9, field.x() - 7, 18), f"{value:g}", ink, RIGHT)
            painter.setPen(QPen(grey(EDGE), 1))
        write(painter, QRectF(0, 4, self.width(), 20), tr("dE (whisker: strays by)"), ink)
        below = QRectF(field.x(), field.bottom() + 23, field.width(), 20)
        write(painter, below, tr("minutes, drying included"), ink, RIGHT)

    def _mark(self, painter: QPainter, index: int, name: str) -> None:
        way, at, held = self._ways[index], self.point(index), index == self._in_hand
        top = self._y(way.mean + way.answer.sensitivity)
        painter.setPen(QPen(grey(TEXT), 1.4))
        painter.drawLine(at, QPointF(at.x(), top))
        painter.drawLine(QPointF(at.x() - 4, top), QPointF(at.x() + 4, top))
        painter.setBrush(grey(STRONG if held else WELL))
        painter.setPen(QPen(grey(TEXT), 1.6, Qt.PenStyle.SolidLine))
        circle = QRectF(at.x() - _RADIUS, at.y() - _RADIUS, 2 * _RADIUS, 2 * _RADIUS)
        if way.kept:
            painter.drawRect(circle)
        else:
            painter.drawEllipse(circle)
        write(painter, circle, name, grey(ON_STRONG if held else TEXT), MIDDLE)
        draw_tally(painter, at.x() + _RADIUS + 5, at.y(), 11, way.answer.pots, grey(TEXT))


def _ticks(most: float) -> list[float]:
    """Return a few round numbers from 0 up to a number."""
    step = next((s for s in _STEPS if most / s <= _MOST_TICKS), _STEPS[-1])
    return [k * step for k in range(math.floor(most / step) + 1)]
