"""A list whose rows are drawn here; keyboard, scrolling, choice and assistive technology are Qt's.

Qt's own model, view and delegate stand below it, so that a reader meets a list with its items, of
which one is current, however many there are.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Generic, TypeVar

from PySide6.QtCore import (
    QAbstractListModel,
    QItemSelection,
    QModelIndex,
    QPersistentModelIndex,
    QRectF,
    QSize,
    Qt,
    Signal,
)
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QFrame,
    QListView,
    QStyledItemDelegate,
    QStyleOptionViewItem,
)

from zesty_veil.desktop.kit.plain import tip

_Row = TypeVar("_Row")
_Index = QModelIndex | QPersistentModelIndex
_KEY = Qt.Key
_ALONG = (_KEY.Key_Up, _KEY.Key_Down, _KEY.Key_PageUp, _KEY.Key_PageDown)
_ACROSS = (_KEY.Key_Left, _KEY.Key_Right)
_NAMES = (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole)
_USUAL = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemNeverHasChildren
_SAID = Qt.ItemDataRole.AccessibleDescriptionRole


class DrawnList(QListView, Generic[_Row]):
    """Rows one below the other, of which one is in hand; whoever draws them makes a class of it.

    `picked` is sent when somebody takes another row in hand, by key, press or reader; `opened` on
    Enter and on a double press.
    """

    picked = Signal(int)
    opened = Signal(int)

    def __init__(self, name: str) -> None:
        super().__init__()
        self._model: _Rows[_Row] = _Rows(self)
        self._quiet = False
        self.setModel(self._model)
        self.setItemDelegate(_Drawing(self))
        self.setObjectName("cards")
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setAccessibleName(name)

    # What a class of it says of its rows.

    def said(self, row: _Row, at: int) -> tuple[str, str]:
        """Return what a row is called, and what is to be said of it."""
        raise NotImplementedError

    def size_of(self, row: _Row, at: int) -> QSize:
        """Return how large a row is."""
        raise NotImplementedError

    def draw(self, painter: QPainter, box: QRectF, row: _Row, at: int) -> None:
        """Draw a row."""
        raise NotImplementedError

    def hint(self, row: _Row, at: int) -> str:
        """Return what is told at the pointer; nothing for what the list as a whole tells."""
        return ""

    def takes(self, row: _Row) -> bool:
        """Tell whether a row can be taken in hand: heads cannot."""
        return True

    def ground(self) -> QColor | None:
        """Return the grey below all rows; none for that of the page."""
        return None

    # What whoever shows it uses.

    @property
    def rows(self) -> Sequence[_Row]:
        """What is listed."""
        return self._model.rows

    @property
    def at(self) -> int:
        """The number of the row in hand; -1 for none."""
        return self.currentIndex().row()

    def show_rows(self, rows: Sequence[_Row], at: int = -1) -> None:
        """List other rows, with one of them in hand."""
        self._quiet = True
        self._model.show_rows(rows)
        self._quiet = False
        self.hold(at)

    def hold(self, at: int) -> None:
        """Take a row in hand, without telling."""
        self._quiet = True
        self.setCurrentIndex(self._model.index(at) if at >= 0 else QModelIndex())
        self._quiet = False
        self.viewport().update()

    def redraw(self) -> None:
        """Draw and say what is known of the rows anew: they are the same, but not what they are."""
        self._model.tell_changed()

    def box(self, at: int) -> QRectF:
        """Return where a row stands in the viewport; empty if there is none."""
        return QRectF(self.visualRect(self._model.index(at)))

    # What Qt asks.

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Move and open; letters and the rest are keys of the page."""
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.at >= 0:
            self._open(self.at)
            event.accept()
        elif key in (Qt.Key.Key_Home, Qt.Key.Key_End):
            self._go_to_end(first=key == Qt.Key.Key_Home)
            event.accept()
        elif key in _ALONG or (self.isWrapping() and key in _ACROSS):
            super().keyPressEvent(event)
        else:
            event.ignore()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        at = self.indexAt(event.position().toPoint()).row()
        if at >= 0 and event.button() == Qt.MouseButton.LeftButton:
            self._open(at)

    def _go_to_end(self, first: bool) -> None:
        """Take the first row in hand, or the last: rows side by side have no ends for Qt."""
        every = range(len(self.rows)) if first else range(len(self.rows) - 1, -1, -1)
        at = next((at for at in every if self.takes(self.rows[at])), None)
        if at is not None:
            self.setCurrentIndex(self._model.index(at))

    def _open(self, at: int) -> None:
        if self.takes(self.rows[at]):
            self.opened.emit(at)

    def currentChanged(self, now: _Index, before: _Index) -> None:
        super().currentChanged(now, before)
        if not self._quiet and now.isValid() and self.takes(self._model.rows[now.row()]):
            self.picked.emit(now.row())

    def selectionChanged(self, chosen: QItemSelection, before: QItemSelection) -> None:
        """Let what a reader selects be in hand."""
        super().selectionChanged(chosen, before)
        some = chosen.indexes()
        if some and some[0] != self.currentIndex():
            self.setCurrentIndex(some[0])

    def paintEvent(self, event: QPaintEvent) -> None:
        colour = self.ground()
        if colour is not None:
            painter = QPainter(self.viewport())
            painter.fillRect(event.rect(), colour)
            painter.end()
        super().paintEvent(event)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if event.size().width() != event.oldSize().width():
            self.scheduleDelayedItemsLayout()  # rows are as wide as there is room


class _Rows(QAbstractListModel, Generic[_Row]):
    """The rows of a drawn list, as it calls them."""

    def __init__(self, view: DrawnList[_Row]) -> None:
        super().__init__(view)
        self._view = view
        self.rows: Sequence[_Row] = ()

    def show_rows(self, rows: Sequence[_Row]) -> None:
        self.beginResetModel()
        self.rows = rows
        self.endResetModel()

    def tell_changed(self) -> None:
        if self.rows:
            self.dataChanged.emit(self.index(0), self.index(len(self.rows) - 1))

    def rowCount(self, parent: _Index = QModelIndex()) -> int:  # noqa: B008 - as Qt has it
        return 0 if parent.isValid() else len(self.rows)

    def data(self, index: _Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role in _NAMES:
            return self._view.said(self.rows[index.row()], index.row())[0]
        if role == Qt.ItemDataRole.ToolTipRole:
            return tip(self._view.hint(self.rows[index.row()], index.row())) or None
        if role == _SAID:
            return self._view.said(self.rows[index.row()], index.row())[1]
        return None

    def flags(self, index: _Index) -> Qt.ItemFlag:
        if index.isValid() and self._view.takes(self.rows[index.row()]):
            return _USUAL
        return Qt.ItemFlag.ItemNeverHasChildren


class _Drawing(QStyledItemDelegate):
    """Hands size and drawing of a row to the list."""

    def __init__(self, view: DrawnList[Any]) -> None:
        super().__init__(view)
        self._view = view

    def sizeHint(self, option: QStyleOptionViewItem, index: _Index) -> QSize:
        return self._view.size_of(self._view.rows[index.row()], index.row())

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: _Index) -> None:
        painter.save()
        rows = self._view.rows
        self._view.draw(painter, QRectF(option.rect), rows[index.row()], index.row())
        painter.restore()
