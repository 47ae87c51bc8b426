"""The rail: every station from every station, in the order of work."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtWidgets import QButtonGroup, QToolButton, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.command import Command
from zesty_veil.desktop.kit.commands import COMMANDS
from zesty_veil.desktop.kit.icons import icon
from zesty_veil.desktop.kit.theme import CAPTION, font
from zesty_veil.desktop.shell.stations import STATIONS
from zesty_veil.tr import tr

WIDTH = 68
_ICON = 26


class Rail(QWidget):
    """Shows which station is open; `wanted` asks for another by its command's id.

    `buttons` stand by the ids of their stations, and the help.
    """

    wanted = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("rail")
        self.setFixedWidth(WIDTH)
        self.setAccessibleName(tr("stations"))
        column = QVBoxLayout(self)
        column.setContentsMargins(4, 6, 4, 6)
        column.setSpacing(4)
        self.buttons: dict[str, QToolButton] = {}
        group = QButtonGroup(self)
        group.setExclusive(True)
        below = [self._button("find", tr("Find"), COMMANDS["find"])]
        for station in STATIONS:
            button = self._button(station.id, tr(station.words), station.command())
            button.setCheckable(True)
            group.addButton(button)
            if station.aside:
                below.append(button)
            else:
                column.addWidget(button)
        column.addStretch(1)
        for button in below:
            column.addWidget(button)

    def show_station(self, id_: str) -> None:
        """Mark the station that is open."""
        for name, button in self.buttons.items():
            if button.isCheckable():
                button.setChecked(name == id_)

    def _button(self, name: str, words: str, command: Command) -> QToolButton:
        button = QToolButton()
        button.setObjectName("station")
        button.setIcon(icon(name, _ICON))
        button.setIconSize(QSize(_ICON, _ICON))
        button.setText(words)
        button.setFont(font(CAPTION))
        button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextUnderIcon)
        button.setToolTip(command.tooltip(tr(command.words)))
        button.setAccessibleName(words)
        button.setFixedSize(WIDTH - 8, 56)
        # The keyboard stays where work is; F-keys go from station to station.
        button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        button.clicked.connect(lambda: self.wanted.emit(command.id))
        self.buttons[name] = button
        return button
