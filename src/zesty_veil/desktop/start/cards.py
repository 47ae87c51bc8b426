"""Cards of the start page: a plan as three ribbons with its title; a glaze as it builds up."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QPushButton, QSizePolicy, QWidget

from zesty_veil.desktop.kit.formview import image_of
from zesty_veil.desktop.kit.plain import tip
from zesty_veil.desktop.kit.ribbons import draw_ribbon, screen_colour
from zesty_veil.desktop.kit.theme import (
    CAPTION,
    EDGE,
    QUIET,
    RAISED,
    SURROUNDS,
    TEXT,
    WELL,
    font,
    grey,
)
from zesty_veil.desktop.kit.writing import MIDDLE, RIGHT, write, write_wrapped
from zesty_veil.light.grid import Array
from zesty_veil.services.starting import TRIAL_PASSES, GlazeShown
from zesty_veil.tr import tr

_PAD = 10
_SITES = ("ridge", "flat", "recess")
_SITE_WIDTH = 64


class StartCard(QPushButton):
    """A plan that can be opened; without ribbons, something else that begins work."""

    def __init__(
        self,
        title: str,
        words: str,
        ribbons: Array | None = None,
        small: bool = False,
        picture: npt.NDArray[np.uint8] | None = None,
    ) -> None:
        super().__init__()
        self._title, self._words, self._ribbons, self._small = title, words, ribbons, small
        self._picture = image_of(picture)
        self.setAccessibleName(title)
        self.setAccessibleDescription(words)
        self.setToolTip(tip(f"{title}  –  {words}" if words else title))
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(184, 98 if self._small else 182)

    def minimumSizeHint(self) -> QSize:
        return QSize(140, self.sizeHint().height())

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        chosen = self.hasFocus() or self.underMouse()
        painter.setPen(QPen(grey(TEXT if self.hasFocus() else EDGE), 2 if self.hasFocus() else 1))
        painter.setBrush(grey(WELL if chosen else RAISED))
        painter.drawRoundedRect(box, 4, 4)
        high = 16 if self._small else 92
        well = QRectF(box.x() + _PAD, box.y() + _PAD, box.width() - 2 * _PAD, high)
        self._draw_ribbons(painter, well)
        if self._picture is not None and not self._small:
            side = well.height() - 4
            form = QRectF(well.right() - side - 8, well.y() + 2, side, side)
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(form, self._picture)
        # A title may take two lines; one that is longer still is whole in the tooltip.
        words = QRectF(well.x(), well.bottom() + 4, well.width(), box.bottom() - well.bottom() - 26)
        write_wrapped(painter, words, self._title, grey(TEXT), bold=True)
        painter.setFont(font(CAPTION))
        painter.setPen(grey(QUIET))
        metrics = QFontMetricsF(painter.font())
        said = metrics.elidedText(self._words, Qt.TextElideMode.ElideRight, words.width())
        below = QRectF(words.x(), box.bottom() - 24, words.width(), 18)
        painter.drawText(below, Qt.AlignmentFlag.AlignVCenter, said)
        painter.end()

    def _draw_ribbons(self, painter: QPainter, well: QRectF) -> None:
        if self._ribbons is None:
            painter.setPen(QPen(grey(EDGE), 1, Qt.PenStyle.DashLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(well, 3, 3)
            return
        if self._small:
            draw_ribbon(painter, well, self._ribbons[1])
            return
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(SURROUNDS["middle"].colour)
        painter.drawRoundedRect(well, 3, 3)
        high = (well.height() - 16) / 3
        form = 0.0 if self._picture is None else well.height() + 4
        for row, rgb in enumerate(self._ribbons):
            top = well.y() + 4 + row * (high + 4)
            draw_ribbon(painter, QRectF(well.x() + 6, top, well.width() - 12 - form, high), rgb)


class TemplateCard(StartCard):
    """A template: what it makes, and of what kinds."""

    def __init__(self, title: str, words: str) -> None:
        super().__init__(title, words)

    def sizeHint(self) -> QSize:
        return QSize(150, 64)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        chosen = self.hasFocus() or self.underMouse()
        painter.setPen(QPen(grey(TEXT if self.hasFocus() else EDGE), 2 if self.hasFocus() else 1))
        painter.setBrush(grey(WELL if chosen else RAISED))
        painter.drawRoundedRect(box, 4, 4)
        inner = box.adjusted(_PAD, 6, -_PAD, -6)
        head = QRectF(inner.x(), inner.y(), inner.width(), 20)
        write(painter, head, self._title, grey(TEXT), bold=True)
        below = QRectF(inner.x(), inner.y() + 20, inner.width(), inner.height() - 20)
        painter.setFont(font(CAPTION))
        painter.setPen(grey(QUIET))
        wrapped = Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap
        painter.drawText(below, int(wrapped), self._words)
        painter.end()


class GlazeRibbons(QWidget):
    """A glaze from the bare ground to six passes, on ridge, flat and recess."""

    def __init__(self) -> None:
        super().__init__()
        self._shown: GlazeShown | None = None
        self.setMinimumHeight(142)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(tr("the glaze after no pass to six passes"))

    def show_glaze(self, shown: GlazeShown | None) -> None:
        """Show another trial."""
        self._shown = shown
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(520, 142)

    def cell(self, site: int, passes: int) -> QRectF:
        """Return where a patch stands: of a site from ridge (0) to recess, after some passes."""
        field = QRectF(_SITE_WIDTH, 24, self.width() - _SITE_WIDTH, self.height() - 24)
        across, high = field.width() / (len(TRIAL_PASSES) + 1), field.height() / len(_SITES)
        x, y = field.x() + passes * across, field.y() + site * high
        return QRectF(x + 1, y + 1, across - 2, high - 2)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        for passes in (0, *TRIAL_PASSES):
            head = self.cell(0, passes)
            words = tr("ground") if passes == 0 else f"×{passes}"
            write(painter, QRectF(head.x(), 0, head.width(), 22), words, grey(QUIET), MIDDLE)
        field = self.cell(0, 0).united(self.cell(2, len(TRIAL_PASSES))).adjusted(-1, -1, 1, 1)
        painter.fillRect(field, SURROUNDS["middle"].colour)
        for row, site in enumerate(_SITES):
            first = self.cell(row, 0)
            name = QRectF(0, first.y(), _SITE_WIDTH - 8, first.height())
            write(painter, name, tr(site), grey(TEXT), RIGHT)
            if self._shown is None:
                continue
            for passes, rgb in enumerate(self._shown.rgb[row]):
                painter.fillRect(self.cell(row, passes), screen_colour(rgb))
        painter.end()
