"""The passage in view on its form, small beside the passages or large over the section."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.commands import tooltip
from zesty_veil.desktop.kit.theme import SURROUNDS, Surround
from zesty_veil.tr import tr


def image_of(pixels: npt.NDArray[np.uint8] | None) -> QImage | None:
    """Return RGBA pixels (size, size, 4) as an image that owns its bytes."""
    if pixels is None:
        return None
    size = pixels.shape[0]
    raw = np.ascontiguousarray(pixels).tobytes()
    return QImage(raw, size, size, size * 4, QImage.Format.Format_RGBA8888).copy()


class FormView(QWidget):
    """Shows a picture of a form in the grey of the surround; a click asks for the other size."""

    clicked = Signal()

    def __init__(self, small: int = 0) -> None:
        super().__init__()
        self._image: QImage | None = None
        self.surround = SURROUNDS["middle"]
        self._small = small
        if small:
            self.setFixedHeight(small)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(tr("the passage on its form"))
        self.setToolTip(tooltip("form"))
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def sizeHint(self) -> QSize:
        return QSize(self._small or 600, self._small or 600)

    def wanted_size(self) -> int:
        """Return how many pixels of the device the form's square has here."""
        return int(min(self.width(), self.height()) * self.devicePixelRatio())

    def set_surround(self, surround: Surround) -> None:
        """Put the form into another grey field."""
        self.surround = surround
        self.update()

    def set_mirrored(self, mirrored: bool) -> None:
        """Say whether the form is shown in the mirror, where that matters to what lies over it."""

    def set_split(self, light: str, split: str | None) -> None:
        """Say under which lights the halves are shown, where there is room to write them."""

    def show_form(self, pixels: npt.NDArray[np.uint8] | None) -> None:
        """Show RGBA pixels (size, size, 4), or nothing."""
        self._image = image_of(pixels)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.surround.colour)
        if self._image is not None:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(self.square(), self._image)
        painter.end()

    def square(self) -> QRectF:
        """Return where the form stands, in pixels of the widget."""
        side = min(self.width(), self.height())
        return QRectF((self.width() - side) / 2, (self.height() - side) / 2, side, side)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.clicked.emit()
