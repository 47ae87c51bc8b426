"""The ladder: rings down, surfaces across, wanted beside achieved; and the line of values."""

from __future__ import annotations

from functools import partial

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.advise.glow.wanted import Lit
from zesty_veil.desktop.kit.ribbons import reading_ink, screen_colour
from zesty_veil.desktop.kit.spoken import SpokenItem, SpokenItems
from zesty_veil.desktop.kit.theme import BODY, CAPTION, EDGE, STRONG, TEXT, WELL, font, grey
from zesty_veil.desktop.kit.writing import MIDDLE, RIGHT, write
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import srgb
from zesty_veil.tr import tr

_LABEL, _ROW, _GAP, _LINE = 64.0, 42.0, 4.0, 62.0
# Names of surfaces stand over one line or two.
_HEADS = 22.0, 38.0
_LEAST_ROW = 16.0
# Where a cell is lower than this, what comes stands beside what is wanted and not below it.
_BESIDE = 27.0
_HEAD_FLAGS = Qt.AlignmentFlag.AlignBottom | Qt.TextFlag.TextWordWrap


class Ladder(QWidget):
    """Draws what a light wants; a press on a surface takes it in view."""

    chosen = Signal(str)  # the name of a passage

    def __init__(self) -> None:
        super().__init__()
        self._lits: tuple[Lit, ...] = ()
        self._achieved: dict[int, tuple[Array, tuple[float, ...]]] = {}
        self._source = 0.0
        self._rings = 0
        self._in_view = 0
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(tr("rings and surfaces"))
        self._spoken = SpokenItems(self, self.items)

    def sizeHint(self) -> QSize:
        rows = self._rows()
        return QSize(440, round(_HEADS[1] + rows * (_ROW + _GAP) + _LINE))

    def show_lits(self, lits: tuple[Lit, ...], source: float, in_view: int) -> None:
        """Show what is wanted; what was achieved for another light is forgotten."""
        self._lits, self._source, self._in_view = lits, source, in_view
        self._rings = max((ring.number for lit in lits for ring in lit.ringed.rings), default=0)
        self._achieved = {}
        self._describe()
        self.updateGeometry()
        self.update()

    def show_achieved(self, passage: int, rgb: Array, off: tuple[float, ...]) -> None:
        """Show what the coats for a passage come to, (targets, 3) encoded sRGB, and its dE."""
        self._achieved[passage] = rgb, off
        self._describe()
        self.update()

    def items(self) -> list[SpokenItem]:
        """Return the cells for assistive technology, surface by surface."""
        out = []
        for i, lit in enumerate(self._lits):
            known = self._achieved.get(lit.ringed.passage)
            rows = [ring.number - 1 for ring in lit.ringed.rings]
            rows += list(range(self._rings, self._rows()))
            for k, row in enumerate(rows):
                ring = tr("ring {0}").format(row + 1) if row < self._rings else tr("away")
                value = tr("value {0:.1f}").format(lit.values[k])
                if known is not None and k < len(known[1]):
                    value += tr(", dE {0:.1f}").format(known[1][k])
                name = f"{lit.ringed.surface.passage}, {ring}"
                chosen = i == self._in_view
                out.append(
                    SpokenItem(
                        name,
                        value,
                        self.cell(i, row),
                        chosen,
                        partial(self.chosen.emit, lit.ringed.surface.passage),
                    )
                )
        return out

    def _rows(self) -> int:
        """Return how many rows there are: rings, the gap if there is one, and the side away."""
        gap = any(lit.gap is not None for lit in self._lits)
        return self._rings + (2 if gap else 1)

    def cell(self, surface: int, row: int) -> QRectF:
        """Return where a ring of a surface stands; the last row is the side away."""
        width = (self.width() - _LABEL) / max(len(self._lits), 1)
        height = self._row()
        top = self._head() + row * (height + _GAP)
        return QRectF(_LABEL + surface * width, top, width - 8, height)

    def minimumSizeHint(self) -> QSize:
        return QSize(320, round(_HEADS[1] + self._rows() * (_LEAST_ROW + _GAP) + _LINE))

    def _head(self) -> float:
        """Return how high the names stand: over two lines where one does not fit."""
        if not self._lits:
            return _HEADS[0]
        width = (self.width() - _LABEL) / len(self._lits) - 8
        metrics = QFontMetricsF(font(BODY, bold=True))
        names = [lit.ringed.surface.passage for lit in self._lits]
        wide = any(metrics.horizontalAdvance(name) > width for name in names)
        return _HEADS[wide]

    def _row(self) -> float:
        """Return how high a cell is: less where there are many."""
        room = (self.height() - self._head() - _LINE) / max(self._rows(), 1) - _GAP
        return min(max(room, _LEAST_ROW), _ROW)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        ink = grey(TEXT)
        for row in range(self._rows() if self._lits else 0):
            words = tr("away") if row == self._rows() - 1 else tr("gap")
            words = tr("ring {0}").format(row + 1) if row < self._rings else words
            write(
                painter,
                QRectF(0, self.cell(0, row).y(), _LABEL - 6, self._row()),
                words,
                ink,
                RIGHT,
            )
        for i, lit in enumerate(self._lits):
            head = self.cell(i, 0)
            head.moveTop(0)
            head.setHeight(self._head() - 4)
            painter.setFont(font(BODY, bold=i == self._in_view))
            painter.setPen(ink)
            painter.drawText(head, int(_HEAD_FLAGS), lit.ringed.surface.passage)
            self._column(painter, i, lit)
        if self._lits:
            self._values(painter)
        painter.end()
        self._spoken.tell_soon()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        x = event.position().x()
        for i in range(len(self._lits)):
            if self.cell(i, 0).left() <= x <= self.cell(i, 0).right():
                self.chosen.emit(self._lits[i].ringed.surface.passage)

    def _column(self, painter: QPainter, i: int, lit: Lit) -> None:
        rows = [ring.number - 1 for ring in lit.ringed.rings]
        rows += list(range(self._rings, self._rows()))
        wanted = srgb(np.array([target.lab for target in lit.targets]))[0]
        known = self._achieved.get(lit.ringed.passage)
        for row in set(range(self._rings)) - set(rows):
            # A light off the form has rings before it that nothing stands in.
            write(painter, self.cell(i, row), tr("nothing here"), grey(TEXT), pixels=CAPTION)
        for k, row in enumerate(rows):
            cell = self.cell(i, row)
            left, right = QRectF(cell), QRectF(cell)
            if cell.height() < _BESIDE:
                left.setWidth(cell.width() / 2)
                right.setLeft(left.right())
            else:
                left.setHeight(cell.height() / 2)
                right.setTop(left.bottom())
            painter.fillRect(left, screen_colour(wanted[k]))
            value = f"{lit.values[k]:.1f}"
            write(painter, left.adjusted(6, 0, -6, 0), value, reading_ink(wanted[k]), bold=True)
            if known is None or k >= len(known[1]):
                painter.setPen(QPen(grey(EDGE), 1))
                painter.drawRect(right)
                continue
            painter.fillRect(right, screen_colour(known[0][k]))
            off = tr("dE {0:.1f}").format(known[1][k])
            ink = reading_ink(known[0][k])
            write(painter, right.adjusted(6, 0, -6, 0), off, ink, RIGHT, pixels=CAPTION)

    def _values(self, painter: QPainter) -> None:
        """Draw the line of all values, with the source at its place."""
        top = self._head() + self._rows() * (self._row() + _GAP) + 8
        line = QRectF(_LABEL, top + 20, self.width() - _LABEL - 12, 10)
        write(painter, QRectF(0, line.y() - 5, _LABEL - 6, 20), tr("values"), grey(TEXT), RIGHT)
        painter.fillRect(line, grey(WELL))

        def x(value: float) -> float:
            return line.x() + line.width() * min(max(value, 0.0), 10.0) / 10

        for lit in self._lits:
            for value in lit.values:
                painter.fillRect(QRectF(x(value) - 1, line.y(), 2, line.height()), grey(STRONG))
        for value in range(0, 11, 2):
            cell = QRectF(x(value) - 14, line.bottom() + 1, 28, 18)
            write(painter, cell, str(value), grey(TEXT), MIDDLE)
        if not self._source:
            return  # a light off the figure is painted nowhere
        at = x(self._source)
        painter.setPen(QPen(grey(TEXT), 2))
        painter.drawLine(QPointF(at, line.y() - 5), QPointF(at, line.bottom() + 2))
        words = QRectF(at - 80, line.y() - 24, 78 + min(line.right() - at + 12, 40), 18)
        write(painter, words, tr("light {0:.1f}").format(self._source), grey(TEXT), RIGHT)

    def _describe(self) -> None:
        words = []
        for lit in self._lits:
            values = ", ".join(f"{value:.1f}" for value in lit.values)
            known = self._achieved.get(lit.ringed.passage)
            if lit.gap is not None:
                values += tr(", gap {0:.1f} darker than what is beside it").format(lit.gap)
            off = "" if known is None else f", dE {', '.join(f'{v:.1f}' for v in known[1])}"
            words.append(tr("{0}: values {1}{2}").format(lit.ringed.surface.passage, values, off))
        self.setAccessibleDescription("; ".join(words))
