"""The keys of what is open, laid over it; any key or press takes them away again."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QFrame, QGridLayout, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.command import Command
from zesty_veil.desktop.kit.panel import heading, quiet_words
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.theme import TITLE, font
from zesty_veil.tr import tr

_ROWS = 18


class KeySheet(QFrame):
    """Lists commands with their keys."""

    def __init__(self, parent: QWidget, title: str, commands: Sequence[Command]) -> None:
        super().__init__(parent)
        self._over = parent
        self.setObjectName("popover")
        self.setAccessibleName(title)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 16, 24, 16)
        column.addWidget(heading(title, TITLE))
        grid = QGridLayout()
        grid.setHorizontalSpacing(16)
        grid.setVerticalSpacing(5)
        shown = [command for command in commands if command.keys or command.held]
        rows = max(min(_ROWS, len(shown)), -(-len(shown) // 3))
        for i, command in enumerate(shown):
            across, down = divmod(i, rows)
            keys = Label(tr(command.key_words))
            keys.setFont(font(bold=True))
            grid.addWidget(keys, down, 3 * across, Qt.AlignmentFlag.AlignRight)
            grid.addWidget(Label(tr(command.words)), down, 3 * across + 1)
            grid.setColumnMinimumWidth(3 * across + 2, 16)
        column.addLayout(grid)
        column.addWidget(quiet_words(tr("Any key closes this.  F1 opens the help.")))

    def open_over(self, field: QWidget) -> None:
        """Stand in the middle of a widget, and take the keyboard."""
        self.adjustSize()
        room = self._over.rect()
        at = field.mapTo(self._over, field.rect().center()) - self.rect().center()
        self.move(
            min(max(at.x(), 4), max(room.width() - self.width() - 4, 4)),
            min(max(at.y(), 4), max(room.height() - self.height() - 4, 4)),
        )
        self.show()
        self.raise_()
        self.setFocus()

    def event(self, event: QEvent) -> bool:
        """Take keys that are commands elsewhere, too: they only close this."""
        if event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Go away; keys that only shift others do nothing."""
        if event.key() not in (Qt.Key.Key_Shift, Qt.Key.Key_Control, Qt.Key.Key_Alt):
            self.close()
        event.accept()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.close()
