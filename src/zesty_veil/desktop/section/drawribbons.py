"""Drawing of everything above the ruler: ribbons, value, steps and targets."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from zesty_veil.desktop.kit.ribbons import draw_harsh, draw_ribbon, draw_streaked, screen_colour
from zesty_veil.desktop.kit.theme import CAPTION, Surround
from zesty_veil.desktop.kit.writing import MIDDLE, RIGHT, name_rect, rectangle, write
from zesty_veil.desktop.section.scene import Scene
from zesty_veil.light.srgb import decode, encode, srgb
from zesty_veil.light.value import luminance
from zesty_veil.paint.laydown import SITES
from zesty_veil.services.forecast import FLAT
from zesty_veil.tr import tr

# The line of dE is drawn on a scale that ends no lower than this, so that small misses look small.
_LEAST_SCALE = 10.0
_ROWS = ("ridge", "flat", "recess")


def draw_ribbons(painter: QPainter, scene: Scene, surround: Surround) -> None:
    """Draw the ribbons of the three sites, the value strip, harsh steps and targets."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    field = scene.forecast.field
    assert field is not None
    parts = scene.frame
    if scene.forecast.request.inside and scene.forecast.around is not None:
        _surrounding(painter, scene, scene.forecast.around)
    for name, box in zip(_ROWS, parts.ribbons, strict=True):
        rect = rectangle(box)
        site, streaked = SITES.index(name), scene.forecast.streaked
        if streaked is not None and scene.forecast.shown is None:
            draw_streaked(painter, rect, *(each[:, site] for each in streaked))
        else:
            shown = scene.forecast.shown if scene.forecast.shown is not None else field.rgb
            draw_ribbon(painter, rect, shown[:, site])
        if scene.forecast.bounds is not None:
            _bounds(painter, rect, scene, site)
        elif scene.forecast.beside is not None:
            low = QRectF(rect.x(), rect.center().y(), rect.width(), rect.height() / 2)
            draw_ribbon(painter, low, scene.forecast.beside[:, site])
        write(painter, name_rect(box), tr(name), surround.text, RIGHT)
    value = rectangle(parts.value)
    greys = np.repeat(_grey_of(field.value[:, FLAT])[:, None], 3, axis=1)
    draw_ribbon(painter, value, greys)
    write(painter, name_rect(parts.value), tr("value"), surround.text, RIGHT)
    _value_numbers(painter, scene, value)
    _steps(painter, scene, surround)
    _targets(painter, scene, surround)


def draw_readings(painter: QPainter, scene: Scene, surround: Surround) -> None:
    """Write beside the ribbons what is read at the place in hand."""
    parts = scene.frame
    for name, box in zip(_ROWS, parts.ribbons, strict=True):
        words, numbers, _ = scene.reading(name)
        side = QRectF(box.right + 14, box.y, parts.gutter.width - 14, box.height / 2)
        write(painter, side, words, surround.text, bold=True)
        write(painter, side.translated(0, box.height / 2), numbers, surround.text)
    value = rectangle(parts.value)
    value_here = scene.reading("flat")[2]
    side = QRectF(value.right() + 14, value.y(), parts.gutter.width - 14, value.height())
    write(painter, side, tr("value {0:.1f}").format(value_here), surround.text, bold=True)
    write(painter, side, scene.value_words(), surround.text, RIGHT)
    steps = rectangle(parts.steps)
    side = QRectF(steps.right() + 14, steps.y(), parts.gutter.width - 14, steps.height())
    write(painter, side, scene.surround_words(), surround.text)
    missed = scene.forecast.missed
    if missed is not None and missed.line is not None:
        _off_here(painter, scene, missed.line, surround)


def _bounds(painter: QPainter, rect: QRectF, scene: Scene, site: int) -> None:
    """Draw how far a ribbon may stray: its lower bounds above it, its upper bounds below."""
    assert scene.forecast.bounds is not None
    band = rect.height() * 0.3
    low, high = (bound[:, site] for bound in scene.forecast.bounds)
    draw_ribbon(painter, QRectF(rect.x(), rect.y(), rect.width(), band), low)
    draw_ribbon(painter, QRectF(rect.x(), rect.bottom() - band, rect.width(), band), high)


def _surrounding(painter: QPainter, scene: Scene, around: np.ndarray) -> None:
    """Draw the mean colour of the passage that surrounds this one round its ribbons."""
    boxes = scene.frame.ribbons
    top, foot = rectangle(boxes[0]), rectangle(boxes[-1])
    rect = QRectF(top.topLeft(), foot.bottomRight()).adjusted(-8, -10, 8, 2)
    # Light mixes, not its encoded values.
    mean = encode(np.mean(decode(around), axis=0))
    painter.fillRect(rect, screen_colour(mean))


