"""The ways found, one below the other, each as a small section with what it costs."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.accessible import ListedItem
from zesty_veil.desktop.kit.theme import SURROUNDS, Surround, font
from zesty_veil.desktop.kit.writing import write
from zesty_veil.desktop.match.bestat import best_at
from zesty_veil.desktop.match.waydraw import costs, draw_way, height, layout
from zesty_veil.light.grid import Array
from zesty_veil.plan.model import coat_name
from zesty_veil.services.finding import KeptWay, ShownWay
from zesty_veil.tr import tr

_GAP, _MARGIN = 8.0, 12.0
_LETTERS = "ABCDEFGH"


def way_marks(ways: tuple[ShownWay, ...]) -> list[str]:
    """Return how ways are called: kept ones by letters, found ones by numbers."""
    kept = sum(way.kept for way in ways)
    return [_LETTERS[i] if i < kept else str(i - kept + 1) for i in range(len(ways))]


class WaysList(QWidget):
    """Draws ways; one is in hand, and one of its coats; Enter or a double click chooses it."""

    chosen = Signal(int)
    in_hand_changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.ways: tuple[ShownWay, ...] = ()
        self.in_hand = 0
        self.coat = 0
        self._taken: KeptWay | None = None
        self._taken_coat = 0
        self._wanted: Array | None = None
        self._surround = SURROUNDS["middle"]
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        self.setAccessibleName(tr("ways to the targets"))

    def sizeHint(self) -> QSize:
        return QSize(640, round(_MARGIN + sum(height(way) + _GAP for way in self.ways) + _MARGIN))

    def minimumSizeHint(self) -> QSize:
        return QSize(480, self.sizeHint().height())

    @property
    def way(self) -> ShownWay | None:
        """The way in hand."""
        return self.ways[self.in_hand] if self.ways else None

    def set_surround(self, surround: Surround) -> None:
        """Put the colours into another grey field."""
        self._surround = surround
        self.update()

    def show_ways(self, ways: tuple[ShownWay, ...], wanted: Array | None) -> None:
        """Show other ways, and what is wanted along the axis, (n, 3) encoded sRGB.

        What somebody took in hand stays in hand as soon as it is there; else it is the first one.
        """
        self.ways, self._wanted = ways, wanted
        same = [i for i, way in enumerate(ways) if (way.base, way.coats) == self._taken]
        if same:
            self._hold(same[0], self._taken_coat)
        else:
            self._hold(0)
        self.updateGeometry()
        self.update()

    def take(self, index: int, coat: int | None = None) -> None:
        """Take a way in hand, and one of its coats; the last one if none is named."""
        self._hold(index, coat)
        if self.way is not None:
            self._taken, self._taken_coat = (self.way.base, self.way.coats), self.coat
        self.update()

    def _hold(self, index: int, coat: int | None = None) -> None:
        self.in_hand = min(max(index, 0), max(len(self.ways) - 1, 0))
        count = len(self.way.coats) if self.way is not None else 0
        self.coat = count - 1 if coat is None else min(max(coat, 0), count - 1)
        self._tell()

    def row(self, index: int) -> QRectF:
        """Return where a way stands."""
        top = _MARGIN + sum(height(way) + _GAP for way in self.ways[:index])
        return QRectF(_MARGIN, top, self.width() - 2 * _MARGIN, height(self.ways[index]))

    def under(self, point: QPointF) -> tuple[int, int | None] | None:
        """Return the way at a point, and which of its coats, if any is there."""
        for index, way in enumerate(self.ways):
            row = self.row(index)
            if row.contains(point):
                coat = layout(way, row).under(point.x(), point.y()) if way.films else None
                return index, coat
        return None

    def listed(self) -> list[ListedItem]:
        """Return the ways for assistive technology."""
        names = way_marks(self.ways)
        return [
            ListedItem(
                tr("way {0}").format(names[i]),
                tr("dE {0:.1f}, {1}").format(way.mean, costs(way)),
                self.row(i),
                i == self.in_hand,
                partial(self.take, i),
            )
            for i, way in enumerate(self.ways)
        ]

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._surround.colour)
        painter.setFont(font())
        names, best = way_marks(self.ways), best_at(self.ways)
        for index, way in enumerate(self.ways):
            row, held = self.row(index), index == self.in_hand
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(
                QPen(self._surround.text if held else self._surround.line, 2 if held else 0.8)
            )
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(row, 5, 5)
            painter.setPen(self._surround.text)
            coat = self.coat if held and way.coats else None
            draw_way(
                painter, row, way, names[index], best[index], self._wanted, self._surround, coat
            )
        if not self.ways:
            painter.setFont(font())
            words = tr("Ways stand here when they are found.")
            write(painter, QRectF(_MARGIN, _MARGIN, 400, 22), words, self._surround.text)
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        found = self.under(event.position())
        if found is not None:
            self.take(*found)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        found = self.under(event.position())
        if found is not None:
            self.chosen.emit(found[0])

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and down take a way in hand, left and right one of its coats; Enter lays the way."""
        key = Qt.Key(event.key())
        ways = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
        coats = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        if not self.ways:
            event.ignore()
            return
        if key in ways:
            self.take(self.in_hand + ways[key])
        elif key in coats:
            self.take(self.in_hand, self.coat + coats[key])
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.chosen.emit(self.in_hand)
        else:
            event.ignore()
            return
        event.accept()

    def _tell(self) -> None:
        way = self.way
        words = tr("No way is found yet.")
        if way is not None:
            coat = (
                tr(" Coat in hand: {0}.").format(coat_name(way.coats[self.coat]))
                if way.coats
                else ""
            )
            words = tr("Way {0} of {1}: dE {2:.1f}, {3}.").format(
                self.in_hand + 1, len(self.ways), way.mean, costs(way)
            )
            words += coat
        self.setAccessibleDescription(
            tr("{0} Up and down: ways; left and right: coats.").format(words)
        )
        self.in_hand_changed.emit()
