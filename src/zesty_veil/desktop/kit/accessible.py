"""Painted views as assistive technology meets them: lists of items with a value and an action.

A view that paints its items says what they are in `listed`; nothing is made of that until somebody
asks, so it costs nothing where no assistive technology runs.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, NamedTuple

from PySide6.QtCore import QObject, QRect, QRectF
from PySide6.QtGui import (
    QAccessible,
    QAccessibleActionInterface,
    QAccessibleInterface,
    QWindow,
)
from PySide6.QtWidgets import QAccessibleWidget, QWidget


class ListedItem(NamedTuple):
    """One painted item: what it is called, what is to be said of it, where it is, what it does."""

    name: str
    value: str
    box: QRectF
    chosen: bool
    act: Callable[[], object]


class _Action(QAccessibleActionInterface):
    """Takes an item in hand."""

    def __init__(self, item: _Item) -> None:
        super().__init__()
        self._item = item

    def actionNames(self) -> list[str]:
        return [QAccessibleActionInterface.pressAction()]

    def doAction(self, name: str) -> None:
        item = self._item.listed()
        if item is not None and name == QAccessibleActionInterface.pressAction():
            item.act()

    def keyBindingsForAction(self, name: str) -> list[str]:
        return []


class _Item(QAccessibleInterface):
    """An item by its place; what it is now is asked of its view each time."""

    def __init__(self, view: QWidget, number: int) -> None:
        super().__init__()
        self._view, self._number = view, number
        self._action = _Action(self)

    def listed(self) -> ListedItem | None:
        """Return the item as it is now; none if there are fewer by now."""
        items = self._view.listed()  # type: ignore[attr-defined]
        return items[self._number] if self._number < len(items) else None

    def isValid(self) -> bool:
        return self.listed() is not None

    def object(self) -> QObject | None:  # type: ignore[override]
        return None

    def window(self) -> QWindow | None:  # type: ignore[override]
        return None

    def childAt(self, x: int, y: int) -> QAccessibleInterface | None:  # type: ignore[override]
        return None

    def child(self, index: int) -> QAccessibleInterface | None:  # type: ignore[override]
        return None

    def childCount(self) -> int:
        return 0

    def indexOfChild(self, child: QAccessibleInterface) -> int:
        return -1

    def parent(self) -> QAccessibleInterface | None:  # type: ignore[override]
        return QAccessible.queryAccessibleInterface(self._view)

    def rect(self) -> QRect:
        item = self.listed()
        if item is None:
            return QRect()
        box = item.box.toRect()
        return QRect(self._view.mapToGlobal(box.topLeft()), box.size())

    def role(self) -> QAccessible.Role:
        return QAccessible.Role.ListItem

    def state(self) -> QAccessible.State:
        item, state = self.listed(), QAccessible.State()
        state.selectable = True
        state.selected = item is not None and item.chosen
        return state

    def text(self, kind: QAccessible.Text) -> str:
        item = self.listed()
        if item is None:
            return ""
        if kind == QAccessible.Text.Name:
            return item.name
        return item.value if kind == QAccessible.Text.Value else ""

    def setText(self, kind: QAccessible.Text, words: str) -> None:
        """Change nothing: items are changed where they stand."""

    def interface_cast(self, kind: QAccessible.InterfaceType) -> Any:
        return self._action if kind == QAccessible.InterfaceType.ActionInterface else None


class _List(QAccessibleWidget):
    """A painted view as a list of what it paints."""

    def __init__(self, view: QWidget) -> None:
        super().__init__(view, QAccessible.Role.List, view.accessibleName())
        self._view = view
        self._items: list[_Item] = []

    def childCount(self) -> int:
        return len(self._view.listed())  # type: ignore[attr-defined]

    def child(self, index: int) -> QAccessibleInterface | None:  # type: ignore[override]
        if not 0 <= index < self.childCount():
            return None
        while len(self._items) <= index:
            self._items.append(_Item(self._view, len(self._items)))
        return self._items[index]

    def indexOfChild(self, child: QAccessibleInterface) -> int:
        return self._items.index(child) if child in self._items else -1


def _made(name: str, thing: QObject) -> QAccessibleInterface | None:
    if isinstance(thing, QWidget) and hasattr(thing, "listed"):
        # The view keeps it, and so it is there as long as the view is.
        thing._accessible = _List(thing)  # type: ignore[attr-defined]
        return thing._accessible  # type: ignore[attr-defined]
    return None


_installed = False


def install() -> None:
    """Let painted views be met as lists from now on."""
    global _installed  # noqa: PLW0603 - Qt keeps one list of these for the process
    if not _installed:
        _installed = True
        QAccessible.installFactory(_made)
