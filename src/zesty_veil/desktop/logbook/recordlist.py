"""The list of records: thumbnail, title, day, and what was noted; the last first."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.theme import (
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

ROW_H = 66
_THUMB = 52


class RecordList(QWidget):
    """Records one below the other; one is in hand."""

    chosen = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self._lines: tuple[Line, ...] = ()
        self._thumbs: dict[int, QImage] = {}
        self.in_hand = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.MinimumExpanding)
        self.setAccessibleName("records of the log")
        self.setAccessibleDescription("Up and down choose a record.")

    @property
    def lines(self) -> tuple[Line, ...]:
        """The records shown."""
        return self._lines

    def sizeHint(self) -> QSize:
        return QSize(300, max(len(self._lines), 1) * ROW_H)

    def show_lines(self, lines: tuple[Line, ...], in_hand: int) -> None:
        """Show records, one of them in hand."""
        self._lines, self.in_hand = lines, in_hand
        self._thumbs = {
            line.number: QImage.fromData(line.thumbnail) for line in lines if line.thumbnail
        }
        self.setMinimumHeight(max(len(lines), 1) * ROW_H)
        self.updateGeometry()
        self.update()

    def row(self, number: int) -> QRectF:
        """Return where a record is drawn."""
        numbers = [line.number for line in self._lines]
        at = numbers.index(number) if number in numbers else 0
        return QRectF(0, at * ROW_H, self.width(), ROW_H)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if not self._lines:
            painter.setFont(font())
            painter.setPen(grey(QUIET))
            painter.drawText(
                QRectF(self.rect()).adjusted(12, 8, -8, 0), Qt.TextFlag.TextWordWrap,
                "Nothing is logged here yet. N writes down what came out of the open plan: colours "
                "beside what was predicted, a photograph, a few words.",
            )  # fmt: skip
        for line in self._lines:
            self._draw(painter, line)
        painter.end()

    def _draw(self, painter: QPainter, line: Line) -> None:
        row, hand = self.row(line.number), line.number == self.in_hand
        painter.fillRect(row, grey(STRONG if hand else RAISED))
        painter.setPen(QPen(grey(EDGE), 1))
        painter.drawLine(row.bottomLeft(), row.bottomRight())
        box = QRectF(row.x() + 7, row.y() + 7, _THUMB, _THUMB)
        thumb = self._thumbs.get(line.number)
        if thumb is not None and not thumb.isNull():
            size = thumb.size().scaled(box.size().toSize(), Qt.AspectRatioMode.KeepAspectRatio)
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            at = QPointF(box.center().x() - size.width() / 2, box.center().y() - size.height() / 2)
            painter.drawImage(QRectF(at, size), thumb)
        else:
            painter.fillRect(box, grey(PRESSED))
        ink = grey(ON_STRONG if hand else TEXT)
        x, room = box.right() + 10, int(row.right() - box.right() - 18)
        painter.setPen(ink)
        for k, (words, bold) in enumerate(
            ((line.title, True), (_day(line), False), (line.words or line.step, False))
        ):
            painter.setFont(font(bold=bold))
            text = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, room)
            painter.drawText(QPointF(x, row.y() + 19 + 19 * k), text)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        number = self._at(event.position().toPoint())
        if number:
            self._choose(number)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and down choose."""
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        numbers = [line.number for line in self._lines]
        if step is None or not numbers:
            event.ignore()
            return
        at = numbers.index(self.in_hand) if self.in_hand in numbers else 0
        self._choose(numbers[min(max(at + step, 0), len(numbers) - 1)])
        event.accept()

    def _choose(self, number: int) -> None:
        self.in_hand = number
        self.update()
        self.chosen.emit(number)

    def _at(self, point: QPoint) -> int:
        at = point.y() // ROW_H
        return self._lines[at].number if 0 <= at < len(self._lines) else 0


def _day(line: Line) -> str:
    return f"{line.when[:10]}{'' if line.counts else '   not learnt from'}"
