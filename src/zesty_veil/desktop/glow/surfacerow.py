"""What the surface in view is by itself, and what the light is: own colour, finish, from within."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QPushButton, QWidget

from zesty_veil.desktop.glow.corecurve import CoreCurve
from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.colourfield import ColourField
from zesty_veil.desktop.kit.numbersrow import number
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.quiet import quiet
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.errors import VeilError
from zesty_veil.light.srgb import hexadecimal, srgb
from zesty_veil.plan.glow import CORES, Glow, Surface
from zesty_veil.services.colours import parse_colour
from zesty_veil.tr import tr

# A line of light is as long as this to begin with, in half widths.
_LINE = 0.8
_FIELD = 122
_FINISHES = ("matt", "satin", "gloss")


class SurfaceRow(QWidget):
    """Says when the surface in view, or the colour of the light, is to be another."""

    surface_changed = Signal(object)  # Surface
    colour_changed = Signal(object)  # CIELAB as a tuple, or none for a fire
    second_changed = Signal(dict)  # of fields of a Glow
    complained = Signal(str)

    def __init__(self, rack: RackView) -> None:
        super().__init__()
        self._surface: Surface | None = None
        self.own = ColourField(tr("own colour of the surface in view"), "", rack)
        self.own.setToolTip(tr("Its colour by daylight, before any light is painted; Enter"))
        self.own.returnPressed.connect(self._own_written)
        self.finish = Choice(tr("finish of the surface in view"))
        self.finish.setToolTip(tr("A shiny surface shows the light from further away"))
        self.finish.setMinimumContentsLength(6)
        for finish in _FINISHES:
            self.finish.addItem(tr(finish), finish)
        self.finish.activated.connect(lambda _: self._set(finish=self.finish.currentData()))
        self.inside = QPushButton(tr("From within"))
        self.inside.setCheckable(True)
        self.inside.setToolTip(
            tr("The light is inside this surface, and nothing stands in its way")
        )
        self.inside.clicked.connect(lambda on: self._set(inside=on))
        self.line = QPushButton(tr("As a line"))
        self.line.setCheckable(True)
        for button in (self.inside, self.line):
            button.setObjectName("narrow")
        self.line.setToolTip(tr("The light is as long as a blade or a tube; drag either end"))
        self.line.clicked.connect(self._line_chosen)
        self.light = ColourField(tr("colour of the light, if it is no fire"), tr("the fire"), rack)
        self.light.setToolTip(
            tr("A colour for a light that is no fire; Enter. Empty: the fire's own")
        )
        self.light.returnPressed.connect(self._light_written)
        self.core = Choice(tr("how its hot core fades"))
        self.core.setToolTip(tr("How far near-white reaches, and where the hue turns deeper"))
        self.core.setMinimumContentsLength(6)
        self.core.setPlaceholderText(tr("own core"))
        for name in CORES:
            self.core.addItem(tr("{0} core").format(tr(name)), name)
        self.core.activated.connect(
            lambda _: self.second_changed.emit({"core": CORES[str(self.core.currentData())]})
        )
        self.curve = CoreCurve()
        self.curve.changed.connect(self.second_changed)
        self.second = ColourField(
            tr("colour of a second light, from the other side"), tr("none"), rack
        )
        self.second.setToolTip(tr("A second light on the far ends, with a dark gap between; Enter"))
        self.second.returnPressed.connect(self._second_written)
        self.second_strength = number(
            tr("white in the second light, in times of day"), 0.1, 10, 0.1, ""
        )
        self.second_strength.setPrefix("× ")
        self.gap = number(tr("how wide the dark gap between the two is"), 5, 50, 5, " %", 0)
        self.gap.setPrefix(tr("gap "))
        self.second_strength.valueChanged.connect(
            lambda v: self.second_changed.emit({"second_strength": v})
        )
        self.gap.valueChanged.connect(lambda v: self.second_changed.emit({"gap": v / 100}))
        for field in (self.own, self.light, self.second):
            field.setMinimumWidth(_FIELD)
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(8)
        grid.setColumnStretch(1, 1)
        grid.setVerticalSpacing(6)
        rows: tuple[tuple[str, tuple[QWidget, ...]], ...] = (
            (tr("Surface"), (self.own, self.finish, self.inside)),
            (tr("Light"), (self.light, self.core, self.line)),
            (tr("Second"), (self.second, self.second_strength, self.gap)),
        )
        for row, (words, widgets) in enumerate(rows):
            label = Label(words)
            label.setBuddy(widgets[0])
            grid.addWidget(label, row, 0)
            for column, widget in enumerate(widgets, 1):
                grid.addWidget(widget, row, column)

    def stop(self) -> None:
        """End the workers of the colours' panels."""
        for field in (self.own, self.light, self.second):
            field.stop()

    def show_surface(self, glow: Glow, surface: Surface) -> None:
        """Show the surface in view, and the light's colour."""
        self._surface = surface
        if not self.own.hasFocus():
            self.own.setText(hexadecimal(srgb(np.array(surface.own))[0]))
        with quiet(self.finish):
            self.finish.setCurrentIndex(self.finish.findData(surface.finish))
        self.inside.setChecked(surface.inside)
        self.line.setChecked(surface.end is not None)
        if not self.second.hasFocus():
            shown = "" if glow.second is None else hexadecimal(srgb(np.array(glow.second))[0])
            self.second.setText(shown)
        with quiet(self.core):
            name = next((name for name, core in CORES.items() if core == glow.core), None)
            self.core.setCurrentIndex(-1 if name is None else self.core.findData(name))
        self.curve.show_core(glow)
        with quiet(self.second_strength):
            self.second_strength.setValue(glow.second_strength)
        with quiet(self.gap):
            self.gap.setValue(100 * glow.gap)
        for box in (self.second_strength, self.gap):
            box.setEnabled(glow.second is not None)
        if not self.light.hasFocus():
            shown = "" if glow.colour is None else hexadecimal(srgb(np.array(glow.colour))[0])
            self.light.setText(shown)

    def _line_chosen(self, on: bool) -> None:
        if self._surface is not None:
            x, y, z = self._surface.place
            self._set(end=(x, round(max(y - _LINE, -1.4), 3), z) if on else None)

    def _own_written(self) -> None:
        written = self._read(self.own.text())
        if written is not None:
            self._set(own=written)

    def _light_written(self) -> None:
        if not self.light.text().strip():
            self.colour_changed.emit(None)
            return
        written = self._read(self.light.text())
        if written is not None:
            self.colour_changed.emit(written)

    def _second_written(self) -> None:
        if not self.second.text().strip():
            self.second_changed.emit({"second": None})
            return
        written = self._read(self.second.text())
        if written is not None:
            self.second_changed.emit({"second": written})

    def _read(self, words: str) -> tuple[float, float, float] | None:
        try:
            L, a, b = (round(v, 2) for v in parse_colour(words))
        except VeilError as error:
            self.complained.emit(str(error))
            return None
        return L, a, b

    def _set(self, **changes: object) -> None:
        if self._surface is not None:
            self.surface_changed.emit(replace(self._surface, **changes))
