"""The ways found, one below the other: what each comes to, its films, and what it costs."""

from __future__ import annotations

import math

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.match.finding import Shown
from zesty_veil.desktop.section.ribbons import draw_ribbon
from zesty_veil.desktop.theme import SURROUNDS, Surround, font
from zesty_veil.light.grid import Array
from zesty_veil.plan.model import Coat, coat_name

_ROW, _GAP, _MARGIN = 112.0, 10.0, 12.0
_LINE = 19.0
_MOST_LINES = 4


class WaysList(QWidget):
    """Draws ways; one is in hand, and is chosen by Enter or a double click."""

    chosen = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self.ways: tuple[Shown, ...] = ()
        self.in_hand = 0
        self._wanted: Array | None = None
        self._surround = SURROUNDS["middle"]
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        self.setAccessibleName("ways to the targets")
        self.setAccessibleDescription("Up and down choose a way; Enter lays it into the plan.")

    def sizeHint(self) -> QSize:
        rows = max(len(self.ways), 1)
        return QSize(600, round(2 * _MARGIN + rows * (_ROW + _GAP)))

    def minimumSizeHint(self) -> QSize:
        return QSize(420, self.sizeHint().height())

    def set_surround(self, surround: Surround) -> None:
        """Put the colours into another grey field."""
        self._surround = surround
        self.update()

    def show_ways(self, ways: tuple[Shown, ...], wanted: Array | None) -> None:
        """Show other ways, and what is wanted along the axis, (n, 3) encoded sRGB."""
        self.ways, self._wanted = ways, wanted
        self.in_hand = min(self.in_hand, max(len(ways) - 1, 0))
        self.updateGeometry()
        self.update()

    def row(self, index: int) -> QRectF:
        """Return where a way stands."""
        top = _MARGIN + index * (_ROW + _GAP)
        return QRectF(_MARGIN, top, self.width() - 2 * _MARGIN, _ROW)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._surround.colour)
        painter.setFont(font())
        for index, way in enumerate(self.ways):
            self._draw(painter, index, way)
        painter.end()

    def _draw(self, painter: QPainter, index: int, way: Shown) -> None:
        box = self.row(index)
        if index == self.in_hand:
            painter.setPen(QPen(self._surround.text, 2))
            painter.drawRect(box)
        inside = box.adjusted(8, 8, -8, -8)
        left = QRectF(inside.x(), inside.y(), inside.width() * 0.36, 24)
        if self._wanted is not None:
            draw_ribbon(painter, left, self._wanted)
        draw_ribbon(painter, left.translated(0, 24), way.ribbon)
        painter.setPen(self._surround.text)
        for k, words in enumerate(_costs(way)):
            painter.setFont(font(bold=k == 0))
            painter.drawText(
                QRectF(left.x(), left.y() + 50 + k * _LINE, left.width(), _LINE),
                Qt.AlignmentFlag.AlignVCenter, words,
            )  # fmt: skip
        painter.setFont(font())
        right = QRectF(left.right() + 16, inside.y(), inside.right() - left.right() - 16, _LINE)
        lines = [_coat_line(coat, len(way.off) > 1) for coat in reversed(way.coats)]
        if not lines:
            lines = ["nothing more: it is there already"]
        if len(lines) > _MOST_LINES + 1:
            lines = [*lines[:_MOST_LINES], f"and {len(lines) - _MOST_LINES} below"]
        for k, words in enumerate(lines):
            short = painter.fontMetrics().elidedText(
                words, Qt.TextElideMode.ElideRight, int(right.width())
            )
            painter.drawText(right.translated(0, k * _LINE), Qt.AlignmentFlag.AlignVCenter, short)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for index in range(len(self.ways)):
            if self.row(index).contains(event.position()):
                self.in_hand = index
                self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if self.ways and self.row(self.in_hand).contains(event.position()):
            self.chosen.emit(self.in_hand)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(key))
        if step is not None and self.ways:
            self.in_hand = min(max(self.in_hand + step, 0), len(self.ways) - 1)
            self.update()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.ways:
            self.chosen.emit(self.in_hand)
        else:
            event.ignore()
            return
        event.accept()


def _costs(way: Shown) -> tuple[str, str]:
    """Return how near a way is, and what it costs, as two lines."""
    worst = f", worst {max(way.off):.1f}" if len(way.off) > 1 else ""
    near = f"dE {way.mean:.1f}{worst}"
    pots = f"{way.pots} pot{'' if way.pots == 1 else 's'}"
    strays = "" if way.touchy is None else f", strays by {way.touchy:.1f}"
    return near, f"about {math.ceil(way.minutes)} min, {pots}{strays}"


def _coat_line(coat: Coat, along: bool) -> str:
    """Return a coat as painters say it: '55-100 %  Ember Orange, 3:1 water, 2 passes, glaze'."""
    passes = f"{coat.passes} pass{'' if coat.passes == 1 else 'es'}"
    tool = "" if coat.tool == "loaded" else f", {coat.tool}"
    words = f"{coat_name(coat)}, {passes}{tool}"
    if not along:
        return words
    return f"{round(100 * coat.span[0])}-{round(100 * coat.span[1])} %  {words}"
