"""Preferences: the theme, and how large type and controls are."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QWidget

from zesty_veil.desktop.kit.panel import heading, quiet_words
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.popover import Popover
from zesty_veil.desktop.kit.segments import Segments
from zesty_veil.desktop.session.preferences import ZOOMS, Preferences
from zesty_veil.tr import tr


class PreferencesPanel(Popover):
    """Tells which theme and which size of type are wanted."""

    theme_chosen = Signal(object)
    zoom_chosen = Signal(object)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, tr("Preferences"))
        self.theme = Segments(
            tr("theme"),
            {"follow": tr("as the desktop"), "day": tr("day"), "night": tr("night")},
        )
        self.zoom = Segments(tr("size of type"), {z: tr("{0} %").format(z) for z in ZOOMS})
        self.theme.chosen.connect(self.theme_chosen.emit)
        self.zoom.chosen.connect(self.zoom_chosen.emit)
        self.body.addWidget(heading(tr("Preferences")))
        grid = QGridLayout()
        grid.setHorizontalSpacing(16)
        grid.setVerticalSpacing(8)
        for row, (words, widget) in enumerate(
            ((tr("Theme"), self.theme), (tr("Size of type"), self.zoom))
        ):
            label = Label(words)
            label.setBuddy(widget)
            grid.addWidget(label, row, 0)
            grid.addWidget(widget, row, 1)
        self.body.addLayout(grid)
        said = quiet_words(
            tr("Another size of type and controls is there from the next start. Both themes are ")
            + tr("neutral grey, so that nothing tints what is predicted.")
        )
        said.setMinimumWidth(420)
        self.body.addWidget(said)

    def show_preferences(
        self, now: Preferences, fits: Callable[[int], bool] = lambda _: True
    ) -> None:
        """Mark what is chosen; sizes at which the window would not fit are not offered."""
        for zoom in ZOOMS:
            button = self.zoom.buttons[zoom]
            button.setEnabled(zoom == now.zoom or fits(zoom))
            button.setToolTip("" if button.isEnabled() else tr("Too large for this screen"))
        self.theme.show_choice(now.theme)
        self.zoom.show_choice(now.zoom)
