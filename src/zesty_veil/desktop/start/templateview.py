"""A template's plan drawn: each passage as a ribbon, the first on its form."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.formview import image_of
from zesty_veil.desktop.kit.ribbons import draw_ribbon
from zesty_veil.desktop.kit.theme import CAPTION, SURROUNDS, Surround, font
from zesty_veil.desktop.kit.writing import write
from zesty_veil.services.templating import TemplateShown
from zesty_veil.tr import tr

_SIDE, _PAD, _RIBBON = 196.0, 12.0, 34.0


class TemplateView(QWidget):
    """Shows one plan; there is nothing to press on it."""

    def __init__(self) -> None:
        super().__init__()
        self._shown: TemplateShown | None = None
        self._surround = SURROUNDS["middle"]
        self.setAccessibleName(tr("the plan as it comes"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(520, round(_SIDE + 2 * _PAD))

    def set_surround(self, surround: Surround) -> None:
        """Put the colours into another grey field."""
        self._surround = surround
        self.update()

    def show_plan(self, shown: TemplateShown | None) -> None:
        """Show another plan, or none."""
        self._shown = shown
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._surround.colour)
        painter.setFont(font())
        shown = self._shown
        if shown is None or shown.plan is None:
            painter.end()
            return
        wide = self.width() - _SIDE - 3 * _PAD
        for i, (passage, rgb) in enumerate(zip(shown.plan.passages, shown.ribbons, strict=True)):
            top = _PAD + i * (_RIBBON + 32)
            words = tr("{0}, from the light on").format(passage.name)
            write(painter, QRectF(_PAD, top, wide, 20), words, self._surround.text, pixels=CAPTION)
            draw_ribbon(painter, QRectF(_PAD, top + 22, wide, _RIBBON), rgb)
        picture = image_of(shown.picture)
        if picture is not None:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            box = QRectF(self.width() - _SIDE - _PAD, _PAD, _SIDE, _SIDE)
            painter.drawImage(box, picture)
        painter.end()
