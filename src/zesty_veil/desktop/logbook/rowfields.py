"""The rows of a record being written: place, site, predicted beside painted, and the colour."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from PySide6.QtCore import Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QGridLayout, QLineEdit, QPushButton, QWidget

from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.entryline import EntryLine
from zesty_veil.desktop.kit.numbersrow import number
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.quiet import quiet
from zesty_veil.desktop.kit.ribbons import screen_colour
from zesty_veil.desktop.kit.theme import PRESSED, QUIET, grey
from zesty_veil.light.srgb import srgb
from zesty_veil.paint.laydown import SITES, Site
from zesty_veil.plan.model import Plan
from zesty_veil.services.recordforecast import Row, _Lab
from zesty_veil.tr import tr

_HEAD = ("", "passage", "from the light", "site", "predicted | painted", "colour")


class _Swatch(Label):
    """What is predicted beside what was painted; what is not known stays grey."""

    def __init__(self) -> None:
        super().__init__()
        self.setMinimumSize(96, 28)
        self.setAccessibleName(tr("predicted, and painted"))
        self._halves = (grey(PRESSED), grey(PRESSED))

    def show_colours(self, predicted: _Lab | None, painted: _Lab | None) -> None:
        """Show two colours."""
        halves = (_shown(predicted), _shown(painted))
        if halves != self._halves:
            self._halves = halves
            self.update()

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        half = self.width() // 2
        painter.fillRect(0, 0, half, self.height(), self._halves[0])
        painter.fillRect(half, 0, self.width() - half, self.height(), self._halves[1])
        painter.end()


class _Line:
    """The fields of one row, which stay as long as their row is of the same passage."""

    def __init__(self, fields: RowFields, i: int, row: Row, plan: Plan) -> None:
        self._for = _passages_of(plan, row)
        length = plan.passages[row.passage].length_mm
        self._length = length
        self.hand = QPushButton(str(i + 1))
        self.hand.setCheckable(True)
        self.hand.setFixedWidth(34)
        self.hand.setAccessibleName(
            tr("row {0}, {1}").format(i + 1, plan.passages[row.passage].name)
        )
        self.hand.clicked.connect(lambda _=False: fields.chosen.emit(i))
        name = Choice(tr("passage of row {0}").format(i + 1))
        name.setMinimumWidth(130)
        for index, one in enumerate(plan.passages):
            name.addItem(one.name, index)
        name.setCurrentIndex(row.passage)
        name.activated.connect(lambda index: fields.to_passage(i, index))
        what = tr("millimetres from the light, row {0}").format(i + 1)
        self._place = number(what, 0, length, 0.5, tr(" mm"), 1)
        self._place.setValue(row.place * length)
        self._place.valueChanged.connect(lambda mm: fields.to_place(i, mm / length))
        self._site = site = Choice(tr("site of row {0}").format(i + 1))
        site.setMinimumWidth(86)
        for one_site in SITES:
            site.addItem(tr(one_site), one_site)
        site.setCurrentIndex(site.findData(row.site))
        site.activated.connect(lambda _: fields.to_site(i, site.currentData()))
        self.swatch = _Swatch()
        self.typed = EntryLine()
        self.typed.setPlaceholderText(tr("#rrggbb, L a b or a word"))
        self.typed.setAccessibleName(tr("colour that came out, row {0}").format(i + 1))
        self.typed.editingFinished.connect(lambda: fields.typed.emit(i, self.typed.text()))
        self.widgets: tuple[QWidget, ...] = (
            self.hand, name, self._place, site, self.swatch, self.typed
        )  # fmt: skip

    def fits(self, plan: Plan, row: Row) -> bool:
        """Tell whether these fields can show a row: making others takes far longer."""
        return self._for == _passages_of(plan, row)

    def show(self, row: Row) -> None:
        """Show where a row lies."""
        with quiet(self._place, self._site):
            self._place.setValue(row.place * self._length)
            self._site.setCurrentIndex(self._site.findData(row.site))


def _passages_of(plan: Plan, row: Row) -> tuple[object, ...]:
    lengths = [(one.name, one.length_mm) for one in plan.passages]
    return (row.passage, *lengths)


class RowFields(QWidget):
    """Shows rows and says what is to be otherwise; `changed` gives the row's number and the row."""

    chosen = Signal(int)
    changed = Signal(int, object)  # Row
    typed = Signal(int, str)

    def __init__(self) -> None:
        super().__init__()
        self._plan = Plan("")
        self._rows: list[Row] = []
        self._lines: list[_Line] = []
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 4, 0)
        self._grid.setColumnStretch(1, 3)
        self._grid.setColumnStretch(5, 3)
        for column, words in enumerate(_HEAD):
            label = Label(tr(words))
            palette = label.palette()
            palette.setColor(palette.ColorRole.WindowText, grey(QUIET))
            label.setPalette(palette)
            self._grid.addWidget(label, 0, column)

    def show_plan(self, plan: Plan, rows: list[Row]) -> None:
        """Make fields for rows of a plan."""
        self._plan, self._rows = plan, list(rows)
        self._grid.setRowStretch(len(self._lines) + 1, 0)
        for i, row in enumerate(rows):
            if i < len(self._lines) and self._lines[i].fits(plan, row):
                self._lines[i].show(row)
                continue
            line = _Line(self, i, row, plan)
            self._drop(self._lines[i : i + 1])
            self._lines[i : i + 1] = [line]
            for column, widget in enumerate(line.widgets):
                self._grid.addWidget(widget, i + 1, column)
        self._drop(self._lines[len(rows) :])
        del self._lines[len(rows) :]
        self._grid.setRowStretch(len(rows) + 1, 1)

    def finish(self) -> None:
        """Take what is being typed as if the field was left."""
        for i, line in enumerate(self._lines):
            if line.typed.hasFocus() and line.typed.isModified():
                line.typed.setModified(False)
                self.typed.emit(i, line.typed.text())

    def show_rows(self, rows: list[Row], in_hand: int, predicted: dict[int, _Lab]) -> None:
        """Show which row is in hand, and the colours."""
        self._rows = rows
        for i, (row, line) in enumerate(zip(rows, self._lines, strict=True)):
            line.hand.setChecked(i == in_hand)
            line.swatch.show_colours(predicted.get(i), row.lab)
            words = row.called
            if row.lab is not None and not words:
                words = " ".join(f"{v:.1f}" for v in row.lab)
            if not line.typed.hasFocus() and line.typed.text() != words:
                with quiet(line.typed):
                    line.typed.setText(words)

    def field(self, row: int) -> QLineEdit:
        """Return the field in which a row's colour is typed."""
        return self._lines[row].typed

    def to_passage(self, i: int, index: int) -> None:
        """Ask for a row in another passage."""
        if index != self._rows[i].passage:
            coats = len(self._plan.passages[index].coats)
            self.changed.emit(i, replace(self._rows[i], passage=index, coats=coats))

    def to_place(self, i: int, place: float) -> None:
        """Ask for a row at another place on the axis."""
        self.changed.emit(i, replace(self._rows[i], place=min(max(place, 0.0), 1.0)))

    def to_site(self, i: int, site: Site) -> None:
        """Ask for a row on another site."""
        self.changed.emit(i, replace(self._rows[i], site=site))

    def _drop(self, lines: list[_Line]) -> None:
        for widget in (widget for line in lines for widget in line.widgets):
            # A field that goes while it is typed in still tells of it, of a row that is gone.
            self._grid.removeWidget(widget)
            widget.blockSignals(True)
            widget.hide()
            widget.deleteLater()


def _shown(lab: _Lab | None) -> QColor:
    return grey(PRESSED) if lab is None else screen_colour(srgb(np.array(lab))[0])
