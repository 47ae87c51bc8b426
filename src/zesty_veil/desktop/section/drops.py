"""Drops of one paint or thinner, drawn as drops, to count up and down by hand."""

from __future__ import annotations

import math

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QHBoxLayout, QSizePolicy, QToolButton, QWidget

from zesty_veil.desktop.kit.marks import draw_tally, drop_path, tally_width
from zesty_veil.desktop.kit.plain import name_control
from zesty_veil.desktop.kit.theme import TEXT, font, grey
from zesty_veil.tr import tr

_DROP = 19.0
_STEP = 14.0
_MOST_DRAWN = 8


class _Drawn(QWidget):
    """A row of drops; part of a drop is drawn as a smaller one."""

    def __init__(self) -> None:
        super().__init__()
        self.count = 0.0
        self.fill: QColor | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(96, 26)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = int((self.width() - 8) // _STEP)
        if math.ceil(self.count) > min(room, _MOST_DRAWN):
            self._draw_drop(painter, 10, 1.0)
            painter.setFont(font())
            painter.setPen(grey(TEXT))
            rect = QRectF(20, 0, self.width() - 20, self.height())
            painter.drawText(rect, Qt.AlignmentFlag.AlignVCenter, f"×{self.count:g}")
        else:
            for i in range(math.ceil(self.count)):
                self._draw_drop(painter, 10 + i * _STEP, min(self.count - i, 1.0))
        painter.end()

    def _draw_drop(self, painter: QPainter, x: float, share: float) -> None:
        painter.setPen(QPen(grey(TEXT), 1.2))
        painter.setBrush(self.fill if self.fill is not None else Qt.BrushStyle.NoBrush)
        size = _DROP * (0.45 + 0.55 * share)
        painter.drawPath(drop_path(x, self.height() / 2 + 1 + (_DROP - size) * 0.25, size))


class _Tally(QWidget):
    """Passes as tally marks."""

    def __init__(self) -> None:
        super().__init__()
        self.count: float = 1
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(96, 26)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if tally_width(int(self.count)) < self.width() - 8:
            draw_tally(painter, 6, self.height() / 2, 15, int(self.count), grey(TEXT))
        else:
            painter.setFont(font())
            painter.setPen(grey(TEXT))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter, f"  {self.count}")
        painter.end()


class Counter(QWidget):
    """Something counted by hand: a drawing between a minus and a plus."""

    stepped = Signal(int)  # -1 or +1

    def __init__(self, drawing: QWidget, what: str) -> None:
        super().__init__()
        self.drawing = drawing
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self.less = self._button("−", tr("less {0}").format(what), -1)
        self.more = self._button("+", tr("more {0}").format(what), +1)
        row.addWidget(self.less)
        row.addWidget(drawing, 1)
        row.addWidget(self.more)

    def name(self, what: str) -> None:
        """Say what is counted, for assistive technology."""
        name_control(self.less, tr("less {0}").format(what))
        name_control(self.more, tr("more {0}").format(what))

    def _button(self, sign: str, what: str, step: int) -> QToolButton:
        button = QToolButton()
        button.setText(sign)
        name_control(button, what)
        button.setAutoRepeat(True)
        button.setObjectName("narrow")
        button.setFixedSize(28, 32)
        button.clicked.connect(lambda: self.stepped.emit(step))
        return button


def drops_counter(what: str) -> tuple[Counter, _Drawn]:
    """Return a counter of drops and its drawing."""
    drawn = _Drawn()
    return Counter(drawn, what), drawn


def tally_counter(what: str) -> tuple[Counter, _Tally]:
    """Return a counter of passes and its drawing."""
    tally = _Tally()
    return Counter(tally, what), tally
