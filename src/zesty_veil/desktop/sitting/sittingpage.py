"""What stands on the page of a sitting, and where: the card, its presses, and the lanes below."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent, QResizeEvent
from PySide6.QtWidgets import (
    QAbstractSpinBox,
    QFrame,
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.kit.numberbox import MinutesBox
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.panel import Panel
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.sitting.benchrow import BenchRow
from zesty_veil.desktop.sitting.keys import SITTING
from zesty_veil.desktop.sitting.lanes import Lanes
from zesty_veil.desktop.sitting.nowcard import NowCard
from zesty_veil.tr import tr

_ENTER = (Qt.Key.Key_Return, Qt.Key.Key_Enter)
_LOW = 600  # pixels of a page below which the lanes are lower, for the card's sake


class SittingPage(Page):
    """Holds what the sitting's page shows; who leads through it is `SittingView`."""

    keys = SITTING
    whole = True
    full_wanted = Signal()  # the card alone on the screen, or all again

    def __init__(self) -> None:
        super().__init__()
        self.card, self.lanes = NowCard(), Lanes()
        self.bench = BenchRow(self)
        self.laid = _button(tr("Laid"), SITTING.tooltip("laid", tr("This pass is laid")))
        self.redo = _button(
            tr("Not yet"), SITTING.tooltip("not yet", tr("Take the last pass back"))
        )
        self.later = _button(tr("Later"), SITTING.tooltip("later pass", tr("Something else first")))
        self.hold = _button(
            tr("Pause"),
            SITTING.tooltip("pause", tr("Pause, or go on; films dry meanwhile")),
        )
        self.wrong = _button(
            tr("It went wrong"),
            SITTING.tooltip("rescue", tr("Too dark, too strong …: find the way back")),
        )
        self.again = _button(
            tr("Start over"),
            SITTING.tooltip("start over", tr("Schedule the plan as it is now, with nothing laid")),
        )
        self.reschedule = _button(
            tr("Reschedule"),
            SITTING.tooltip(
                "reschedule", tr("Put what is left in order again; what is laid stays laid")
            ),
        )
        self.reschedule.setObjectName("main")
        self.reschedule.hide()
        self.full = _button(
            tr("Full screen"),
            SITTING.tooltip("full screen", tr("The card alone on the whole screen, or all again")),
        )
        self.leave = _button(
            tr("Back"),
            SITTING.tooltip("leave sitting", tr("Back to the section; the sitting goes on")),
        )
        self.words = Label()
        self.words.setWordWrap(True)
        # How long a schedule takes to find is not known before it is found.
        self.progress = QProgressBar()
        self.progress.setRange(0, 0)
        self.progress.setTextVisible(False)
        self.progress.setFixedSize(160, 6)
        self.progress.setVisible(False)
        self.progress.setAccessibleName(tr("scheduling"))
        self._lay_out()
        buttons = (self.laid, self.redo, self.later, self.hold, self.wrong, self.again,
                   self.reschedule, self.full, self.leave)  # fmt: skip
        for control in (*self.bench.controls, *buttons):
            control.installEventFilter(self)

    def tools(self) -> QWidget | None:
        """Return what is done to the sitting as a whole."""
        return self._bar

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.lanes.set_low(event.size().height() < _LOW)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Take Space and letters for the page wherever the keyboard stands, but in what is typed.

        A wet hand finds these keys without looking. Enter presses buttons in Space's place.
        """
        if not isinstance(event, QKeyEvent) or event.modifiers():
            return False
        key, pressed = event.key(), event.type() == QEvent.Type.KeyPress
        if key == Qt.Key.Key_Space and event.type() in (
            QEvent.Type.KeyPress, QEvent.Type.KeyRelease,
        ):  # fmt: skip
            if isinstance(watched, QAbstractSpinBox) and watched.lineEdit().isModified():
                return False
            if pressed and not event.isAutoRepeat():
                self.lay()
            return True
        if pressed and isinstance(watched, QPushButton) and key in _ENTER:
            watched.click()
            return True
        if pressed and isinstance(watched, QAbstractSpinBox) and event.text().isalpha():
            if isinstance(watched, MinutesBox) and watched.lineEdit().isModified():
                return False  # 2 h
            self.keyPressEvent(event)
            return True  # no number begins with a letter
        return False

    def lay(self) -> None:
        """The pass in hand is laid."""
        raise NotImplementedError

    def show_full(self, full: bool) -> None:
        """Leave away what is settled before painting, or show it again."""
        self.asked.setVisible(not full)
        self.full.setText(tr("Window") if full else tr("Full screen"))

    def _lay_out(self) -> None:
        numbers, keys = QHBoxLayout(), QHBoxLayout()
        for row in (numbers, keys):
            row.setContentsMargins(0, 0, 0, 0)
            row.setSpacing(8)
        self.bench.fill(numbers)
        self.asked = QWidget()
        self.asked.setLayout(numbers)
        said = QHBoxLayout()
        said.setSpacing(16)
        said.addWidget(self.asked)
        said.addWidget(self.reschedule)
        said.addWidget(self.words, 1)
        said.addWidget(self.progress)
        above = Panel()
        above.body.addLayout(said)
        self.laid.setObjectName("main")
        for button in (self.laid, self.redo, self.later, self.hold, self.wrong):
            button.setProperty("wet", True)
            keys.addWidget(button, 2 if button is self.laid else 1)
        self._bar = QWidget()
        bar = QHBoxLayout(self._bar)
        bar.setContentsMargins(0, 0, 0, 0)
        bar.setSpacing(8)
        for button in (self.full, self.again, self.leave):
            bar.addWidget(button)
        self.field = QScrollArea()
        self.field.setWidget(self.lanes)
        self.field.setWidgetResizable(True)
        self.field.setFrameShape(QFrame.Shape.NoFrame)
        self.field.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        page = QVBoxLayout(self)
        page.setContentsMargins(8, 0, 16, 8)
        page.setSpacing(8)
        page.addWidget(above)
        page.addWidget(self.card, 1)
        page.addLayout(keys)
        page.addWidget(self.field)


def _button(words: str, tip: str) -> QPushButton:
    button = QPushButton(words)
    button.setToolTip(tip)
    button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
    return button
