"""Driving the Rack's page: opening it, letting it settle, taking a paint in hand."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from zesty_veil.desktop.rack.rackpage import RackPage
from zesty_veil.desktop.rack.station import RackStation
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.paint.paint import Paint


def opened(window: MainWindow) -> RackPage:
    window.menus.actions["to rack"].trigger()
    page = window.router.at(RackStation).view
    settle(window)
    return page


def settle(window: MainWindow) -> None:
    page = window.router.at(RackStation).view
    for _ in range(3):
        assert page.measuring.wait_until_idle()
        assert page.wait_until_idle()
        assert window.user_store.wait_until_idle()
        QApplication.processEvents()


def take(page: RackPage, name: str) -> None:
    rows = (page.grid.model().index(at, 0) for at in range(len(page.grid.rows)))
    page.grid.scrollTo(next(row for row in rows if row.data() == name))
    QTest.mouseClick(
        page.grid.viewport(), Qt.MouseButton.LeftButton, pos=page.grid.cell(name).center().toPoint()
    )


def named(window: MainWindow, name: str) -> Paint:
    return window.user_store.rack.find(name).paint
