"""The order in which Tab leads through controls: as they are seen, not as they were made."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QWidget


def tab_after(before: QWidget, roots: Sequence[QWidget]) -> None:
    """Let Tab lead from a control to those in some widgets, in the order that they have."""
    last = before
    for root in roots:
        for control in _controls(root):
            if control is not last:
                QWidget.setTabOrder(last, control)
                last = control


def tab_before(behind: QWidget, root: QWidget) -> None:
    """Let Tab lead through a widget just before it comes to a control."""
    inside = {root, *root.findChildren(QWidget)}
    at = behind.previousInFocusChain()
    while at is not None and at is not behind:
        if at not in inside and _takes_tab(at):
            tab_after(at, (root, behind))
            return
        at = at.previousInFocusChain()


def _takes_tab(widget: QWidget) -> bool:
    return bool(widget.focusPolicy() & Qt.FocusPolicy.TabFocus)


def _controls(root: QWidget) -> list[QWidget]:
    """Return what takes the keyboard in a widget, in the order of Tab."""
    inside = {root, *root.findChildren(QWidget)}
    found, at = [], root
    while True:
        if at in inside and _takes_tab(at):
            found.append(at)
        following = at.nextInFocusChain()
        if following is None or following is root:
            return found
        at = following
