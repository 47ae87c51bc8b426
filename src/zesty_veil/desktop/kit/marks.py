"""Small marks drawn by hand: tallies, drops, grips."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF

TALLY_STEP = 5.0
_GROUP = 5
_GROUP_GAP = 5.0


def tally_width(count: int) -> float:
    """Return the width of a tally in pixels."""
    groups = (count - 1) // _GROUP
    uprights = count - count // _GROUP
    return uprights * TALLY_STEP + groups * _GROUP_GAP


def draw_tally(
    painter: QPainter, x: float, y: float, height: float, count: int, ink: QColor
) -> None:
    """Draw a count as tally marks from a left middle point: four strokes, and one across."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(ink, 1.7, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
    top, bottom = y - height / 2, y + height / 2
    for number in range(count):
        if number % _GROUP == _GROUP - 1:
            left = x - 4 * TALLY_STEP - 2
            painter.drawLine(QPointF(left, bottom - 2), QPointF(x - TALLY_STEP + 2, top + 2))
            x += _GROUP_GAP
        else:
            painter.drawLine(QPointF(x, top), QPointF(x, bottom))
            x += TALLY_STEP


def drop_path(x: float, y: float, size: float) -> QPainterPath:
    """Return a drop with its middle at a point: a point above, round below."""
    path = QPainterPath(QPointF(x, y - size * 0.62))
    path.cubicTo(
        QPointF(x + size * 0.12, y - size * 0.30),
        QPointF(x + size * 0.42, y - size * 0.12),
        QPointF(x + size * 0.40, y + size * 0.16),
    )
    path.arcTo(QRectF(x - size * 0.40, y - size * 0.24, size * 0.80, size * 0.80), 0, -180)
    path.cubicTo(
        QPointF(x - size * 0.42, y - size * 0.12),
        QPointF(x - size * 0.12, y - size * 0.30),
        QPointF(x, y - size * 0.62),
    )
    return path


def draw_end_grip(painter: QPainter, x: float, y: float, ink: QColor, paper: QColor) -> None:
    """Draw the grip of a span's end: an upright bar with a waist, wide enough for a thumb."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(ink, 1.4))
    painter.setBrush(paper)
    painter.drawRoundedRect(QRectF(x - 3.5, y - 9, 7, 18), 2, 2)
    painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))


def draw_toe_grip(painter: QPainter, x: float, y: float, ink: QColor, paper: QColor) -> None:
    """Draw the grip of a feather's toe: a small wedge that lies on what is below."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(ink, 1.4))
    painter.setBrush(paper)
    painter.drawPolygon(QPolygonF([QPointF(x - 6, y), QPointF(x + 6, y), QPointF(x, y - 8)]))
