"""The head of a passage on paper: its form, the three ribbons with values, and a small section."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPolygonF

from zesty_veil.desktop.kit.formview import image_of
from zesty_veil.desktop.kit.paper.flow import FAINT, PageBlock, Paper
from zesty_veil.desktop.kit.ribbons import draw_ribbon
from zesty_veil.desktop.kit.theme import grey
from zesty_veil.services.sheet import SheetPassage
from zesty_veil.tr import tr

_NAME, _SMALL = 13.0, 8.0  # points
_FORM, _LABELS, _RIBBON, _SECTION, _RULER = 38.0, 14.0, 5.0, 20.0, 6.0  # mm
_BEFORE, _STEPS_MM = 4.0, (0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500)
_FILMS = (0xFF, 0xE2)  # films one over the other, by turns
_NUMBERED = 2.6  # mm that a film is high to carry its number
_CENTRE = Qt.AlignmentFlag.AlignHCenter


def head_block(paper: Paper, width: float, passage: SheetPassage) -> PageBlock:
    """Return the head; it stands on one page with the first step."""
    said = paper.high(passage.words, width, _SMALL + 1)
    name = paper.high(passage.name, width, _NAME, bold=True)
    drawn = max(_FORM, 3 * _RIBBON + 5 + _SECTION + _RULER)

    def draw(y: float) -> None:
        top = y + _BEFORE
        paper.line(0, top - 1.5, width, top - 1.5, 0.5)
        top = paper.write(0, top, width, passage.name, _NAME, bold=True)
        top = paper.write(0, top, width, passage.words, _SMALL + 1, tone=FAINT) + 1.5
        image = image_of(passage.form)
        if image is not None:
            paper.painter.drawImage(paper.box(0, top, _FORM, _FORM), image)
        left = _FORM + _LABELS
        _ribbons(paper, left, top, width - left, passage)
        below = top + 3 * _RIBBON + 5
        _section(paper, left, below, width - left, passage)
        _ruler(paper, left, below + _SECTION, width - left, passage.length_mm)

    return PageBlock(_BEFORE + name + said + 1.5 + drawn + 2, draw, together=True)


def _ribbons(paper: Paper, x: float, y: float, width: float, passage: SheetPassage) -> None:
    for k, (name, rgb) in enumerate(zip(("ridge", "flat", "recess"), passage.ribbons, strict=True)):
        top = y + k * _RIBBON
        _label(paper, x, top + 0.7, tr(name))
        draw_ribbon(paper.painter, paper.box(x, top, width, _RIBBON - 0.4), rgb)
        paper.pen(0.15)
        paper.painter.drawRect(paper.box(x, top, width, _RIBBON - 0.4))
    top = y + 3 * _RIBBON
    _label(paper, x, top, tr("value"))
    for k, value in enumerate(passage.values):
        at = min(max(x + width * k / (len(passage.values) - 1), x + 4), x + width - 4)
        paper.write(at - 6, top, 12, f"{value:.1f}", _SMALL, align=_CENTRE)


def _section(paper: Paper, x: float, y: float, width: float, passage: SheetPassage) -> None:
    """Draw the films, each numbered as its step is, where it is thickest."""
    strata = passage.strata
    _label(paper, x, y + _SECTION / 2 - 2, tr("films"))
    paper.line(x, y + _SECTION, x + width, y + _SECTION, 0.4)
    if not strata.size:
        return
    scale = (_SECTION - 1) / max(float(strata.sum(axis=0).max()), 1e-9)
    xs = np.linspace(x, x + width, strata.shape[1])
    below = np.zeros(strata.shape[1])
    for k, film in enumerate(strata):
        above = below + film
        points = [*zip(xs, above, strict=True), *zip(xs[::-1], below[::-1], strict=True)]
        paper.pen(0.2)
        paper.fill(grey(_FILMS[k % 2]))
        paper.painter.drawPolygon(
            QPolygonF(
                [QPointF(paper.mm(at), paper.mm(y + _SECTION - scale * up)) for at, up in points]
            )
        )
        at = _thickest(film)
        if scale * film[at] >= _NUMBERED:
            middle = y + _SECTION - scale * float(below[at] + above[at]) / 2
            paper.write(xs[at] - 5, middle - 1.5, 10, str(k + 1), 7.5, True, _CENTRE)
        below = above


def _thickest(film: np.ndarray[tuple[int, ...], np.dtype[np.float64]]) -> int:
    """Return the middle of where a film is about as thick as it gets, off the very ends."""
    inner = slice(3, -3)
    thick = np.flatnonzero(film[inner] >= 0.97 * film[inner].max()) + 3
    return int(thick[len(thick) // 2])


def _ruler(paper: Paper, x: float, y: float, width: float, length: float) -> None:
    step = next((s for s in _STEPS_MM if length / s <= 12), _STEPS_MM[-1])
    marks = np.arange(0, length + step * 1e-6, step)
    for mark in marks:
        at = x + width * mark / length
        paper.line(at, y, at, y + 1.2)
        last = mark == marks[-1]
        words = tr("{0:g} mm").format(mark) if last else f"{mark:g}"
        left = min(at - 8, x + width - 13) if last else at - 8
        paper.write(left, y + 1.4, 16, words, _SMALL, align=_CENTRE)


def _label(paper: Paper, x: float, y: float, words: str) -> None:
    right = Qt.AlignmentFlag.AlignRight
    paper.write(x - _LABELS, y, _LABELS - 2, words, _SMALL, align=right, tone=FAINT)
