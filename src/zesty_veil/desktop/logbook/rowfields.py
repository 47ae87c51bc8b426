"""The rows of a record being written: place, site, predicted beside painted, and the colour."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QLineEdit, QPushButton, QWidget

from zesty_veil.desktop.choice import Choice
from zesty_veil.desktop.glow.numbersrow import number
from zesty_veil.desktop.plain import Label
from zesty_veil.desktop.quiet import quiet
from zesty_veil.desktop.section.ribbons import colour
from zesty_veil.desktop.theme import PRESSED, QUIET, grey
from zesty_veil.light.picture import Point
from zesty_veil.light.srgb import srgb
from zesty_veil.log.record import How
from zesty_veil.paint.laydown import SITES, Site
from zesty_veil.plan.model import Plan

Lab = tuple[float, float, float]
_HEAD = ("", "passage", "from the light", "site", "predicted | painted", "colour")


@dataclass(frozen=True)
class Row:
    """One place whose colour is noted."""

    passage: int
    place: float
    site: Site
    coats: int
    lab: Lab | None = None
    how: How = "typed"
    point: Point | None = None


class RowFields(QWidget):
    """Shows rows and says what is to be otherwise; `changed` gives the row's number and the row."""

    chosen = Signal(int)
    changed = Signal(int, object)  # Row
    typed = Signal(int, str)

    def __init__(self) -> None:
        super().__init__()
        self._plan = Plan("")
        self._rows: list[Row] = []
        self._fields: list[tuple[QPushButton, Label, QLineEdit]] = []
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 4, 0)
        self._grid.setColumnStretch(1, 3)
        self._grid.setColumnStretch(5, 3)

    def show_plan(self, plan: Plan, rows: list[Row]) -> None:
        """Make fields for rows of a plan."""
        self._plan, self._rows, self._fields = plan, rows, []
        while self._grid.count():
            item = self._grid.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                # A field that goes while it is typed in still tells of it, of a row that is gone.
                widget.blockSignals(True)
                widget.hide()
                widget.deleteLater()
        for column, words in enumerate(_HEAD):
            label = Label(words)
            palette = label.palette()
            palette.setColor(palette.ColorRole.WindowText, grey(QUIET))
            label.setPalette(palette)
            self._grid.addWidget(label, 0, column)
        for i, row in enumerate(rows):
            self._add(i, row)
        self._grid.setRowStretch(len(rows) + 1, 1)

    def finish(self) -> None:
        """Take what is being typed as if the field was left."""
        for i, (_, _, typed) in enumerate(self._fields):
            if typed.hasFocus() and typed.isModified():
                typed.setModified(False)
                self.typed.emit(i, typed.text())

    def show_rows(self, rows: list[Row], in_hand: int, predicted: dict[int, Lab]) -> None:
        """Show which row is in hand, and the colours."""
        self._rows = rows
        for i, (row, (hand, swatch, typed)) in enumerate(zip(rows, self._fields, strict=True)):
            hand.setChecked(i == in_hand)
            swatch.setStyleSheet(_two(predicted.get(i), row.lab))
            if not typed.hasFocus():
                with quiet(typed):
                    words = "" if row.lab is None else " ".join(f"{v:.1f}" for v in row.lab)
                    typed.setText(words)

    def field(self, row: int) -> QLineEdit:
        """Return the field in which a row's colour is typed."""
        return self._fields[row][2]

    def _add(self, i: int, row: Row) -> None:
        passage = self._plan.passages[row.passage]
        hand = QPushButton(str(i + 1))
        hand.setCheckable(True)
        hand.setFixedWidth(34)
        hand.setAccessibleName(f"row {i + 1}, {passage.name}")
        hand.clicked.connect(lambda _=False: self.chosen.emit(i))
        name = Choice(f"passage of row {i + 1}")
        name.setMinimumWidth(130)
        for index, one in enumerate(self._plan.passages):
            name.addItem(one.name, index)
        name.setCurrentIndex(row.passage)
        name.activated.connect(lambda index: self._passage(i, index))
        what = f"millimetres from the light, row {i + 1}"
        place = number(what, 0, passage.length_mm, 0.5, " mm", 1)
        place.setValue(row.place * passage.length_mm)
        place.valueChanged.connect(lambda mm: self._place(i, mm / passage.length_mm))
        site = Choice(f"site of row {i + 1}")
        site.setMinimumWidth(86)
        for one_site in SITES:
            site.addItem(one_site, one_site)
        site.setCurrentIndex(site.findData(row.site))
        site.activated.connect(lambda _: self._site(i, site.currentData()))
        swatch = Label()
        swatch.setMinimumSize(96, 28)
        swatch.setAccessibleName("predicted, and painted")
        typed = QLineEdit()
        typed.setPlaceholderText("#rrggbb or L a b")
        typed.setAccessibleName(f"colour that came out, row {i + 1}")
        typed.editingFinished.connect(lambda: self.typed.emit(i, typed.text()))
        for column, widget in enumerate((hand, name, place, site, swatch, typed)):
            self._grid.addWidget(widget, i + 1, column)
        self._fields.append((hand, swatch, typed))

    def _passage(self, i: int, index: int) -> None:
        if index != self._rows[i].passage:
            coats = len(self._plan.passages[index].coats)
            self.changed.emit(i, replace(self._rows[i], passage=index, coats=coats))

    def _place(self, i: int, place: float) -> None:
        self.changed.emit(i, replace(self._rows[i], place=min(max(place, 0.0), 1.0)))

    def _site(self, i: int, site: Site) -> None:
        self.changed.emit(i, replace(self._rows[i], site=site))


def _two(predicted: Lab | None, painted: Lab | None) -> str:
    """Return a style that shows two colours side by side; what is not known stays grey."""
    left, right = (
        grey(PRESSED).name() if lab is None else colour(srgb(np.array(lab))[0]).name()
        for lab in (predicted, painted)
    )
    return (
        "background: qlineargradient(x1:0, y1:0, x2:1, y2:0, "
        f"stop:0 {left}, stop:0.499 {left}, stop:0.5 {right}, stop:1 {right});"
    )
