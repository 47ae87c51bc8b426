"""The rack as a field of drawdowns: each paint over white and over black, at 1 to 4 passes."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.ribbons import screen_colour
from zesty_veil.desktop.kit.theme import EDGE, QUIET, RAISED, STRONG, TEXT, WELL, font, grey
from zesty_veil.desktop.rack.model import RackShown
from zesty_veil.light.grid import Array
from zesty_veil.log.racks import Kept
from zesty_veil.tr import tr

CELL_W, CELL_H = 156, 104
_GAP, _MARGIN = 10, 12
_NAME_H = 24
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
    room = int(rect.width()) - 14 - (18 if _marked(kept) else 0)
    name = painter.fontMetrics().elidedText(kept.paint.name, Qt.TextElideMode.ElideRight, room)
    painter.drawText(QPointF(rect.x() + 7, rect.y() + 17), name)
    draw_mark(painter, QPointF(rect.right() - 14, rect.y() + 12), kept)


def _marked(kept: Kept) -> bool:
    return kept.status != "own" or bool(kept.cards)


def draw_mark(painter: QPainter, at: QPointF, kept: Kept) -> None:
    """Mark what is known: a dot for a paint measured from a card, a ring for one not at hand.

    An empty pot's ring is crossed out.
    """
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(grey(TEXT), 1.4))
    if kept.status == "own":
        if kept.cards:
            painter.setBrush(grey(TEXT))
            painter.drawEllipse(at, 3.2, 3.2)
    else:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(at, 4.5, 4.5)
        if kept.status == "empty":
            painter.drawLine(at + QPointF(-5, 5), at + QPointF(5, -5))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)


class RackGrid(QWidget):
    """Shows drawdowns in rows as wide as there is room; one is in hand."""

    chosen = Signal(str)
    opened = Signal(str)  # double click or Enter

    def __init__(self) -> None:
        super().__init__()
        self._shown: RackShown | None = None
        self._all: list[str] = []
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
        self.updateGeometry()
        self.setMinimumHeight(self._height(self.width()))
        self.update()

    def cell(self, name: str) -> QRectF:
        """Return where a paint is drawn; empty if it is not shown."""
        names = self._names()
        return self._box(names.index(name)) if name in names else QRectF()

    def sizeHint(self) -> QSize:
        return QSize(4 * (CELL_W + _GAP) + 2 * _MARGIN, self._height(self.width()))

    def resizeEvent(self, event: object) -> None:
        self.setMinimumHeight(self._height(self.width()))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        shown = self._shown
        if shown is not None:
            first, last = self._rows(event.rect().top()), self._rows(event.rect().bottom()) + 1
            columns = self._columns()
            for i in range(max(first, 0) * columns, min(last * columns, len(shown.kept))):
                kept = shown.kept[i]
                hand = kept.paint.name == self._name
                draw_cell(painter, self._box(i), kept, shown.rgb[i], hand)
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
            keys.Key_Left: -1, keys.Key_Right: 1, keys.Key_Up: -self._columns(),
            keys.Key_Down: self._columns(), keys.Key_Home: -len(names), keys.Key_End: len(names),
        }  # fmt: skip
        key = Qt.Key(event.key())
        if names and key in steps:
            at = names.index(self._name) if self._name in names else 0
            self._choose(names[min(max(at + steps[key], 0), len(names) - 1)])
        elif key in (keys.Key_Return, keys.Key_Enter) and self._name in names:
            self.opened.emit(self._name)
        else:
            event.ignore()
            return
        event.accept()

    def _choose(self, name: str) -> None:
        self._name = name
        self.update()
        self.chosen.emit(name)

    def _names(self) -> list[str]:
        return self._all

    def _columns(self, width: int | None = None) -> int:
        room = (self.width() if width is None else width) - 2 * _MARGIN + _GAP
        return max(room // (CELL_W + _GAP), 1)

    def _height(self, width: int) -> int:
        rows = -(-len(self._names()) // self._columns(width))
        return 2 * _MARGIN + rows * (CELL_H + _GAP) - _GAP if rows else 80

    def _box(self, i: int) -> QRectF:
        row, column = divmod(i, self._columns())
        # Cells share what room is left over, so that the field has no empty edge.
        step = (self.width() - 2 * _MARGIN + _GAP) / self._columns()
        x, y = _MARGIN + column * step, _MARGIN + row * (CELL_H + _GAP)
        return QRectF(round(x), y, round(step - _GAP), CELL_H)

    @staticmethod
    def _rows(y: int) -> int:
        """Return the row that a height lies in."""
        return (y - _MARGIN) // (CELL_H + _GAP)

    def _at(self, point: QPoint) -> str:
        names, columns = self._names(), self._columns()
        first = max(self._rows(point.y()), 0) * columns
        for i in range(first, min(first + columns, len(names))):
            if self._box(i).contains(QPointF(point)):
                return names[i]
        return ""
