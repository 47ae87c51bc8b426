"""The painter's own sculpt, turned by hand until its view is taken as a form."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
import numpy.typing as npt
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from zesty_veil.desktop.form.keys import SCULPT
from zesty_veil.desktop.kit.formview import image_of
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.plain import Label, tip
from zesty_veil.desktop.kit.theme import SURROUNDS, Surround, font
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.exchange.sculptjob import Opened, opening
from zesty_veil.services.turning import Pose, Turned, Turner, Turning
from zesty_veil.tr import tr

_TURN, _LEAN, _NOTCH = 15.0, 5.0, 120
_STEP = 0.1
_HINT = "Drag: turn.  Wheel: nearer.  Shift + drag: move.  Comma, point: lean."
_SIDES = {
    "Front": Pose(),
    "Its left": Pose(across=-90),
    "Back": Pose(across=180),
    "Its right": Pose(across=90),
    "Top": Pose(up=90),
}


class SculptView(Page):
    """Opens a sculpt, shows it turning, and gives its view away.

    Parameters
    ----------
    name
        Returns what to call a view of the file with a given stem.
    """

    keeps_card = True
    keys = SCULPT
    taken = Signal(object)  # Sculpt

    def __init__(self, name: Callable[[str], str]) -> None:
        super().__init__()
        self._name = name
        self.opened: Opened | None = None
        self.pose = Pose()
        self._file = ""
        self._turner = Turner()
        self.reading: NewestWins[Path, str | Opened] = NewestWins(opening, self)
        self.reading.answered.connect(self._read)
        self.reading.failed.connect(self._failed)
        self.drawing: NewestWins[Turning, Turned] = NewestWins(self._turner.turning, self)
        self.drawing.answered.connect(self._drawn)
        self.drawing.failed.connect(lambda error: self.complained.emit(str(error)))
        self.canvas = _Canvas(self)
        self.words = Label()
        self.take = QPushButton(tr("Take this view"))
        self.take.setToolTip(SCULPT.tooltip("take view"))
        self.take.clicked.connect(self.take_view)
        self.leave = QPushButton(tr("Back"))
        self.leave.setToolTip(SCULPT.tooltip("leave sculpt", tr("Go back without a sculpt")))
        self.leave.clicked.connect(self.give_up)
        row = QHBoxLayout()
        row.setContentsMargins(12, 8, 12, 8)
        row.setSpacing(6)
        self.sides: dict[str, QPushButton] = {}
        for side, pose in _SIDES.items():
            button = QPushButton(tr(side))
            button.setAccessibleName(tr("see the sculpt from: {0}").format(side.lower()))
            button.clicked.connect(lambda _=False, p=pose: self.hold(p))
            row.addWidget(button)
            self.sides[side] = button
        row.addStretch(1)
        row.addWidget(self.take)
        row.addWidget(self.leave)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(row)
        self.words.setContentsMargins(12, 0, 12, 8)
        self.words.setMinimumWidth(10)
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        column.addWidget(self.canvas, 1)
        self._enable()

    def open_file(self, path: Path) -> None:
        """Read a sculpt from a file."""
        self.opened, self.pose = None, Pose()
        self.canvas.show_pixels(None)
        self._file = path.name
        self._say(tr("{0}: reading …  (Esc stops it)").format(path.name))
        self._enable()
        self.leave.setFocus()
        self.reading.ask(path)

    def hold(self, pose: Pose) -> None:
        """Hold the sculpt another way."""
        self.pose = pose
        if self.opened is not None:
            self.drawing.ask(Turning(self.opened, pose))

    def take_view(self) -> None:
        """Take the view as it is."""
        if self.opened is not None:
            name = self._name(self.opened.path.stem)
            self.drawing.ask(Turning(self.opened, self.pose, name))

    def give_up(self) -> None:
        """Stop reading and go back."""
        self._forget()
        self.left.emit()

    def close_jobs(self) -> None:
        """End both workers."""
        self.reading.close()
        self.drawing.close()

    def wait_until_idle(self) -> bool:
        """Run events until nothing is read or drawn; False if nothing moves any more."""
        return self.reading.wait_until_idle() and self.drawing.wait_until_idle()

    def set_surround(self, surround: Surround) -> None:
        """Put the sculpt into another grey field."""
        self.canvas.set_surround(surround)

    def _read(self, told: str | Opened) -> None:
        if isinstance(told, str):
            self._say(tr("{0}: {1} …  (Esc stops it)").format(self._file, told))
            return
        self.opened = told
        self._enable()
        self.canvas.setFocus()
        self.hold(Pose())

    def _drawn(self, turned: Turned) -> None:
        if turned.sculpt is not None:
            self._forget()
            self.taken.emit(turned.sculpt)
            return
        if turned.pixels is not None:
            self.canvas.show_pixels(turned.pixels)
        if self.opened is not None:
            done = (
                "" if turned.share in (None, 1.0) else tr("  drawing {0:.0%}").format(turned.share)
            )
            count = len(self.opened.mesh.faces)
            notes = " ".join(self.opened.notes)
            self._say(
                tr("{0}, {1:,} triangles.{2}  {3}").format(
                    self.opened.path.name, count, done, notes
                )
            )

    def _failed(self, error: Exception) -> None:
        self.give_up()
        self.complained.emit(str(error))

    def _forget(self) -> None:
        self.reading.drop()
        self.drawing.drop()
        self.opened = None
        self._enable()

    def _say(self, words: str) -> None:
        self.words.setText(words)
        self.words.setToolTip(tip(words))

    def _enable(self) -> None:
        for button in (self.take, *self.sides.values()):
            button.setEnabled(self.opened is not None)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        keys, key = Qt.Key, Qt.Key(event.key())
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        arrows = {
            keys.Key_Left: (-1, 0),
            keys.Key_Right: (1, 0),
            keys.Key_Up: (0, 1),
            keys.Key_Down: (0, -1),
        }
        command = self.keys.pressed(event)
        if command == "leave sculpt":
            self.give_up()
        elif command == "take view":
            self.take_view()
        elif key in arrows and shift:
            self.hold(self.pose.moved(_STEP * arrows[key][0], _STEP * arrows[key][1]))
        elif key in arrows:
            self.hold(self.pose.turned(_TURN * arrows[key][0], -_TURN * arrows[key][1]))
        elif key in (keys.Key_Plus, keys.Key_Equal, keys.Key_Minus):
            self.hold(self.pose.nearer(1 / 1.1 if key == keys.Key_Minus else 1.1))
        elif key in (keys.Key_Comma, keys.Key_Period):
            self.hold(self.pose.leaned(_LEAN if key == keys.Key_Comma else -_LEAN))
        else:
            event.ignore()
            return
        event.accept()


class _Canvas(QWidget):
    """Shows the sculpt and turns it under the hand."""

    def __init__(self, owner: SculptView) -> None:
        super().__init__()
        self._owner = owner
        self._image: QImage | None = None
        self._surround = SURROUNDS["middle"]
        self._from: QPointF | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(tr("the sculpt"))
        self.setAccessibleDescription(
            tr(
                "Arrows turn it, with Shift they move it; plus and minus bring it nearer and "
                "away; comma and point lean it; Enter takes the view."
            )
        )
        self.setCursor(Qt.CursorShape.SizeAllCursor)

    def sizeHint(self) -> QSize:
        return QSize(600, 600)

    def set_surround(self, surround: Surround) -> None:
        self._surround = surround
        self.update()

    def show_pixels(self, pixels: npt.NDArray[np.uint8] | None) -> None:
        self._image = image_of(pixels)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._surround.colour)
        side = min(self.width(), self.height())
        square = QRectF((self.width() - side) / 2, (self.height() - side) / 2, side, side)
        if self._image is not None:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(square, self._image)
        # What is outside of the square is not taken.
        painter.setPen(self._surround.line)
        painter.drawRect(square.adjusted(0.5, 0.5, -0.5, -0.5))
        if self._image is not None:
            painter.setFont(font())
            painter.setPen(self._surround.text)
            below = square.adjusted(0, 0, 0, -8)
            painter.drawText(
                below, Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom, _HINT
            )
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._from = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._from is None:
            return
        by = event.position() - self._from
        self._from = event.position()
        side = max(min(self.width(), self.height()), 1)
        pose = self._owner.pose
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if shift or event.buttons() & Qt.MouseButton.MiddleButton:
            self._owner.hold(pose.moved(2 * by.x() / side, -2 * by.y() / side))
        else:
            self._owner.hold(pose.turned(180 * by.x() / side, 180 * by.y() / side))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._from = None

    def wheelEvent(self, event: QWheelEvent) -> None:
        notches = (event.angleDelta().y() or event.angleDelta().x()) / _NOTCH
        self._owner.hold(self._owner.pose.nearer(1.1**notches))
        event.accept()
