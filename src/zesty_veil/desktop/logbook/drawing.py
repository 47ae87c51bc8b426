"""Drawing for the log: predicted beside painted, and the trend of how far off predictions were."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from zesty_veil.desktop.kit.ribbons import screen_colour
from zesty_veil.desktop.kit.theme import EDGE, QUIET, TEXT, font, grey
from zesty_veil.light.srgb import srgb
from zesty_veil.log.judge import DeltaComponents, TrendPoint
from zesty_veil.log.record import ObservedColour

ROW_H = 64
_PARTS_DE = 10.0  # a bar of full length


def draw_seen(
    painter: QPainter, rect: QRectF, seen: ObservedColour, apart: DeltaComponents, length_mm: float
) -> None:
    """Draw one colour: predicted left, painted right, the parts of the difference, and words."""
    side = rect.height() - 12
    box = QRectF(rect.x(), rect.y() + 4, 2 * side, side)
    for k, lab in enumerate((seen.predicted, seen.lab)):
        rgb = srgb(np.array(lab))[0]
        painter.fillRect(QRectF(box.x() + k * side, box.y(), side + 0.5, side), screen_colour(rgb))
    x = box.right() + 14
    painter.setFont(font(bold=True))
    painter.setPen(grey(TEXT))
    where = f"{seen.passage}, {seen.place * length_mm:.1f} mm, {seen.site}"
    room = rect.right() - x - 222
    name = painter.fontMetrics().elidedText(where, Qt.TextElideMode.ElideRight, int(room))
    painter.drawText(QPointF(x, box.y() + 16), name)
    painter.setFont(font())
    painter.setPen(grey(QUIET))
    words = f"dE {apart.de:.1f}: {apart.words}"
    words = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(room))
    painter.drawText(QPointF(x, box.y() + 38), words)
    bars = QRectF(rect.right() - 186, box.y() - 2, 180, side + 4)
    draw_parts(painter, bars, apart)


def draw_parts(painter: QPainter, rect: QRectF, apart: DeltaComponents) -> None:
    """Draw lightness, chroma and hue of a difference as bars to either side of a middle line."""
    middle = rect.x() + rect.width() * 0.6
    half = rect.width() * 0.4
    painter.setPen(QPen(grey(EDGE), 1))
    painter.drawLine(QPointF(middle, rect.y()), QPointF(middle, rect.bottom()))
    step = rect.height() / 3
    parts = (("lightness", apart.lightness), ("chroma", apart.chroma), ("hue", apart.hue))
    for k, (name, part) in enumerate(parts):
        y = rect.y() + k * step
        length = half * min(abs(part) / _PARTS_DE, 1.0)
        painter.fillRect(
            QRectF(middle - (length if part < 0 else 0), y + 4, length, step - 8), grey(TEXT)
        )
        painter.setPen(grey(QUIET))
        painter.setFont(font())
        # The name stands left of all bars.
        painter.drawText(
            QRectF(rect.x() - 22, y, 80, step),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, name,
        )  # fmt: skip


def draw_trend(painter: QPainter, rect: QRectF, points: Sequence[TrendPoint]) -> None:
    """Draw how far predictions were off, record by record: dots, and a line for the last five."""
    field = rect.adjusted(34, 8, -10, -22)
    most = max(4.0, max((p.de for p in points), default=0.0) * 1.1)
    painter.setFont(font())
    for value in range(0, int(most) + 1, max(1, int(most / 4))):
        y = field.bottom() - field.height() * value / most
        painter.setPen(QPen(grey(0xA8), 1))
        painter.drawLine(QPointF(field.x(), y), QPointF(field.right(), y))
        painter.setPen(grey(QUIET))
        painter.drawText(
            QRectF(rect.x(), y - 10, 28, 20),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, str(value),
        )  # fmt: skip
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    step = field.width() / max(len(points) - 1, 1)
    at = [field.x() + (i * step if len(points) > 1 else field.width() / 2)
          for i in range(len(points))]  # fmt: skip

    def y_of(de: float) -> float:
        return field.bottom() - field.height() * de / most

    line = QPolygonF([QPointF(x, y_of(p.running)) for x, p in zip(at, points, strict=True)])
    painter.setPen(QPen(grey(TEXT), 1.6))
    painter.drawPolyline(line)
    painter.setBrush(grey(TEXT))
    for x, p in zip(at, points, strict=True):
        painter.drawEllipse(QPointF(x, y_of(p.de)), 3, 3)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    painter.setPen(grey(QUIET))
    if points:
        y = rect.bottom() - 5
        painter.drawText(QPointF(field.x(), y), points[0].when[:10])
        last = points[-1].when[:10]
        wide = painter.fontMetrics().horizontalAdvance(last)
        if len(points) > 1:
            painter.drawText(QPointF(field.right() - wide, y), last)
