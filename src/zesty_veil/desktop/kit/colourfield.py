"""A line for a colour: by words, as #rrggbb or L, a, b, or out of a panel that opens beside it."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from PySide6.QtCore import QPoint, QRectF, Qt, Signal
from PySide6.QtGui import QImage, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QPushButton, QToolButton, QWidget

from zesty_veil.desktop.kit.colourplane import ColourPlane
from zesty_veil.desktop.kit.entryline import EntryLine
from zesty_veil.desktop.kit.icons import icon
from zesty_veil.desktop.kit.paintmenu import PaintMenu
from zesty_veil.desktop.kit.photos import PICTURE_FILTER, Picture, fitted_rect, pictures
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.popover import OpensBelow, Popover
from zesty_veil.desktop.kit.ribbons import screen_colour
from zesty_veil.desktop.kit.theme import EDGE, font, grey
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.errors import VeilError
from zesty_veil.light.cielab import lch, luminous
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import has, hexadecimal, lab_of, srgb
from zesty_veil.light.value import value
from zesty_veil.paint.paint import Paint
from zesty_veil.predict.words import describe
from zesty_veil.services.colours import parse_colour
from zesty_veil.services.reach import Reach, Reaching, reachable
from zesty_veil.tr import tr

_WIDE, _HIGH = 340, 220
_LEAST = 122  # pixels of a field in which #rrggbb stands whole beside the drop
_AROUND = 2  # pixels about the place of a picture that are taken together


class ColourField(EntryLine):
    """A line whose button opens what a colour can be taken from; taking one is as Enter."""

    def __init__(self, name: str, hint: str, rack: RackView) -> None:
        super().__init__(name, hint)
        self.setMinimumWidth(_LEAST)
        self.panel = ColourPanel(rack, self)
        self.panel.taken.connect(self._taken)
        self.opener = self.addAction(icon("colour"), EntryLine.ActionPosition.TrailingPosition)
        self.opener.setText(tr("Pick a colour"))
        self.opener.setToolTip(tr("Pick a colour that paint comes to, a paint’s, or a picture’s"))
        self.opener.triggered.connect(self.open_panel)
        for button in self.findChildren(QToolButton):
            button.setAccessibleName(tr("pick a colour: {0}").format(name))

    def open_panel(self) -> None:
        """Open the panel at the colour that is written, if it is one."""
        try:
            lab = np.array(parse_colour(self.text()))
        except VeilError:
            lab = None  # nothing is written yet, or no colour: the panel begins where it was
        self.panel.open_for(self, lab)

    def stop(self) -> None:
        """End the workers of the panel."""
        self.panel.stop()

    def _taken(self, lab: Array) -> None:
        self.setText(written_colour(lab))
        self.returnPressed.emit()


class ColourPanel(Popover):
    """Picks a colour in reach of the rack, a paint's own, or that of a place of a picture."""

    taken = Signal(object)  # (3,) CIELAB

    def __init__(self, rack: RackView, parent: QWidget) -> None:
        super().__init__(parent, tr("a colour"))
        self._rack = rack
        self._lab = np.array([55.0, 30.0, 30.0])
        self._own: dict[str, tuple[float, float, float]] = {}
        self._stopped = False
        self.plane, self.place = ColourPlane(), PicturePlace()
        self.plane.moved.connect(self._moved)
        self.place.hide()
        self.place.taken.connect(self.show_colour)
        self.swatch, self.words = _Swatch(), Label()
        self.words.setFont(font(bold=True))
        self.numbers = Label()
        head = QHBoxLayout()
        head.addWidget(self.swatch)
        head.addWidget(self.words, 1)
        head.addWidget(self.numbers)
        self.paints = PaintMenu(rack, self._of_paint, self)
        self.of_paint = OpensBelow(tr("A paint’s own"))
        self.of_paint.clicked.connect(lambda: self.paints.open_below(self.of_paint))
        self.of_picture = QPushButton(tr("From a picture …"))
        self.of_picture.clicked.connect(self._choose_picture)
        self.take = QPushButton(tr("Take it"))
        self.take.setObjectName("main")
        self.take.clicked.connect(self._take)
        row = QHBoxLayout()
        for button in (self.of_paint, self.of_picture, self.take):
            row.addWidget(button)
        self.body.addLayout(head)
        self.body.addWidget(self.plane)
        self.body.addWidget(self.place)
        self.body.addLayout(row)
        self.setFixedWidth(_WIDE + 40)
        self.reaches: NewestWins[Reaching, Reach] = NewestWins(reachable, self, "short")
        self.reaches.answered.connect(self._reached)
        self.photographs: NewestWins[Path, Picture] = NewestWins(pictures, self)
        self.photographs.answered.connect(self._opened)
        self.photographs.failed.connect(lambda error: self.words.setText(str(error)))

    def open_for(self, anchor: QWidget, lab: Array | None) -> None:
        """Open under a field, at a colour if there is one."""
        self.place.hide()
        self.plane.show()
        self.reaches.ask(Reaching(self._rack.paints()))
        self.show_colour(self._lab if lab is None else lab)
        self.adjustSize()
        self.open_at(anchor.mapToGlobal(QPoint(0, anchor.height() + 4)), anchor)
        self.plane.setFocus()

    def show_colour(self, lab: Array) -> None:
        """Show a colour as the one that would be taken, CIELAB."""
        self.plane.show_colour(lab)
        self._moved(lab)

    def stop(self) -> None:
        """End the workers."""
        self._stopped = True
        self.reaches.close()
        self.photographs.close()
        self.paints.stop()

    def open_photograph(self, path: Path) -> None:
        """Show a picture; a press on it takes the colour there."""
        self.photographs.ask(path)

    def _moved(self, lab: Array) -> None:
        self._lab = np.asarray(lab, dtype=float)
        self.swatch.show_colour(srgb(self._lab)[0])
        self.words.setText(describe(lch(self._lab), float(value(luminous(self._lab[:1]))[0])))
        self.numbers.setText(written_colour(self._lab))

    def _reached(self, reach: Reach) -> None:
        self._own = reach.own
        self.plane.show_reach(reach)

    def _of_paint(self, paint: Paint) -> None:
        own = self._own.get(paint.name)
        if own is not None:
            self.show_colour(np.array(own))

    def _choose_picture(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self.parentWidget(), tr("Take a colour from a picture"), "", tr(PICTURE_FILTER)
        )
        if name:
            self.open_photograph(Path(name))

    def _opened(self, picture: Picture) -> None:
        self.place.show_picture(picture)
        self.plane.hide()
        self.place.show()
        self.adjustSize()
        if not self.isVisible():  # a dialog closes what stands open
            self.show()

    def _take(self) -> None:
        self.close()
        self.taken.emit(self._lab)


