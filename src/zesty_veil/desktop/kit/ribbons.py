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
    return _image(_wide(rgb, width)[None])


def streaked_image(thin: Array, thick: Array, width: int, rows: int) -> QImage:
    """Return an uneven film as a picture: streaks along the axis, from thin to thick, (n, 3) each.

    The streaks are made up, but the same at each call; how far they go is not: thin and thick are
    one deviation off the mean.
    """
    noise = np.random.default_rng(_SEED).standard_normal((rows, _STROKES))
    along = np.linspace(0, _STROKES - 1, max(width, 1))
    off = np.array([np.interp(along, np.arange(_STROKES), row) for row in noise])
    share = (1 + np.clip(off, -_MOST_OFF, _MOST_OFF))[..., None] / 2
    thin, thick = _wide(thin, width), _wide(thick, width)
    return _image(np.clip(thin + share * (thick - thin), 0, 1))


_FORMAT = QImage.Format.Format_RGB888
# How many strokes lie one after the other along a ribbon, and how far off the mean streaks go.
_STROKES, _MOST_OFF = 9, 1.8
_STREAK_HIGH, _SEED = 3.0, 11


def _wide(rgb: Array, width: int) -> Array:
    places, own = np.linspace(0, 1, max(width, 1)), np.linspace(0, 1, rgb.shape[0])
    return np.stack([np.interp(places, own, rgb[:, i]) for i in range(3)], axis=-1)


def _image(rgb: Array) -> QImage:
    pixels = np.ascontiguousarray((rgb * 255).round().astype(np.uint8))
    rows, width = pixels.shape[:2]
    # The copy owns its bytes.
    return QImage(pixels.tobytes(), width, rows, 3 * width, _FORMAT).copy()


def draw_ribbon(painter: QPainter, rect: QRectF, rgb: Array) -> None:
    """Draw colours along the axis, (n, 3) in 0-1, from left (light) to right (away)."""
    ratio = painter.device().devicePixelRatio()
    image = ribbon_image(rgb, round(rect.width() * ratio))
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, False)
    painter.drawImage(rect, image)


def draw_streaked(painter: QPainter, rect: QRectF, thin: Array, thick: Array) -> None:
    """Draw an uneven film as `draw_ribbon`, in streaks from thin to thick, (n, 3) in 0-1 each."""
    ratio = painter.device().devicePixelRatio()
    rows = max(round(rect.height() / _STREAK_HIGH), 2)
    image = streaked_image(thin, thick, round(rect.width() * ratio), rows)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, False)
    painter.drawImage(rect, image)


def draw_harsh(painter: QPainter, x: float, y: float, surround: Surround) -> None:
    """Mark a harsh step below the ribbons: a stair, its edge at the place of the step."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(surround.text, 2.2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    stair = (QPointF(x - 7, y), QPointF(x, y), QPointF(x, y + 12), QPointF(x + 7, y + 12))
    painter.drawPolyline(QPolygonF(stair))