def _steps(painter: QPainter, scene: Scene, surround: Surround) -> None:
    box = scene.frame.steps
    write(painter, name_rect(box), tr("steps"), surround.text, RIGHT)
    rect = rectangle(box)
    if not scene.forecast.harsh:
        write(painter, rect, tr("no harsh step"), surround.text, MIDDLE)
        return
    marks = [rect.left() + place * rect.width() for place in scene.forecast.harsh]
    for x, following in zip(marks, [*marks[1:], rect.right() + 8], strict=True):
        draw_harsh(painter, x, rect.y() + 3, surround)
        words = QRectF(x + 12, rect.y(), 44, rect.height())
        if words.right() < following - 8:
            write(painter, words, tr("harsh"), surround.text)


def _targets(painter: QPainter, scene: Scene, surround: Surround) -> None:
    """Draw wanted colours under their places, each with how far the prediction is from it."""
    box, missed = scene.frame.targets, scene.forecast.missed
    if missed is None:
        return
    name = name_rect(box)
    name.setHeight(22)
    write(painter, name, tr("target"), surround.text, RIGHT)
    below = name.translated(0, 18)
    below.setHeight(16)
    write(painter, below, tr("dE off"), surround.text, RIGHT, pixels=CAPTION)
    for i, target in enumerate(scene.passage.targets):
        x = box.x + target.place * box.width
        swatch = QRectF(min(max(x - 8, box.x), box.right - 16), box.y + 3, 16, 16)
        painter.fillRect(swatch, screen_colour(srgb(np.array([target.lab]))[0][0]))
        words = QRectF(swatch.center().x() - 17, swatch.bottom() + 1, 34, 15)
        far, worst = f"{missed.by[i]:.0f}", i == missed.worst
        write(painter, words, far, surround.text, MIDDLE, bold=worst, pixels=CAPTION)
    field = scene.forecast.field
    assert field is not None
    place, most = missed.worst_place(scene.passage, field.u)
    side = QRectF(box.right + 14, box.y, scene.frame.gutter.width - 14, 22)
    words_worst = tr("worst dE {0:.1f} at {1:.1f} mm").format(most, place * scene.passage.length_mm)
    write(painter, side, words_worst, surround.text)
    if missed.line is not None:
        _off(painter, scene, missed.line, surround)


def _off(painter: QPainter, scene: Scene, line: np.ndarray, surround: Surround) -> None:
    """Draw how far the flat is from what is wanted, all along between the targets."""
    box = rectangle(scene.frame.off).adjusted(0, 2, 0, -3)
    top = max(float(np.nanmax(line)), _LEAST_SCALE)
    write(painter, name_rect(scene.frame.off), tr("dE"), surround.text, RIGHT)
    painter.setPen(QPen(surround.line, 1))
    painter.drawLine(box.bottomLeft(), box.bottomRight())
    there = np.flatnonzero(np.isfinite(line))
    xs = box.x() + there / (line.size - 1) * box.width()
    ys = box.bottom() - line[there] / top * box.height()
    graph = QPolygonF([QPointF(float(x), float(y)) for x, y in zip(xs, ys, strict=True)])
    painter.setPen(QPen(surround.text, 1.6))
    painter.drawPolyline(graph)


def _off_here(painter: QPainter, scene: Scene, line: np.ndarray, surround: Surround) -> None:
    """Write how far the flat is from what is wanted at the place that is read."""
    box = rectangle(scene.frame.off).adjusted(0, 2, 0, -3)
    top = max(float(np.nanmax(line)), _LEAST_SCALE)
    here = float(np.interp(scene.place, np.linspace(0, 1, line.size), line))
    side = QRectF(box.right() + 14, box.y(), scene.frame.gutter.width - 14, box.height())
    words = tr("dE {0:.1f} here").format(here) if np.isfinite(here) else tr("no target here")
    write(painter, side, tr("{0} (line to {1:.0f})").format(words, top), surround.text)


def _grey_of(value: np.ndarray) -> np.ndarray:
    """Return the encoded grey of a value: sRGB and value are both close to even steps."""

    return encode(luminance(value))


def _value_numbers(painter: QPainter, scene: Scene, rect: QRectF) -> None:
    """Write the value along the strip, each number in whatever reads on its grey."""
    field = scene.forecast.field
    assert field is not None
    count = max(int(rect.width() // 46), 2)
    for i in range(count):
        at = (i + 0.5) / count
        value = float(np.interp(at, field.u, field.value[:, FLAT]))
        ink = QColor(0, 0, 0) if value > 5 else QColor(255, 255, 255)
        cell = QRectF(rect.x() + at * rect.width() - 23, rect.y(), 46, rect.height())
        write(painter, cell, f"{value:.1f}", ink, MIDDLE)
