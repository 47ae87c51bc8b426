"""A menu of the rack: each paint with how it looks over white and over black."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QPoint, QRectF, QSize, QTimer
from PySide6.QtGui import QIcon, QPainter, QPixmap
from PySide6.QtWidgets import QWidget

from zesty_veil.desktop.kit.paintpicker import PaintPicker
from zesty_veil.desktop.kit.popover import Popover
from zesty_veil.desktop.kit.ribbons import screen_colour
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.paint.paint import Paint
from zesty_veil.services.forecast import Swatch
from zesty_veil.services.picking import Picked, Picking, picked
from zesty_veil.tr import tr

SWATCH = QSize(24, 24)
_REST_MS = 90


def paint_icon(swatch: Swatch | None) -> QIcon:
    """Return a paint's usual coat over white (left) and over black (right)."""
    if swatch is None:
        return QIcon()
    pixmap = QPixmap(SWATCH * 2)
    painter = QPainter(pixmap)
    half = SWATCH.width()  # the picture has two pixels for one
    painter.fillRect(QRectF(0, 0, half, SWATCH.height() * 2), screen_colour(swatch.over_white))
    painter.fillRect(QRectF(half, 0, half, SWATCH.height() * 2), screen_colour(swatch.over_black))
    painter.end()
    pixmap.setDevicePixelRatio(2)
    return QIcon(pixmap)


class PaintMenu(Popover):
    """Paints to choose from, under the button that opens it; filled only then.

    Parameters
    ----------
    rack, chosen
        The paints at hand, and what is told the one that is chosen.
    here
        Returns the place where a coat of the paint would lie, if the paints are to be shown as
        they would come out there.
    preview
        Told the paint that the arrows pass over, and none when the menu closes.
    """

    def __init__(
        self,
        rack: RackView,
        chosen: Callable[[Paint], None],
        parent: QWidget,
        here: Callable[[], Picking | None] = lambda: None,
        preview: Callable[[Paint | None], None] = lambda _: None,
    ) -> None:
        super().__init__(parent, tr("paints to choose from"))
        self._rack, self._chosen, self._here, self._preview = rack, chosen, here, preview
        self.picker = PaintPicker()
        self.picker.chosen.connect(self._take)
        self.picker.looked_at.connect(self._look_at)
        # Who types or runs through the list looks at none of what passes by.
        self._due: Paint | None = None
        self._stopped = False
        self.resting = QTimer(self)
        self.resting.setSingleShot(True)
        self.resting.setInterval(_REST_MS)
        self.resting.timeout.connect(lambda: self._preview(self._due))
        self.body.setContentsMargins(2, 2, 2, 2)
        self.body.addWidget(self.picker)
        self.jobs: NewestWins[Picking, Picked] = NewestWins(picked, self, "short")
        self.jobs.answered.connect(self._show_picked)
        self.closed.connect(self._unlook)

    def open_at(self, corner: QPoint, anchor: QWidget) -> None:
        """Open at a point of the screen, filled with the paints at hand."""
        self.fill()
        super().open_at(corner, anchor)
        self.picker.search.setFocus()

    def fill(self) -> None:
        """Offer the paints that are at hand now."""
        paints = self._rack.paints()
        colours, solid = {}, {}
        for paint in paints:
            swatch = self._rack.swatch(paint)
            if swatch is not None:
                colours[paint.name] = np.stack([swatch.over_white, swatch.over_black])
                if swatch.solid:
                    solid[paint.name] = swatch.solid
        self.picker.show_paints(paints, self._rack.used(), colours, solid, self._rack.lately)
        place = self._here()
        if place is not None:
            self.jobs.ask(place)

    def _show_picked(self, found: Picked) -> None:
        if found.asked == self._here():  # else another coat, or another place, is meant by now
            self.picker.show_colours(found.rgb)

    def stop(self) -> None:
        """Show nothing more, and end the worker."""
        self.resting.stop()
        self._stopped = True
        self.jobs.close()

    def _look_at(self, paint: Paint) -> None:
        self._due = paint
        if not self._stopped:
            self.resting.start()

    def _unlook(self) -> None:
        self.resting.stop()
        if not self._stopped:
            self._preview(None)

    def _take(self, paint: Paint) -> None:
        self._unlook()
        self.close()
        self._rack.took(paint)
        self._chosen(paint)
