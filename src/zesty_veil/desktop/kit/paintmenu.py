"""A menu of the rack: each paint with how it looks over white and over black."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QIcon, QPainter, QPixmap
from PySide6.QtWidgets import QMenu, QWidget

from zesty_veil.desktop.kit.plain import entry
from zesty_veil.desktop.kit.ribbons import screen_colour
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.paint.paint import Paint
from zesty_veil.services.forecast import Swatch
from zesty_veil.tr import tr

SWATCH = QSize(24, 24)
_MOST, _A_PART = 90, 40  # paints in one menu before it is parted, and in each part


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


class PaintMenu(QMenu):
    """Paints to choose from; filled only when it is opened."""

    def __init__(
        self, rack: RackView, chosen: Callable[[Paint], None], parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._rack, self._chosen = rack, chosen
        self.setStyleSheet(f"QMenu {{ icon-size: {SWATCH.width()}px; }}")
        self.aboutToShow.connect(self._fill)

    def _fill(self) -> None:
        empty(self)
        in_parts(self, self._rack.paints(), self._add)

    def _add(self, menu: QMenu, paint: Paint) -> None:
        # The tab puts the pigments into a column of their own, where others have keys.
        swatch = self._rack.swatch(paint)
        of_it = [", ".join(paint.pigments)] * bool(paint.pigments)
        if swatch is not None and swatch.solid:
            of_it.append(tr("solid in {0}").format(swatch.solid))
        action = menu.addAction(paint_icon(swatch), entry(f"{paint.name}\t{' · '.join(of_it)}"))
        action.setData(paint.name)
        action.triggered.connect(lambda _=False, p=paint: self._chosen(p))


def empty(menu: QMenu) -> None:
    """Take all entries out of a menu, with the menus below it."""
    for below in menu.findChildren(QMenu, options=Qt.FindChildOption.FindDirectChildrenOnly):
        below.deleteLater()
    menu.clear()


def in_parts(menu: QMenu, paints: Sequence[Paint], add: Callable[[QMenu, Paint], None]) -> None:
    """Fill a menu with paints; many of them as menus of some each, filled when they open."""
    if len(paints) <= _MOST:
        for paint in paints:
            add(menu, paint)
        return
    for start in range(0, len(paints), _A_PART):
        part = paints[start : start + _A_PART]
        below = QMenu(entry(f"{part[0].name} … {part[-1].name}"), menu)
        below.setStyleSheet(menu.styleSheet())
        below.aboutToShow.connect(lambda b=below, p=part: _fill_part(b, p, add))
        menu.addMenu(below)


def _fill_part(menu: QMenu, paints: Sequence[Paint], add: Callable[[QMenu, Paint], None]) -> None:
    if menu.isEmpty():
        for paint in paints:
            add(menu, paint)
