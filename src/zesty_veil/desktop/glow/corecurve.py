"""The hot core of a light as it fades: its colours from the source outward, and three handles."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF, QResizeEvent
from PySide6.QtWidgets import QSizePolicy, QSlider, QWidget

from zesty_veil.advise.glow.wanted import won
from zesty_veil.desktop.kit.plain import name_control
from zesty_veil.desktop.kit.quiet import quiet
from zesty_veil.desktop.kit.ribbons import draw_ribbon
from zesty_veil.light.srgb import srgb
from zesty_veil.plan.glow import Glow
from zesty_veil.tr import tr

_STEPS, _COLOURS = 100, 96
_STRIP, _HANDLE = 14.0, 6.0
# Near-white ends before it begins to; both lie this far apart at least, of the light.
_APART = 0.02
_UNLIT = (12.0, 0.0, 0.0)


class _Unseen(QSlider):
    """A handle for keys and for who does not see it; the strip draws it."""

    def __init__(self, parent: QWidget, words: str) -> None:
        super().__init__(Qt.Orientation.Horizontal, parent)
        self.setRange(0, _STEPS)
        self.setPageStep(5)
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        name_control(self, words)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw nothing: the strip below has drawn the handle."""


class CoreCurve(QWidget):
    """Says how far near-white reaches, where it ends, and where the hue turns deeper.

    Its axis runs from the source, where all the light falls, to where none does.
    """

    changed = Signal(dict)  # of fields of a Glow

    def __init__(self) -> None:
        super().__init__()
        self._glow: Glow | None = None
        self._held: int | None = None
        self.handles = tuple(
            _Unseen(self, words)
            for words in (
                tr("the light is nearly white up to here"),
                tr("nothing is white from here on"),
                tr("its hue turns deeper up to here"),
            )
        )
        for k, handle in enumerate(self.handles):
            handle.valueChanged.connect(lambda value, k=k: self._moved(k, value / _STEPS))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setToolTip(
            tr(
                "Near-white up to the first handle, no white past the second, and the deepest hue "
                "at the open one."
            )
        )

    def sizeHint(self) -> QSize:
        """Return the size it likes."""
        return QSize(240, int(_STRIP + 2 * _HANDLE + 2))

    def show_core(self, glow: Glow) -> None:
        """Show the core of a light."""
        self._glow = glow
        for handle, share in zip(self.handles, glow.core, strict=True):
            with quiet(handle):
                handle.setValue(round((1 - share) * _STEPS))
        self.update()

    def _moved(self, k: int, place: float) -> None:
        """Take the place of a handle, as far as the others let it."""
        if self._glow is None:
            return
        full, begins, turns = self._glow.core
        share = round(1 - place, 3)
        if k == 0:
            full = max(share, begins + _APART)
        elif k == 1:
            begins = min(share, full - _APART)
        else:
            turns = share
        core = (min(full, 1.0), max(begins, 0.0), turns)
        self.show_core(replace(self._glow, core=core))
        self.changed.emit({"core": core})

    def _at(self, k: int) -> float:
        assert self._glow is not None
        return _HANDLE + (1 - self._glow.core[k]) * (self.width() - 2 * _HANDLE)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._glow is not None and event.button() == Qt.MouseButton.LeftButton:
            x = event.position().x()
            self._held = min(range(3), key=lambda k: abs(self._at(k) - x))
            self.handles[self._held].setFocus(Qt.FocusReason.MouseFocusReason)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            room = self.width() - 2 * _HANDLE
            place = min(max((event.position().x() - _HANDLE) / room, 0.0), 1.0)
            self.handles[self._held].setValue(round(place * _STEPS))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._held = None

    def resizeEvent(self, event: QResizeEvent) -> None:
        for handle in self.handles:
            handle.setGeometry(self.rect())

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self._glow is None:
            return
        strip = QRectF(_HANDLE, 1, self.width() - 2 * _HANDLE, _STRIP)
        draw_ribbon(painter, strip, _colours(self._glow))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        ink, paper = self.palette().windowText().color(), self.palette().window().color()
        for k, handle in enumerate(self.handles):
            x, y = self._at(k), strip.bottom() + 1
            painter.setPen(QPen(ink, 1.2))
            # The handle of the hue is open, those of near-white are filled.
            painter.setBrush(paper if k == 2 else ink)
            size = _HANDLE * (1.0 if handle.hasFocus() else 0.8)
            points = [
                QPointF(x, y),
                QPointF(x - size, y + 1.8 * size),
                QPointF(x + size, y + 1.8 * size),
            ]
            painter.drawPolygon(QPolygonF(points))


def _colours(glow: Glow) -> np.ndarray:
    """Return what a light makes of a dark surface if it wins, from the source on, (n, 3) sRGB."""
    light = np.linspace(1.0, 0.0, _COLOURS)
    return srgb(won(replace(glow, wins=1.0), np.tile(_UNLIT, (_COLOURS, 1)), light))[0]
