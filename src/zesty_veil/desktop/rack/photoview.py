"""A photograph of a card: its corners, which can be dragged, and the patches as they were found."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.photos import fitted_rect
from zesty_veil.desktop.kit.theme import SURROUNDS, font, grey
from zesty_veil.light.grid import Array
from zesty_veil.log.photo.reading import Reading
from zesty_veil.tr import tr

_GRAB_PX = 22
_ARROWS = {
    Qt.Key.Key_Left: (-1.0, 0.0),
    Qt.Key.Key_Right: (1.0, 0.0),
    Qt.Key.Key_Up: (0.0, -1.0),
    Qt.Key.Key_Down: (0.0, 1.0),
}


class PhotoView(QWidget):
    """Shows a photograph; corners are dragged, or chosen with 1 to 4 and moved by arrows."""

    corners_moved = Signal(object)  # (4, 2) in pixels of the photograph

    def __init__(self) -> None:
        super().__init__()
        self._image: QImage | None = None
        self._corners: Array | None = None
        self._outlines: Array | None = None
        self._doubts: tuple[bool, ...] = ()
        self._grabbed: int | None = None
        self._chosen = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(tr("photograph of the card"))
        self.setAccessibleDescription(
            tr(
                "Drag the four corners onto the middles of the card's marks, the solid one is "
                "1. Or: keys 1 to 4 choose a corner, arrows move it, with Shift by ten pixels."
            )
        )

    def sizeHint(self) -> QSize:
        return QSize(480, 360)

    def show_image(self, image: QImage | None) -> None:
        """Show a photograph that is not read yet."""
        self._image, self._outlines, self._doubts = image, None, ()
        self._corners = None
        self.update()

    def show_reading(self, reading: Reading) -> None:
        """Show where the card was found."""
        self._corners, self._outlines = reading.corners.copy(), reading.outlines
        self._doubts = tuple(bool(patch.doubt) for patch in reading.patches)
        self.update()

    def offer_corners(self) -> None:
        """Put corners where a card would lie, to be dragged onto the marks."""
        if self._image is not None and self._corners is None:
            w, h = self._image.width(), self._image.height()
            self._corners = np.array(
                [(0.2 * w, 0.2 * h), (0.8 * w, 0.2 * h), (0.8 * w, 0.8 * h), (0.2 * w, 0.8 * h)]
            )
            self._outlines = None
            self.update()

    @property
    def corners(self) -> Array | None:
        """The corners, (4, 2) in pixels of the photograph."""
        return self._corners

    def at(self, corner: Array) -> QPointF:
        """Return where a point of the photograph is in the widget."""
        box, image = self._box(), self._image
        if image is None:
            return box.center()
        scale = box.width() / image.width()
        return QPointF(box.x() + corner[0] * scale, box.y() + corner[1] * scale)

    def _box(self) -> QRectF:
        return fitted_rect(self._image, QRectF(self.rect()))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), SURROUNDS["middle"].colour)
        if self._image is not None:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(self._box(), self._image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if self._outlines is not None:
            for outline, doubt in zip(self._outlines, self._doubts, strict=True):
                shape = QPolygonF([self.at(p) for p in outline])
                for level, width in ((0xFF, 3.0), (0x00, 1.2)):
                    line = Qt.PenStyle.DashLine if doubt else Qt.PenStyle.SolidLine
                    painter.setPen(QPen(grey(level), width, line))
                    painter.drawPolygon(shape)
        if self._corners is not None:
            painter.setFont(font(bold=True))
            for k, corner in enumerate(self._corners):
                _draw_corner(painter, self.at(corner), str(k + 1), k == self._chosen)
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._corners is None or event.button() != Qt.MouseButton.LeftButton:
            return
        far = [(self.at(c) - event.position()).manhattanLength() for c in self._corners]
        nearest = int(np.argmin(far))
        if far[nearest] <= 2 * _GRAB_PX:
            self._grabbed = self._chosen = nearest
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grabbed is not None:
            self._move(self._grabbed, event.position())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._grabbed is not None:
            self._move(self._grabbed, event.position())
            self._grabbed = None
            self.corners_moved.emit(self._corners)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """1 to 4 choose a corner; arrows move it."""
        key = Qt.Key(event.key())
        if self._corners is None:
            event.ignore()
        elif Qt.Key.Key_1 <= key <= Qt.Key.Key_4:
            self._chosen = int(key) - int(Qt.Key.Key_1)
            self.update()
            event.accept()
        elif key in _ARROWS:
            step = 10.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            self._corners[self._chosen] += step * np.array(_ARROWS[key])
            self._outlines = None
            self.corners_moved.emit(self._corners)
            self.update()
            event.accept()
        else:
            event.ignore()

    def _move(self, corner: int, to: QPointF) -> None:
        if self._image is None or self._corners is None:
            return
        box = self._box()
        scale = self._image.width() / box.width()
        self._corners[corner] = ((to.x() - box.x()) * scale, (to.y() - box.y()) * scale)
        self._outlines = None
        self.update()


def _draw_corner(painter: QPainter, at: QPointF, words: str, chosen: bool) -> None:
    size = 9.0 if chosen else 6.5
    for level, width in ((0xFF, 4.0), (0x00, 1.8)):
        painter.setPen(QPen(grey(level), width))
        painter.drawLine(at - QPointF(size, 0), at + QPointF(size, 0))
        painter.drawLine(at - QPointF(0, size), at + QPointF(0, size))
    painter.setPen(QPen(grey(0x00)))
    box = QRectF(at + QPointF(9, -22), QSize(18, 18))
    painter.fillRect(box, grey(0xF0))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)
