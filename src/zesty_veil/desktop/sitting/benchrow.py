"""The row above a sitting: how many figures, the bench's air, and how long an evening is."""

from __future__ import annotations

from PySide6.QtWidgets import QBoxLayout, QPushButton

from zesty_veil.bench.air import USUAL_C, USUAL_HUMIDITY, Air
from zesty_veil.bench.tasks import MOST_FIGURES_AT_ONCE
from zesty_veil.desktop.kit.numberbox import CountBox
from zesty_veil.desktop.kit.numbersrow import number
from zesty_veil.desktop.kit.plain import Label, name_control
from zesty_veil.tr import tr


class BenchRow:
    """Holds the controls; whoever shows them gives them a row to stand in."""

    def __init__(self) -> None:
        self.figures = CountBox()
        self.figures.setRange(1, MOST_FIGURES_AT_ONCE)
        name_control(self.figures, tr("figures in rotation"))
        self.celsius = number(tr("degrees at the bench"), 5, 40, 1, " °C", 0)
        self.humidity = number(tr("relative humidity"), 5, 95, 5, " %", 0)
        self.celsius.setValue(USUAL_C)
        self.humidity.setValue(USUAL_HUMIDITY)
        self.evening = number(
            tr("minutes of an evening; 0 for as long as it takes"), 0, 600, 15, tr(" min"), 0
        )
        self.evening.setSpecialValueText(tr("no end"))
        self.hairdryer = QPushButton(tr("Hairdryer"))
        self.hairdryer.setCheckable(True)
        self.hairdryer.setToolTip(tr("Films are blown dry. Keep it away from water."))
        self.retarder = QPushButton(tr("Retarder"))
        self.retarder.setCheckable(True)
        self.retarder.setToolTip(tr("A drop of retarder in every mixture: it stays open longer"))

    def air(self) -> Air:
        """Return the air that films dry in."""
        return Air(
            self.celsius.value(), self.humidity.value(), self.hairdryer.isChecked(),
            self.retarder.isChecked(),
        )  # fmt: skip

    def fill(self, numbers: QBoxLayout) -> None:
        """Put the controls into a row, with their words."""
        for words, widget in (
            (tr("Figures"), self.figures), (tr("Air"), self.celsius),
            (tr("Humidity"), self.humidity), (tr("Evening"), self.evening),
        ):  # fmt: skip
            label = Label(words)
            label.setBuddy(widget)
            numbers.addWidget(label)
            numbers.addWidget(widget)
        numbers.addWidget(self.hairdryer)
        numbers.addWidget(self.retarder)
