"""A reference picture: what in it is white, and a line along which colours are wanted."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.photos import Picture, fitted_rect
from zesty_veil.desktop.kit.theme import SURROUNDS, Surround, grey
from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array
from zesty_veil.light.picture import PicturePoint, read_along
from zesty_veil.tr import tr

_DRAG_FROM_PX = 4
_STEP = 0.02
_ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}


class PictureView(QWidget):
    """Shows a picture; a click picks white, a drag draws the line, which `drawn` tells."""

    drawn = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._picture: Picture | None = None
        self._surround = SURROUNDS["middle"]
        self.start: PicturePoint | None = None
        self.end: PicturePoint | None = None
        self.white: PicturePoint | None = None
        self._pressed: QPointF | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setCursor(Qt.CursorShape.CrossCursor)
        self.setAccessibleName(tr("reference picture"))
        self.setAccessibleDescription(
            tr(
                "Click what is white; drag from the light to the far end. Or: arrows move the "
                "light end, with Shift the far end; B takes what is at the light end as white."
            )
        )

    def sizeHint(self) -> QSize:
        return QSize(600, 500)

    def show_picture(self, picture: Picture) -> None:
        """Show a picture."""
        self._picture = picture
        self.start = self.end = self.white = None
        self.update()

    def set_surround(self, surround: Surround) -> None:
        """Put the picture into another grey field."""
        self._surround = surround
        self.update()

    def colours(self, count: int) -> Array:
        """Return CIELAB along the line, (count, 3); raises InputError without a line."""
        if self._picture is None or self.start is None or self.end is None:
            raise InputError(tr("Draw a line first: drag from the light to the far end."))
        return read_along(self._picture.pixels, self.start, self.end, count, self.white)

    def point(self, share: PicturePoint) -> QPointF:
        """Return where a place of the picture is in the widget."""
        box = self._box()
        return QPointF(box.x() + share[0] * box.width(), box.y() + share[1] * box.height())

    def _box(self) -> QRectF:
        return fitted_rect(
            None if self._picture is None else self._picture.image, QRectF(self.rect())
        )

    def _share(self, point: QPointF) -> PicturePoint:
        box = self._box()
        x, y = (point.x() - box.x()) / box.width(), (point.y() - box.y()) / box.height()
        return min(max(x, 0.0), 1.0), min(max(y, 0.0), 1.0)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self._surround.colour)
        if self._picture is not None:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(self._box(), self._picture.image)
        if self.start is not None and self.end is not None:
            start, end = self.point(self.start), self.point(self.end)
            for level, width in ((0xFF, 4.0), (0x00, 1.6)):
                painter.setPen(QPen(grey(level), width))
                painter.drawLine(start, end)
            painter.setBrush(grey(0x00))
            painter.setPen(QPen(grey(0xFF), 2))
            painter.drawEllipse(start, 6, 6)
        if self.white is not None:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            for level, width in ((0xFF, 4.0), (0x00, 1.6)):
                painter.setPen(QPen(grey(level), width))
                painter.drawRect(QRectF(self.point(self.white) - QPointF(7, 7), QSize(14, 14)))
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton and self._picture is not None:
            self._pressed = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None:
            return
        if (event.position() - self._pressed).manhattanLength() >= _DRAG_FROM_PX:
            self.start, self.end = self._share(self._pressed), self._share(event.position())
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton or self._pressed is None:
            return
        if (event.position() - self._pressed).manhattanLength() < _DRAG_FROM_PX:
            self.white = self._share(event.position())
        else:
            self.drawn.emit()
        self._pressed = None
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move the line's light end, with Shift its far end; B says that is white."""
        key, step = Qt.Key(event.key()), _ARROWS.get(Qt.Key(event.key()))
        if self._picture is None or (step is None and key != Qt.Key.Key_B):
            event.ignore()
            return
        start, end = self.start or (0.25, 0.5), self.end or (0.75, 0.5)
        if step is None:
            self.white = start
        elif event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            end = _moved(end, step)
        else:
            start = _moved(start, step)
        self.start, self.end = start, end
        self.drawn.emit()
        self.update()
        event.accept()


def _moved(share: PicturePoint, step: tuple[int, int]) -> PicturePoint:
    x, y = (min(max(s + _STEP * by, 0.0), 1.0) for s, by in zip(share, step, strict=True))
    return round(x, 4), round(y, 4)
