"""Choosing a paint: typed words narrow the rack, each paint shows how it would come out."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import (
    QEvent,
    QModelIndex,
    QObject,
    QPersistentModelIndex,
    QPointF,
    QRectF,
    QSize,
    Qt,
    Signal,
)  # fmt: skip
from PySide6.QtGui import QKeyEvent, QPainter, QPen, QStandardItem, QStandardItemModel
from PySide6.QtWidgets import (
    QLineEdit,
    QListView,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.kit.plain import tip
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
_PAINT, _COLOURS, _OF_IT = (Qt.ItemDataRole.UserRole + i for i in range(3))
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
        self._colours: dict[str, Array] = {}
        self._words: dict[str, str] = {}  # what a paint is found by
        self._solid: dict[str, int] = {}
        self._rows = _Rows()
        self.search: QLineEdit = search_line(
            tr("find a paint"), tr("Find a name, kind, pigment, colour")
        )
        self.search.textChanged.connect(lambda _: self._fill())
        self.search.installEventFilter(self)
        self.model = QStandardItemModel(self)
        self.list = QListView()
        self.list.setModel(self.model)
        self._rows.setParent(self.list)
        self.list.setItemDelegate(self._rows)
        self.list.setUniformItemSizes(False)
        self.list.setMouseTracking(True)
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.setAccessibleName(tr("paints"))
        self.list.clicked.connect(self._clicked)
        self.list.selectionModel().currentChanged.connect(self._looked)
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
        self._colours, self._solid, self._words = colours, solid, {}
        self.search.clear()
        self._fill()
        self.search.setFocus()

    def show_colours(self, colours: dict[str, Array]) -> None:
        """Show other colours of the same paints."""
        self._colours, self._words = {**self._colours, **colours}, {}
        for row in range(self.model.rowCount()):
            item = self.model.item(row)
            paint = item.data(_PAINT)
            if paint is not None:
                item.setData(self._colours.get(paint.name), _COLOURS)

    def show_ticks(self, ticked: Callable[[str], bool]) -> None:
        """Show before each paint whether it is ticked, which is told by its name."""
        self._rows.ticked = ticked

    def shown(self) -> tuple[Paint, ...]:
        """Return the paints that the typed words leave."""
        rows = (self.model.item(row).data(_PAINT) for row in range(self.model.rowCount()))
        return tuple(dict.fromkeys(paint for paint in rows if paint is not None))

    @property
    def paint(self) -> Paint | None:
        """The paint that Enter would choose."""
        found = self.list.currentIndex().data(_PAINT)
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
        self.model.clear()
        for name, paints in (*first.items(), *groups.items()):
            if not paints:
                continue
            head = QStandardItem(name)
            head.setFlags(Qt.ItemFlag.NoItemFlags)
            self.model.appendRow(head)
            for paint in paints:
                item = QStandardItem(paint.name)
                item.setData(paint, _PAINT)
                item.setData(self._colours.get(paint.name), _COLOURS)
                solid = self._solid.get(paint.name)
                of_it = [", ".join(paint.pigments)] * bool(paint.pigments)
                of_it += [tr("solid in {0}").format(solid)] * bool(solid)
                whole = "  ·  ".join([paint.name, tr(paint.kind), *of_it])
                item.setToolTip(tip(whole))
                item.setData(whole, Qt.ItemDataRole.AccessibleDescriptionRole)
                item.setData("  ·  ".join(of_it), _OF_IT)
                self.model.appendRow(item)
        if words.strip() and self.model.rowCount() > 1:
            self.list.setCurrentIndex(self.model.index(1, 0))

    def _answers(self, paint: Paint, words: list[str]) -> bool:
        """Tell whether a paint has all typed words: in name, kind, maker, pigments or colour."""
        if not words:
            return True
        if paint.name not in self._words:
            self._words[paint.name] = _words_of(paint, self._colours.get(paint.name))
        return all(word in self._words[paint.name] for word in words)

    def _step(self, rows: int) -> None:
        """Take the paint so many rows on in hand, past the names of groups."""
        paints = [r for r in range(self.model.rowCount()) if self.model.item(r).data(_PAINT)]
        if not paints:
            return
        now = self.list.currentIndex().row()
        at = paints.index(now) + rows if now in paints else (0 if rows > 0 else len(paints) - 1)
        row = paints[min(max(at, 0), len(paints) - 1)]
        self.list.setCurrentIndex(self.model.index(row, 0))

    def _clicked(self, index: QModelIndex) -> None:
        paint = index.data(_PAINT)
        if paint is not None:
            self.chosen.emit(paint)

    def _looked(self, now: QModelIndex, _: QModelIndex) -> None:
        paint = now.data(_PAINT)
        if paint is not None:
            announce(self.search, now.data(Qt.ItemDataRole.AccessibleDescriptionRole))
            self.looked_at.emit(paint)


def _words_of(paint: Paint, colours: Array | None) -> str:
    """Return the words that a paint is found by, its colour among them."""
    words = [paint.name, paint.kind, tr(paint.kind), paint.maker, *paint.pigments]
    if colours is not None:
        seen = lab_of(colours[-1])
        words.append(describe(lch(seen), float(value(luminous(seen[:1]))[0])))
    return " ".join(words).casefold()


class _Rows(QStyledItemDelegate):
    """Draws a paint: two colours, its name, its pigments; or the name of a group."""

    ticked: Callable[[str], bool] | None = None

    def sizeHint(
        self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> QSize:
        return QSize(_WIDE - 40, _HEAD if index.data(_PAINT) is None else _ROW)

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem,
        index: QModelIndex | QPersistentModelIndex,
    ) -> None:  # fmt: skip
        box = QRectF(option.rect)
        if index.data(_PAINT) is None:
            write(painter, box.adjusted(6, 0, -6, 0), str(index.data()), grey(QUIET), bold=True)
            return
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        over = bool(option.state & QStyle.StateFlag.State_MouseOver)
        painter.fillRect(box, grey(STRONG if chosen else WELL if over else RAISED))
        ink = grey(ON_STRONG if chosen else TEXT)
        if self.ticked is not None:
            tick = QRectF(box.x() + 8, box.center().y() - 8, 16, 16)
            painter.setPen(QPen(ink, 1.2))
            painter.drawRect(tick)
            if self.ticked(str(index.data())):
                painter.setPen(QPen(ink, 2))
                points = ((3.5, 8.5), (6.5, 12), (12.5, 4.5))
                painter.drawPolyline([tick.topLeft() + QPointF(*point) for point in points])
            box.setLeft(tick.right() + 4)
        colours = index.data(_COLOURS)
        for i in range(2):
            patch = QRectF(box.x() + 6 + i * (_PATCH + 1), box.y() + 3, _PATCH, box.height() - 6)
            if colours is not None:
                painter.fillRect(patch, screen_colour(colours[i]))
        name = box.adjusted(6 + 2 * _PATCH + 10, 0, -6, 0)
        write(painter, name, str(index.data()), ink)
        said = index.data(_OF_IT)
        right = QRectF(box.right() - 216, box.y(), 210, box.height())
        write(painter, right, str(said or ""), grey(ON_STRONG if chosen else QUIET), RIGHT)
