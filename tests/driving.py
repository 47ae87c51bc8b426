"""Driving the real main window: opening it, reading it, and hands that drag and turn."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from PySide6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QColor, QDragEnterEvent, QDropEvent, QImage, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu, QWidget
from pytestqt.qtbot import QtBot

from zesty_veil.desktop.kit.paintmenu import PaintMenu
from zesty_veil.desktop.section.scene import Scene
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.plan.model import Coat, Plan


def opened(qtbot: QtBot, plan: Plan) -> Iterator[MainWindow]:
    window = MainWindow(plan)
    try:
        with qtbot.waitExposed(window):
            window.show()
        window.section.view.setFocus()
        assert window.wait_until_idle()
        yield window
    finally:
        window.document.forget()
        closed(window)
        # Gone before the next is opened: a style that is worn later would be worn by all.
        window.deleteLater()
        QApplication.sendPostedEvents(window, QEvent.Type.DeferredDelete)


def closed(window: MainWindow) -> None:
    """Close a window, once all that it writes is written."""
    window.close()
    assert window.user_store.writes.wait_until_idle()


def scene(window: MainWindow) -> Scene:
    """Return what the Section shows when everything is computed."""
    assert window.wait_until_idle()
    found = window.section.view.scene
    assert found is not None
    return found


def coats(window: MainWindow) -> tuple[Coat, ...]:
    """Return the coats of the passage in view."""
    passage = window.section.editor.passage
    assert passage is not None
    return passage.coats


def picture(window: MainWindow) -> QImage:
    """Return the Section as it is drawn."""
    assert window.wait_until_idle()
    return window.section.view.grab().toImage()


def flat_ribbon(window: MainWindow, place: float) -> QColor:
    """Return the drawn colour of the flat ribbon at a place of the axis."""
    box = scene(window).frame.ribbons[1]
    x = min(box.x + place * box.width, box.right - 2)
    return picture(window).pixelColor(round(x), round(box.y + box.height / 2))


def go(window: MainWindow, station: str) -> None:
    """Press the tab of a station in the rail."""
    tabs = window.rail.tabs
    QTest.mouseClick(tabs, Qt.MouseButton.LeftButton, pos=tabs.place(station).center())


def point(xy: tuple[float, float]) -> QPoint:
    return QPoint(round(xy[0]), round(xy[1]))


def drag(widget: QWidget, start: QPoint, end: QPoint, *, release: bool = True) -> None:
    """Drag from one point to another in several moves, as a hand does."""
    QTest.mousePress(widget, Qt.MouseButton.LeftButton, pos=start)
    for i in range(1, 6):
        QTest.mouseMove(widget, start + (end - start) * i / 5)
    if release:
        QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, pos=end)


def wheel(
    widget: QWidget,
    at: QPoint,
    notches: int,
    modifiers: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier,
) -> None:
    """Turn the wheel over a point."""
    event = QWheelEvent(
        QPointF(at),
        QPointF(widget.mapToGlobal(at)),
        QPoint(),
        QPoint(0, 120 * notches),
        Qt.MouseButton.NoButton,
        modifiers,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(widget, event)


def middle_of(window: MainWindow, coat: int) -> QPoint:
    """Return a point inside the stratum of a coat."""
    now = scene(window)
    start, end = now.passage.coats[coat].span
    u = (start + end) / 2
    return point((now.strata.x(u), now.strata.middle(coat, u)))


def add_from_rack(window: MainWindow, name: str) -> None:
    """Choose a paint from the menu behind "Add a coat"."""
    choose_paint(window.section.head.paints, name)


def choose_paint(menu: QMenu, name: str) -> None:
    """Choose a paint by its name from a menu of paints."""
    assert isinstance(menu, PaintMenu)
    menu.fill()
    menu.picker.choose(name)
    assert menu.jobs.wait_until_idle()


def saved(window: MainWindow, path: Path | None = None, over: bool = False) -> bool:
    """Save a window's plan, to a file if one is given, and tell whether that went well."""
    well: list[bool] = []
    if path is None:
        window.files.save(lambda: well.append(True))
    else:
        window.files.save_to(path, lambda: well.append(True), over)
    assert window.user_store.writes.wait_until_idle()
    return bool(well)


def opens(window: MainWindow, path: Path) -> bool:
    """Open a file in a window, and tell whether that went well."""
    well: list[bool] = []
    window.files.open(path, lambda: well.append(True))
    assert window.user_store.writes.wait_until_idle()
    return bool(well)


def looked(window: MainWindow) -> None:
    """Let a window look after its file, as its clock does every two seconds."""
    assert window.user_store.writes.wait_until_idle()
    window.files.look()
    assert window.user_store.writes.wait_until_idle()


def offered(window: MainWindow, kept: Path) -> None:
    """Offer a window what one that died left behind."""
    window.files.offer(kept)
    assert window.user_store.writes.wait_until_idle()


def drop(window: MainWindow, path: Path) -> bool:
    """Drag a file onto the window and let it fall; tell whether it was taken."""
    what = QMimeData()
    what.setUrls([QUrl.fromLocalFile(str(path))])
    at, none = QPoint(300, 300), Qt.KeyboardModifier.NoModifier
    enter = QDragEnterEvent(at, Qt.DropAction.CopyAction, what, Qt.MouseButton.LeftButton, none)
    QApplication.sendEvent(window, enter)
    if not enter.isAccepted():
        return False
    fall = QDropEvent(QPointF(at), Qt.DropAction.CopyAction, what, Qt.MouseButton.LeftButton, none)
    QApplication.sendEvent(window, fall)
    return fall.isAccepted()


def settled(window: MainWindow) -> None:
    """Let a window, its station and its store do all that they have begun."""
    for _ in range(4):
        QApplication.processEvents()
        window.user_store.wait_until_idle()
        window.wait_until_idle()
        page = window.router.page
        if page is not None and hasattr(page, "wait_until_idle"):
            page.wait_until_idle()
