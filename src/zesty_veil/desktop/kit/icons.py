"""Stroke icons of our own: SVG files drawn in any grey, at the resolution of the screen."""

from __future__ import annotations

from functools import lru_cache

from PySide6.QtCore import QByteArray, QRectF, QSize, Qt
from PySide6.QtGui import QIcon, QPainter, QPixmap
from PySide6.QtSvg import QSvgRenderer

from zesty_veil import data
from zesty_veil.desktop.kit.theme import DISABLED, ON_STRONG, TEXT, level_of

_SCALES = (1, 2, 3)
_INK = b"#000000"


def icon(name: str, side: int = 24) -> QIcon:
    """Return an icon in the greys of the theme: as text is, and as it is where it is chosen."""
    return _icon(name, side, level_of(TEXT), level_of(ON_STRONG), level_of(DISABLED))


@lru_cache
def _icon(name: str, side: int, usual: int, chosen: int, disabled: int) -> QIcon:
    out = QIcon()
    for scale in _SCALES:
        for level, mode, state in (
            (usual, QIcon.Mode.Normal, QIcon.State.Off),
            (chosen, QIcon.Mode.Normal, QIcon.State.On),
            (disabled, QIcon.Mode.Disabled, QIcon.State.Off),
        ):
            out.addPixmap(_drawn(name, side, scale, level), mode, state)
    return out


def _drawn(name: str, side: int, scale: int, level: int) -> QPixmap:
    ink = f"#{level:02x}{level:02x}{level:02x}".encode()
    renderer = QSvgRenderer(QByteArray(data.read(f"icons/{name}.svg").replace(_INK, ink)))
    pixmap = QPixmap(QSize(side, side) * scale)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    renderer.render(painter, QRectF(0, 0, side * scale, side * scale))
    painter.end()
    pixmap.setDevicePixelRatio(scale)
    return pixmap
