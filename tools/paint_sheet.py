"""Draw every paint of the demo rack over white and over black, after one to six passes.

QT_QPA_PLATFORM=offscreen python tools/paint_sheet.py docs/screenshots/paints.png
"""

from __future__ import annotations

import sys

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QFont, QGuiApplication, QImage, QPainter

from zesty_veil.light.srgb import srgb
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.edits import usual_coat, with_passes
from zesty_veil.plan.model import Ground, Passage
from zesty_veil.predict.field import axis, predict

_PASSES = (1, 2, 3, 4, 5, 6)
_COLUMNS, _ROW, _PATCH, _WORDS = 3, 26, 17, 170
_GREY = 118


def patches(paint: Paint) -> list[QColor]:
    """Return the paint's usual coat over white, then over black, pass after pass."""
    coat, out = usual_coat(paint), []
    for primer in ("white", "black"):
        for n in _PASSES:
            passage = Passage("x", ground=Ground(primer), coats=(with_passes(coat, n),))
            lab = predict(passage, {paint.name: paint}, axis(1), np.zeros(1)).lab
            out.append(QColor.fromRgbF(*srgb(lab)[0][0, 0]))
    return out


def main() -> None:
    """Draw the sheet into the file that is named."""
    app = QGuiApplication([])
    rack = demo_rack()
    rows = -(-len(rack) // _COLUMNS)
    width = _WORDS + 2 * len(_PASSES) * _PATCH + 26
    sheet = QImage(_COLUMNS * width, rows * _ROW + 12, QImage.Format.Format_RGB32)
    sheet.fill(QColor(_GREY, _GREY, _GREY))
    painter = QPainter(sheet)
    painter.setFont(QFont("Archivo", 9))
    for i, paint in enumerate(rack):
        x, y = i // rows * width + 8, i % rows * _ROW + 8
        painter.setPen(Qt.GlobalColor.white)
        painter.drawText(QRectF(x, y, _WORDS, _ROW - 4), Qt.AlignmentFlag.AlignVCenter, paint.name)
        for k, one in enumerate(patches(paint)):
            left = x + _WORDS + k * _PATCH + (8 if k >= len(_PASSES) else 0)
            painter.fillRect(QRectF(left, y, _PATCH, _ROW - 5), one)
    painter.end()
    sheet.save(sys.argv[1])
    del app


if __name__ == "__main__":
    main()
