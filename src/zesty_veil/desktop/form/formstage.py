"""The form at large: a click leaves it; on it the axis of a sculpt and the nozzle are dragged."""

from __future__ import annotations

from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF

from zesty_veil.desktop.form.handles import (
    Handles,
    Held,
    Place,
    handles,
    held_to_square,
    nozzle_at,
)
from zesty_veil.desktop.kit.formview import FormView
from zesty_veil.desktop.kit.passageeditor import PassageEditor
from zesty_veil.desktop.kit.theme import font, grey
from zesty_veil.desktop.session.document import Document
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.plan import edits
from zesty_veil.plan.grounds import with_nozzles
from zesty_veil.plan.model import Axis, Plan
from zesty_veil.services.formedits import lengthened
from zesty_veil.tr import tr

_DRAG_FROM_PX = 5
_LEAST_AXIS = 0.02
_STEP = 0.02
_ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, 1),
    Qt.Key.Key_Down: (0, -1),
}


class FormStage(FormView):
    """A form with its handles; `dragged` tells in words what was, and the plan previews it."""

    dragged = Signal(str)

    def __init__(self, document: Document, editor: PassageEditor) -> None:
        super().__init__()
        self._document, self._editor = document, editor
        self._mirrored = False
        self._split: tuple[str, str] | None = None
        self._pressed: QPointF | None = None
        self._held: Held | None = None
        self._before: Plan | None = None
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setToolTip("")
        document.changed.connect(self.update)

    @property
    def handles(self) -> Handles:
        """What can be taken hold of now."""
        passage = self._editor.passage
        return Handles(None, None) if passage is None else handles(self._document.plan, passage)

    def set_mirrored(self, mirrored: bool) -> None:
        """Say whether the form is shown in the mirror."""
        self._mirrored = mirrored
        self.update()

    def set_split(self, light: str, split: str | None) -> None:
        """Say under which lights the left and the right half are shown, if they differ."""
        self._split = None if split is None else (LIGHTS[light], LIGHTS[split])
        self.update()

    def point(self, place: Place) -> QPointF:
        """Return where a place of the form is in the widget."""
        square, x = self.square(), -place[0] if self._mirrored else place[0]
        return QPointF(
            square.center().x() + x * square.width() / 2,
            square.center().y() - place[1] * square.height() / 2,
        )

    def place(self, point: QPointF) -> Place:
        """Return which place of the form is at a point of the widget."""
        square = self.square()
        x = (point.x() - square.center().x()) / (square.width() / 2)
        y = (square.center().y() - point.y()) / (square.height() / 2)
        return (-x if self._mirrored else x), y

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(font())
        if self._split is not None:
            self._draw_split(painter, *self._split)
        now = self.handles
        if now.axis is not None:
            self._draw_axis(painter, now.axis)
        if now.nozzle is not None and now.nozzle_place is not None:
            self._draw_nozzle(painter, now.nozzle, now.nozzle_place)
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._pressed = event.position()
            self._held = self.handles.at(self.place(event.position()))
            self._before = self._document.history.plan

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None:
            over = self.handles.at(self.place(event.position()))
            shapes, on_sculpt = Qt.CursorShape, self.handles.axis is not None
            plain = shapes.CrossCursor if on_sculpt else shapes.PointingHandCursor
            self.setCursor(shapes.SizeAllCursor if over else plain)
            return
        if self._before is not self._document.history.plan:
            return  # the plan was changed otherwise in the meantime
        moved = event.position() - self._pressed
        if self._document.plan is self._before and moved.manhattanLength() < _DRAG_FROM_PX:
            return
        fine = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        plan = self._dragged(self._before, event.position(), fine)
        if plan is not None:
            self._document.preview(plan)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton or self._pressed is None:
            return
        dragged = self._document.plan is not self._document.history.plan
        moved = event.position() - self._pressed
        self._pressed = None
        if dragged:
            self.dragged.emit("nozzle" if self._held == "nozzle" else tr("axis on the sculpt"))
        elif self._held is None and moved.manhattanLength() < _DRAG_FROM_PX:
            self.clicked.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move the axis's light end, with Shift its far end."""
        now, key = self.handles.axis, Qt.Key(event.key())
        if event.key() == Qt.Key.Key_Escape:
            if self._pressed is not None:
                self._pressed = None
                self._document.abort()
            else:
                self.clicked.emit()
        elif now is not None and key in _ARROWS:
            far = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            x, y = now.end if far else now.start
            place = held_to_square((x + _STEP * _ARROWS[key][0], y + _STEP * _ARROWS[key][1]))
            axis = replace(now, end=place) if far else replace(now, start=place)
            index = self._editor.passage_index
            plan = lengthened(edits.set_axis(self._document.plan, index, axis), index)
            self._document.preview(plan)
            self.dragged.emit(tr("axis on the sculpt"))
        else:
            event.ignore()
            return
        event.accept()

    def _dragged(self, plan: Plan, point: QPointF, fine: bool) -> Plan | None:
        """Return the plan with what is held brought to a point, or nothing if nothing is."""
        index, now, place = self._editor.passage_index, self.handles, self.place(point)
        if self._held == "nozzle":
            return with_nozzles(plan, index, nozzle_at(place, fine))
        if now.axis is None or self._pressed is None:
            return None
        place = held_to_square(place)
        axis = plan.passages[index].axis
        if self._held == "start":
            axis = replace(axis, start=place)
        elif self._held == "end":
            axis = replace(axis, end=place)
        else:
            axis = replace(axis, start=held_to_square(self.place(self._pressed)), end=place)
        far = QPointF(axis.end[0] - axis.start[0], axis.end[1] - axis.start[1])
        if far.manhattanLength() < _LEAST_AXIS:
            return None
        return lengthened(edits.set_axis(plan, index, axis), index)

    def _draw_split(self, painter: QPainter, left: str, right: str) -> None:
        square = self.square()
        middle = square.center().x()
        for level, at in ((0xFF, middle - 0.5), (0x00, middle + 0.5)):
            painter.setPen(QPen(grey(level), 1))
            painter.drawLine(QPointF(at, square.top()), QPointF(at, square.bottom()))
        width = painter.fontMetrics().horizontalAdvance(left)
        foot = square.bottom() - 10
        self._write(painter, QPointF(middle - 12 - width, foot), left)
        self._write(painter, QPointF(middle + 12, foot), right)

    def _draw_axis(self, painter: QPainter, axis: Axis) -> None:
        start, end = self.point(axis.start), self.point(axis.end)
        for level, width in ((0xFF, 4.5), (0x00, 1.8)):
            painter.setPen(QPen(grey(level), width))
            painter.drawLine(start, end)
        painter.setPen(QPen(grey(0xFF), 2))
        painter.setBrush(grey(0x00))
        painter.drawEllipse(start, 7, 7)
        painter.setPen(QPen(grey(0x00), 2))
        painter.setBrush(grey(0xFF))
        painter.drawEllipse(end, 6, 6)
        passage = self._editor.passage
        length = passage.length_mm if passage is not None else 0.0
        # Each word stands on the side away from the line.
        for at, other, words in ((start, end, "light"), (end, start, f"{length:g} mm")):
            width = painter.fontMetrics().horizontalAdvance(words)
            side = 12 if at.x() >= other.x() else -12 - width
            self._write(painter, at + QPointF(side, 5), words)

    def _draw_nozzle(self, painter: QPainter, nozzle: float, place: Place) -> None:
        at, middle = self.point(place), self.square().center()
        ahead = middle - at
        ahead /= max((ahead.x() ** 2 + ahead.y() ** 2) ** 0.5, 1e-6)
        side = QPointF(-ahead.y(), ahead.x())
        wedge = QPolygonF([at + ahead * 15, at - ahead * 9 + side * 9, at - ahead * 9 - side * 9])
        painter.setPen(QPen(grey(0xFF), 2))
        painter.setBrush(grey(0x00))
        painter.drawPolygon(wedge)
        words = tr("nozzle from above") if nozzle == 0 else tr("nozzle {0:g}°").format(nozzle)
        left = at.x() > middle.x() + self.square().width() / 4
        width = painter.fontMetrics().horizontalAdvance(words)
        self._write(painter, at + QPointF(-18 - width if left else 18, 5), words)

    def _write(self, painter: QPainter, at: QPointF, words: str) -> None:
        """Write words in a plate of the field's grey, so that they read on any colour."""
        metrics = painter.fontMetrics()
        plate = QRectF(
            at.x() - 3, at.y() - metrics.ascent(), metrics.horizontalAdvance(words) + 6,
            metrics.height(),
        )  # fmt: skip
        painter.fillRect(plate, self.surround.colour)
        painter.setPen(self.surround.text)
        painter.drawText(at, words)
