"""The list of records: thumbnail, title, day, and what was noted; the last first.

It may hold tens of thousands. Only what is seen is drawn, and only of that are lines asked for.
"""

from __future__ import annotations

from collections import OrderedDict
from functools import partial

from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.accessible import ListedItem
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


class RecordList(QWidget):
    """Records one below the other; one is in hand."""

    chosen = Signal(int)
    wanted = Signal(object)  # numbers of records whose lines are to be seen

    def __init__(self) -> None:
        super().__init__()
        self._numbers: tuple[int, ...] = ()
        self._places: dict[int, int] = {}
        self._lines: OrderedDict[int, Line] = OrderedDict()
        self._thumbs: dict[int, QImage] = {}
        self._asked: set[int] = set()
        self.in_hand = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.MinimumExpanding)
        self.setAccessibleName(tr("records of the log"))
        self.setAccessibleDescription(tr("Up and down choose a record."))

    @property
    def numbers(self) -> tuple[int, ...]:
        """The records in the list."""
        return self._numbers

    @property
    def lines(self) -> tuple[Line, ...]:
        """The lines that were read of the records in the list."""
        return tuple(self._lines[n] for n in self._numbers if n in self._lines)

    def sizeHint(self) -> QSize:
        return QSize(300, max(len(self._numbers), 1) * RECORD_H)

    def show_numbers(self, numbers: tuple[int, ...], in_hand: int, anew: bool) -> None:
        """Show records, one of them in hand; with `anew`, lines that were read may have changed."""
        self._numbers, self.in_hand = numbers, in_hand
        self._places = {number: place for place, number in enumerate(numbers)}
        self._asked.clear()
        if anew:
            self._lines.clear()
            self._thumbs.clear()
        self.setMinimumHeight(max(len(numbers), 1) * RECORD_H)
        self.updateGeometry()
        self.update()

    def show_lines(self, lines: tuple[Line, ...]) -> None:
        """Show lines that were asked for."""
        for line in lines:
            self._lines[line.number] = line
            self._lines.move_to_end(line.number)
            if line.thumbnail:
                self._thumbs[line.number] = QImage.fromData(line.thumbnail)
        while len(self._lines) > _KEPT:
            gone, _ = self._lines.popitem(last=False)
            self._thumbs.pop(gone, None)
            self._asked.discard(gone)
        self.update()

    def listed(self) -> list[ListedItem]:
        """Return the records that were read, for assistive technology."""
        return [
            ListedItem(
                line.title,
                ", ".join(filter(None, (_day(line), line.words or line.step))),
                self.row(line.number),
                line.number == self.in_hand,
                partial(self._choose, line.number),
            )
            for line in self.lines
        ]

    def row(self, number: int) -> QRectF:
        """Return where a record is drawn."""
        return QRectF(0, self._places.get(number, 0) * RECORD_H, self.width(), RECORD_H)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if not self._numbers:
            painter.setFont(font())
            painter.setPen(grey(QUIET))
            painter.drawText(
                QRectF(self.rect()).adjusted(12, 8, -8, 0), Qt.TextFlag.TextWordWrap,
                tr(
                    "Nothing is logged here yet. N writes down what came out of the "
                    "open plan: colours beside what was predicted, a photograph, a few "
                    "words."
                ),
            )  # fmt: skip
        first, last = event.rect().top() // RECORD_H, event.rect().bottom() // RECORD_H
        for number in self._numbers[max(first, 0) : last + 1]:
            self._draw(painter, number, self._lines.get(number))
        painter.end()
        self._want(first, last)

    def _want(self, first: int, last: int) -> None:
        """Ask for lines that are seen, or soon will be, and are not there."""
        near = self._numbers[max(first - _AHEAD, 0) : last + 1 + _AHEAD]
        missing = tuple(n for n in near if n not in self._lines and n not in self._asked)
        if missing:
            self._asked.update(near)
            self.wanted.emit(tuple(n for n in near if n not in self._lines))

    def _draw(self, painter: QPainter, number: int, line: Line | None) -> None:
        row, hand = self.row(number), number == self.in_hand
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

    def mousePressEvent(self, event: QMouseEvent) -> None:
        number = self._at(event.position().toPoint())
        if number:
            self._choose(number)

    @property
    def count(self) -> int:
        """How many records are listed."""
        return len(self._numbers)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and down choose; Page and Home and End go further."""
        keys, count = Qt.Key, len(self._numbers)
        step = {
            keys.Key_Up: -1, keys.Key_Down: 1, keys.Key_PageUp: -8, keys.Key_PageDown: 8,
            keys.Key_Home: -count, keys.Key_End: count,
        }.get(Qt.Key(event.key()))  # fmt: skip
        if step is None or not count:
            event.ignore()
            return
        at = self._places.get(self.in_hand, 0)
        self._choose(self._numbers[min(max(at + step, 0), count - 1)])
        event.accept()

    def _choose(self, number: int) -> None:
        self.in_hand = number
        self.update()
        self.chosen.emit(number)

    def _at(self, point: QPoint) -> int:
        at = point.y() // RECORD_H
        return self._numbers[at] if 0 <= at < len(self._numbers) else 0


def _day(line: Line) -> str:
    return line.when[:10] if line.counts else tr("{0}   not learnt from").format(line.when[:10])
