"""The numbers of a painted light: how hot, how far, how strong, how it falls off."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QWidget

from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.numberbox import CountBox, NumberBox
from zesty_veil.desktop.kit.plain import Label, name_control
from zesty_veil.desktop.kit.quiet import quiet
from zesty_veil.plan.glow import FALLOFFS, LEAST_RINGS, MOST_RINGS, Glow
from zesty_veil.tr import tr


def number(
    name: str, low: float, high: float, step: float, unit: str, decimals: int = 2
) -> NumberBox:
    """Return a box for a number, named for the eye and for assistive technology."""
    box = NumberBox()
    box.setDecimals(decimals)
    box.setRange(low, high)
    box.setSingleStep(step)
    box.setSuffix(unit)
    box.setKeyboardTracking(False)
    box.setAccessibleName(name)
    box.setToolTip(name[:1].upper() + name[1:])
    return box


class NumbersRow(QWidget):
    """Says when a number of the light is to be another."""

    changed = Signal(dict)  # of fields of a Glow

    def __init__(self) -> None:
        super().__init__()
        self.kelvin = number(tr("temperature of the fire"), 800, 6000, 100, " K", 0)
        self.radius = number(tr("how far the light reaches"), 2, 300, 1, tr(" mm"), 0)
        self.strength = number(tr("white at the light, in times of day"), 0.1, 10, 0.1, "")
        self.ambient = number(tr("all other light, in times of day"), 0, 1, 0.01, "")
        self._boxes = {
            "kelvin": self.kelvin,
            "radius_mm": self.radius,
            "strength": self.strength,
            "ambient": self.ambient,
        }
        for field, box in self._boxes.items():
            box.valueChanged.connect(lambda v, field=field: self.changed.emit({field: v}))
        self.rings = CountBox()
        self.rings.setRange(LEAST_RINGS, MOST_RINGS)
        name_control(self.rings, tr("rings"))
        self.rings.valueChanged.connect(lambda v: self.changed.emit({"rings": v}))
        self.falloff = Choice(tr("how the light falls off"))
        for falloff in FALLOFFS:
            self.falloff.addItem(
                tr({"steps": "in even steps"}.get(falloff, f"by {falloff}")), falloff
            )
        self.falloff.setMinimumContentsLength(11)
        self.falloff.activated.connect(
            lambda _: self.changed.emit({"falloff": self.falloff.currentData()})
        )
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(6)
        for i, (words, widget) in enumerate(
            (
                (tr("Fire"), self.kelvin), (tr("Strength"), self.strength),
                (tr("Reach"), self.radius), (tr("Ambient"), self.ambient),
                (tr("Rings"), self.rings), (tr("Falls off"), self.falloff),
            )
        ):  # fmt: skip
            label = Label(words)
            label.setBuddy(widget)
            grid.addWidget(label, i // 2, 2 * (i % 2))
            grid.addWidget(widget, i // 2, 2 * (i % 2) + 1)
        for column in (1, 3):
            grid.setColumnStretch(column, 1)

    def show_numbers(self, glow: Glow) -> None:
        """Show a light's numbers; that of its fire only if it is a fire."""
        for field, box in self._boxes.items():
            with quiet(box):
                box.setValue(getattr(glow, field))
        with quiet(self.rings):
            self.rings.setValue(glow.rings)
        with quiet(self.falloff):
            self.falloff.setCurrentIndex(self.falloff.findData(glow.falloff))
        self.kelvin.setEnabled(glow.colour is None)
