"""A ladder drawn: the colours all the way between the pots, the steps in drops, and what comes."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from zesty_veil.desktop.kit.ribbons import draw_ribbon, screen_colour
from zesty_veil.desktop.kit.spoken import SpokenItem, SpokenItems
from zesty_veil.desktop.kit.theme import CAPTION, SURROUNDS, Surround, font
from zesty_veil.desktop.kit.writing import MIDDLE, write, write_wrapped
from zesty_veil.paint.mixture import Part
from zesty_veil.services.ladders import LadderShown
from zesty_veil.tr import tr

_MARGIN, _BAND, _DROP = 16.0, 44.0, 7.0


class LadderStrip(QWidget):
    """Shows one ladder; there is nothing to press on it."""

    def __init__(self) -> None:
        super().__init__()
        self._shown: LadderShown | None = None
        self._surround = SURROUNDS["middle"]
        self.setAccessibleName(tr("the ladder"))
        self._spoken = SpokenItems(self, self.items)
        self.setMinimumSize(360, 300)

    def sizeHint(self) -> QSize:
        return QSize(640, 360)

    def set_surround(self, surround: Surround) -> None:
        """Put the colours into another grey field."""
        self._surround = surround
        self.update()

    def show_ladder(self, shown: LadderShown | None) -> None:
        """Show a ladder, or none."""
        self._shown = shown
        self.update()

    def items(self) -> list[SpokenItem]:
        """Return the steps for assistive technology."""
        shown = self._shown
        if shown is None or shown.found is None:
            return []
        return [
            SpokenItem(mixed_words(rung.parts), _step(rung.step), self._rung(i))
            for i, rung in enumerate(shown.found.rungs)
        ]

    def _line(self, top: float, height: float) -> QRectF:
        return QRectF(_MARGIN, top, self.width() - 2 * _MARGIN, height)

    def _rung(self, index: int) -> QRectF:
        assert self._shown is not None
        assert self._shown.found is not None
        wide = (self.width() - 2 * _MARGIN) / len(self._shown.found.rungs)
        return QRectF(_MARGIN + index * wide, 118, wide - 3, 72)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._surround.colour)
        painter.setFont(font())
        self._spoken.tell_soon()
        shown, ink = self._shown, self._surround.text
        if shown is None or shown.found is None or shown.rungs is None or shown.between is None:
            words = tr("Take two pots, or up to four, on the left; what lies between stands there.")
            if shown is not None and shown.wrong:
                words = shown.wrong
            write_wrapped(painter, self._line(_MARGIN, 60), words, ink)
            painter.end()
            return
        write(painter, self._line(10, 20), tr("all the way between"), ink, pixels=CAPTION)
        draw_ribbon(painter, self._line(30, _BAND), shown.between)
        write(painter, self._line(94, 20), tr("steps, in drops"), ink, pixels=CAPTION)
        for i, rung in enumerate(shown.found.rungs):
            cell = self._rung(i)
            painter.fillRect(cell, screen_colour(shown.rungs[i]))
            self._draw_drops(painter, cell, rung.parts)
            words = mixed_words(rung.parts, short=True)
            under = QRectF(cell.x(), cell.bottom() + _DROP * 2 + 6, cell.width(), 20)
            write(painter, under, words, ink, MIDDLE)
            if i:
                under = QRectF(cell.x() - cell.width() / 2, under.bottom(), cell.width(), 18)
                write(painter, under, _step(rung.step), ink, MIDDLE, pixels=CAPTION)
        if shown.ribbon is not None:
            write(
                painter, self._line(262, 20), tr("what comes on the passage"), ink, pixels=CAPTION
            )
            draw_ribbon(painter, self._line(282, _BAND), shown.ribbon)
        if shown.found.mud:
            words = tr("In the middle it goes through {0}.").format(shown.found.mud)
            write_wrapped(painter, self._line(282 + _BAND + 6, 40), words, ink)
        painter.end()

    def _draw_drops(self, painter: QPainter, cell: QRectF, parts: tuple[Part, ...]) -> None:
        """Draw the drops of a step below it: full ones of the first pot, rings of the second."""
        count = int(sum(part.parts for part in parts))
        gap = min(_DROP + 2, (cell.width() - _DROP) / max(count - 1, 1))
        left = cell.center().x() - gap * (count - 1) / 2
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self._surround.text, 1))
        first = int(parts[0].parts)
        radius = min(_DROP, max(gap - 1, 2)) / 2
        for k in range(count):
            ink = self._surround.text if k < first else Qt.BrushStyle.NoBrush
            painter.setBrush(ink)
            painter.drawEllipse(QPointF(left + k * gap, cell.bottom() + _DROP), radius, radius)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)


def mixed_words(parts: tuple[Part, ...], short: bool = False) -> str:
    """Return a mixture in drops: '3 Kiln Yellow + 1 Furnace Red', or '3 : 1'."""
    if short:
        return " : ".join(f"{part.parts:g}" for part in parts) if len(parts) > 1 else tr("pure")
    return " + ".join(f"{part.parts:g} {part.paint}" for part in parts)


def _step(step: float) -> str:
    return tr("dE {0:.0f}").format(step) if step else ""
