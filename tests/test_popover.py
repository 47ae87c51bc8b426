"""What opens over the window, when the window changes under it."""

from __future__ import annotations

from PySide6.QtWidgets import QLineEdit, QVBoxLayout, QWidget
from pytestqt.qtbot import QtBot
from shiboken6 import delete

from zesty_veil.desktop.kit.popover import Popover


def test_a_popover_closes_though_what_had_the_keyboard_is_gone(qtbot: QtBot) -> None:
    window = QWidget()
    qtbot.addWidget(window)
    window.resize(400, 300)
    gone, stays = QLineEdit(), QLineEdit()
    layout = QVBoxLayout(window)
    layout.addWidget(gone)
    layout.addWidget(stays)
    window.show()
    window.activateWindow()
    gone.setFocus()
    qtbot.waitUntil(gone.hasFocus)
    popover = Popover(window, "Something")
    popover.open_below(stays)
    delete(gone)
    Popover.close_all()
    assert not popover.isVisible()
