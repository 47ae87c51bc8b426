"""A panel that opens over the window beside a control, and closes when something else is pressed.

It is a part of the window, not a window of its own: whoever reads the screen aloud finds it there,
and the keys of the menus hold while it is open.
"""

from __future__ import annotations

from typing import ClassVar

from PySide6.QtCore import QEvent, QObject, QPoint, Qt, Signal
from PySide6.QtGui import QHideEvent, QKeyEvent, QMouseEvent, QWindow
from PySide6.QtWidgets import (
    QApplication,
    QFrame,
    QPushButton,
    QStyleOptionButton,
    QVBoxLayout,
    QWidget,
)
from shiboken6 import isValid

_BELOW = 4
_PRESSES = (QEvent.Type.MouseButtonPress, QEvent.Type.MouseButtonDblClick)
_MENU_KEYS = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier


class Popover(QFrame):
    """Holds a few controls beside the work, not in its way; Esc closes it."""

    closed = Signal()

    _open: ClassVar[list[Popover]] = []  # the last one lies above the others

    def __init__(self, parent: QWidget, name: str) -> None:
        super().__init__(parent)
        self.setAccessibleName(name)
        self.hide()
        parent.destroyed.connect(self.deleteLater)  # in whatever window it has come to lie
        self._before: QWidget | None = None  # what had the keyboard
        self._watched: QWindow | None = None
        self.setObjectName("popover")
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self.body = QVBoxLayout(self)
        self.body.setContentsMargins(16, 12, 16, 16)
        self.body.setSpacing(8)

    def open_below(self, anchor: QWidget) -> None:
        """Open under a widget."""
        self.adjustSize()
        corner = anchor.mapToGlobal(QPoint(anchor.width() - self.width(), anchor.height() + _BELOW))
        self.open_at(corner, anchor)

    def open_at(self, corner: QPoint, anchor: QWidget) -> None:
        """Open with its upper left corner at a point of the screen, within the anchor's window."""
        window = anchor.window()
        if self.parentWidget() is not window:
            self.setParent(window)
        at = window.mapFromGlobal(corner)
        x = min(max(at.x(), 0), max(window.width() - self.width(), 0))
        y = min(max(at.y(), 0), max(window.height() - self.height(), 0))
        self.move(x, y)
        if not self.isVisible():
            self._before = QApplication.focusWidget()
            self._open.append(self)
            # The window as the system has it: of all events only presses and sizes come there.
            self._watched = window.windowHandle()
            if self._watched is not None:
                self._watched.installEventFilter(self)
        self.show()
        self.raise_()
        self.setFocus()

    @classmethod
    def close_all(cls) -> None:
        """Close whatever is open."""
        for popover in reversed(cls._open[:]):
            popover.close()

    def hideEvent(self, event: QHideEvent) -> None:
        super().hideEvent(event)
        if self in self._open:
            self._open.remove(self)
            if self._watched is not None and isValid(self._watched):
                self._watched.removeEventFilter(self)
            now = QApplication.focusWidget()
            own = now is None or now is self or self.isAncestorOf(now)
            # It may have gone with its page meanwhile, and what is raised here kills the process:
            # the toolkit's binding reads an error that is not complete yet.
            if own and self._before is not None and isValid(self._before):
                self._before.setFocus()
            self._before = None
            self.closed.emit()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Close on a press elsewhere, which does nothing else."""
        if watched is not self._watched or self._open[-1:] != [self]:
            return False  # those above it go first
        if isinstance(event, QMouseEvent) and event.type() in _PRESSES:
            window = self.window()
            return self._pressed(window.childAt(event.position().toPoint()) or window)
        if event.type() == QEvent.Type.Resize:
            self.close()
        return False

    def _pressed(self, where: QWidget) -> bool:
        """Close what does not hold a widget that is pressed; tell whether anything was."""
        closed = False
        for popover in reversed(self._open[:]):
            if popover is where or popover.isAncestorOf(where):
                return False
            popover.close()
            closed = True
        return closed

    def event(self, event: QEvent) -> bool:
        """Keep plain keys from the menus: while it is open they are its own, or nobody's."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.ShortcutOverride:
            function_key = Qt.Key.Key_F1 <= event.key() <= Qt.Key.Key_F35
            if not event.modifiers() & _MENU_KEYS and not function_key:
                event.accept()
                return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.close()
        event.accept()


class OpensBelow(QPushButton):
    """A button with the mark of one that opens something below it."""

    def initStyleOption(self, option: QStyleOptionButton) -> None:
        super().initStyleOption(option)
        option.features |= QStyleOptionButton.ButtonFeature.HasMenu
