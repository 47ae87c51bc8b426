"""Words and rectangles, as the drawings of the Section share them."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QPainter

from zesty_veil.desktop.kit.frame import MARGIN
from zesty_veil.desktop.kit.geometry import Box
from zesty_veil.desktop.kit.theme import BODY, CAPTION, font

LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
MIDDLE = Qt.AlignmentFlag.AlignCenter
_WRAPPED = Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap


def write(
    painter: QPainter,
    rect: QRectF,
    words: str,
    ink: QColor,
    align: Qt.AlignmentFlag = LEFT,
    bold: bool = False,
    pixels: float = BODY,
) -> None:
    """Write words in a rectangle; smaller where it ends too soon for them, and then cut short."""
    face = font(pixels, bold=bold)
    if QFontMetricsF(face).horizontalAdvance(words) > rect.width():
        face = font(min(pixels, CAPTION), bold=bold)
    painter.setFont(face)
    painter.setPen(ink)
    shown = QFontMetricsF(face).elidedText(words, Qt.TextElideMode.ElideRight, rect.width())
    painter.drawText(rect, align, shown)


def write_wrapped(
    painter: QPainter, rect: QRectF, words: str, ink: QColor, bold: bool = False
) -> None:
    """Write words over as many lines as a rectangle has; smaller if need be, then shortened."""
    said = words
    for size in (BODY, CAPTION):
        metrics = QFontMetricsF(font(size, bold=bold))
        if _fits(metrics, rect, words):
            break
    else:
        parts = words.split(" ")
        while len(parts) > 1 and not _fits(metrics, rect, said):
            parts.pop()
            said = " ".join(parts) + " …"
    painter.setFont(font(size, bold=bold))
    painter.setPen(ink)
    painter.drawText(rect, int(_WRAPPED), said)


def _fits(metrics: QFontMetricsF, rect: QRectF, words: str) -> bool:
    room = QRectF(0, 0, rect.width(), 10 * rect.height())
    taken = metrics.boundingRect(room, int(_WRAPPED), words)
    return taken.height() <= rect.height() and taken.width() <= rect.width()


def name_rect(box: Box) -> QRectF:
    """Return where the name of a row stands, left of it."""
    return QRectF(MARGIN, box.y, box.x - MARGIN - 8, box.height)


def rectangle(box: Box) -> QRectF:
    """Return a box as Qt has it."""
    return QRectF(box.x, box.y, box.width, box.height)
