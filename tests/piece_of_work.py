"""A whole piece of work in a window of its own, which then waits to be killed.

Run as a program: prints a line when the plan is saved to the file it is given, and another when
work was done after that.
"""

from __future__ import annotations

import sys
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from driving import add_from_rack, saved, scene
from zesty_veil.desktop.kit.theme import dress
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.plan.model import Passage, Plan

KEY, CTRL, SHIFT = Qt.Key, Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


def work(window: MainWindow, path: Path) -> None:
    """Plan a flame from nothing, by keys, menus and buttons, and save it."""
    view = window.section.view

    def key(code: Qt.Key, held: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        QTest.keyClick(view, code, held)

    key(KEY.Key_N, CTRL)
    title = window.header.title
    title.selectAll()
    QTest.keyClicks(title, "Lantern")
    QTest.keyClick(title, KEY.Key_Return)
    view.setFocus()
    QTest.mouseClick(window.section.passages.primers["black"], Qt.MouseButton.LeftButton)
    window.section.head.ground.menu().actions()[1].trigger()  # white sprayed from above
    for i, name in enumerate(("Lime White", "Kiln Yellow", "Ember Orange", "Furnace Red")):
        add_from_rack(window, name)
        for _ in range(8 * i):
            key(KEY.Key_Right, SHIFT)  # each begins further from the light
        key(KEY.Key_Plus)
    key(KEY.Key_Down)
    key(KEY.Key_S)  # smooth its border
    key(KEY.Key_X)  # push both ends
    key(KEY.Key_V)  # grey
    key(KEY.Key_Q)  # squint
    assert window.wait_until_idle()
    assert scene(window).forecast.shown is not None
    assert saved(window, path)


def main() -> None:
    """Do the work, save, do some more, and wait."""
    path = Path(sys.argv[1])
    app = QApplication([])
    dress(app)
    window = MainWindow(Plan("nothing yet", (Passage("x"),)))
    window.show()
    QTest.qWaitForWindowActive(window)
    window.section.view.setFocus()
    work(window, path)
    print("saved", flush=True)
    window.section.more_passes(2)
    print("went on", flush=True)
    app.exec()


if __name__ == "__main__":
    main()
