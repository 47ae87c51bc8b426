"""Drawing of the Section from a scene; changes nothing."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPainterPath, QPen, QPolygonF

from zesty_veil.desktop.kit.frame import LABEL, MARGIN
from zesty_veil.desktop.kit.geometry import Box, grips
from zesty_veil.desktop.kit.marks import (
    draw_end_grip,
    draw_tally,
    draw_toe_grip,
    tally_width,
)
from zesty_veil.desktop.kit.ribbons import draw_ribbon, reading_ink, screen_colour
from zesty_veil.desktop.kit.theme import Surround, font
from zesty_veil.desktop.kit.writing import MIDDLE, RIGHT, name_rect, rectangle, write
from zesty_veil.desktop.section.drawribbons import draw_readings
from zesty_veil.desktop.section.scene import Scene
from zesty_veil.plan.model import coat_name, ground_words, thinning_words
from zesty_veil.tr import tr

# Labels closer than this would run into each other.
_LINE = 15.0


def draw_paint(painter: QPainter, scene: Scene, surround: Surround) -> None:
    """Draw the section through the paint itself: ruler, strata and ground."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    _ruler(painter, scene, surround)
    _ground(painter, scene, surround)
    _strata(painter, scene, surround)


def draw_moving(painter: QPainter, scene: Scene, surround: Surround) -> None:
    """Draw what goes with the pointer: what is read on the ribbons, marks and labels."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    draw_readings(painter, scene, surround)
    _marked(painter, scene, surround)
    _labels(painter, scene, surround)
    _reading_line(painter, scene, surround)
    if scene.selected is not None:
        _grips(painter, scene, scene.selected, surround)


def _ruler(painter: QPainter, scene: Scene, surround: Surround) -> None:
    box, length = scene.frame.ruler, scene.passage.length_mm
    step = next(s for s in (0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500) if length / s <= 12)
    painter.setPen(QPen(surround.text, 1))
    for tick in np.arange(0, length + step * 1e-6, step / 2):
        x = box.x + tick / length * box.width
        whole = abs(tick / step - round(tick / step)) < 1e-6
        painter.drawLine(QPointF(x, box.y + 2), QPointF(x, box.y + (9 if whole else 6)))
    numbered = list(np.arange(0, length + step * 1e-6, step))
    for tick in numbered:
        x = box.x + tick / length * box.width
        if box.right - x < 40 and tick not in (numbered[-1],):
            continue
        cell = QRectF(x - 30, box.y + 11, 60, 18)
        unit = " mm" if tick == numbered[-1] else ""
        write(painter, cell, f"{tick:g}{unit}", surround.text, MIDDLE)
        painter.setPen(QPen(surround.text, 1))
    write(painter, QRectF(MARGIN, box.y + 11, box.x - MARGIN - 12, 18), tr("light"), surround.text)
    away = QRectF(box.right + 40, box.y + 11, 60, 18)
    write(painter, away, tr("away"), surround.text)


def _ground(painter: QPainter, scene: Scene, surround: Surround) -> None:
    box = scene.frame.ground
    rgb = scene.forecast.ground
    assert rgb is not None
    draw_ribbon(painter, rectangle(box), rgb)
    painter.setPen(QPen(surround.text, 1))
    painter.drawLine(QPointF(box.x, box.y), QPointF(box.right, box.y))
    write(painter, name_rect(box), tr("ground"), surround.text, RIGHT)
    # The words stand at the light end and must read on what is there.
    ink = reading_ink(rgb[: rgb.shape[0] // 3].mean(axis=0))
    words = ground_words(scene.passage.ground)
    write(painter, rectangle(box).adjusted(10, 0, -10, 0), words, ink)


def stratum_path(scene: Scene, index: int) -> QPainterPath:
    """Return the outline of a stratum where it has any thickness."""
    path = QPainterPath()
    path.addPolygon(QPolygonF([QPointF(x, y) for x, y in scene.strata.outline(index)]))
    path.closeSubpath()
    return path


def _strata(painter: QPainter, scene: Scene, surround: Surround) -> None:
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for index, layer in enumerate(scene.forecast.layers):
        painter.setPen(QPen(surround.colour, 1.2))
        painter.setBrush(screen_colour(layer.swatch.over_white))
        if not scene.laid(index):
            # A coat that is not laid yet, or left out, is there as an outline.
            painter.setPen(QPen(surround.line, 1.2, Qt.PenStyle.DashLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(stratum_path(scene, index))


def _marked(painter: QPainter, scene: Scene, surround: Surround) -> None:
    """Draw the outlines of the coat under the pointer and of the one in hand."""
    painter.setBrush(Qt.BrushStyle.NoBrush)
    hot = scene.hot[0] if scene.hot else None
    for marked, width in ((hot, 1.6), (scene.selected, 2.6)):
        if marked is not None and marked < len(scene.forecast.layers):
            painter.setPen(QPen(surround.text, width))
            painter.drawPath(stratum_path(scene, marked))


def label_box(scene: Scene, index: int) -> Box:
    """Return where the label of a coat stands."""
    gutter = scene.frame.gutter
    height = min(LABEL, gutter.height / max(len(scene.labels), 1))
    return Box(gutter.x + 26, scene.labels[index] - height / 2, gutter.width - 26, height)


def _labels(painter: QPainter, scene: Scene, surround: Surround) -> None:
    gutter = scene.frame.gutter
    if not scene.passage.coats:
        words = tr("No coat yet. Press N, or “Add a coat” above.")
        write(painter, rectangle(scene.frame.strata), words, surround.text, MIDDLE)
    for index in _labelled(scene):
        box = label_box(scene, index)
        chosen = index == scene.selected
        tip = QPointF(*scene.tips[index])
        elbow = QPointF(gutter.x + 12, box.y + box.height / 2)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(surround.text, 1.6 if chosen else 0.9))
        painter.drawPolyline([tip, elbow, QPointF(box.x - 5, elbow.y())])
        painter.setBrush(surround.text)
        painter.drawEllipse(tip, 2.2, 2.2)
        if chosen:
            painter.fillRect(QRectF(box.x - 5, box.y + 2, 3.5, box.height - 4), surround.text)
        _label(painter, scene, index, box, surround, chosen)


def _labelled(scene: Scene) -> list[int]:
    """Return the coats whose labels are drawn: all, or where they crowd those that still fit."""
    chosen, taken = [], scene.frame.gutter.bottom + _LINE
    for index, y in enumerate(scene.labels):
        in_hand = scene.selected is not None and abs(y - scene.labels[scene.selected]) < _LINE
        if index == scene.selected or (taken - y >= _LINE and not in_hand):
            chosen.append(index)
            taken = y
    return chosen


def _label(
    painter: QPainter, scene: Scene, index: int, box: Box, surround: Surround, chosen: bool
) -> None:
    coat = scene.passage.coats[index]
    name = coat_name(coat).rpartition(",")[0]
    two_lines = box.height >= 34
    line = QRectF(box.x + 3, box.y, box.width - 3, box.height / 2 if two_lines else box.height)
    if not two_lines:
        tally = f"  ×{coat.passes}"
        write(painter, line, name + tally, surround.text, bold=chosen)
        return
    write(painter, line.translated(0, 1), name, surround.text, bold=chosen)
    second = line.translated(0, line.height() - 1)
    film = scene.film(index)
    words = (
        tr("hidden")
        if scene.hidden(index)
        else f"{film:.1f} µm"
        if film >= 0.05
        else tr("not here")
    )
    thinning = thinning_words(coat.mixture).removesuffix(" water")
    write(painter, second, thinning, surround.text)
    start = second.x() + QFontMetricsF(font()).horizontalAdvance(thinning) + 10
    room = second.right() - start - 64
    if tally_width(coat.passes) <= room:
        draw_tally(painter, start, second.center().y(), 12, coat.passes, surround.text)
    else:
        write(
            painter,
            QRectF(start, second.y(), room, second.height()),
            f"×{coat.passes}",
            surround.text,
        )
    write(painter, second, words, surround.text, RIGHT)


def _reading_line(painter: QPainter, scene: Scene, surround: Surround) -> None:
    parts = scene.frame
    x = parts.value.x + scene.place * parts.value.width
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    pen = QPen(surround.text, 1, Qt.PenStyle.DotLine)
    painter.setPen(pen)
    painter.drawLine(QPointF(x, parts.ruler.y), QPointF(x, parts.ground.y))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(surround.text)
    for box in parts.ribbons:
        for y, up in ((box.y, 1), (box.bottom, -1)):
            painter.drawPolygon(
                QPolygonF(
                    [QPointF(x - 4, y - 2 * up), QPointF(x + 4, y - 2 * up), QPointF(x, y + 4 * up)]
                )
            )


def _grips(painter: QPainter, scene: Scene, index: int, surround: Surround) -> None:
    for grip, (x, y) in grips(scene.strata, index, scene.passage.coats[index]).items():
        hot = scene.hot == (index, grip)
        ink, paper = surround.text, surround.colour
        if hot:
            ink, paper = paper, ink
        if grip.startswith("feather"):
            draw_toe_grip(painter, x, y, ink, paper)
        else:
            draw_end_grip(painter, x, y, ink, paper)
