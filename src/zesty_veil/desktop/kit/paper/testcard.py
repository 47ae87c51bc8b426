"""The test card as a page to print, paint on and photograph."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPdfWriter, QPen

from zesty_veil.bench.card import (
    CARD_PASSES,
    HEIGHT_MM,
    RULER_MM,
    Area,
    card_marks,
    greys,
    patches,
)
from zesty_veil.desktop.kit.paper.pdf import DPI, write_pdf
from zesty_veil.desktop.kit.theme import font, grey
from zesty_veil.tr import counted, tr

_LEFT_MM, _TOP_MM = 15.0, 40.0
_RULER_X, _RULER_Y = 18.0, 120.0
_HOW = (
    "Print it at 100 %: the ruler must measure true. Lay 1, 2 and 4 passes of one paint, at one",
    "thinning, across both halves; let each dry. Photograph it square on, by day, without glare.",
)
_TO_FILL = "Paint ____________________   thinned ____ : 1 with __________   tool ______________"


def write_card(path: Path, paper: str = "A4") -> None:
    """Write the card as PDF, whole or not at all.

    Raises
    ------
    InputError, FileError
        If there is no such paper, or the file cannot be written.
    """

    def draw(writer: QPdfWriter) -> None:
        painter = QPainter(writer)
        painter.scale(DPI / 25.4, DPI / 25.4)
        painter.translate(_LEFT_MM, _TOP_MM)
        draw_card(painter)
        painter.end()

    write_pdf(path, paper, tr("Test card"), 0.0, draw)


def draw_card(painter: QPainter) -> None:
    """Draw the card with a painter that is scaled to mm, its upper left corner at the origin."""
    for area in (*card_marks(), *greys(), *patches()):
        _fill(painter, area)
    for area in patches():
        painter.setPen(QPen(grey(0x80), 0.25))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(_rect(area))
    for k, passes in enumerate((0, *CARD_PASSES)):
        words = counted(passes, "{0} pass", "{0} passes") if passes else tr("bare")
        _write(painter, patches()[k].x, 42.0, words, 3.2)
    for k, line in enumerate(_HOW):
        _write(painter, 14.0, 5.0 + 4.6 * k, tr(line), 3.2)
    _write(painter, 18.0, 110.0, tr(_TO_FILL), 3.4)
    _ruler(painter)
    _write(painter, 0.0, HEIGHT_MM + 12, tr("Zesty Veil, test card"), 3.0)


def _ruler(painter: QPainter) -> None:
    painter.setPen(QPen(grey(0x00), 0.2))
    for mm in range(RULER_MM + 1):
        x = _RULER_X + mm
        length = 5.0 if mm % 10 == 0 else 3.5 if mm % 5 == 0 else 2.0
        painter.drawLine(QPointF(x, _RULER_Y), QPointF(x, _RULER_Y + length))
        if mm % 10 == 0:
            _write(painter, x - 1.5, _RULER_Y + 8.4, str(mm), 2.6)
            painter.setPen(QPen(grey(0x00), 0.2))


def _fill(painter: QPainter, area: Area) -> None:
    if area.grey is not None:
        painter.fillRect(_rect(area), grey(area.grey))


def _rect(area: Area) -> QRectF:
    return QRectF(area.x, area.y, area.width, area.height)


def _write(painter: QPainter, x: float, y: float, words: str, size_mm: float) -> None:
    """Write words with their base line at y; a font's size is whole pixels, so it is scaled."""
    painter.save()
    painter.translate(x, y)
    painter.scale(size_mm / 100, size_mm / 100)
    face = font()
    face.setPixelSize(100)
    painter.setFont(face)
    painter.setPen(grey(0x00))
    painter.drawText(QPointF(0, 0), words)
    painter.restore()
