"""One record: predicted beside painted, its photograph, and what was noted."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.kit.photos import Picture, read_picture
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.theme import CARD, QUIET, RAISED, font, grey
from zesty_veil.desktop.logbook.drawing import ROW_H, draw_seen, draw_trend
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.log.judge import TrendPoint, delta_components
from zesty_veil.log.record import Record
from zesty_veil.tr import tr

_PHOTO = QSize(270, 260)


class SeenRows(QWidget):
    """The observed colours of a record."""

    def __init__(self) -> None:
        super().__init__()
        self._record: Record | None = None
        self.setAccessibleName(tr("predicted beside painted"))

    def show_record(self, record: Record | None) -> None:
        """Show a record's colours."""
        self._record = record
        rows = len(record.seen) if record is not None else 0
        self.setMinimumHeight(max(rows, 1) * ROW_H)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        record = self._record
        if record is not None and not record.seen:
            painter.setFont(font())
            painter.setPen(grey(QUIET))
            painter.drawText(QRectF(self.rect()), tr("No colour was noted."))
        lengths = {p.name: p.length_mm for p in record.plan.passages} if record else {}
        for i, seen in enumerate(record.seen if record is not None else ()):
            row = QRectF(0, i * ROW_H, self.width(), ROW_H)
            draw_seen(painter, row, seen, delta_components(seen), lengths.get(seen.passage, 1.0))
        painter.end()


class Photo(QWidget):
    """The record's photograph, decoded on a worker."""

    def __init__(self) -> None:
        super().__init__()
        self._image = QImage()
        self.jobs: NewestWins[Path, Picture] = NewestWins(_small, self)
        self.jobs.answered.connect(lambda picture: self._show(picture.image))
        # A photograph that is gone or damaged is not shown; the record tells the rest.
        self.jobs.failed.connect(lambda _: self._show(QImage()))
        self.setAccessibleName(tr("photograph of what was painted"))

    def show_file(self, path: Path | None) -> None:
        """Show a photograph, or nothing."""
        if path is None:
            self.jobs.drop()
            self._show(QImage())
        else:
            self.jobs.ask(path)

    def _show(self, image: QImage) -> None:
        self._image = image
        if not image.isNull():
            size = image.size().scaled(_PHOTO, Qt.AspectRatioMode.KeepAspectRatio)
            smooth = Qt.TransformationMode.SmoothTransformation
            self._image = image.scaled(size, Qt.AspectRatioMode.KeepAspectRatio, smooth)
        self.setFixedSize(max(self._image.width(), 1), max(self._image.height(), 1))
        self.setVisible(not self._image.isNull())
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.drawImage(0, 0, self._image)
        painter.end()


def _small(path: Path, should_continue: Callable[[], bool]) -> Iterator[Picture]:
    yield read_picture(path, 2 * max(_PHOTO.width(), _PHOTO.height()))


class Trend(QWidget):
    """How far predictions were off, record by record."""

    def __init__(self) -> None:
        super().__init__()
        self._points: tuple[TrendPoint, ...] = ()
        self.setFixedHeight(130)
        self.setAccessibleName(tr("how far predictions were off, record by record, as dE"))

    def show_points(self, points: tuple[TrendPoint, ...]) -> None:
        """Show a trend."""
        self._points = points
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), grey(RAISED))
        if self._points:
            draw_trend(painter, QRectF(self.rect()), self._points)
        painter.end()


class RecordView(QWidget):
    """A record with what can be done with it."""

    again_wanted = Signal()
    count_wanted = Signal()
    remove_wanted = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.title = Label()
        self.title.setFont(font(CARD, bold=True))
        self.when, self.words, self.taught = Label(), Label(), Label()
        for label in (self.title, self.when, self.words, self.taught):
            label.setWordWrap(True)
        self.photo, self.rows = Photo(), SeenRows()
        self.again = QPushButton(tr("Paint this again"))
        self.again.setToolTip(tr("Open the plan as it was then"))
        self.count = QPushButton(tr("Do not learn from it"))
        self.remove = QPushButton(tr("Take it out"))
        self.remove.setToolTip(tr("Take the record out of the log"))
        self.again.clicked.connect(lambda _=False: self.again_wanted.emit())
        self.count.clicked.connect(lambda _=False: self.count_wanted.emit())
        self.remove.clicked.connect(lambda _=False: self.remove_wanted.emit())
        buttons = QHBoxLayout()
        for button in (self.again, self.count):
            buttons.addWidget(button)
        buttons.addStretch(1)
        buttons.addWidget(self.remove)
        self.field = QScrollArea()
        self.field.setWidget(self.rows)
        self.field.setWidgetResizable(True)
        self.field.setFrameShape(QFrame.Shape.NoFrame)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 8, 12, 4)
        column.setSpacing(8)
        for widget in (self.title, self.when, self.words):
            column.addWidget(widget)
        beside = QHBoxLayout()
        beside.setSpacing(14)
        beside.addWidget(self.field, 1)
        beside.addWidget(self.photo, 0, Qt.AlignmentFlag.AlignTop)
        column.addLayout(beside, 1)
        column.addWidget(self.taught)
        column.addLayout(buttons)

    def show_record(self, record: Record | None, photo: Path | None, weight: float | None) -> None:
        """Show a record; `weight` is how much it counted when paints and hand were learnt."""
        self.setVisible(record is not None)
        if record is None:
            self.rows.show_record(None)
            return
        self.title.setText(record.plan.title + (f": {record.step}" if record.step else ""))
        self.when.setText("  ·  ".join(_conditions(record)))
        self.words.setText(record.words)
        self.words.setVisible(bool(record.words))
        self.photo.show_file(photo)
        self.rows.show_record(record)
        self.count.setText(
            tr("Do not learn from it") if record.counts else tr("Learn from it again")
        )
        self.taught.setText(_taught(record, weight))


def _conditions(record: Record) -> list[str]:
    out = [record.when[:16].replace("T", ", ")]
    if record.minutes is not None:
        out.append(tr("{0:g} min").format(record.minutes))
    air = record.conditions
    if air.celsius is not None:
        out.append(f"{air.celsius:g} °C")
    if air.humidity is not None:
        out.append(tr("{0:.0f} % humidity").format(air.humidity * 100))
    out.append(tr("{0} hand").format(tr(record.plan.hand)))
    return out


def _taught(record: Record, weight: float | None) -> str:
    if not record.counts:
        return tr("Paints and hand do not learn from this record.")
    if not record.seen:
        return ""
    if weight is None:
        return tr("Nothing was learnt from it yet.")
    if weight < 0.45:
        return tr(
            "It counted little ({0:.2f} of 1): it is old, or does not fit with the others."
        ).format(weight)
    return tr("Paints and hand learn from it; it counted {0:.2f} of 1.").format(weight)