class PicturePlace(QWidget):
    """A picture; a press on it tells the colour about that place."""

    taken = Signal(object)  # (3,) CIELAB

    def __init__(self) -> None:
        super().__init__()
        self._picture: Picture | None = None
        self.setFixedHeight(_HIGH)
        self.setCursor(Qt.CursorShape.CrossCursor)
        self.setAccessibleName(tr("picture to take a colour from"))

    def show_picture(self, picture: Picture) -> None:
        """Show another picture."""
        self._picture = picture
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self._picture is not None:
            image: QImage = self._picture.image
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(fitted_rect(image, QRectF(self.rect())), image)
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.mouseMoveEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._picture is None:
            return
        pixels = self._picture.pixels
        box = fitted_rect(self._picture.image, QRectF(self.rect()))
        high, wide = pixels.shape[:2]
        x = int((event.position().x() - box.x()) / box.width() * wide)
        y = int((event.position().y() - box.y()) / box.height() * high)
        if 0 <= x < wide and 0 <= y < high:
            near = pixels[
                max(y - _AROUND, 0) : y + _AROUND + 1, max(x - _AROUND, 0) : x + _AROUND + 1
            ]
            self.taken.emit(lab_of(near.reshape(-1, 3).mean(axis=0) / 255))


class _Swatch(QWidget):
    def __init__(self) -> None:
        super().__init__()
        self._rgb = np.zeros(3)
        self.setFixedSize(40, 32)

    def show_colour(self, rgb: Array) -> None:
        self._rgb = rgb
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), screen_colour(self._rgb))
        painter.setPen(QPen(grey(EDGE), 1))
        painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5))
        painter.end()


def written_colour(lab: Array) -> str:
    """Return a colour as it is written: #rrggbb if the screen has it, else L, a, b.

    >>> import numpy as np
    >>> written_colour(np.array([0.0, 0.0, 0.0])), written_colour(np.array([50.0, 90.0, 60.0]))
    ('#000000', '50.0, 90.0, 60.0')
    """
    if bool(has(lab)):
        return hexadecimal(srgb(lab)[0])
    return ", ".join(f"{v:.1f}" for v in lab)
