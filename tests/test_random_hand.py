"""A random hand on the real window: whatever it does, the plan stays possible and nothing fails."""

from __future__ import annotations

import random

from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox

from driving import drag
from zesty_veil.desktop.kit.geometry import grips
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.plan.check import check_plan

ENDS_THE_WORK = {"leave", "new"}
OPENS_A_MENU = {"add coat", "ground"}
KEYS = [Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Plus]


def somewhere(window: MainWindow, chance: random.Random) -> QPoint:
    """Return a grip of what is drawn, or any point of the section."""
    view, now = window.section.view, window.section.view.scene
    if now is not None and now.labels and chance.random() < 0.7:
        coat = chance.randrange(len(now.labels))
        x, y = chance.choice(list(grips(now.strata, coat, now.passage.coats[coat]).values()))
        return QPoint(round(x), round(y))
    return QPoint(chance.randint(0, view.width()), chance.randint(0, view.height()))


def test_a_random_hand_never_breaks_anything(window: MainWindow) -> None:
    chance, view = random.Random(1), window.section.view
    acts = sorted(set(window.menus.actions) - ENDS_THE_WORK - OPENS_A_MENU)
    for _ in range(45):
        what = chance.random()
        if what < 0.2:
            QTest.keyClick(view, chance.choice(KEYS))
        elif what < 0.6:
            window.menus.actions[chance.choice(acts)].trigger()
        elif what < 0.8:
            drag(view, somewhere(window, chance), somewhere(window, chance))
        elif what < 0.9:
            menu = window.section.head.paints
            menu.fill()
            menu.picker.choose(chance.choice(window.section.rack.paints()).name)
        elif window.line.mend.isVisible():
            window.line.mend.click()
        else:
            found = window.section.findChildren(QComboBox)
            boxes = [b for b in found if b.isEnabled() and b.count()]
            box = chance.choice(boxes)
            row = chance.randrange(box.count())
            box.setCurrentIndex(row)
            box.activated.emit(row)
        QApplication.processEvents()
        if chance.random() < 0.2:
            assert window.wait_until_idle()
        check_plan(window.document.plan)
    assert window.wait_until_idle()
