"""The plan sheet: passages with their ribbons and values, steps, drops, times and cautions, as PDF.

Everything is written out in words and numbers too, so that it can be read when printed in black and
white.
"""

from __future__ import annotations

import html
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from PySide6.QtCore import QSizeF, QUrl
from PySide6.QtGui import (
    QImage,
    QPainter,
    QPdfWriter,
    QPen,
    QTextDocument,
)

from zesty_veil.bench.air import Air, recoat
from zesty_veil.bench.amounts import Pot, pots, totals
from zesty_veil.bench.steps import span_words
from zesty_veil.bench.tasks import SPRAYS, laid_on, waits
from zesty_veil.desktop.kit.paper.pdf import write_pdf
from zesty_veil.desktop.kit.ribbons import draw_ribbon
from zesty_veil.desktop.kit.theme import font, grey
from zesty_veil.desktop.kit.writing import MIDDLE
from zesty_veil.light.grid import Array
from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import Passage, Plan, ground_words, thinning_words
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.tr import counted, tr

_MARGIN_MM = 14.0
_PLACES, _VALUES = 97, 9
_RIBBON = (1400, 150)  # pixels: three sites, and the values below
_INK = 0x14  # whatever theme the window wears, paper is white
_STYLE = (
    "body { font-family: Inter; font-size: 9pt; } h1 { font-size: 17pt; } h2 { font-size: 12pt; }"
    "td { padding: 2px 7px 2px 0; } .small { font-size: 8pt; }"
)
_CAUTIONS = (
    "Do not point a brush with the lips: some pigments are harmful if swallowed.",
    "Keep a hairdryer away from water.",
    "Each product's label and safety data sheet, and local rules, come first.",
)
_SPRAY = (
    "Spray in a ventilated place away from flames, with the respirator that the product's safety "
    "data sheet names."
)


def write_sheet(plan: Plan, path: Path, paper: str = "A4", air: Air | None = None) -> int:
    """Write a plan's sheet as PDF, whole or not at all; return its number of pages.

    Raises
    ------
    InputError, FileError
        If there is no such paper, or the file cannot be written.
    """
    document = QTextDocument()
    document.setDefaultStyleSheet(_STYLE)
    for index, passage in enumerate(plan.passages):
        url = QUrl(f"ribbon{index}")
        document.addResource(
            QTextDocument.ResourceType.ImageResource, url, sheet_ribbons(plan, passage)
        )
    document.setHtml(sheet_html(plan, Air() if air is None else air))

    def draw(writer: QPdfWriter) -> None:
        document.documentLayout().setPaintDevice(writer)
        document.setPageSize(QSizeF(writer.width(), writer.height()))
        document.print_(writer)

    write_pdf(path, paper, plan.title, _MARGIN_MM, draw)
    return int(document.pageCount())


def sheet_html(plan: Plan, air: Air) -> str:
    """Return what stands on a plan's sheet, as HTML."""
    return "".join(_html(plan, air))


