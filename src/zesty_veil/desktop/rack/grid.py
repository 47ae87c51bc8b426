"""The rack as a field of drawdowns: each paint over white and over black, at 1 to 4 passes."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from itertools import groupby
from typing import NamedTuple

from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.accessible import ListedItem
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


class RackGrid(QWidget):
    """Shows drawdowns in rows as wide as there is room; one is in hand."""

    chosen = Signal(str)
    opened = Signal(str)  # double click or Enter

    def __init__(self) -> None:
        super().__init__()
        self._shown: RackShown | None = None
        self._all: list[str] = []
        self._kinds: list[str] = []
        self._grouped = False
        self._placed: CellPlaces | None = None  # for the width that it has
        self._name = ""
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.MinimumExpanding)
        self.setAccessibleName(tr("paints of the rack"))
        self.setAccessibleDescription(tr("Arrows choose a paint; Enter measures it."))

    @property
    def in_hand(self) -> str:
        """The name of the paint in hand."""
        return self._name

    def show_rack(self, shown: RackShown, name: str) -> None:
        """Show a rack, with one paint in hand."""
        self._shown, self._name = shown, name
        self._all = [kept.paint.name for kept in shown.kept]
        self._kinds = [kept.paint.kind for kept in shown.kept]
        self._grouped = shown.asked.order == "kind"
        self._placed = None
        self.updateGeometry()
        self.setMinimumHeight(self._places().height)
        self.update()

    def cell(self, name: str) -> QRectF:
        """Return where a paint is drawn; empty if it is not shown."""
        names = self._names()
        return self._places().boxes[names.index(name)] if name in names else QRectF()

    def listed(self) -> list[ListedItem]:
        """Return the paints for assistive technology."""
        shown = self._shown
        if shown is None:
            return []
        return [
            ListedItem(
                kept.paint.name,
                ", ".join((tr(kept.paint.kind), *kept.paint.pigments, *badges(kept))),
                self._places().boxes[i],
                kept.paint.name == self._name,
                partial(self._choose, kept.paint.name),
            )
            for i, kept in enumerate(shown.kept)
        ]

    def sizeHint(self) -> QSize:
        return QSize(4 * (CELL_W + _GAP) + 2 * _MARGIN, self._places().height)

    def resizeEvent(self, event: object) -> None:
        self.setMinimumHeight(self._places().height)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        shown = self._shown
        if shown is not None:
            placed = self._places()
            for top, words in placed.heads:
                head = QRectF(_MARGIN, top, self.width() - 2 * _MARGIN, _HEAD_H)
                painter.setFont(font(CARD, bold=True))
                painter.setPen(grey(TEXT))
                painter.drawText(head, Qt.AlignmentFlag.AlignVCenter, words)
            seen = QRectF(event.rect())
            for i, kept in enumerate(shown.kept):
                if placed.boxes[i].intersects(seen):
                    hand = kept.paint.name == self._name
                    draw_cell(painter, placed.boxes[i], kept, shown.rgb[i], hand)
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        name = self._at(event.position().toPoint())
        if name:
            self._choose(name)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        name = self._at(event.position().toPoint())
        if name:
            self.opened.emit(name)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows choose; Enter opens; Home and End go to the ends."""
        names, keys = self._names(), Qt.Key
        steps = {
            keys.Key_Left: -1, keys.Key_Right: 1, keys.Key_Home: -len(names),
            keys.Key_End: len(names),
        }  # fmt: skip
        key = Qt.Key(event.key())
        if names and key in (keys.Key_Up, keys.Key_Down):
            self._choose(self._beyond(-1 if key == keys.Key_Up else 1))
        elif names and key in steps:
            at = names.index(self._name) if self._name in names else 0
            self._choose(names[min(max(at + steps[key], 0), len(names) - 1)])
        elif key in (keys.Key_Return, keys.Key_Enter) and self._name in names:
            self.opened.emit(self._name)
        else:
            event.ignore()
            return
        event.accept()

    def _beyond(self, way: int) -> str:
        """Return the paint in the row above (-1) or below that is nearest; itself at the edge."""
        names, boxes = self._names(), self._places().boxes
        here = boxes[names.index(self._name)] if self._name in names else boxes[0]
        rows = sorted({box.y() for box in boxes if (box.y() - here.y()) * way > 0}, reverse=way < 0)
        if not rows:
            return self._name or names[0]
        beside = [i for i, box in enumerate(boxes) if box.y() == rows[0]]
        return names[min(beside, key=lambda i: abs(boxes[i].x() - here.x()))]

    def _choose(self, name: str) -> None:
        self._name = name
        self.update()
        self.chosen.emit(name)

    def _names(self) -> list[str]:
        return self._all

    def _places(self) -> CellPlaces:
        """Return where all stands at the width that there is."""
        if self._placed is None or self._placed.width != self.width():
            self._placed = placed(
                self._kinds if self._grouped else [""] * len(self._all), self.width()
            )
        return self._placed

    def _at(self, point: QPoint) -> str:
        for name, box in zip(self._all, self._places().boxes, strict=True):
            if box.contains(QPointF(point)):
                return name
        return ""


class CellPlaces(NamedTuple):
    """Where cells and the heads of groups stand at a width, and how high all of it is."""

    width: int
    boxes: list[QRectF]
    heads: list[tuple[float, str]]
    height: int


def columns(width: int) -> int:
    """Return how many cells stand side by side."""
    return max((width - 2 * _MARGIN + _GAP) // (CELL_W + _GAP), 1)


def placed(groups: Sequence[str], width: int) -> CellPlaces:
    """Place cells in rows, each group of neighbours under its name; one without a name has none.

    Cells share what room is left over, so that the field has no empty edge.
    """
    count = columns(width)
    step = (width - 2 * _MARGIN + _GAP) / count
    boxes: list[QRectF] = []
    heads: list[tuple[float, str]] = []
    y = float(_MARGIN)
    for name, members in groupby(groups):
        if name:
            heads.append((y, tr(name).capitalize()))
            y += _HEAD_H
        size = len(list(members))
        for i in range(size):
            row, column = divmod(i, count)
            x = _MARGIN + column * step
            boxes.append(QRectF(round(x), y + row * (CELL_H + _GAP), round(step - _GAP), CELL_H))
        y += -(-size // count) * (CELL_H + _GAP)
    return CellPlaces(width, boxes, heads, round(y - _GAP + _MARGIN) if boxes else 80)
