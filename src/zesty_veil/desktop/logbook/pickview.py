"""A photograph of what was painted: what in it is white, and the points that are read."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.photos import Picture, fitted_rect
from zesty_veil.desktop.kit.theme import SURROUNDS, font, grey
from zesty_veil.light.picture import PicturePoint, read_along
from zesty_veil.tr import tr


class PickView(QWidget):
    """A click picks the point of the row in hand; the right button, or Shift, picks white."""

    picked = Signal(object)  # Point
    white_picked = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._picture: Picture | None = None
        self._points: dict[int, PicturePoint] = {}
        self._row = 0
        self.white: PicturePoint | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setCursor(Qt.CursorShape.CrossCursor)
        self.setAccessibleName(tr("photograph of what was painted"))
        self.setAccessibleDescription(
            tr("A click reads the colour of the row in hand; with Shift it says what is white.")
        )

    def sizeHint(self) -> QSize:
        return QSize(520, 420)

    def show_picture(self, picture: Picture | None) -> None:
        """Show a photograph, or none."""
        self._picture, self._points, self.white = picture, {}, None
        self.update()

    def show_points(self, points: dict[int, PicturePoint], row: int) -> None:
        """Show the points of rows, one in hand."""
        self._points, self._row = points, row
        self.update()

    def colour(self, point: PicturePoint) -> tuple[float, float, float]:
        """Return CIELAB at a point against what was picked as white; raises InputError."""
        assert self._picture is not None
        L, a, b = read_along(self._picture.pixels, point, point, 1, self.white)[0]
        return float(L), float(a), float(b)

    def at(self, point: PicturePoint) -> QPointF:
        """Return where a point of the photograph is in the widget."""
        box = self._box()
        return QPointF(box.x() + point[0] * box.width(), box.y() + point[1] * box.height())

    def _box(self) -> QRectF:
        return fitted_rect(
            None if self._picture is None else self._picture.image, QRectF(self.rect())
        )

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), SURROUNDS["middle"].colour)
        if self._picture is not None:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(self._box(), self._picture.image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(font(bold=True))
        for row, point in self._points.items():
            _draw_point(painter, self.at(point), str(row + 1), row == self._row)
        if self.white is not None:
            _draw_point(painter, self.at(self.white), "white", False)
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._picture is None:
            return
        box = self._box()
        x = (event.position().x() - box.x()) / box.width()
        y = (event.position().y() - box.y()) / box.height()
        if not (0 <= x <= 1 and 0 <= y <= 1):
            return
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if shift or event.button() == Qt.MouseButton.RightButton:
            self.white = (x, y)
            self.white_picked.emit()
        else:
            self.picked.emit((x, y))
        self.update()


def _draw_point(painter: QPainter, at: QPointF, words: str, chosen: bool) -> None:
    radius = 9.0 if chosen else 7.0
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for level, width in ((0xFF, 4.0), (0x00, 1.8)):
        painter.setPen(QPen(grey(level), width))
        painter.drawEllipse(at, radius, radius)
    wide = painter.fontMetrics().horizontalAdvance(words) + 8
    box = QRectF(at + QPointF(9, -24), QSize(wide, 18))
    painter.fillRect(box, grey(0xF0))
    painter.setPen(QPen(grey(0x00)))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)
