"""The row above a sitting: how many figures, the bench's air, and how long an evening is."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QBoxLayout, QPushButton, QWidget

from zesty_veil.bench.air import USUAL_C, USUAL_HUMIDITY, Air
from zesty_veil.bench.sitting import Sitting
from zesty_veil.bench.tasks import MOST_FIGURES_AT_ONCE
from zesty_veil.desktop.kit.numberbox import CountBox, MinutesBox
from zesty_veil.desktop.kit.numbersrow import number
from zesty_veil.desktop.kit.plain import Label, name_control
from zesty_veil.desktop.kit.quiet import quiet
from zesty_veil.tr import tr

_MOST_EVENING, _STEP = 600, 15


class BenchRow(QObject):
    """Holds the controls; whoever shows them gives them a row to stand in."""

    changed = Signal()

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.figures = CountBox()
        self.figures.setRange(1, MOST_FIGURES_AT_ONCE)
        name_control(self.figures, tr("figures in rotation"))
        self.celsius = number(tr("degrees at the bench"), 5, 40, 1, " °C", 0)
        self.humidity = number(tr("relative humidity"), 5, 95, 5, " %", 0)
        self.celsius.setValue(USUAL_C)
        self.humidity.setValue(USUAL_HUMIDITY)
        self.evening = MinutesBox()
        self.evening.setRange(0, _MOST_EVENING)
        self.evening.setSingleStep(_STEP)
        name_control(self.evening, tr("how long an evening is: 2 h, 1 h 30 or 90"))
        self.evening.setSpecialValueText(tr("no end"))
        self.hairdryer = QPushButton(tr("Hairdryer"))
        self.hairdryer.setCheckable(True)
        self.hairdryer.setToolTip(tr("Films are blown dry. Keep it away from water."))
        self.retarder = QPushButton(tr("Retarder"))
        self.retarder.setCheckable(True)
        self.retarder.setToolTip(tr("A drop of retarder in every mixture: it stays open longer"))

        for box in (self.figures, self.celsius, self.humidity, self.evening):
            box.valueChanged.connect(lambda _: self.changed.emit())
        for button in (self.hairdryer, self.retarder):
            button.toggled.connect(lambda _: self.changed.emit())

    @property
    def controls(self) -> tuple[QWidget, ...]:
        """All that the keyboard can stand on."""
        return (
            self.figures, self.celsius, self.humidity, self.evening, self.hairdryer, self.retarder,
        )  # fmt: skip

    def show_sitting(self, sitting: Sitting) -> None:
        """Show what a sitting was scheduled for."""
        with quiet(*self.controls):
            self.figures.setValue(sitting.plan.figures)
            self.celsius.setValue(sitting.celsius)
            self.humidity.setValue(sitting.humidity)
            self.evening.setValue(sitting.evening or 0)
            self.hairdryer.setChecked(sitting.hairdryer)
            self.retarder.setChecked(sitting.retarder)

    def keep_figures(self, least: int) -> bool:
        """Let there be no fewer figures than so many; tell whether there were."""
        if self.figures.value() >= least:
            return False
        with quiet(self.figures):
            self.figures.setValue(least)
        return True

    def differs(self, sitting: Sitting) -> bool:
        """Tell whether something else is wanted by now than a sitting was scheduled for."""
        return (self.figures.value(), self.air(), self.minutes()) != (
            sitting.plan.figures, sitting.air, sitting.evening,
        )  # fmt: skip

    def minutes(self) -> float | None:
        """Return how long an evening is; none for as long as it takes."""
        return self.evening.value() or None

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
