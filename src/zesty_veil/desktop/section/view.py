"""The Section widget: the drawing is the control."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QEvent, QPoint, QPointF, QSize, Qt, Signal
from PySide6.QtGui import (
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from zesty_veil.desktop.kit.geometry import Grip, grip_at
from zesty_veil.desktop.kit.passageeditor import PassageEditor
from zesty_veil.desktop.kit.plain import tip
from zesty_veil.desktop.kit.spoken import SpokenItem, SpokenItems
from zesty_veil.desktop.kit.theme import SURROUNDS, Surround
from zesty_veil.desktop.section.draw import draw_moving, label_box
from zesty_veil.desktop.section.firstcoat import FirstCoat
from zesty_veil.desktop.section.keptdrawing import KeptDrawing
from zesty_veil.desktop.section.named import row_at, spoken_items
from zesty_veil.desktop.section.scene import Scene, build
from zesty_veil.plan.model import coat_name
from zesty_veil.services.forecast import Forecast
from zesty_veil.tr import tr

_DRAG_FROM_PX = 4
_UNDER = 8  # pixels of film that are still seen above a popover
_NOTCH = 120


class SectionView(QWidget):
    """Shows a forecast and turns what the hand does on it into edits, through a `PassageEditor`."""

    selected = Signal(int)  # -1 for none
    ground_pressed = Signal()
    key_pressed = Signal(QKeyEvent)

    def __init__(self, editor: PassageEditor, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._editor = editor
        self._forecast: Forecast | None = None
        self._scene: Scene | None = None
        self._stale = False  # whether it has to be built anew
        self._surround = SURROUNDS["middle"]
        self._selected: int | None = None
        self._hot: tuple[int, Grip] | None = None
        self._place = 0.0
        self._pressed: tuple[QPointF, tuple[int, Grip]] | None = None
        self._label_from: int | None = None
        self._wheel = 0
        self._kept = KeptDrawing()
        self._spoken = SpokenItems(self, self.items)
        self.first = FirstCoat(self)
        self.first.set_surround(self._surround)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(tr("Section through the paint"))
        self.setAccessibleDescription(
            tr(
                "Up and down choose a coat; left and right move its far end; plus and minus "
                "change its passes; T thins it."
            )
        )

    @property
    def scene(self) -> Scene | None:
        """What is drawn."""
        if self._stale:
            self._stale = False
            self._scene = (
                build(
                    self._forecast,
                    self.width(),
                    self.height(),
                    self._selected,
                    self._hot,
                    self._place,
                    self._scene,
                )
                if self._forecast is not None
                else None
            )
        return self._scene

    @property
    def place(self) -> float:
        """Where the readout reads, 0-1 on the axis."""
        return self._place

    def surface_at(self, coat: int | None) -> QPoint | None:
        """Return a little below the surface on which a coat over another would lie, where read."""
        scene = self.scene
        if scene is None:
            return None
        strata = scene.strata
        y = strata.box.bottom
        if coat is not None and coat < len(strata.strata):
            y = float(np.interp(self._place, strata.u, strata.strata[coat].upper))
        return QPoint(round(strata.x(self._place)), round(y) + _UNDER)

    def sizeHint(self) -> QSize:
        return QSize(760, 640)

    def minimumSizeHint(self) -> QSize:
        return QSize(480, 420)

    def show_forecast(self, forecast: Forecast | None) -> None:
        """Draw another forecast."""
        self._forecast = forecast
        self._rebuild()
        self._show_first()

    def set_surround(self, surround: Surround) -> None:
        """Put the colours into another grey field."""
        self._surround = surround
        self.first.set_surround(surround)
        self.update()

    def select(self, coat: int | None) -> None:
        """Take a coat in hand, or none."""
        self._selected = coat
        self._rebuild()

    def read_at(self, place: float) -> None:
        """Move the place where the readout reads; held to 0-1."""
        self._place = min(max(place, 0.0), 1.0)
        self._rebuild()

    def _rebuild(self) -> None:
        """Let the scene be built anew when it is next asked for: once, whatever changed by then."""
        self._stale = True
        self.update()

    def items(self) -> list[SpokenItem]:
        """Return the coats for assistive technology, from the lowest up."""
        scene, toggle = self.scene, self.ground_pressed.emit
        return [] if scene is None else spoken_items(scene, self.selected.emit, toggle)

    def words_at(self, place: QPoint) -> str:
        """Return the words that stand at a place: of a row, or of a coat's label."""
        scene = self.scene
        if scene is None:
            return ""
        row = row_at(scene, place)
        if row is not None:
            return row
        coat = self._label_at(QPointF(place))
        return "" if coat is None else coat_name(scene.passage.coats[coat])

    def paintEvent(self, event: QPaintEvent) -> None:
        scene = self.scene
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._surround.colour)
        if scene is not None:
            self._kept.draw(painter, scene, self._surround, self.size())
            draw_moving(painter, scene, self._surround)
        else:
            painter.setPen(self._surround.text)
            words = tr("No passage yet. Add one on the left, and its section stands here.")
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, words)
        painter.end()
        self._spoken.tell_soon()

    def event(self, event: QEvent) -> bool:
        """Say on the strip of a ground that has coats what a press does."""
        scene = self.scene if event.type() == QEvent.Type.ToolTip else None
        if scene is None or not scene.has_ground or not isinstance(event, QHelpEvent):
            return super().event(event)
        if not scene.frame.ground.holds(event.pos().x(), event.pos().y()):
            return super().event(event)
        words = tr("Show the ground's coats, to drag them where they lie")
        if scene.ground_coats:
            words = tr("Fold the ground's coats in")
        QToolTip.showText(event.globalPos(), tip(words), self)
        return True

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._rebuild()
        self._show_first()

    def _show_first(self) -> None:
        """Lead on where nothing is laid yet."""
        scene = self.scene
        bare = scene is not None and not scene.passage.coats
        top = scene.frame.strata.y if scene is not None else 0
        self.first.show_over(self, bare, round(top))

    def leaveEvent(self, event: QEvent) -> None:
        if self._pressed is None:
            self._hot = None
            self._rebuild()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        scene = self.scene
        if event.button() != Qt.MouseButton.LeftButton or scene is None:
            return
        point = event.position()
        if scene.ground_coats != self._editor.ground_coats:
            return  # coats are counted otherwise by now than they are drawn
        if scene.opens_ground(point.x(), point.y()):
            self.ground_pressed.emit()
            return
        label = self._label_at(point)
        if label is not None:
            self._label_from = label
            self._take(label)
            return
        hit = self._hit(point)
        if hit is None:
            if scene.frame.strata.holds(point.x(), point.y()):
                self._take(None)
            return
        self._take(hit[0])
        self._pressed = (point, hit)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        scene = self.scene
        point = event.position()
        if scene is None:
            return
        if self._pressed is not None:
            self._drag(point, event.modifiers())
            return
        self._hot = self._hit(point)
        opens = scene.opens_ground(point.x(), point.y())
        self._show_cursor(opens or self._label_at(point) is not None)
        if scene.frame.axis.holds(point.x(), point.y()):
            self._place = scene.frame.place(point.x())
        self._rebuild()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        scene = self.scene
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if self._pressed is not None:
            self._pressed = None
            self._editor.release()
        if self._label_from is not None and scene is not None:
            label, self._label_from = self._label_from, None
            onto = self._label_at(event.position(), nearest=True)
            if onto is not None and onto != label:
                self._editor.move(label, onto)
                self._take(onto)

    def wheelEvent(self, event: QWheelEvent) -> None:
        scene = self.scene
        if scene is None:
            return
        point = event.position()
        coat = self._label_at(point)
        if coat is None:
            coat = scene.strata.under(point.x(), point.y())
        if coat is None:
            coat = scene.selected
        # Touchpads send parts of a notch; some systems turn Shift + wheel into sideways turning.
        delta: QPoint = event.angleDelta()
        self._wheel += delta.y() or delta.x()
        notches, self._wheel = (
            int(self._wheel / _NOTCH),
            self._wheel - int(self._wheel / _NOTCH) * _NOTCH,
        )
        event.accept()
        if coat is None or not notches:
            return
        self._take(coat)
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self._editor.thin(coat, 0.5 * notches)
        else:
            self._editor.passes(coat, notches)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self._pressed is not None:
            self._pressed = None
            self._editor.abort()
            return
        event.ignore()
        self.key_pressed.emit(event)

    def _take(self, coat: int | None) -> None:
        if coat != self._selected:
            self._selected = coat
            self.selected.emit(-1 if coat is None else coat)
            self._rebuild()

    def _hit(self, point: QPointF) -> tuple[int, Grip] | None:
        scene = self.scene
        assert scene is not None
        coats = scene.passage.coats
        return grip_at(scene.strata, coats, scene.selected, point.x(), point.y())

    def _label_at(self, point: QPointF, nearest: bool = False) -> int | None:
        scene = self.scene
        assert scene is not None
        boxes = [label_box(scene, i) for i in range(len(scene.labels))]
        for index, box in enumerate(boxes):
            if box.holds(point.x(), point.y()):
                return index
        if nearest and boxes and point.x() >= boxes[0].x:
            distance = [abs(box.y + box.height / 2 - point.y()) for box in boxes]
            return distance.index(min(distance))
        return None

    def _drag(self, point: QPointF, modifiers: Qt.KeyboardModifier) -> None:
        scene = self.scene
        assert scene is not None
        assert self._pressed is not None
        start, (coat, grip) = self._pressed
        if not self._editor.dragging:
            if (point - start).manhattanLength() < _DRAG_FROM_PX:
                return
            self._editor.grasp(coat, grip)
        along = (point.x() - start.x()) / scene.frame.value.width
        fine = bool(modifiers & Qt.KeyboardModifier.ShiftModifier)
        self._place = scene.frame.place(point.x())
        self._editor.drag(along * (0.2 if fine else 1.0))

    def _show_cursor(self, label: bool) -> None:
        shapes = Qt.CursorShape
        if label:
            shape = shapes.PointingHandCursor
        elif self._hot is None:
            shape = shapes.CrossCursor
        else:
            shape = shapes.SizeAllCursor if self._hot[1] == "body" else shapes.SizeHorCursor
        self.setCursor(shape)
