"""Blocks that flow down the pages of a sheet: each whole on its page, with a footer on all."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QFontMetricsF, QPainter, QPen

from zesty_veil.desktop.kit.theme import font, grey

INK, FAINT = 0x14, 0x60  # whatever theme the window wears, paper is white
_FOOT_MM, _GAP_MM = 7.0, 1.0
_WRAPPED = int(Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignLeft)
_POINT_MM = 25.4 / 72


class Paper:
    """What blocks are drawn with: a painter whose pixels are told in millimetres and points."""

    def __init__(self, painter: QPainter, dots_per_inch: float) -> None:
        self.painter = painter
        self._mm = dots_per_inch / 25.4

    def mm(self, length: float) -> float:
        """Return a length in pixels."""
        return length * self._mm

    def box(self, x: float, y: float, width: float, height: float) -> QRectF:
        """Return a box given in millimetres in pixels."""
        return QRectF(self.mm(x), self.mm(y), self.mm(width), self.mm(height))

    def face(self, points: float, bold: bool = False) -> QFont:
        """Return a font of some points."""
        face = font(bold=bold)
        face.setPixelSize(max(round(self.mm(points * _POINT_MM)), 1))
        return face

    def high(self, words: str, width: float, points: float, bold: bool = False) -> float:
        """Return how high words are in a width, broken where they must be; both in mm."""
        metrics = QFontMetricsF(self.face(points, bold))
        room = QRectF(0, 0, self.mm(width), self.mm(1000))
        return metrics.boundingRect(room, _WRAPPED, words).height() / self._mm

    def write(
        self, x: float, y: float, width: float, words: str, points: float, bold: bool = False,
        align: Qt.AlignmentFlag = Qt.AlignmentFlag.AlignLeft, tone: int = INK,
    ) -> float:  # fmt: skip
        """Write words from a corner on, broken where they must be; return where they end."""
        high = self.high(words, width, points, bold)
        self.painter.setFont(self.face(points, bold))
        self.painter.setPen(grey(tone))
        flags = int(Qt.TextFlag.TextWordWrap | align)
        self.painter.drawText(self.box(x, y, width, high + 1), flags, words)
        return y + high

    def line(self, x: float, y: float, x2: float, y2: float, wide: float = 0.2) -> None:
        """Draw a line."""
        self.pen(wide)
        self.painter.drawLine(QPointF(self.mm(x), self.mm(y)), QPointF(self.mm(x2), self.mm(y2)))

    def pen(self, wide: float, tone: int = INK) -> None:
        """Take a pen of some width in mm, and no brush."""
        self.painter.setPen(QPen(grey(tone), self.mm(wide)))
        self.painter.setBrush(Qt.BrushStyle.NoBrush)

    def fill(self, colour: QColor) -> None:
        """Take a brush of a colour."""
        self.painter.setBrush(colour)


class PageBlock(NamedTuple):
    """Something that is drawn whole on one page.

    high : in mm. draw : draws it at a height of the page, in mm. together : whether the next block
    has to stand on the same page, as a heading's first step has.
    """

    high: float
    draw: Callable[[float], None]
    together: bool = False


def paginated(blocks: Sequence[PageBlock], height: float) -> list[list[tuple[float, PageBlock]]]:
    """Return on which page each block stands, and how far down, both in mm.

    >>> short = PageBlock(40.0, lambda y: None)
    >>> head = PageBlock(40.0, lambda y: None, together=True)
    >>> [[y for y, _ in page] for page in paginated([short, head, short], 107.0)]
    [[0.0], [0.0, 41.0]]
    """
    room = height - _FOOT_MM
    pages: list[list[tuple[float, PageBlock]]] = [[]]
    y = 0.0
    for number, block in enumerate(blocks):
        with_next = block.high
        k = number
        while blocks[k].together and k + 1 < len(blocks):
            k += 1
            with_next += blocks[k].high + _GAP_MM
        if pages[-1] and y + with_next > room:
            pages.append([])
            y = 0.0
        pages[-1].append((y, block))
        y += block.high + _GAP_MM
    return pages


def draw_pages(
    paper: Paper, size: tuple[float, float], title: str, blocks: Sequence[PageBlock],
    turn: Callable[[], object],
) -> int:  # fmt: skip
    """Draw blocks on pages of a size in mm, turning to the next between; return how many."""
    width, height = size
    pages = paginated(blocks, height)
    for number, page in enumerate(pages, 1):
        if number > 1:
            turn()
        for y, block in page:
            block.draw(y)
        foot = height - _FOOT_MM + 2.2
        paper.line(0, foot - 0.8, width, foot - 0.8, 0.15)
        paper.write(0, foot, width - 30, title, 8, tone=FAINT)
        right = Qt.AlignmentFlag.AlignRight
        paper.write(width - 30, foot, 30, f"{number} / {len(pages)}", 8, align=right, tone=FAINT)
    return len(pages)
