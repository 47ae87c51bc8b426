"""Words on screen as they are: never read as markup, and never as the mark of a key.

Names come from files. Qt draws a text that looks like HTML as HTML, opens the pictures that it
names, and takes a letter after & for a shortcut.
"""

from __future__ import annotations

from html import escape

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QWidget


class Label(QLabel):
    """A label that shows its words letter by letter."""

    def __init__(self, words: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(words)


def name_control(control: QWidget, words: str) -> None:
    """Call a control something: for assistive technology, and at the pointer."""
    control.setAccessibleName(words)
    control.setToolTip(tip(words[:1].upper() + words[1:]))


def tip(words: str) -> str:
    """Return words for a tooltip, which has no way to be told that they are plain."""
    return f"<qt>{escape(words)}</qt>" if "<" in words or "&" in words else words


def entry(words: str) -> str:
    """Return words for a menu entry or a button, in which & marks a key."""
    return words.replace("&", "&&")
