"""One way as a small section: what is wanted, what comes, and its films on what is there."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from zesty_veil.desktop.kit.geometry import Box, Strata, strata
from zesty_veil.desktop.kit.names import fitted
from zesty_veil.desktop.kit.ribbons import draw_ribbon, screen_colour
from zesty_veil.desktop.kit.theme import BODY, CAPTION, Surround
from zesty_veil.desktop.kit.writing import RIGHT, write, write_wrapped
from zesty_veil.light.grid import Array
from zesty_veil.plan.model import Coat, coat_name
from zesty_veil.predict.field import axis
from zesty_veil.services.finding import ShownWay
from zesty_veil.tr import counted, tr

LINE, PAD = 19.0, 9.0
_RIBBON, _GAP, _FILMS, _GROUND = 17.0, 4.0, 62.0, 7.0
_LEFT = 0.3
_REACH_WIDTH = 84.0
_LEAST = 2 * _RIBBON + _GAP + _FILMS + _GROUND


def height(way: ShownWay) -> float:
    """Return the height that a way wants."""
    return 2 * PAD + max(_LEAST, (4 + max(len(way.coats), 1)) * LINE)


def films_box(row: QRectF) -> Box:
    """Return where the films of a way stand in its row."""
    top = row.y() + PAD + 2 * _RIBBON + _GAP
    return Box(row.x() + PAD, top, (row.width() - 2 * PAD) * _LEFT, _FILMS)


def layout(way: ShownWay, row: QRectF) -> Strata:
    """Return the films of a way laid out in its row."""
    return strata(way.films, axis(way.films[0].size) if way.films else axis(2), films_box(row))


def draw_way(
    painter: QPainter,
    row: QRectF,
    way: ShownWay,
    mark: str,
    best: str,
    wanted: Array | None,
    surround: Surround,
    coat: int | None,
) -> None:
    """Draw a way in its row.

    `mark` is its number, `best` what it is best at, `coat` the one in hand, if it is in hand.
    """
    box = films_box(row)
    ribbon = QRectF(box.x, row.y() + PAD, box.width, _RIBBON)
    if wanted is not None:
        draw_ribbon(painter, ribbon, wanted)
    draw_ribbon(painter, ribbon.translated(0, _RIBBON), way.ribbon)
    draw_ribbon(painter, QRectF(box.x, box.bottom, box.width, _GROUND), way.ground)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    _draw_films(painter, layout(way, row), way, surround, coat)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    painter.setPen(QPen(surround.text, 1))
    painter.drawLine(QPointF(box.x, box.bottom), QPointF(box.right, box.bottom))
    left, right = box.right + 18, row.right() - PAD
    along = len(way.delta_e) > 1
    for words, at, bold in ((f"{mark}   {_near(way)}", 0, True), (costs(way), 1, False)):
        line = QRectF(left, row.y() + PAD - 2 + at * LINE, right - left, LINE)
        write(painter, line, words, surround.text, bold=bold)
    said = QRectF(left, row.y() + PAD - 2 + 2 * LINE, right - left, 2 * LINE)
    write_wrapped(painter, said, way.answer.words, surround.text)
    if best:
        head = QRectF(left, row.y() + PAD - 2, right - left, LINE)
        write(painter, head, best, surround.text, RIGHT, pixels=CAPTION)
    top = row.y() + PAD - 2 + 4 * LINE
    for k, i in enumerate(reversed(range(len(way.coats)))):
        line = QRectF(left, top + k * LINE, right - left, LINE)
        if along:
            write(painter, line, _reach(way.coats[i]), surround.text, RIGHT, i == coat)
            line.setWidth(line.width() - _REACH_WIDTH)
        words = _coat_words(way.coats[i])
        (words,), size = fitted(words, line.width(), 0.0, BODY, i == coat, two=False)
        write(painter, line, words, surround.text, bold=i == coat, pixels=size)
    if not way.coats:
        words = tr("nothing more: it is there already")
        write(painter, QRectF(left, top, right - left, LINE), words, surround.text)


def costs(way: ShownWay) -> str:
    """Return what a way costs: 'about 40 min, 3 pots, strays by 1.2'."""
    pots = counted(way.answer.pots, "{0} pot", "{0} pots")
    words = tr("about {0} min, {1}, strays by {2:.1f}").format(
        math.ceil(way.answer.minutes), pots, way.answer.sensitivity
    )
    return tr("{0}; covers all").format(words) if way.answer.covers else words


def _near(way: ShownWay) -> str:
    worst = tr(", worst {0:.1f}").format(max(way.delta_e)) if len(way.delta_e) > 1 else ""
    kept = tr("kept, ") if way.kept else ""
    where = tr(", on {0}").format(way.words) if way.words else ""
    return f"{kept}dE {way.mean:.1f}{worst}{where}"


def _coat_words(coat: Coat) -> str:
    """Return a coat as painters say it, passes first: '2 × Ember Orange, 3:1 water, glaze'."""
    tool = "" if coat.tool == "loaded" else f", {coat.tool}"
    return f"{coat.passes} × {coat_name(coat)}{tool}"


def _reach(coat: Coat) -> str:
    """Return how far along the axis a coat lies in full: '55-100 %'."""
    if coat.span == (0.0, 1.0):
        return tr("all over")
    start, end = (round(100 * place) for place in coat.span)
    if start == end:
        return tr("light end") if end == 0 else tr("far end")
    return f"{start}-{end} %"


def _draw_films(
    painter: QPainter, films: Strata, way: ShownWay, surround: Surround, coat: int | None
) -> None:
    for i, (stratum, fill) in enumerate(zip(films.strata, way.fills, strict=True)):
        xs = films.box.x + films.u * films.box.width
        upper = [QPointF(x, y) for x, y in zip(xs, stratum.upper, strict=True)]
        lower = [QPointF(x, y) for x, y in zip(xs, stratum.lower, strict=True)]
        painter.setBrush(screen_colour(fill))
        pen = QPen(surround.text, 2.0) if i == coat else QPen(surround.colour, 0.8)
        painter.setPen(pen)
        painter.drawPolygon(QPolygonF(upper + lower[::-1]))
    painter.setBrush(Qt.BrushStyle.NoBrush)
