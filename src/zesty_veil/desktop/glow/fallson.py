"""What a light off the figure falls on: a menu of the passages, each on or off."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QMenu, QToolButton

from zesty_veil.desktop.kit.plain import name_control
from zesty_veil.tr import tr


class FallsOn(QToolButton):
    """Opens the menu; says which passage was chosen, to be taken in or left out."""

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setText(tr("Falls on"))
        name_control(self, tr("which passages the light falls on"))
        self.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self._menu = QMenu(self)
        self.setMenu(self._menu)

    def show_passages(self, names: Sequence[str], lit: Sequence[str]) -> None:
        """Show the passages of the plan, and which of them are lit."""
        self._menu.clear()
        for name in names:
            action = self._menu.addAction(name.replace("&", "&&"))
            action.setCheckable(True)
            action.setChecked(name in lit)
            # One at least stays lit, or there would be no light.
            action.setEnabled(list(lit) != [name])
            action.triggered.connect(lambda _, name=name: self.chosen.emit(name))
