"""The rack as a field of drawdowns: each paint over white and over black, at 1 to 4 passes."""

from __future__ import annotations

from itertools import groupby

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QPainter, QPen
from PySide6.QtWidgets import QListView

from zesty_veil.desktop.kit.drawnlist import DrawnList
from zesty_veil.desktop.kit.ribbons import screen_colour
from zesty_veil.desktop.kit.theme import (
    CAPTION,
    CARD,
    EDGE,
    QUIET,
    RAISED,
    STRONG,
    TEXT,
    WELL,
    font,
    grey,
)
from zesty_veil.desktop.rack.model import RackShown
from zesty_veil.light.grid import Array
from zesty_veil.log.racks import Kept
from zesty_veil.tr import tr

CELL_W, CELL_H = 156, 104
_GAP, _MARGIN = 10, 12
_NAME_H = 24
_HEAD_H = 30
SHOWN_PASSES = 4


def draw_drawdown(painter: QPainter, rect: QRectF, rgb: Array, bare: bool = False) -> None:
    """Draw a drawdown (2, 5, 3): above over white, below over black, passes from left to right.

    With `bare` the ground itself is drawn first.
    """
    first = 0 if bare else 1
    count = SHOWN_PASSES + 1 - first
    width, height = rect.width() / count, rect.height() / 2
    for row in range(2):
        for k in range(count):
            x, y = rect.x() + k * width, rect.y() + row * height
            # Half a pixel more each way, or the field below shines through the seams.
            box = QRectF(x, y, width + 0.5, height + 0.5).intersected(rect)
            painter.fillRect(box, screen_colour(rgb[row, first + k]))


def draw_cell(painter: QPainter, rect: QRectF, kept: Kept, rgb: Array, in_hand: bool) -> None:
    """Draw one paint of the rack: its name with a mark for what is known, and its drawdown."""
    painter.fillRect(rect, grey(WELL if in_hand else RAISED))
    painter.setPen(QPen(grey(STRONG if in_hand else EDGE), 2.0 if in_hand else 1.0))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(rect.adjusted(0.5, 0.5, -0.5, -0.5))
    field = rect.adjusted(7, _NAME_H, -7, -7)
    draw_drawdown(painter, field, rgb)
    painter.setFont(font(bold=in_hand))
    painter.setPen(grey(TEXT if kept.status == "own" else QUIET))
    room = int(rect.width()) - 14
    name = painter.fontMetrics().elidedText(kept.paint.name, Qt.TextElideMode.ElideRight, room)
    painter.drawText(QPointF(rect.x() + 7, rect.y() + 17), name)
    right = field.right() - 3
    for words in badges(kept):
        right = draw_badge(painter, QPointF(right, field.bottom() - 3), words) - 4


def badges(kept: Kept) -> list[str]:
    """Return in a word each what is known of a pot besides its colour."""
    out = [tr(kept.status)] if kept.status != "own" else []
    return [*out, tr("measured")] if kept.cards else out


def draw_badge(painter: QPainter, corner: QPointF, words: str) -> float:
    """Draw a word on a chip whose lower right corner is given; return its left edge."""
    face = font(CAPTION)
    width = QFontMetricsF(face).horizontalAdvance(words) + 10
    chip = QRectF(corner.x() - width, corner.y() - 15, width, 15)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(grey(EDGE), 0.8))
    painter.setBrush(grey(WELL))
    painter.drawRoundedRect(chip, 4, 4)
    painter.setPen(grey(TEXT))
    painter.setFont(face)
    painter.drawText(chip, Qt.AlignmentFlag.AlignCenter, words)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    return chip.left()


class RackGrid(DrawnList[Kept | str]):
    """Shows drawdowns in rows as wide as there is room; one is in hand.

    A kind stands over its paints as a row of its own where they are ordered by kind.
    """

    chosen = Signal(str)
    measured = Signal(str)  # double click or Enter

    def __init__(self) -> None:
        super().__init__(tr("paints of the rack"))
        self._rgb: dict[str, Array] = {}
        self._places: dict[str, int] = {}
        self._name = ""
        self.setFlow(QListView.Flow.LeftToRight)
        self.setWrapping(True)
        self.setViewportMargins(_MARGIN, _MARGIN, 0, 0)
        # Always there, or rows would be wider before it comes than after.
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)
        self.setAccessibleDescription(tr("Arrows choose a paint; Enter measures it."))
        self.picked.connect(self._picked)
        self.opened.connect(lambda at: self.measured.emit(self._called(at)))

    @property
    def in_hand(self) -> str:
        """The name of the paint in hand."""
        return self._name

    def show_rack(self, shown: RackShown, name: str) -> None:
        """Show a rack, with one paint in hand."""
        self._name = name
        self._rgb = {kept.paint.name: rgb for kept, rgb in zip(shown.kept, shown.rgb, strict=True)}
        rows: list[Kept | str] = []
        if shown.asked.order == "kind":
            for kind, members in groupby(shown.kept, lambda kept: kept.paint.kind):
                rows += [tr(kind).capitalize(), *members]
        else:
            rows += shown.kept
        self._places = {row.paint.name: at for at, row in enumerate(rows) if isinstance(row, Kept)}
        top = self.verticalScrollBar().value()
        self.show_rows(rows, self._places.get(name, -1))
        self.verticalScrollBar().setValue(top)

    def take(self, name: str) -> None:
        """Take a paint in hand, and bring it into sight, if it is shown."""
        self._name = name
        self.hold(self._places.get(name, -1))

    def cell(self, name: str) -> QRectF:
        """Return where a paint is drawn in the viewport; empty if it is not shown."""
        box = self.box(self._places.get(name, -1))
        return box.adjusted(0, 0, -_GAP, -_GAP) if box.isValid() else QRectF()

    def said(self, row: Kept | str, at: int) -> tuple[str, str]:
        if isinstance(row, str):
            return row, ""
        paint = row.paint
        return paint.name, ", ".join((tr(paint.kind), *paint.pigments, *badges(row)))

    def size_of(self, row: Kept | str, at: int) -> QSize:
        """Cells share what room is left over, so that the field has no empty edge."""
        room = self.viewport().width() - 1
        if isinstance(row, str):
            return QSize(room, _HEAD_H)
        return QSize(room // max(room // (CELL_W + _GAP), 1), CELL_H + _GAP)

    def takes(self, row: Kept | str) -> bool:
        return isinstance(row, Kept)

    def draw(self, painter: QPainter, box: QRectF, row: Kept | str, at: int) -> None:
        if isinstance(row, str):
            painter.setFont(font(CARD, bold=True))
            painter.setPen(grey(TEXT))
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, row)
            return
        cell = box.adjusted(0, 0, -_GAP, -_GAP)
        name = row.paint.name
        draw_cell(painter, cell, row, self._rgb[name], name == self._name)

    def sizeHint(self) -> QSize:
        return QSize(4 * (CELL_W + _GAP) + 2 * _MARGIN, 80)

    def _called(self, at: int) -> str:
        row = self.rows[at]
        return row.paint.name if isinstance(row, Kept) else ""

    def _picked(self, at: int) -> None:
        self._name = self._called(at)
        self.chosen.emit(self._name)
