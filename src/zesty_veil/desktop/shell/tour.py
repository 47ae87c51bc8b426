"""Showing somebody round: five steps over a plan, each a few words beside what they are about."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtCore import QPoint, QRect, Qt
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.panel import heading, quiet_words
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.theme import ON_STRONG, STRONG, grey
from zesty_veil.tr import tr

_WIDE = 380


class TourStop(NamedTuple):
    """One stop: a station, what is framed on it, and what is said."""

    station: str
    title: str
    words: str
    part: Callable[[], QWidget | None]


class TourFrame(QWidget):
    """A strong frame round a part of the window; the pointer goes through it."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for tone, width in ((ON_STRONG, 5.0), (STRONG, 2.6)):
            painter.setPen(QPen(grey(tone), width))
            painter.drawRoundedRect(self.rect().adjusted(3, 3, -3, -3), 6, 6)
        painter.end()


class Tour(QFrame):
    """Leads from step to step; Esc ends it.

    Parameters
    ----------
    window
        What is shown round.
    go
        Goes to a station by its id.
    steps
        Where to, in order.
    """

    def __init__(
        self, window: QWidget, go: Callable[[str], object], steps: tuple[TourStop, ...]
    ) -> None:
        super().__init__(window)
        self._window = window
        self.setObjectName("popover")
        self.setFixedWidth(_WIDE)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self._go, self._steps, self.at = go, steps, 0
        self.frame = TourFrame(window)
        self.title, self.words, self.count = heading(""), Label(), quiet_words()
        self.words.setWordWrap(True)
        self.count.setWordWrap(False)
        self.stop = QPushButton(tr("Stop"))
        self.before, self.next = QPushButton(tr("Before")), QPushButton(tr("Next"))
        self.next.setObjectName("main")
        self.stop.clicked.connect(lambda _=False: self.close())
        self.before.clicked.connect(lambda _=False: self.show_step(self.at - 1))
        self.next.clicked.connect(lambda _=False: self.show_step(self.at + 1))
        row = QHBoxLayout()
        row.addWidget(self.count, 1)
        for button in (self.stop, self.before, self.next):
            row.addWidget(button)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(8)
        for widget in (self.title, self.words):
            column.addWidget(widget)
        column.addLayout(row)

    def show_step(self, at: int) -> None:
        """Show one of the steps; past the last one the tour is over."""
        if at >= len(self._steps):
            self.close()
            return
        self.at = max(at, 0)
        step = self._steps[self.at]
        self._go(step.station)
        self.title.setText(step.title)
        self.words.setText(step.words)
        self.count.setText(tr("{0} of {1}").format(self.at + 1, len(self._steps)))
        self.before.setEnabled(self.at > 0)
        self.next.setText(tr("Done") if self.at + 1 == len(self._steps) else tr("Next"))
        self._place(step.part())
        self.next.setFocus()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Esc ends it, arrows go on and back."""
        keys = Qt.Key
        if event.key() == keys.Key_Escape:
            self.close()
        elif event.key() in (keys.Key_Right, keys.Key_Left):
            self.show_step(self.at + (1 if event.key() == keys.Key_Right else -1))
        else:
            super().keyPressEvent(event)
        event.accept()

    def closeEvent(self, event: object) -> None:
        self.frame.deleteLater()

    def _place(self, part: QWidget | None) -> None:
        """TourFrame the part, and stand where the frame leaves most room."""
        window = self._window
        self.adjustSize()
        room = window.rect().adjusted(12, 12, -12, -12)
        corner = QPoint(room.left(), room.bottom() - self.height())
        self.frame.setVisible(part is not None)
        if part is not None:
            box = QRect(part.mapTo(window, QPoint(0, 0)), part.size())
            self.frame.setGeometry(box.adjusted(-4, -4, 4, 4))
            self.frame.raise_()
            for x in (room.right() - self.width(), room.left()):
                for y in (room.bottom() - self.height(), room.top()):
                    if not QRect(x, y, self.width(), self.height()).intersects(box):
                        corner = QPoint(x, y)
        self.move(corner)
        self.show()
        self.raise_()
