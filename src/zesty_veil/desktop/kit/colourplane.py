"""Lightness and chroma of one hue, and the strip of hues: only what paint comes to is drawn."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.theme import QUIET, TEXT, WELL, grey
from zesty_veil.desktop.kit.writing import RIGHT, write
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import srgb
from zesty_veil.services.reach import Reach
from zesty_veil.tr import tr

_MOST_CHROMA, _HUES = 110.0, 180
_ROWS, _COLUMNS = 201, 221  # two for each unit of L and of C
_STRIP, _GAP = 26, 10
_STRIP_L = np.array(60.0)  # light enough that every hue is told from the next
_STEP, _HUE_STEP = 1.0, 2.0


class ColourPlane(QWidget):
    """Darker to lighter upward, greyer to stronger rightward; below it the hues."""

    moved = Signal(object)  # (3,) CIELAB

    def __init__(self) -> None:
        super().__init__()
        self._reach: Reach | None = None
        self._lch = np.array([50.0, 0.0, 0.0])
        self._plane: QImage | None = None
        self._strip: QImage | None = None
        self._plane_of: tuple[Reach, float] | None = None
        self._strip_of: Reach | None = None
        self._on_strip = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(tr("colours that the paints come to"))
        self.setAccessibleDescription(
            tr("Arrows: lighter, darker, greyer, stronger. Page up and down: another hue.")
        )

    def sizeHint(self) -> QSize:
        return QSize(320, 200 + _GAP + _STRIP)

    def show_reach(self, reach: Reach) -> None:
        """Show what other paints come to."""
        self._reach = reach
        self.update()

    def show_colour(self, lab: Array) -> None:
        """Show where a colour lies, CIELAB."""
        C = float(np.hypot(lab[1], lab[2]))
        hue = float(np.degrees(np.arctan2(lab[2], lab[1])) % 360) if C > 0.5 else self._lch[2]
        self._lch = np.array([lab[0], C, hue])
        self.update()

    def point(self) -> QPointF:
        """Return where the colour in hand lies in the widget."""
        field = self._field()
        L, C = float(self._lch[0]), float(self._lch[1])
        return QPointF(
            field.x() + field.width() * min(C / _MOST_CHROMA, 1.0),
            field.bottom() - field.height() * L / 100,
        )

    def paintEvent(self, event: QPaintEvent) -> None:
        self._draw()
        painter = QPainter(self)
        field, strip = self._field(), self._hues()
        for box, image in ((field, self._plane), (strip, self._strip)):
            painter.fillRect(box, grey(WELL))
            if image is not None:
                painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
                painter.drawImage(box, image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        words = QRectF(field.x(), field.y() + 4, field.width() - 8, 18)
        write(painter, words, tr("out of reach"), grey(QUIET), RIGHT)
        at = self.point()
        x = strip.x() + strip.width() * float(self._lch[2]) / 360
        for level, width in ((0x00, 4.0), (0xFF, 2.0)):
            painter.setPen(QPen(grey(level), width))
            painter.drawEllipse(at, 6, 6)
            painter.drawLine(QPointF(x, strip.y()), QPointF(x, strip.bottom()))
        if self.hasFocus():
            painter.setPen(QPen(grey(TEXT), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(self.rect()).adjusted(1, 1, -1, -1))
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._on_strip = event.position().y() > self._field().bottom() + _GAP / 2
        self.mouseMoveEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        at, field = event.position(), self._field()
        across = min(max((at.x() - field.x()) / field.width(), 0.0), 1.0)
        up = min(max((field.bottom() - at.y()) / field.height(), 0.0), 1.0)
        L, C, h = (float(v) for v in self._lch)
        if self._on_strip:
            self._move(L, C, 360 * across)
        else:
            self._move(100 * up, _MOST_CHROMA * across, h)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move the colour; page up and down the hue."""
        steps = {
            Qt.Key.Key_Up: (_STEP, 0, 0), Qt.Key.Key_Down: (-_STEP, 0, 0),
            Qt.Key.Key_Right: (0, _STEP, 0), Qt.Key.Key_Left: (0, -_STEP, 0),
            Qt.Key.Key_PageUp: (0, 0, _HUE_STEP), Qt.Key.Key_PageDown: (0, 0, -_HUE_STEP),
        }  # fmt: skip
        step = steps.get(Qt.Key(event.key()))
        if step is None:
            event.ignore()
            return
        L, C, h = (float(v) + by for v, by in zip(self._lch, step, strict=True))
        self._move(min(max(L, 0.0), 100.0), max(C, 0.0), h % 360)
        event.accept()

    def _move(self, L: float, C: float, h: float) -> None:
        """Move to a colour, or to the nearest one that paint comes to."""
        wanted = _lab(np.array(L), np.array(C), np.array(h))
        lab = wanted if self._reach is None else self._reach.nearest(wanted)
        near = float(np.hypot(lab[1], lab[2]))
        self._lch = np.array([float(lab[0]), near, h])
        self.update()
        self.moved.emit(lab)

    def _field(self) -> QRectF:
        return QRectF(0, 0, self.width(), self.height() - _STRIP - _GAP).adjusted(3, 3, -3, 0)

    def _hues(self) -> QRectF:
        return QRectF(3, self.height() - _STRIP, self.width() - 6, _STRIP - 3)

    def _draw(self) -> None:
        """Draw what is in reach into pictures, which are stretched when painted.

        Only when they are seen, and only what has changed: the field with its hue, the strip with
        the paints.
        """
        reach, h = self._reach, float(self._lch[2])
        if reach is None:
            return
        if self._plane_of != (reach, h):
            self._plane, self._plane_of = _field_image(reach, h), (reach, h)
        if self._strip_of is not reach:
            self._strip, self._strip_of = _strip_image(reach), reach


def _field_image(reach: Reach, h: float) -> QImage | None:
    L, C = np.meshgrid(
        np.linspace(100, 0, _ROWS), np.linspace(0, _MOST_CHROMA, _COLUMNS), indexing="ij"
    )
    return _image(_lab(L, C, np.full(L.shape, h)), reach)


def _strip_image(reach: Reach) -> QImage | None:
    hues = np.linspace(0, 360, _HUES)
    strong = [reach.nearest(_lab(_STRIP_L, np.array(_MOST_CHROMA), np.array(one))) for one in hues]
    return _image(np.array(strong)[None], reach)


def _lab(L: Array, C: Array, h: Array) -> Array:
    angle = np.radians(h)
    return np.stack([L, C * np.cos(angle), C * np.sin(angle)], axis=-1)


def _image(lab: Array, reach: Reach) -> QImage | None:
    rgb = np.clip(np.round(255 * srgb(lab)[0]), 0, 255).astype(np.uint8)
    # The edge is drawn over a unit, or it would have stairs.
    there = np.round(255 * np.clip(0.5 - reach.beyond(lab), 0, 1)).astype(np.uint8)
    wide = np.concatenate([rgb, there[..., None]], axis=-1)
    return _rgba(wide)


def _rgba(pixels: np.ndarray[tuple[int, ...], np.dtype[np.uint8]]) -> QImage:
    high, wide = pixels.shape[:2]
    raw = np.ascontiguousarray(pixels).tobytes()
    return QImage(raw, wide, high, 4 * wide, QImage.Format.Format_RGBA8888).copy()