def _html(plan: Plan, air: Air) -> Iterator[str]:
    figures = counted(plan.figures, "{0} figure", "{0} figures")
    yield f"<h1>{html.escape(plan.title)}</h1>"
    yield tr("<p>Seen under {0}; {1}; films dry at {2:g} °C ").format(
        html.escape(plan.light), figures, air.celsius
    )
    yield tr("and {0:g} % humidity{1}.</p>").format(
        air.humidity, tr(", blown dry") if air.hairdryer else ""
    )
    yield tr("<p>Ribbons are ridge, flat and recess, from the light to the far end; the numbers ")
    yield tr(
        "below them are values of the flat, from 0 (black) to 10 (white). A pot serves all coats "
    )
    yield tr("of its mixture, so its drops are counted out once.</p>")
    by_mixture = {pot.mixture: pot for pot in pots(plan, plan.rack())}
    for index, passage in enumerate(plan.passages):
        yield f"<h2>{html.escape(passage.name)}</h2>"
        yield tr("<p>{0:g} mm from the light to the far end, ").format(passage.length_mm)
        yield tr("{0:g} mm², over {1}.</p>").format(
            passage.area_mm2, html.escape(ground_words(passage.ground))
        )
        yield tr('<p><img src="ribbon{0}" width="640"></p>').format(index)
        yield tr('<table width="100%" cellspacing="0">')
        for number, coat in enumerate(laid_on(passage), 1):
            wait = waits(passage, number - 1, air, plan.rack())
            between = recoat(coat, air)
            again = (
                tr(", {0:.0f}-{1:.0f} min between").format(between.least, between.most)
                if coat.passes > 1
                else ""
            )
            yield f"<tr><td><b>{number}</b></td><td><b>{_drops(by_mixture[coat.mixture])}</b><br>"
            yield tr('<span class="small">{0}; ').format(html.escape(thinning_words(coat.mixture)))
            yield f"{html.escape(tools()[coat.tool].label)}; "
            yield f"{html.escape(span_words(coat, passage))}</span></td>"
            passes = counted(coat.passes, "{0} pass", "{0} passes")
            yield f"<td>{_tally(coat.passes)}<br><span class='small'>{passes}{again}</span></td>"
            yield tr("<td>dries {0:.0f}-{1:.0f} min</td></tr>").format(wait.least, wait.most)
        yield "</table>"
    yield tr("<h2>For the whole batch</h2><p>")
    yield "; ".join(f"{html.escape(name)} {ul:.0f} µl" for name, ul, _ in totals(plan))
    yield ".</p><h2>Cautions</h2><ul>"
    sprays = any(coat.tool in SPRAYS for p in plan.passages for coat in laid_on(p))
    for caution in map(tr, (*((_SPRAY,) if sprays else ()), *_CAUTIONS)):
        yield f"<li>{html.escape(caution)}</li>"
    yield "</ul>"


def _drops(pot: Pot) -> str:
    words = [f"{n} {html.escape(name)}" for name, n in pot.drops.paints]
    if pot.drops.thinner:
        words.append(f"{pot.drops.thinner} {html.escape(pot.mixture.thinner)}")
    off = tr(" (rounded: dE {0:.1f})").format(pot.drops.de00) if pot.drops.de00 > 1 else ""
    drops = sum(n for _, n in pot.drops.paints) + pot.drops.thinner
    told = tr("{0} drop") if drops == 1 else tr("{0} drops")
    return told.format(" + ".join(words)) + off


def _tally(passes: int) -> str:
    """Return boxes to tick, five to a group."""
    return " ".join("☐" * min(5, passes - k) for k in range(0, passes, 5))


def sheet_ribbons(plan: Plan, passage: Passage) -> QImage:
    """Return the three sites as ribbons, and the values of the flat below them."""
    width, height = _RIBBON
    image = QImage(width, height, QImage.Format.Format_RGB32)
    image.fill(grey(0xFF))
    reliefs = np.array([1.0, 0.0, -1.0])
    field = predict(passage, plan.rack(), axis(_PLACES), reliefs, ViewingConditions(plan.light))
    painter = QPainter(image)
    row = (height - 40) / 3
    for k in range(3):
        rgb: Array = field.rgb[:, k]
        rect = image.rect().toRectF()
        rect.setTop(k * row)
        rect.setHeight(row - 2)
        draw_ribbon(painter, rect, rgb)
    painter.setPen(QPen(grey(_INK), 1))
    face = font()
    face.setPixelSize(28)
    painter.setFont(face)
    for k in range(_VALUES):
        at = k / (_VALUES - 1)
        value = float(np.interp(at, field.u, field.value[:, 1]))
        cell = image.rect().toRectF()
        cell.setTop(height - 38)
        cell.setLeft(min(max(at * width - 40, 0), width - 80))
        cell.setWidth(80)
        painter.drawText(cell, MIDDLE, f"{value:.1f}")
    painter.end()
    return image
