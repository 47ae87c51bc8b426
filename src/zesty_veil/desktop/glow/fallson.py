"""Menus of the passages: what a light off the figure falls on, and what stands in its way."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QMenu, QToolButton

from zesty_veil.desktop.kit.plain import name_control
from zesty_veil.plan.glow import Surface
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


class ShadowOf(QToolButton):
    """Opens the menu; says which passage was chosen, or "" for none."""

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setText(tr("Shadow of"))
        self.setToolTip(
            tr("What stands between the light and the surface in view; drag its outline")
        )
        name_control(self, tr("what casts its shadow on the surface in view"))
        self.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self._menu = QMenu(self)
        self.setMenu(self._menu)

    def show_passages(self, names: Sequence[str], lit: Surface) -> None:
        """Show what could stand before a surface, and what does."""
        self._menu.clear()
        of = "" if lit.shadow is None else lit.shadow.of
        for name in ("", *(name for name in names if name != lit.passage)):
            action = self._menu.addAction(name.replace("&", "&&") or tr("nothing"))
            action.setCheckable(True)
            action.setChecked(name == of)
            action.triggered.connect(lambda _, name=name: self.chosen.emit(name))
        self.setVisible(len(names) > 1)
        self.setEnabled(not lit.inside)
