"""A form with a light before it, to be dragged."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import numpy.typing as npt
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.theme import SURROUNDS, Surround, grey
from zesty_veil.desktop.kit.writing import MIDDLE, write
from zesty_veil.plan.glow import Place3
from zesty_veil.services.lighting import ShadowSeen
from zesty_veil.tr import tr

# The view reaches this far beyond the middle, in half widths of the form.
_REACH = 1.45
_NEAREST, _FARTHEST = 0.05, 2.0
_STEP = 0.05
_GRIP = 24  # so near a press takes hold of what casts a shadow
_LEAST_SIZE, _MOST_SIZE, _DRAFT = 64, 1000, 240
_ROUND = Qt.PenCapStyle.RoundCap
_ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, 1),
    Qt.Key.Key_Down: (0, -1),
}


class LightView(QWidget):
    """Shows a form in a light; drag the light, or bring it nearer to the eye with the wheel."""

    moved = Signal(object)  # Place3
    end_moved = Signal(object)  # Place3
    shadow_moved = Signal(object)  # Place3
    let_go = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.place: Place3 = (0.0, 0.0, 1.0)
        self.end: Place3 | None = None
        self._shadow: ShadowSeen | None = None
        self._image: QImage | None = None
        self._surround = SURROUNDS["dark"]
        self._held: str | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(tr("form in the light"))
        self.setAccessibleDescription(
            tr(
                "Drag the light; the wheel brings it nearer to you. Or: arrows, and with Shift "
                "up and down nearer and farther. With Ctrl the same moves what casts a shadow."
            )
        )

    def sizeHint(self) -> QSize:
        return QSize(480, 480)

    def set_surround(self, surround: Surround) -> None:
        """Put the form into another grey field."""
        self._surround = surround
        self.update()

    def show_light(self, place: Place3, end: Place3 | None = None) -> None:
        """Show where the light is, and the far end of a line of light."""
        self.place, self.end = place, end
        self.update()

    def show_shadow(self, seen: ShadowSeen | None) -> None:
        """Show what stands between the light and the form, if anything does."""
        self._shadow = seen
        self.update()

    def show_picture(self, pixels: npt.NDArray[np.uint8] | None) -> None:
        """Show the form, (n, n, 4) RGBA, or none."""
        self._image = None
        if pixels is not None:
            raw = np.ascontiguousarray(pixels)
            side = raw.shape[0]
            form = QImage.Format.Format_RGBA8888
            self._image = QImage(raw.tobytes(), side, side, 4 * side, form).copy()
        self.update()

    def wanted_size(self) -> int:
        """Return how many pixels of the device the form's square has here, within reason.

        While the light is dragged they are fewer, or the form would lag behind the hand.
        """
        side = round(2 * self._half() * self.devicePixelRatio())
        if self._held is not None:
            side = min(side, _DRAFT)
        return min(max(side, _LEAST_SIZE), _MOST_SIZE)

    def point(self, x: float, y: float) -> QPointF:
        """Return where a place is in the widget."""
        middle, half = QRectF(self.rect()).center(), self._half()
        return QPointF(middle.x() + x * half, middle.y() - y * half)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._surround.colour)
        if self._image is not None:
            square = QRectF(self.point(-1, 1), self.point(1, -1))
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(square, self._image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._shadow is not None:
            self._draw_shadow(painter, self._shadow)
        at = self.point(*self.place[:2])
        if self.end is not None:
            far = self.point(*self.end[:2])
            for level, width in ((0x00, 8.0), (0xFF, 5.0)):
                painter.setPen(QPen(grey(level), width, Qt.PenStyle.SolidLine, _ROUND))
                painter.drawLine(at, far)
        for level, width in ((0x00, 4.0), (0xFF, 1.8)):
            painter.setPen(QPen(grey(level), width))
            for k in range(8):
                angle = k * np.pi / 4
                ray = QPointF(float(np.cos(angle)), float(np.sin(angle)))
                painter.drawLine(at + ray * 10, at + ray * 17)
            painter.setBrush(grey(0xFF))
            painter.drawEllipse(at, 6, 6)
        words = tr("light {0:.2f} half widths before the form").format(self.place[2])
        write(painter, QRectF(10, self.height() - 26, self.width() - 20, 20), words,
              self._surround.text)  # fmt: skip
        painter.end()

    def _draw_shadow(self, painter: QPainter, seen: ShadowSeen) -> None:
        x, y, z = seen.place
        path = QPolygonF([self.point(x + a, y + b) for a, b in seen.outline])
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for level, width in ((0x00, 3.0), (0xFF, 1.2)):
            painter.setPen(QPen(grey(level), width, Qt.PenStyle.DashLine))
            painter.drawPolygon(path)
        middle = self.point(x, y)
        grip = QRectF(middle.x() - 6, middle.y() - 6, 12, 12)
        for level, width in ((0x00, 4.0), (0xFF, 1.8)):
            painter.setPen(QPen(grey(level), width))
            painter.drawRect(grip)
        words = tr("{0}, {1:.2f} before the form").format(seen.of, z)
        half = min(middle.x(), self.width() - middle.x()) - 4
        box = QRectF(middle.x() - half, middle.y() + 10, 2 * half, 20)
        for shift, ink in ((1, grey(0x00)), (0, grey(0xFF))):
            write(painter, box.translated(shift, shift), words, ink, MIDDLE)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._held = self._nearest(event.position())
            self._move(event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held:
            self._move(event.position())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            self._held = None
            self.let_go.emit()

    def wheelEvent(self, event: QWheelEvent) -> None:
        what = "shadow" if self._nearest(event.position()) == "shadow" else "place"
        # With Alt and some desktops a wheel turns sideways.
        turned = event.angleDelta().y() or event.angleDelta().x()
        self._step(what, 0, 0, _STEP if turned > 0 else -_STEP)
        event.accept()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move the light, with Shift up and down nearer to the eye or farther.

        With Ctrl they move what casts a shadow.
        """
        step = _ARROWS.get(Qt.Key(event.key()))
        held = event.modifiers()
        what = "shadow" if held & Qt.KeyboardModifier.ControlModifier else "place"
        if step is None or (what == "shadow" and self._shadow is None):
            event.ignore()
            return
        if held & Qt.KeyboardModifier.ShiftModifier and step[1]:
            self._step(what, 0, 0, _STEP * step[1])
        else:
            self._step(what, _STEP * step[0], _STEP * step[1], 0)
        event.accept()

    def _half(self) -> float:
        return max(min(self.width(), self.height()) / 2 / _REACH, 1.0)

    def _nearest(self, point: QPointF) -> str:
        """Return what a press there takes hold of: the light wherever no other grip is nearer."""
        grips = {"place": self.place, "end": self.end}
        if self._shadow is not None:
            grips["shadow"] = self._shadow.place
        far = {
            what: (point - self.point(*place[:2])).manhattanLength()
            for what, place in grips.items()
            if place is not None
        }
        if far.get("shadow", _GRIP) < min(_GRIP, far["place"]):
            return "shadow"
        far.pop("shadow", None)
        return min(far, key=lambda what: far[what])

    def _move(self, point: QPointF) -> None:
        middle, half = QRectF(self.rect()).center(), self._half()
        x, y = (point.x() - middle.x()) / half, (middle.y() - point.y()) / half
        if self._held is not None:
            self._put(self._held, x, y, self._where(self._held)[2])

    def _where(self, what: str) -> Place3:
        if what == "shadow" and self._shadow is not None:
            return self._shadow.place
        return self.end if what == "end" and self.end is not None else self.place

    def _step(self, what: str, right: float, up: float, nearer: float) -> None:
        x, y, z = self._where(what)
        self._put(what, x + right, y + up, z + nearer)

    def _put(self, what: str, x: float, y: float, z: float) -> None:
        x, y = (min(max(v, -_REACH), _REACH) for v in (x, y))
        z = min(max(z, _NEAREST), _FARTHEST)
        place = (round(x, 3), round(y, 3), round(z, 3))
        if what == "shadow" and self._shadow is not None:
            self._shadow = replace(self._shadow, place=place)
            self.shadow_moved.emit(place)
        elif what == "end":
            self.end = place
            self.end_moved.emit(place)
        else:
            self.place = place
            self.moved.emit(place)
        self.update()
