"""A panel that opens under a button and closes when something else is pressed."""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QGuiApplication, QKeyEvent
from PySide6.QtWidgets import QFrame, QVBoxLayout, QWidget

_BELOW = 4


class Popover(QFrame):
    """Holds a few controls beside the work, not in its way; Esc closes it."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setObjectName("popover")
        self.body = QVBoxLayout(self)
        self.body.setContentsMargins(16, 12, 16, 16)
        self.body.setSpacing(8)

    def open_below(self, anchor: QWidget) -> None:
        """Open under a widget, within the screen."""
        self.adjustSize()
        corner = anchor.mapToGlobal(QPoint(anchor.width() - self.width(), anchor.height() + _BELOW))
        self.open_at(corner, anchor)

    def open_at(self, corner: QPoint, anchor: QWidget) -> None:
        """Open with its upper left corner at a point of the screen, or as near as there is room."""
        screen = anchor.screen() or QGuiApplication.primaryScreen()
        room = screen.availableGeometry()
        x = min(max(corner.x(), room.left()), room.right() - self.width())
        y = min(corner.y(), room.bottom() - self.height())
        self.move(x, max(y, room.top()))
        self.show()
        self.setFocus()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.close()
        else:
            super().keyPressEvent(event)
