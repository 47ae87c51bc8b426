"""What assistive technology meets: every control by a name, every painted item as a list item."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QAccessible, QAccessibleActionInterface, QAccessibleInterface
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QComboBox,
    QLineEdit,
    QWidget,
)

from driving import settled
from zesty_veil.desktop.match.station import MatchStation
from zesty_veil.desktop.rack.station import RackStation
from zesty_veil.desktop.shell.stations import STATIONS
from zesty_veil.desktop.shell.window import MainWindow

ROLE, TEXT = QAccessible.Role, QAccessible.Text
_MUST_BE_NAMED = (QAbstractButton, QAbstractSpinBox, QComboBox, QLineEdit)


def interface(widget: QWidget) -> QAccessibleInterface:
    found = QAccessible.queryAccessibleInterface(widget)
    assert found is not None
    return found


def tree(root: QAccessibleInterface, deep: int = 0) -> Iterator[QAccessibleInterface]:
    """Yield everything under an interface, as a reader walks it."""
    assert deep < 40
    yield root
    for i in range(root.childCount()):
        child = root.child(i)
        if child is not None and child.isValid():
            yield from tree(child, deep + 1)


def unnamed(window: MainWindow) -> list[tuple[str, str]]:
    """Return the controls that a reader would not know how to call."""
    out = []
    for widget in window.findChildren(QWidget):
        if not isinstance(widget, _MUST_BE_NAMED) or not widget.isVisible():
            continue
        if widget.objectName().startswith("qt_"):
            continue  # parts of Qt's own controls, which speak for them
        told = interface(widget)
        # On Linux the name of a combo box is its text, so what it is for comes from its label.
        label = [one for one, _ in told.relations() if one is not None]
        if not (told.text(TEXT.Name).strip() or widget.accessibleName() or label):
            out.append((type(widget).__name__, widget.toolTip()))
    return out


def silent(window: MainWindow) -> list[tuple[str, str]]:
    """Return the controls that say nothing at the pointer."""
    return [
        (type(widget).__name__, widget.accessibleName())
        for widget in window.findChildren(QWidget)
        if isinstance(widget, _MUST_BE_NAMED)
        and widget.isVisible()
        and not widget.toolTip()
        and not widget.objectName().startswith("qt_")
        and not isinstance(widget.parentWidget(), QAbstractSpinBox | QComboBox)
    ]


def test_every_control_of_every_page_is_named_and_says_what_it_does(window: MainWindow) -> None:
    for station in STATIONS:
        window.router.go(station.id)
        settled(window)
        names = [(one.role(), one.text(TEXT.Name)) for one in tree(interface(window))]
        assert len(names) > 20
        assert (station.id, unnamed(window), silent(window)) == (station.id, [], [])
    window.router.give_up()
    assert window.wait_until_idle()


def test_painted_views_are_lists_whose_items_are_taken_in_hand(window: MainWindow) -> None:
    view = window.section.view
    coats = interface(view)
    passage = window.section.editor.passage
    assert passage is not None
    assert coats.role() == ROLE.List
    assert coats.childCount() == len(passage.coats)
    first = coats.child(0)
    assert first.role() == ROLE.ListItem
    assert first.text(TEXT.Name).startswith("coat 1: ")
    assert "pass" in first.text(TEXT.Value)
    assert not first.state().selected
    act = first.actionInterface()
    act.doAction(QAccessibleActionInterface.pressAction())
    assert window.section.coat == 0
    assert window.wait_until_idle()
    assert coats.child(0).state().selected
    assert view.mapFromGlobal(first.rect().center()).x() > view.width() / 2
    window.router.go("rack")
    rack = window.router.at(RackStation).view
    assert rack.jobs.wait_until_idle()
    paints = interface(rack.grid)
    assert paints.childCount() == len(window.user_store.rack.paints)
    paints.child(3).actionInterface().doAction(QAccessibleActionInterface.pressAction())
    assert rack.grid.in_hand == paints.child(3).text(TEXT.Name)
    window.router.go("match")
    match = window.router.at(MatchStation).view
    match.add_target("strong orange")
    assert match.wait_until_idle()
    ways = interface(match.list)
    assert ways.childCount() == len(match.list.ways) > 0
    assert "dE" in ways.child(0).text(TEXT.Value)
    window.router.show_section()
    assert window.wait_until_idle()
    # Items that are no longer there say so, and nothing is made of them.
    gone = coats.child(coats.childCount() - 1)
    window.section.choose_coat(len(passage.coats) - 1)
    window.section.remove_coat()
    assert window.wait_until_idle()
    assert not gone.isValid()
    assert gone.text(TEXT.Name) == ""


@pytest.mark.parametrize("station", [kind.id for kind in STATIONS])
def test_tab_leads_through_a_page_as_it_is_seen(window: MainWindow, station: str) -> None:
    """Down and to the right: never up within a column, nor back within a row."""
    window.router.go(station)
    settled(window)
    first = at = window.rail.buttons["start"]
    places: list[tuple[int, int, str]] = []
    while True:
        takes = at.focusPolicy() & Qt.FocusPolicy.TabFocus
        if at.isVisible() and at.isEnabled() and takes and at.window() is window:
            corner = at.mapTo(window, QPoint(0, 0))
            places.append((corner.x(), corner.y(), at.accessibleName() or type(at).__name__))
        at = at.nextInFocusChain()
        if at is first:
            break
    assert len(places) > 5
    for (x, y, name), (x2, y2, other) in pairwise(places):
        up, back = y2 < y - 20 and x2 < x + 20, abs(y2 - y) <= 20 and x2 < x
        assert not up, (name, other)
        assert not back, (name, other)
