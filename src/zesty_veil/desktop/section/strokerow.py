"""How the tool is led: where strokes end, wicking, the angle of a spray, how much dabs cover."""

from __future__ import annotations

from msgspec.structs import replace
from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QWidget

from zesty_veil.desktop.kit.numberbox import NumberBox
from zesty_veil.desktop.kit.plain import name_control
from zesty_veil.desktop.kit.quiet import WheelGuard, quiet
from zesty_veil.paint.tool import tools
from zesty_veil.plan import edits
from zesty_veil.plan.model import LEAST_COVER, STROKES, Coat
from zesty_veil.tr import tr

_STROKE_WORDS = ("to and fro", "end at light", "end away")
_SQUARE_ON = -181.0


class StrokeRow(QWidget):
    """Strokes and wicking for a brush, the nozzle for a spray, the cover of dabs.

    `changed` carries a function from a coat to the changed coat, the words for it, and the gesture.
    """

    changed = Signal(object, str, str)

    def __init__(self) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self.stroke = QComboBox()
        self.stroke.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        name_control(self.stroke, tr("where each stroke ends"))
        self.stroke.addItems([tr(words) for words in _STROKE_WORDS])
        self.stroke.activated.connect(self._stroke_chosen)
        self.wick = QPushButton(tr("wick"))
        self.wick.setObjectName("narrow")
        self.wick.setCheckable(True)
        self.wick.setFixedWidth(48)
        self.wick.setAccessibleName(tr("take up puddles at once"))
        self.wick.setToolTip(tr("Take up puddles at once: recesses get no more than flats"))
        self.wick.clicked.connect(self._wicked)
        self.nozzle = NumberBox()
        self.nozzle.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.nozzle.setAccessibleName(tr("angle of the nozzle in degrees from straight above"))
        self.nozzle.setRange(_SQUARE_ON, 180)
        self.nozzle.setDecimals(0)
        self.nozzle.setSingleStep(5)
        self.nozzle.setSuffix(tr("° from above"))
        self.nozzle.setSpecialValueText(tr("square on"))
        self.nozzle.setKeyboardTracking(False)
        self.nozzle.setButtonSymbols(NumberBox.ButtonSymbols.NoButtons)
        self.nozzle.valueChanged.connect(self._nozzle_turned)
        self.nozzle.setToolTip(
            tr("Degrees from straight above; the lowest value follows the surface")
        )
        self.cover = NumberBox()
        self.cover.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.cover.setAccessibleName(tr("share of the area that one pass touches, in percent"))
        self.cover.setRange(100 * LEAST_COVER, 100)
        self.cover.setDecimals(0)
        self.cover.setSingleStep(5)
        self.cover.setSuffix(tr(" % a pass"))
        self.cover.setKeyboardTracking(False)
        self.cover.setButtonSymbols(NumberBox.ButtonSymbols.NoButtons)
        self.cover.valueChanged.connect(self._cover_set)
        self.cover.setToolTip(
            tr("How much of the area one pass touches, on what stands out and flat")
        )
        WheelGuard(self).guard(self.stroke, self.nozzle, self.cover)
        row.addWidget(self.stroke, 1)
        row.addWidget(self.wick)
        row.addWidget(self.nozzle, 1)
        row.addWidget(self.cover, 1)
        for box in (self.nozzle, self.cover):  # a brush until a coat says otherwise
            box.hide()

    def show_coat(self, coat: Coat) -> str:
        """Show a coat; return the word for what this row is about."""
        tool = tools()[coat.tool]
        sprayed, dabbed = tool.directional, tool.cover < 1
        with quiet(self.stroke, self.wick, self.nozzle, self.cover):
            self.cover.setValue(100 * (tool.cover if coat.cover is None else coat.cover))
            self.stroke.setCurrentIndex(STROKES.index(coat.stroke))
            self.wick.setChecked(coat.wicked)
            self.nozzle.setValue(_SQUARE_ON if coat.nozzle is None else coat.nozzle)
        self.stroke.setVisible(not sprayed and not dabbed)
        self.wick.setVisible(not sprayed and not dabbed)
        self.nozzle.setVisible(sprayed)
        self.cover.setVisible(dabbed)
        return tr("Nozzle") if sprayed else tr("Cover") if dabbed else tr("Strokes")

    def _stroke_chosen(self, row: int) -> None:
        self.changed.emit(lambda coat: edits.with_stroke(coat, STROKES[row]), "strokes", "")

    def _cover_set(self, percent: float) -> None:
        self.changed.emit(lambda coat: edits.with_cover(coat, percent / 100), "cover", "cover")

    def _wicked(self, on: bool) -> None:
        self.changed.emit(lambda coat: replace(coat, wicked=on), "wicking", "")

    def _nozzle_turned(self, degrees: float) -> None:
        nozzle = None if degrees <= _SQUARE_ON else degrees
        # From square on, the first step up is meant as straight above.
        if nozzle is not None and nozzle < -180 + 5:
            nozzle = 0.0
        self.changed.emit(lambda coat: edits.with_nozzle(coat, nozzle), "nozzle", "nozzle")
