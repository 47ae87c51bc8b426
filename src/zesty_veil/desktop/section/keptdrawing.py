"""Parts of the section's drawing, kept as pictures while they stay the same."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPaintEngine, QPainter, QPixmap

from zesty_veil.desktop.kit.theme import Surround
from zesty_veil.desktop.section.draw import draw_paint
from zesty_veil.desktop.section.drawribbons import draw_ribbons
from zesty_veil.desktop.section.scene import Scene


class KeptDrawing:
    """Parts of the drawing that the pointer does not change, each as a picture of it.

    The paint itself also stays while further answers to one request come in.
    """

    def __init__(self) -> None:
        self._pictures: dict[str, tuple[Scene, tuple[object, ...], QPixmap]] = {}

    def draw(self, painter: QPainter, scene: Scene, surround: Surround, size: QSize) -> None:
        """Draw them, on a screen from their pictures; a drawing in a file keeps its lines."""
        engine = painter.paintEngine()
        if engine is None or engine.type() != QPaintEngine.Type.Raster:
            draw_paint(painter, scene, surround)
            draw_ribbons(painter, scene, surround)
            return
        ratio = painter.device().devicePixelRatio()
        look = (surround, QSize(size), ratio)
        for name, act, same in (("paint", draw_paint, _same_paint), ("ribbons", draw_ribbons, _is)):
            kept = self._pictures.get(name)
            if kept is None or kept[1] != look or not same(kept[0], scene):
                picture = QPixmap(size * ratio)
                picture.setDevicePixelRatio(ratio)
                picture.fill(Qt.GlobalColor.transparent)
                over = QPainter(picture)
                act(over, scene, surround)
                over.end()
                kept = self._pictures[name] = (scene, look, picture)
            painter.drawPixmap(0, 0, kept[2])


def _same_paint(one: Scene, other: Scene) -> bool:
    mine, theirs = one.forecast, other.forecast
    return (
        mine.request is theirs.request
        and mine.layers is theirs.layers
        and mine.ground is theirs.ground
        and one.frame == other.frame
    )


def _is(one: Scene, other: Scene) -> bool:
    return one.forecast is other.forecast and one.frame == other.frame
