"""A line to search with: what it finds in, and a button that clears it."""

from __future__ import annotations

from PySide6.QtWidgets import QLineEdit, QToolButton

from zesty_veil.desktop.kit.entryline import EntryLine
from zesty_veil.tr import tr


def search_line(name: str, hint: str) -> QLineEdit:
    """Return a line for words to find, named for assistive technology, its button too."""
    line = EntryLine(name, hint)
    line.setClearButtonEnabled(True)
    for button in line.findChildren(QToolButton):
        button.setAccessibleName(tr("clear: {0}").format(name))
    return line
