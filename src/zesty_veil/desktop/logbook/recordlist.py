"""The list of records: thumbnail, title, day, and what was noted; the last first.

It may hold tens of thousands. Only what is seen is drawn, and only of that are lines asked for.
"""

from __future__ import annotations

from collections import OrderedDict

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QImage, QPainter, QPaintEvent, QPen

from zesty_veil.desktop.kit.drawnlist import DrawnList
from zesty_veil.desktop.kit.theme import (
    EDGE,
    ON_STRONG,
    PRESSED,
    QUIET,
    RAISED,
    STRONG,
    TEXT,
    font,
    grey,
)
from zesty_veil.log.logbook import Line
from zesty_veil.tr import tr

RECORD_H = 66
_THUMB = 52
_KEPT = 400  # lines and thumbnails that stay at hand
_AHEAD = 8  # lines asked for above and below those seen


class RecordList(DrawnList[int]):
    """Records one below the other; one is in hand."""

    chosen = Signal(int)
    wanted = Signal(object)  # numbers of records whose lines are to be seen

    def __init__(self) -> None:
        super().__init__(tr("records of the log"))
        self._places: dict[int, int] = {}
        self._lines: OrderedDict[int, Line] = OrderedDict()
        self._thumbs: dict[int, QImage] = {}
        self._asked: set[int] = set()  # whose lines are being read
        self._seen: set[int] = set()  # rows whose lines were looked for
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(0)
        self._soon.timeout.connect(self._ask)
        self.setUniformItemSizes(True)
        self.setAccessibleDescription(tr("Up and down choose a record."))
        self.picked.connect(lambda at: self.chosen.emit(self.rows[at]))

    @property
    def in_hand(self) -> int:
        """The number of the record in hand; 0 for none."""
        return self.rows[self.at] if self.at >= 0 else 0

    @property
    def lines(self) -> tuple[Line, ...]:
        """The lines that were read of the records in the list."""
        return tuple(self._lines[n] for n in self.rows if n in self._lines)

    def show_numbers(self, numbers: tuple[int, ...], in_hand: int, anew: bool) -> None:
        """Show records, one of them in hand; with `anew`, lines that were read may have changed."""
        self._places = {number: place for place, number in enumerate(numbers)}
        self._asked.clear()
        if anew:
            self._lines.clear()
            self._thumbs.clear()
        self.show_rows(numbers, self._places.get(in_hand, -1))

    def show_lines(self, lines: tuple[Line, ...]) -> None:
        """Show lines that were asked for."""
        for line in lines:
            self._asked.discard(line.number)
            self._lines[line.number] = line
            self._lines.move_to_end(line.number)
            if line.thumbnail:
                self._thumbs[line.number] = QImage.fromData(line.thumbnail)
        while len(self._lines) > _KEPT:
            gone, _ = self._lines.popitem(last=False)
            self._thumbs.pop(gone, None)
        self.redraw()

    def row(self, number: int) -> QRectF:
        """Return where a record is drawn."""
        return self.box(self._places.get(number, -1))

    def said(self, row: int, at: int) -> tuple[str, str]:
        line = self._lines.get(row)
        if line is None:
            self._want(at)
            return tr("record {0}").format(row), ""
        return line.title, ", ".join(filter(None, (_day(line), line.words or line.step)))

    def size_of(self, row: int, at: int) -> QSize:
        return QSize(100, RECORD_H)

    def draw(self, painter: QPainter, box: QRectF, row: int, at: int) -> None:
        self._draw(painter, box, row, at == self.at)
        if row not in self._lines:
            self._want(at)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if not self.rows:
            painter = QPainter(self.viewport())
            painter.setFont(font())
            painter.setPen(grey(QUIET))
            painter.drawText(
                QRectF(self.viewport().rect()).adjusted(12, 8, -8, 0), Qt.TextFlag.TextWordWrap,
                tr(
                    "Nothing is logged here yet. N writes down what came out of the "
                    "open plan: colours beside what was predicted, a photograph, a few "
                    "words."
                ),
            )  # fmt: skip
            painter.end()

    def _want(self, at: int) -> None:
        """Have the lines round a row read, if they are not there."""
        self._seen.add(at)
        self._soon.start()

    def _ask(self) -> None:
        """Ask for lines that were looked for, and for what stands above and below them."""
        seen, self._seen = self._seen, set()
        near = {n for at in seen for n in self.rows[max(at - _AHEAD, 0) : at + 1 + _AHEAD]}
        missing = near - self._lines.keys()
        if missing - self._asked:
            # The newest question is the one that is answered: what is still out is asked again.
            out = self._asked if len(self._asked) < _KEPT else set()
            self._asked = out | missing
            self.wanted.emit(tuple(self._asked))

    def _draw(self, painter: QPainter, row: QRectF, number: int, hand: bool) -> None:
        line = self._lines.get(number)
        painter.fillRect(row, grey(STRONG if hand else RAISED))
        painter.setPen(QPen(grey(EDGE), 1))
        painter.drawLine(row.bottomLeft(), row.bottomRight())
        box = QRectF(row.x() + 7, row.y() + 7, _THUMB, _THUMB)
        thumb = self._thumbs.get(number)
        if thumb is not None and not thumb.isNull():
            size = thumb.size().scaled(box.size().toSize(), Qt.AspectRatioMode.KeepAspectRatio)
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            at = QPointF(box.center().x() - size.width() / 2, box.center().y() - size.height() / 2)
            painter.drawImage(QRectF(at, size), thumb)
        else:
            painter.fillRect(box, grey(PRESSED))
        if line is None:
            return
        x, room = box.right() + 10, int(row.right() - box.right() - 18)
        painter.setPen(grey(ON_STRONG if hand else TEXT))
        for k, (words, bold) in enumerate(
            ((line.title, True), (_day(line), False), (line.words or line.step, False))
        ):
            painter.setFont(font(bold=bold))
            some = " ".join(words[:200].split())
            text = painter.fontMetrics().elidedText(some, Qt.TextElideMode.ElideRight, room)
            painter.drawText(QPointF(x, row.y() + 19 + 19 * k), text)

    @property
    def count(self) -> int:
        """How many records are listed."""
        return len(self.rows)


def _day(line: Line) -> str:
    return line.when[:10] if line.counts else tr("{0}   not learnt from").format(line.when[:10])
