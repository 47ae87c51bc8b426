"""The rail: every station from every station, in the order of work."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtWidgets import QButtonGroup, QToolButton, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.commands import COMMANDS, tooltip
from zesty_veil.desktop.kit.icons import icon
from zesty_veil.desktop.kit.theme import font
from zesty_veil.tr import tr

WIDTH = 68
_ICON = 26
# Commands by the icons of their stations, in the order of work.
STATIONS: dict[str, str] = {
    "start": "start",
    "section": "section",
    "to light": "light",
    "to match": "match",
    "sit": "sitting",
    "rack": "rack",
    "log": "log",
    "guess": "guess",
}
_WORDS = {
    "start": "Start", "section": "Section", "light": "Light", "match": "Match",
    "sitting": "Sitting", "rack": "Rack", "log": "Log", "guess": "Guess", "help": "Help",
}  # fmt: skip


class Rail(QWidget):
    """Shows which station is open; `wanted` asks for another by its command."""

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
        for command, name in STATIONS.items():
            button = self._button(command, name)
            button.setCheckable(True)
            group.addButton(button)
            column.addWidget(button)
        column.addStretch(1)
        column.addWidget(self._button("keys", "help"))

    def show_station(self, command: str) -> None:
        """Mark the station that is open."""
        for name, button in self.buttons.items():
            if button.isCheckable():
                button.setChecked(name == command)

    def _button(self, command: str, name: str) -> QToolButton:
        button = QToolButton()
        button.setObjectName("station")
        button.setIcon(icon(name, _ICON))
        button.setIconSize(QSize(_ICON, _ICON))
        button.setText(tr(_WORDS[name]))
        button.setFont(font(9))
        button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextUnderIcon)
        button.setToolTip(tooltip(command, tr(COMMANDS[command].words)))
        button.setAccessibleName(tr(_WORDS[name]))
        button.setFixedSize(WIDTH - 8, 56)
        # The keyboard stays where work is; F-keys go from station to station.
        button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        button.clicked.connect(lambda _=False, c=command: self.wanted.emit(c))
        self.buttons[command] = button
        return button
