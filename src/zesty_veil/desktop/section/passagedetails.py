"""What is seldom changed of a passage: its name, size, form, surround and undercoat."""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QGridLayout, QPushButton, QWidget

from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.entryline import EntryLine
from zesty_veil.desktop.kit.numberbox import NumberBox
from zesty_veil.desktop.kit.panel import heading
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.popover import Popover
from zesty_veil.desktop.kit.quiet import WheelGuard
from zesty_veil.paint.primer import PLAIN, PRIMERS
from zesty_veil.plan.model import MOST_AREA_MM2, MOST_LENGTH_MM
from zesty_veil.tr import tr

_FIELD = 260


class PassageDetails(Popover):
    """Holds the controls; who opens it listens to them."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, tr("This passage"))
        self.name = EntryLine(tr("name of the passage"))
        self.name.setMaxLength(80)
        self.length = _box(tr("length of the passage in mm"), MOST_LENGTH_MM, tr(" mm"))
        self.length.setToolTip(tr("Length along the axis, away from the light"))
        self.area = _box(tr("area of the passage in square mm"), MOST_AREA_MM2, tr(" mm²"))
        self.area.setToolTip(tr("Area to be painted, which tells the time"))
        self.form = Choice(tr("form to see the passage on"))
        self.around = Choice(tr("passage that surrounds this one"))
        self.around.setToolTip(
            tr("What surrounds this passage: it stands behind it, and sets how light it seems")
        )
        self.undercoat = Choice(tr("coloured undercoat in place of a primer"))
        self.undercoat.addItem(tr("no undercoat"), "")
        for primer in PRIMERS[len(PLAIN) :]:
            self.undercoat.addItem(tr("{0} undercoat").format(tr(primer)), primer)
        self.remove = QPushButton(tr("Take the passage away"))
        self.remove.setAccessibleName(tr("take this passage away"))
        WheelGuard(self).guard(self.length, self.area, self.form, self.around, self.undercoat)
        self.body.addWidget(heading(tr("This passage")))
        grid = QGridLayout()
        grid.setHorizontalSpacing(16)
        grid.setVerticalSpacing(8)
        grid.setColumnMinimumWidth(1, _FIELD)
        for row, (words, widget) in enumerate(
            (
                (tr("Name"), self.name), (tr("Length"), self.length), (tr("Area"), self.area),
                (tr("Form"), self.form), (tr("Surround"), self.around),
                (tr("Undercoat"), self.undercoat),
            )
        ):  # fmt: skip
            label = Label(words)
            label.setBuddy(widget)
            grid.addWidget(label, row, 0)
            grid.addWidget(widget, row, 1)
        self.body.addLayout(grid)
        self.body.addWidget(self.remove)

    def open_beside(self, anchor: QWidget) -> None:
        """Open to the right of a widget, its foot at that of the widget."""
        self.adjustSize()
        corner = anchor.mapToGlobal(QPoint(anchor.width() + 8, anchor.height() - self.height()))
        self.open_at(corner, anchor)


def _box(name: str, most: float, unit: str) -> NumberBox:
    box = NumberBox()
    box.setRange(0.1, most)
    box.setDecimals(1)
    box.setKeyboardTracking(False)
    box.setSuffix(unit)
    box.setButtonSymbols(NumberBox.ButtonSymbols.NoButtons)
    box.setAccessibleName(name)
    box.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
    return box
