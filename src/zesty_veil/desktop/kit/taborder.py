"""The order in which Tab leads through controls: as they are seen, not as they were made.

Only layouts are walked. Asking a widget for the next one of its chain seems to tie the two in the
binding: once a button of it was deleted, actions of the menus were gone as well.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLayout, QWidget


def tab_after(before: QWidget, roots: Sequence[QWidget]) -> None:
    """Let Tab lead from a control to those in some widgets, in the order of their layouts."""
    last = before
    for root in roots:
        for control in _controls(root):
            if control is not last:
                QWidget.setTabOrder(last, control)
                last = control


def _controls(root: QWidget) -> Iterator[QWidget]:
    """Yield what takes the keyboard in a widget."""
    if root.focusPolicy() & Qt.FocusPolicy.TabFocus:
        yield root
    layout = root.layout()
    if layout is not None:
        yield from _laid_out(layout)


def _laid_out(layout: QLayout) -> Iterator[QWidget]:
    for place in range(layout.count()):
        item = layout.itemAt(place)
        if item is None:
            continue
        widget, inner = item.widget(), item.layout()
        if widget is not None:
            yield from _controls(widget)
        elif inner is not None:
            yield from _laid_out(inner)
