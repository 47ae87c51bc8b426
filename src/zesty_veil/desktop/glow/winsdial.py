"""Who wins where a light falls on a surface: one dial, with both of them named."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QSlider, QWidget

from zesty_veil.desktop.kit.plain import Label, name_control
from zesty_veil.desktop.kit.quiet import quiet
from zesty_veil.tr import tr

_STEPS = 20


class WinsDial(QWidget):
    """Says how far the light's own colour is to win, 0-1."""

    changed = Signal(float)

    def __init__(self) -> None:
        super().__init__()
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, _STEPS)
        self.slider.setPageStep(4)
        self.slider.setMinimumWidth(96)
        name_control(
            self.slider,
            tr("who wins: the surface's colour in the light, or the light's own colour"),
        )
        self.slider.valueChanged.connect(lambda v: self.changed.emit(v / _STEPS))
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        row.addWidget(Label(tr("surface")))
        row.addWidget(self.slider, 1)
        row.addWidget(Label(tr("light wins")))

    def show_wins(self, wins: float) -> None:
        """Show how far the light wins."""
        with quiet(self.slider):
            self.slider.setValue(round(wins * _STEPS))
