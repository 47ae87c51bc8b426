"""A few things of which one is chosen: buttons side by side."""

from __future__ import annotations

from collections.abc import Mapping

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QWidget


class Segments(QWidget):
    """Shows every choice; `chosen` tells the one that is pressed.

    Parameters
    ----------
    name
        What is chosen, for assistive technology.
    choices
        What stands on each button, by what it means.
    """

    chosen = Signal(object)

    def __init__(self, name: str, choices: Mapping[object, str]) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.buttons: dict[object, QPushButton] = {}
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self._group = QButtonGroup(self)
        self._group.setExclusive(True)
        for key, words in choices.items():
            button = QPushButton(words)
            button.setCheckable(True)
            button.setAccessibleName(f"{name}: {words}")
            button.clicked.connect(lambda _=False, k=key: self.chosen.emit(k))
            self._group.addButton(button)
            row.addWidget(button, 1)
            self.buttons[key] = button

    def show_choice(self, key: object) -> None:
        """Mark what is chosen."""
        button = self.buttons.get(key)
        if button is not None:
            button.setChecked(True)
