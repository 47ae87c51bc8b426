"""A line to type in, in the style of the other controls."""

from __future__ import annotations

from PySide6.QtWidgets import QLineEdit

from zesty_veil.desktop.kit.plain import name_control

# A colour as #rrggbb must stand whole.
_LEAST = 92


class EntryLine(QLineEdit):
    """A line to type in; `name` is what assistive technology calls it."""

    def __init__(self, name: str = "", hint: str = "") -> None:
        super().__init__()
        self.setObjectName("field")
        self.setMinimumWidth(_LEAST)
        if name:
            name_control(self, name)
        if hint:
            self.setPlaceholderText(hint)
