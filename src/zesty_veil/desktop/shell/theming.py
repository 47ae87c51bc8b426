"""Wearing the theme that was chosen, or that of the desktop."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication

from zesty_veil.desktop.kit.theme import ThemeName, theme, wear
from zesty_veil.desktop.session.preferences import ThemeChoice


def theme_of(choice: ThemeChoice) -> ThemeName:
    """Return the theme that a choice comes to now."""
    if choice != "follow":
        return choice
    dark = QApplication.styleHints().colorScheme() == Qt.ColorScheme.Dark
    return "night" if dark else "day"


def wear_choice(choice: ThemeChoice) -> None:
    """Put the application into the theme of a choice, unless it wears it already."""
    app = QApplication.instance()
    wanted = theme_of(choice)
    if isinstance(app, QApplication) and wanted != theme():
        wear(app, wanted)
