"""Writing down what was painted: colours of some places beside what was predicted there."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
from PySide6.QtCore import Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import (
    QFileDialog,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPlainTextEdit,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.choice import Choice
from zesty_veil.desktop.glow.numbersrow import number
from zesty_veil.desktop.keeping import Keeping
from zesty_veil.desktop.logbook.pickview import PickView
from zesty_veil.desktop.photos import FILTER, read_image, thumbnail
from zesty_veil.desktop.quiet import quiet
from zesty_veil.desktop.section.ribbons import colour
from zesty_veil.errors import VeilError
from zesty_veil.light.picture import Point
from zesty_veil.light.srgb import srgb
from zesty_veil.log.colourwords import colour_of
from zesty_veil.log.judge import predicted_at
from zesty_veil.log.record import Conditions, How, Record, Seen
from zesty_veil.paint.laydown import SITES
from zesty_veil.plan.model import Plan

_START = (
    "Give the colour that came out at each place: from a photograph (Shift + click on something "
    "white in it, then click the place of the row in hand), or typed. Rows without are left out."
)


@dataclass
class Row:
    """One place whose colour is noted."""

    passage: int
    place: float
    site: str
    coats: int
    lab: tuple[float, float, float] | None = None
    how: How = "typed"
    point: Point | None = None


class EntryView(QWidget):
    """Makes a record of the open plan; `done` tells its number, or 0 for none."""

    done = Signal(int)

    def __init__(
        self, keeping: Keeping, now: Callable[[], datetime] = lambda: datetime.now(UTC)
    ) -> None:
        super().__init__()
        self._keeping, self._now = keeping, now
        self._plan = Plan("")
        self._path: Path | None = None
        self._image: QImage | None = None
        self.rows: list[Row] = []
        self._row = 0
        self.picture = PickView()
        self.picture.picked.connect(self._picked)
        self.picture.white_picked.connect(self._white)
        self._fields: list[tuple[QLabel, QLineEdit]] = []
        self._lay_out()

    def begin(self, plan: Plan, passage: int, place: float) -> None:
        """Note what came out of a plan, beginning with the place that is read."""
        self._plan, self._path, self._image, self._row = plan, None, None, 0
        self.rows = []
        order = [passage, *(i for i in range(len(plan.passages)) if i != passage)]
        for index in order:
            if 0 <= index < len(plan.passages) and plan.passages[index].coats:
                at = place if index == passage else 0.5
                self.rows.append(Row(index, at, "flat", len(plan.passages[index].coats)))
        self.picture.show_image(None)
        self.picture.setVisible(False)
        self.title.setText(f"What came out of “{plan.title}”")
        for line in (self.step, self.minutes_text):
            line.clear()
        self.notes.clear()
        self.say(_START)
        self._show_rows()

    def open_photograph(self, path: Path) -> None:
        """Take a photograph; say what is wrong with it otherwise."""
        try:
            self._image = read_image(path)
        except VeilError as error:
            self.say(str(error))
            return
        self._path = path
        for row in self.rows:
            row.point = None
        self.picture.show_image(self._image)
        self.picture.setVisible(True)
        self.say(
            "Shift + click on something white in it (paint, primer, paper), then click places."
        )

    def add_row(self) -> None:
        """Note one place more, of the passage of the row in hand."""
        passage = self.rows[self._row].passage if self.rows else 0
        if passage < len(self._plan.passages):
            coats = len(self._plan.passages[passage].coats)
            self.rows.append(Row(passage, 0.5, "flat", coats))
            self._row = len(self.rows) - 1
            self._show_rows()

    def take(self, row: int) -> None:
        """Take a row in hand."""
        self._row = row
        self._show_marks()

    def write(self, row: int, words: str) -> None:
        """Take what was typed as the colour of a row; nothing forgets it."""
        try:
            lab = colour_of(words) if words.strip() else None
        except VeilError as error:
            self.say(str(error))
            return
        if lab != self.rows[row].lab:
            self.rows[row] = replace(self.rows[row], lab=lab, how="typed")
        self._show_marks()

    def keep(self) -> None:
        """Write the record into the log."""
        try:
            record = self.record()
            raw = self._path.read_bytes() if self._path is not None else None
        except VeilError as error:
            self.say(str(error))
            return
        except OSError as error:
            self.say(f"The photograph cannot be read: {(error.strerror or '').lower()}.")
            return
        if not record.seen and not record.words and raw is None:
            self.say("Nothing is noted yet: give a colour, a photograph or some words.")
            return
        photo = (self._path.suffix, raw) if self._path is not None and raw is not None else None
        small = thumbnail(self._image) if self._image is not None else None
        numbers: list[int] = []
        try:
            kept = self._keeping.do(
                lambda: numbers.append(self._keeping.book.add(record, photo, small))
            )
        except VeilError as error:
            self.say(str(error))
            return
        if kept:
            self._keeping.learn()
            self.done.emit(numbers[0])

    def record(self) -> Record:
        """Return the record as it stands; raises InputError."""
        seen = []
        for row in self.rows:
            if row.lab is None:
                continue
            passage = self._plan.passages[row.passage]
            L, a, b = self._predicted(row)
            seen.append(
                Seen(passage.name, row.place, row.site, row.coats, row.lab, (L, a, b), row.how)  # type: ignore[arg-type]
            )
        minutes = self.minutes_text.text().strip().replace(",", ".")
        try:
            taken = float(minutes) if minutes else None
        except ValueError:
            taken = -1.0  # refused with a sentence when it is written
        return Record(
            self._now().isoformat(timespec="seconds"),
            self._plan,
            " ".join(self.step.text().split()),
            tuple(seen),
            self.notes.toPlainText().strip(),
            taken,
            Conditions(
                self.celsius.value() or None,
                self.humidity.value() / 100 if self.humidity.value() else None,
            ),
        )

    def say(self, words: str) -> None:
        """Say a sentence above the rows."""
        self.words.setText(words)

    def _predicted(self, row: Row) -> tuple[float, float, float]:
        name = self._plan.passages[row.passage].name
        L, a, b = predicted_at(self._plan, name, row.place, row.site, row.coats)  # type: ignore[arg-type]
        return float(L), float(a), float(b)

    def _picked(self, point: Point) -> None:
        if not self.rows:
            return
        if self.picture.white is None:
            self.say("Say first what is white in the photograph: Shift + click on it.")
            return
        self._read(self._row, point)
        # The next row without a colour comes into hand.
        after = [i for i in range(len(self.rows)) if self.rows[i].lab is None]
        self._row = next((i for i in after if i > self._row), self._row)
        self._show_marks()

    def _read(self, row: int, point: Point) -> None:
        try:
            lab = self.picture.colour(point)
        except VeilError as error:
            self.say(str(error))
            return
        self.rows[row] = replace(self.rows[row], lab=lab, how="photograph", point=point)

    def _white(self) -> None:
        for i, row in enumerate(self.rows):
            if row.point is not None:
                self._read(i, row.point)
        self.say("White is known. Click the place of the row in hand.")
        self._show_marks()

    def _show_rows(self) -> None:
        while self.grid.count():
            item = self.grid.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.deleteLater()
        self._fields = []
        for i, row in enumerate(self.rows):
            self._add_fields(i, row)
        self.grid.setRowStretch(len(self.rows), 1)
        self._show_marks()

    def _add_fields(self, i: int, row: Row) -> None:
        passage = self._plan.passages[row.passage]
        hand = QPushButton(str(i + 1))
        hand.setCheckable(True)
        hand.setFixedWidth(34)
        hand.setAccessibleName(f"row {i + 1}, {passage.name}")
        hand.clicked.connect(lambda _=False: self.take(i))
        name = Choice(f"passage of row {i + 1}")
        for index, one in enumerate(self._plan.passages):
            name.addItem(one.name, index)
        name.setCurrentIndex(row.passage)
        name.activated.connect(lambda index: self._place(i, passage=index))
        place = number(
            f"millimetres from the light, row {i + 1}", 0, passage.length_mm, 0.5, " mm", 1
        )
        place.setValue(row.place * passage.length_mm)
        place.valueChanged.connect(lambda mm: self._place(i, mm=mm))
        site = Choice(f"site of row {i + 1}")
        for one_site in SITES:
            site.addItem(one_site, one_site)
        site.setCurrentIndex(site.findData(row.site))
        site.activated.connect(lambda _: self._place(i, site=site.currentData()))
        swatch = QLabel()
        swatch.setFixedSize(76, 28)
        swatch.setAccessibleName("predicted, and painted")
        typed = QLineEdit()
        typed.setPlaceholderText("#rrggbb or L a b")
        typed.setAccessibleName(f"colour that came out, row {i + 1}")
        typed.editingFinished.connect(lambda: self.write(i, typed.text()))
        for column, widget in enumerate((hand, name, place, site, swatch, typed)):
            self.grid.addWidget(widget, i, column)
        self._fields.append((swatch, typed))

    def _place(
        self, i: int, passage: int | None = None, mm: float | None = None, site: str | None = None
    ) -> None:
        row = self.rows[i]
        if passage is not None and passage != row.passage:
            coats = len(self._plan.passages[passage].coats)
            self.rows[i] = replace(row, passage=passage, coats=coats)
            self._show_rows()
            return
        if mm is not None:
            length = self._plan.passages[row.passage].length_mm
            row = replace(row, place=min(max(mm / length, 0.0), 1.0))
        if site is not None:
            row = replace(row, site=site)
        self.rows[i] = row
        self._show_marks()

    def _show_marks(self) -> None:
        """Show which row is in hand, and what is predicted and noted."""
        for i, (row, (swatch, typed)) in enumerate(zip(self.rows, self._fields, strict=True)):
            item = self.grid.itemAtPosition(i, 0)
            button = item.widget() if item is not None else None
            if isinstance(button, QPushButton):
                button.setChecked(i == self._row)
            predicted = colour(srgb(np.array(self._predicted(row)))[0]).name()
            noted = colour(srgb(np.array(row.lab))[0]).name() if row.lab is not None else predicted
            stop = "stop:0.499" if row.lab is not None else "stop:0.999"
            swatch.setStyleSheet(
                "background: qlineargradient(x1:0, y1:0, x2:1, y2:0, "
                f"stop:0 {predicted}, {stop} {predicted}, stop:0.5 {noted}, stop:1 {noted});"
            )
            if not typed.hasFocus():
                with quiet(typed):
                    text = "" if row.lab is None else " ".join(f"{v:.1f}" for v in row.lab)
                    typed.setText(text)
        points = {i: row.point for i, row in enumerate(self.rows) if row.point is not None}
        self.picture.show_points(points, self._row)

    def _choose_photo(self) -> None:
        home = str(Path.home())
        name, _ = QFileDialog.getOpenFileName(self, "What was painted", home, FILTER)
        if name:
            self.open_photograph(Path(name))

    def _lay_out(self) -> None:
        self.title, self.words = QLabel(), QLabel()
        self.words.setWordWrap(True)
        self.photo = QPushButton("Photograph …")
        self.photo.clicked.connect(lambda _=False: self._choose_photo())
        self.more = QPushButton("One place more")
        self.more.clicked.connect(lambda _=False: self.add_row())
        self.accept = QPushButton("Write it down")
        self.accept.clicked.connect(lambda _=False: self.keep())
        self.leave = QPushButton("Leave")
        self.leave.clicked.connect(lambda _=False: self.done.emit(0))
        self.step, self.minutes_text = QLineEdit(), QLineEdit()
        self.step.setPlaceholderText("what of it: all, or which step")
        self.step.setAccessibleName("what of the plan was painted")
        self.step.setMaxLength(120)
        self.minutes_text.setPlaceholderText("minutes")
        self.minutes_text.setAccessibleName("minutes it took")
        self.minutes_text.setFixedWidth(84)
        self.celsius = number("degrees at the bench; 0 for not noted", 0, 45, 1, " °C", 0)
        self.humidity = number("relative humidity; 0 for not noted", 0, 100, 5, " %", 0)
        for box in (self.celsius, self.humidity):
            box.setSpecialValueText("not noted")
        self.notes = QPlainTextEdit()
        self.notes.setPlaceholderText("A few words")
        self.notes.setAccessibleName("a few words on it")
        self.notes.setFixedHeight(58)
        self.notes.setTabChangesFocus(True)
        head, said = QHBoxLayout(), QHBoxLayout()
        head.addWidget(self.title, 1)
        head.addWidget(self.accept)
        head.addWidget(self.leave)
        said.addWidget(self.photo)
        said.addWidget(self.more)
        said.addWidget(self.step, 1)
        for words, widget in (
            ("took", self.minutes_text),
            ("air", self.celsius),
            ("", self.humidity),
        ):
            if words:
                said.addWidget(QLabel(words))
            said.addWidget(widget)
        inner = QWidget()
        self.grid = QGridLayout(inner)
        self.grid.setContentsMargins(0, 0, 0, 0)
        self.grid.setColumnStretch(1, 2)
        self.grid.setColumnStretch(5, 2)
        scroll = QScrollArea()
        scroll.setWidget(inner)
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        body = QHBoxLayout()
        body.setSpacing(14)
        right = QVBoxLayout()
        right.addWidget(scroll, 1)
        right.addWidget(self.notes)
        body.addWidget(self.picture, 1)
        body.addLayout(right, 1)
        page = QVBoxLayout(self)
        page.setContentsMargins(12, 8, 12, 4)
        page.setSpacing(8)
        page.addLayout(head)
        page.addLayout(said)
        page.addWidget(self.words)
        page.addLayout(body, 1)
