"""The ways found, one below the other, each as a small section with what it costs."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen

from zesty_veil.desktop.kit.drawnlist import DrawnList
from zesty_veil.desktop.kit.theme import SURROUNDS, Surround
from zesty_veil.desktop.kit.writing import write
from zesty_veil.desktop.match.bestat import best_at
from zesty_veil.desktop.match.waydraw import costs, draw_way, height, layout
from zesty_veil.light.grid import Array
from zesty_veil.plan.model import coat_name
from zesty_veil.services.finding import KeptWay, ShownWay
from zesty_veil.tr import tr

_GAP, _MARGIN = 10.0, 12.0
_LETTERS = "ABCDEFGH"


def way_marks(ways: tuple[ShownWay, ...]) -> list[str]:
    """Return how ways are called: kept ones by letters, found ones by numbers."""
    kept = sum(way.kept for way in ways)
    return [_LETTERS[i] if i < kept else str(i - kept + 1) for i in range(len(ways))]


class WaysList(DrawnList[ShownWay]):
    """Draws ways; one is in hand, and one of its coats; Enter or a double click chooses it."""

    in_hand_changed = Signal()

    def __init__(self) -> None:
        super().__init__(tr("ways to the targets"))
        self.coat = 0
        self._taken: KeptWay | None = None
        self._taken_coat = 0
        self._wanted: Array | None = None
        self._surround = SURROUNDS["middle"]
        self._marks: list[str] = []
        self._best: list[str] = []
        self.setMinimumWidth(480)
        self.picked.connect(self.take)

    @property
    def ways(self) -> tuple[ShownWay, ...]:
        """The ways that are listed."""
        return tuple(self.rows)

    @property
    def in_hand(self) -> int:
        """The number of the way in hand."""
        return max(self.at, 0)

    @property
    def way(self) -> ShownWay | None:
        """The way in hand."""
        return self.rows[self.in_hand] if self.rows else None

    def set_surround(self, surround: Surround) -> None:
        """Put the colours into another grey field."""
        self._surround = surround
        self.viewport().update()

    def show_ways(self, ways: tuple[ShownWay, ...], wanted: Array | None) -> None:
        """Show other ways, and what is wanted along the axis, (n, 3) encoded sRGB.

        What somebody took in hand stays in hand as soon as it is there; else it is the first one.
        """
        self._wanted, self._marks, self._best = wanted, way_marks(ways), best_at(ways)
        same = [i for i, way in enumerate(ways) if (way.base, way.coats) == self._taken]
        self.show_rows(ways)
        if same:
            self._hold(same[0], self._taken_coat)
        else:
            self._hold(0)

    def take(self, index: int, coat: int | None = None) -> None:
        """Take a way in hand, and one of its coats; the last one if none is named."""
        self._hold(index, coat)
        if self.way is not None:
            self._taken, self._taken_coat = (self.way.base, self.way.coats), self.coat

    def _hold(self, index: int, coat: int | None = None) -> None:
        self.hold(min(max(index, 0), len(self.rows) - 1))
        count = len(self.way.coats) if self.way is not None else 0
        self.coat = count - 1 if coat is None else min(max(coat, 0), count - 1)
        self._tell()

    def said(self, row: ShownWay, at: int) -> tuple[str, str]:
        return (
            tr("way {0}").format(self._marks[at]),
            tr("dE {0:.1f}, {1}").format(row.mean, costs(row)),
        )

    def size_of(self, row: ShownWay, at: int) -> QSize:
        return QSize(480, round(height(row) + _GAP))

    def ground(self) -> QColor:
        return self._surround.colour

    def draw(self, painter: QPainter, box: QRectF, row: ShownWay, at: int) -> None:
        box, held = _inside(box), at == self.in_hand
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        line = self._surround.text if held else self._surround.line
        painter.setPen(QPen(line, 2 if held else 0.8))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(box, 5, 5)
        painter.setPen(self._surround.text)
        coat = self.coat if held and row.coats else None
        draw_way(painter, box, row, self._marks[at], self._best[at], self._wanted,
                 self._surround, coat)  # fmt: skip

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if not self.rows:
            painter = QPainter(self.viewport())
            words = tr("Ways stand here when they are found.")
            write(painter, QRectF(_MARGIN, _MARGIN, 400, 22), words, self._surround.text)
            painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        if event.button() == Qt.MouseButton.LeftButton:
            self._press(event.position())

    def _press(self, point: QPointF) -> None:
        """Take the coat at a point in hand, in the way that a press there has taken."""
        at = self.indexAt(point.toPoint()).row()
        way = self.rows[at] if at >= 0 else None
        if way is not None and way.films:
            coat = layout(way, _inside(self.box(at))).under(point.x(), point.y())
            self.take(at, coat)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right take one of the coats of the way in hand."""
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if step is None or not self.rows:
            super().keyPressEvent(event)
            return
        self.take(self.in_hand, self.coat + step)
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
                self.in_hand + 1, len(self.rows), way.mean, costs(way)
            )
            words += coat
        self.setAccessibleDescription(
            tr("{0} Up and down: ways; left and right: coats.").format(words)
        )
        self.in_hand_changed.emit()


def _inside(box: QRectF) -> QRectF:
    """Return where a way is drawn in its row."""
    return box.adjusted(_MARGIN, _GAP / 2, -_MARGIN, -_GAP / 2)
