"""A menu of the rack: each paint with how it looks over white and over black."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import lru_cache

from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QIcon, QPainter, QPixmap
from PySide6.QtWidgets import QMenu, QWidget

from zesty_veil.desktop.section.forecast import coat_swatches
from zesty_veil.desktop.section.ribbons import colour
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import usual_coat

SWATCH = QSize(40, 20)


@lru_cache(maxsize=512)
def paint_icon(paint: Paint, light: str) -> QIcon:
    """Return a paint's usual coat over white (left) and over black (right)."""
    white, black = coat_swatches(usual_coat(paint), (paint,), light)
    pixmap = QPixmap(SWATCH * 2)
    painter = QPainter(pixmap)
    half = SWATCH.width()
    painter.fillRect(QRectF(0, 0, half, SWATCH.height() * 2), colour(white))
    painter.fillRect(QRectF(half, 0, half, SWATCH.height() * 2), colour(black))
    painter.end()
    pixmap.setDevicePixelRatio(2)
    return QIcon(pixmap)


class PaintMenu(QMenu):
    """Paints to choose from; filled only when it is opened."""

    def __init__(
        self,
        paints: Callable[[], Iterable[Paint]],
        light: Callable[[], str],
        chosen: Callable[[Paint], None],
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self._paints, self._light, self._chosen = paints, light, chosen
        self.setStyleSheet(f"QMenu {{ icon-size: {SWATCH.width()}px; }}")
        self.aboutToShow.connect(self._fill)

    def _fill(self) -> None:
        self.clear()
        for paint in self._paints():
            action = self.addAction(paint_icon(paint, self._light()), paint.name)
            action.setToolTip(f"{paint.kind}, {', '.join(paint.pigments)}")
            action.triggered.connect(lambda _=False, p=paint: self._chosen(p))
