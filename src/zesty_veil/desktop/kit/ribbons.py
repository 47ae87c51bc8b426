"""Drawing of predicted colours as ribbons: free functions, shared by widgets and pictures."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen, QPolygonF

from zesty_veil.desktop.kit.theme import Surround
from zesty_veil.light.grid import Array


def screen_colour(rgb: Array) -> QColor:
    """Return one encoded sRGB colour, (3,) in 0-1, for drawing."""
    r, g, b = (round(float(v) * 255) for v in rgb)
    return QColor(r, g, b)


def reading_ink(rgb: Array) -> QColor:
    """Return black or white, whichever reads better on an encoded sRGB colour, (3,) in 0-1."""
    light = float(np.asarray(rgb) ** 2.2 @ np.array([0.2126, 0.7152, 0.0722]))
    return QColor(0, 0, 0) if light > 0.18 else QColor(255, 255, 255)


def ribbon_image(rgb: Array, width: int) -> QImage:
    """Return colours along the axis, (n, 3) in 0-1, as a picture one pixel high."""
    places = np.linspace(0, 1, max(width, 1))
    own = np.linspace(0, 1, rgb.shape[0])
    row = np.stack([np.interp(places, own, rgb[:, i]) for i in range(3)], axis=-1)
    pixels = np.ascontiguousarray((row * 255).round().astype(np.uint8))
    image = QImage(pixels.tobytes(), pixels.shape[0], 1, pixels.shape[0] * 3, _FORMAT)
    return image.copy()  # the copy owns its bytes


_FORMAT = QImage.Format.Format_RGB888


def draw_ribbon(painter: QPainter, rect: QRectF, rgb: Array) -> None:
    """Draw colours along the axis, (n, 3) in 0-1, from left (light) to right (away)."""
    ratio = painter.device().devicePixelRatio()
    image = ribbon_image(rgb, round(rect.width() * ratio))
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, False)
    painter.drawImage(rect, image)


def draw_harsh(painter: QPainter, x: float, y: float, surround: Surround) -> None:
    """Mark a harsh step below the ribbons: a stair, its edge at the place of the step."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(surround.text, 2.2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    stair = (QPointF(x - 7, y), QPointF(x, y), QPointF(x, y + 12), QPointF(x + 7, y + 12))
    painter.drawPolyline(QPolygonF(stair))
