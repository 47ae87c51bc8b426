"""Drawing of the Section from a scene; changes nothing."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFontMetricsF,
    QPainter,
    QPainterPath,
    QPen,
    QPolygonF,
)

from zesty_veil.desktop.kit.frame import LABEL, MARGIN
from zesty_veil.desktop.kit.geometry import Box, grips
from zesty_veil.desktop.kit.marks import draw_end_grip, draw_toe_grip
from zesty_veil.desktop.kit.ribbons import draw_ribbon, reading_ink, screen_colour
from zesty_veil.desktop.kit.theme import CAPTION, Surround, font
from zesty_veil.desktop.kit.writing import MIDDLE, RIGHT, name_rect, rectangle, write
from zesty_veil.desktop.section.drawlabels import LABEL_LINE, draw_label
from zesty_veil.desktop.section.drawribbons import draw_readings
from zesty_veil.desktop.section.scene import Scene
from zesty_veil.paint.laydown import SITES
from zesty_veil.plan.model import ground_words
from zesty_veil.tr import counted, tr

# From the far end of the films to their labels.
_LEADER = 25.0
# A film this high carries its number.
_NUMBER_HIGH = 13.0
# How unlike its field a film must be in tone to need no outline, in encoded grey.
_ALIKE = 0.14


def draw_paint(painter: QPainter, scene: Scene, surround: Surround) -> None:
    """Draw the section through the paint itself: ruler, strata and ground."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    _ruler(painter, scene, surround)
    _ground(painter, scene, surround)
    _strata(painter, scene, surround)
    _border_of_ground(painter, scene, surround)


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
        if box.right - x < 48 and tick not in (numbered[-1],):
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
    words = tr("ground") if not scene.has_ground else tr("▸ ground")
    words = tr("primer") if scene.ground_coats else words
    write(painter, name_rect(box), words, surround.text, RIGHT)
    # The words stand at the light end and must read on what is there.
    ink = reading_ink(rgb[: rgb.shape[0] // 3].mean(axis=0))
    room, ground = rectangle(box).adjusted(10, 0, -10, 0), scene.passage.ground
    words = ground_words(ground)
    if QFontMetricsF(font(CAPTION)).horizontalAdvance(words) > room.width():
        coats = counted(len(ground.coats), "{0} coat", "{0} coats")
        words = tr("{0} primer, prepared with {1}").format(tr(ground.primer), coats)
    write(painter, room, words, ink)


def _border_of_ground(painter: QPainter, scene: Scene, surround: Surround) -> None:
    """Draw where the ground's coats end and the others begin."""
    if not scene.ground_coats:
        return
    strata, top = scene.strata, scene.strata.strata[scene.ground_coats - 1].upper
    painter.setPen(QPen(surround.text, 2.4))
    points = [QPointF(strata.x(u), y) for u, y in zip(strata.u, top, strict=True)]
    painter.drawPolyline(QPolygonF(points))
    write(painter, name_rect(scene.ground_pile), tr("▾ ground"), surround.text, RIGHT)


def stratum_path(scene: Scene, index: int) -> QPainterPath:
    """Return the outline of a stratum where it has any thickness."""
    path = QPainterPath()
    path.addPolygon(QPolygonF([QPointF(x, y) for x, y in scene.strata.outline(index)]))
    path.closeSubpath()
    return path


def _strata(painter: QPainter, scene: Scene, surround: Surround) -> None:
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for index, layer in enumerate(scene.forecast.layers):
        rgb = layer.swatch.over_white
        # A thin dark film on a dark field would be lost without a line round it.
        alike = abs(float(rgb.mean()) - surround.field / 255) < _ALIKE
        painter.setPen(QPen(surround.line if alike else surround.colour, 1.2))
        painter.setBrush(screen_colour(rgb))
        if not scene.laid(index):
            # A coat that is not laid yet, or left out, is there as an outline.
            painter.setPen(QPen(surround.line, 1.2, Qt.PenStyle.DashLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
        path = stratum_path(scene, index)
        painter.drawPath(path)
        sites = scene.passage.coats[index].sites
        if scene.laid(index) and len(sites) < len(SITES):
            _reach(painter, path, sites, reading_ink(rgb))


def _reach(painter: QPainter, path: QPainterPath, sites: tuple[str, ...], ink: QColor) -> None:
    """Hatch a film that lies on some sites only: falling into recesses, rising to ridges."""
    hatch = QColor(ink)
    hatch.setAlphaF(0.45)
    ways = {"recess": Qt.BrushStyle.FDiagPattern, "ridge": Qt.BrushStyle.BDiagPattern}
    way = next((ways[site] for site in sites if site in ways), Qt.BrushStyle.HorPattern)
    if "recess" in sites and "ridge" in sites:
        way = Qt.BrushStyle.DiagCrossPattern
    painter.fillPath(path, QBrush(hatch, way))


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
    return Box(gutter.x + _LEADER, scene.labels[index] - height / 2, gutter.width - _LEADER, height)


def _labels(painter: QPainter, scene: Scene, surround: Surround) -> None:
    gutter = scene.frame.gutter
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for index in _labelled(scene):
        box = label_box(scene, index)
        chosen = index == scene.selected
        edge = scene.strata.at_far_end(index)
        painter.setPen(QPen(surround.text, 1.6 if chosen else 0.9))
        if edge is not None:
            # In the gutter alone, in the order of the films: no leader crosses anything.
            y = box.y + box.height / 2
            at, turn = gutter.x + 3, gutter.x + _LEADER - 8
            painter.drawPolyline([QPointF(at, edge), QPointF(turn, y), QPointF(box.x - 3, y)])
            painter.setBrush(surround.text)
            painter.drawEllipse(QPointF(at, edge), 1.8, 1.8)
        if chosen:
            painter.fillRect(QRectF(box.x - 3, box.y + 2, 3, box.height - 4), surround.text)
        draw_label(painter, scene.passage.coats[index], scene.mark(index), _what_of(scene, index),
                   rectangle(box).adjusted(5, 0, 0, 0), surround, chosen)  # fmt: skip
    _numbers(painter, scene)


def _numbers(painter: QPainter, scene: Scene) -> None:
    """Write on each film that is thick enough the number that its label has."""
    for index, layer in enumerate(scene.forecast.layers):
        spot = scene.strata.widest(index)
        if spot is None or not scene.laid(index):
            continue
        x, y, height = spot
        if height >= _NUMBER_HIGH:
            ink = reading_ink(layer.swatch.over_white)
            cell = QRectF(x - 10, y - 8, 20, 16)
            write(painter, cell, scene.mark(index), ink, MIDDLE, pixels=CAPTION)


def _labelled(scene: Scene) -> list[int]:
    """Return the coats whose labels are drawn: all, or where they crowd those that still fit."""
    chosen, taken = [], scene.frame.gutter.bottom + LABEL_LINE
    for index, y in enumerate(scene.labels):
        in_hand = scene.selected is not None and abs(y - scene.labels[scene.selected]) < LABEL_LINE
        if index == scene.selected or (taken - y >= LABEL_LINE and not in_hand):
            chosen.append(index)
            taken = y
    return chosen


def _what_of(scene: Scene, index: int) -> str:
    """Return what a label says at its end: how thick the film lies at the reading, or why not."""
    if scene.hidden(index):
        return tr("hidden")
    film = scene.film(index)
    return tr("{0:.1f} µm").format(film) if film >= 0.05 else ""


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
