"""Choosing a paint: typed words narrow the rack, each paint shows how it would come out."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

import numpy as np
from PySide6.QtCore import QEvent, QObject, QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QCursor, QKeyEvent, QPainter, QPen
from PySide6.QtWidgets import QLineEdit, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.drawnlist import DrawnList
from zesty_veil.desktop.kit.ribbons import screen_colour
from zesty_veil.desktop.kit.searchline import search_line
from zesty_veil.desktop.kit.spoken import announce
from zesty_veil.desktop.kit.theme import ON_STRONG, QUIET, RAISED, STRONG, TEXT, WELL, grey
from zesty_veil.desktop.kit.writing import RIGHT, write
from zesty_veil.light.cielab import lch, luminous
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import lab_of
from zesty_veil.light.value import value
from zesty_veil.paint.paint import Paint
from zesty_veil.predict.words import describe
from zesty_veil.tr import tr

_ROW, _HEAD = 30, 24
_PATCH = 34
_WIDE, _HIGH = 480, 420
_STEPS = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1, Qt.Key.Key_PageUp: -8, Qt.Key.Key_PageDown: 8}


class PaintPicker(QWidget):
    """A line to type in, and the paints by kind; the plan's own come first."""

    chosen = Signal(object)  # Paint
    looked_at = Signal(object)  # Paint, as the arrows pass over it

    def __init__(self) -> None:
        super().__init__()
        self._paints: tuple[Paint, ...] = ()
        self._used: frozenset[str] = frozenset()
        self._lately: tuple[str, ...] = ()
        self._words: dict[str, str] = {}  # what a paint is found by
        self.search: QLineEdit = search_line(
            tr("find a paint"), tr("Find a name, kind, pigment, colour")
        )
        self.search.textChanged.connect(lambda _: self._fill())
        self.search.installEventFilter(self)
        self.list = PaintRows()
        self.list.pressed_on.connect(self._take)
        self.list.picked.connect(self._looked)
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 8, 8, 8)
        column.addWidget(self.search)
        column.addWidget(self.list)
        self.setFixedSize(_WIDE, _HIGH)

    def show_paints(
        self, paints: tuple[Paint, ...], used: frozenset[str], colours: dict[str, Array],
        solid: dict[str, int], lately: tuple[str, ...] = (),
    ) -> None:  # fmt: skip
        """Offer paints: those taken lately and those in use first, then by kind.

        Each is shown in two colours (2, 3), with how many passes it takes till it is solid.
        """
        self._paints, self._used, self._lately = paints, used, lately
        self.list.colours, self.list.solid, self._words = colours, solid, {}
        self.search.clear()
        self._fill()
        self.search.setFocus()

    def show_colours(self, colours: dict[str, Array]) -> None:
        """Show other colours of the same paints."""
        self.list.colours, self._words = {**self.list.colours, **colours}, {}
        self.list.redraw()

    def show_ticks(self, ticked: Callable[[str], bool]) -> None:
        """Show before each paint whether it is ticked, which is told by its name."""
        self.list.ticked = ticked

    def shown(self) -> tuple[Paint, ...]:
        """Return the paints that the typed words leave."""
        return tuple(dict.fromkeys(row for row in self.list.rows if isinstance(row, Paint)))

    @property
    def paint(self) -> Paint | None:
        """The paint that Enter would choose."""
        found = self.list.rows[self.list.at] if self.list.at >= 0 else None
        return found if isinstance(found, Paint) else None

    def choose(self, name: str) -> None:
        """Choose a paint by its name, as a click on it does."""
        paint = next(p for p in self._paints if p.name == name)
        self.chosen.emit(paint)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Arrows and Enter in the line go through the list."""
        if watched is self.search and isinstance(event, QKeyEvent):
            if event.type() == QEvent.Type.KeyPress and Qt.Key(event.key()) in _STEPS:
                self._step(_STEPS[Qt.Key(event.key())])
                return True
            enter = event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)
            if event.type() == QEvent.Type.KeyPress and enter:
                if self.paint is not None:
                    self.chosen.emit(self.paint)
                return True
        return super().eventFilter(watched, event)

    def _fill(self) -> None:
        words = self.search.text()
        found = [p for p in self._paints if self._answers(p, words.casefold().split())]
        groups: dict[str, list[Paint]] = {}
        by_name = {paint.name: paint for paint in found}
        first = {
            tr("taken lately"): [by_name[name] for name in self._lately if name in by_name],
            tr("in this plan"): [paint for paint in found if paint.name in self._used],
        }
        for paint in found:
            groups.setdefault(tr(paint.kind), []).append(paint)
        rows: list[Paint | str] = []
        for name, paints in (*first.items(), *groups.items()):
            rows += [name, *paints] if paints else []
        self.list.show_rows(rows)
        if words.strip() and rows:
            self.list.take(1)

    def _answers(self, paint: Paint, words: list[str]) -> bool:
        """Tell whether a paint has all typed words: in name, kind, maker, pigments or colour."""
        if not words:
            return True
        if not self._words:
            self._words = _words_of(self._paints, self.list.colours)
        return all(word in self._words[paint.name] for word in words)

    def _step(self, rows: int) -> None:
        """Take the paint so many rows on in hand, past the names of groups."""
        paints = [r for r, row in enumerate(self.list.rows) if isinstance(row, Paint)]
        if not paints:
            return
        now = self.list.at
        at = paints.index(now) + rows if now in paints else (0 if rows > 0 else len(paints) - 1)
        self.list.take(paints[min(max(at, 0), len(paints) - 1)])

    def _take(self, at: int) -> None:
        row = self.list.rows[at]
        if isinstance(row, Paint):
            self.chosen.emit(row)

    def _looked(self, at: int) -> None:
        row = self.list.rows[at]
        if isinstance(row, Paint):
            announce(self.search, "  ·  ".join(self.list.said(row, at)))
            self.looked_at.emit(row)


def _words_of(paints: Sequence[Paint], colours: Mapping[str, Array]) -> dict[str, str]:
    """Return the words that paints are found by, their colours among them."""
    said = {}
    shown = [paint.name for paint in paints if paint.name in colours]
    if shown:
        labs = lab_of(np.array([colours[name][-1] for name in shown]))
        values = value(luminous(labs[:, 0]))
        told = zip(shown, lch(labs), values, strict=True)
        said = {name: describe(each, float(light)) for name, each, light in told}
    out = {}
    for paint in paints:
        of_it = [paint.name, paint.kind, tr(paint.kind), paint.maker, *paint.pigments]
        out[paint.name] = " ".join([*of_it, said.get(paint.name, "")]).casefold()
    return out


class PaintRows(DrawnList[Paint | str]):
    """Draws paints: two colours each, their names and pigments; and the names of groups.

    colours : by paint, (2, 3) encoded sRGB. solid : in how many passes each covers. ticked : tells
    whether one is ticked, where that is shown.
    """

    pressed_on = Signal(int)

    def __init__(self) -> None:
        super().__init__(tr("paints"))
        self.colours: Mapping[str, Array] = {}
        self.solid: Mapping[str, int] = {}
        self.ticked: Callable[[str], bool] | None = None
        self.setObjectName("")
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.clicked.connect(lambda index: self.pressed_on.emit(index.row()))

    def take(self, at: int) -> None:
        """Take a row in hand, and tell."""
        self.setCurrentIndex(self.model().index(at, 0))

    def said(self, row: Paint | str, at: int) -> tuple[str, str]:
        if isinstance(row, str):
            return row, ""
        return row.name, "  ·  ".join((tr(row.kind), *self._of(row)))

    def hint(self, row: Paint | str, at: int) -> str:
        return "" if isinstance(row, str) else "  ·  ".join(self.said(row, at))

    def _of(self, paint: Paint) -> list[str]:
        of_it = [", ".join(paint.pigments)] * bool(paint.pigments)
        solid = self.solid.get(paint.name)
        return [*of_it, *[tr("solid in {0}").format(solid)] * bool(solid)]

    def size_of(self, row: Paint | str, at: int) -> QSize:
        return QSize(_WIDE - 40, _HEAD if isinstance(row, str) else _ROW)

    def takes(self, row: Paint | str) -> bool:
        return isinstance(row, Paint)

    def draw(self, painter: QPainter, box: QRectF, row: Paint | str, at: int) -> None:
        if isinstance(row, str):
            write(painter, box.adjusted(6, 0, -6, 0), row, grey(QUIET), bold=True)
            return
        chosen, over = at == self.at, box.contains(QPointF(self._pointer()))
        painter.fillRect(box, grey(STRONG if chosen else WELL if over else RAISED))
        ink = grey(ON_STRONG if chosen else TEXT)
        if self.ticked is not None:
            tick = QRectF(box.x() + 8, box.center().y() - 8, 16, 16)
            painter.setPen(QPen(ink, 1.2))
            painter.drawRect(tick)
            if self.ticked(row.name):
                painter.setPen(QPen(ink, 2))
                points = ((3.5, 8.5), (6.5, 12), (12.5, 4.5))
                painter.drawPolyline([tick.topLeft() + QPointF(*point) for point in points])
            box.setLeft(tick.right() + 4)
        colours = self.colours.get(row.name)
        for i in range(2):
            patch = QRectF(box.x() + 6 + i * (_PATCH + 1), box.y() + 3, _PATCH, box.height() - 6)
            if colours is not None:
                painter.fillRect(patch, screen_colour(colours[i]))
        name = box.adjusted(6 + 2 * _PATCH + 10, 0, -6, 0)
        write(painter, name, row.name, ink)
        right = QRectF(box.right() - 216, box.y(), 210, box.height())
        said = "  ·  ".join(self._of(row))
        write(painter, right, said, grey(ON_STRONG if chosen else QUIET), RIGHT)

    def _pointer(self) -> QPoint:
        return self.viewport().mapFromGlobal(QCursor.pos())
