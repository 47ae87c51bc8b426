"""What assistive technology meets: every control by a name, every painted item as a list item."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QAccessible, QAccessibleActionInterface, QAccessibleInterface
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QComboBox,
    QLineEdit,
    QWidget,
)

from driving import settled
from zesty_veil.desktop.kit import messageline, paintpicker
from zesty_veil.desktop.kit.paintmenu import PaintMenu
from zesty_veil.desktop.match.station import MatchStation
from zesty_veil.desktop.rack.station import RackStation
from zesty_veil.desktop.section import named
from zesty_veil.desktop.shell import finder
from zesty_veil.desktop.shell.stations import STATIONS
from zesty_veil.desktop.shell.window import MainWindow

ROLE, TEXT = QAccessible.Role, QAccessible.Text
TOGGLE = QAccessibleActionInterface.toggleAction()
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
        and not widget.testAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
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


def under(widget: QWidget, role: QAccessible.Role) -> list[QAccessibleInterface]:
    """Return what has a role under a widget."""
    return [one for one in tree(interface(widget)) if one.role() == role]


def press(item: QAccessibleInterface, name: str = QAccessibleActionInterface.pressAction()) -> None:
    act = item.actionInterface()
    assert act is not None
    assert name in act.actionNames()
    act.doAction(name)


def test_drawn_coats_are_controls_that_take_them_in_hand(window: MainWindow) -> None:
    view = window.section.view
    passage = window.section.editor.passage
    assert passage is not None
    settled(window)
    coats = under(view, ROLE.RadioButton)
    assert len(coats) == len(passage.coats)
    first = coats[0]
    assert first.text(TEXT.Name).startswith("coat 1: ")
    assert "pass" in first.text(TEXT.Description)
    assert not first.state().checked
    press(first, TOGGLE)
    assert window.section.coat == 0
    settled(window)
    assert under(view, ROLE.RadioButton)[0].state().checked
    assert view.mapFromGlobal(first.rect().center()).x() > view.width() / 2
    # Who presses the one in hand again has it in hand still.
    press(first, TOGGLE)
    settled(window)
    assert window.section.coat == 0
    assert under(view, ROLE.RadioButton)[0].state().checked
    # They are said anew with the plan: a coat that is gone has no control, and passes are told.
    window.section.more_passes(2)
    settled(window)
    told = under(view, ROLE.RadioButton)[0].text(TEXT.Description)
    assert told.startswith(f"{passage.coats[0].passes + 2} passes")
    window.section.choose_coat(len(passage.coats) - 1)
    window.section.remove_coat()
    settled(window)
    assert len(under(view, ROLE.RadioButton)) == len(passage.coats) - 1
    # Hands reach the drawing through them.
    at = view.mapFromGlobal(under(view, ROLE.RadioButton)[2].rect().center())
    QTest.mouseClick(view.childAt(at) or view, Qt.MouseButton.LeftButton)
    assert view.childAt(at) is None


def test_drawn_lists_are_qts_own_and_are_taken_in_hand(window: MainWindow) -> None:
    window.router.go("rack")
    rack = window.router.at(RackStation).view
    assert rack.jobs.wait_until_idle()
    paints = interface(rack.grid)
    assert paints.role() == ROLE.List
    kinds = {kept.paint.kind for kept in window.user_store.rack.paints}
    assert paints.childCount() == len(window.user_store.rack.paints) + len(kinds)
    assert not paints.child(0).state().selectable  # the name of a kind
    fourth = paints.child(4)
    assert fourth.role() == ROLE.ListItem
    press(fourth, TOGGLE)
    assert rack.grid.in_hand == fourth.text(TEXT.Name)
    assert rack.card.name.text() == fourth.text(TEXT.Name)
    assert fourth.text(TEXT.Description)
    window.router.go("match")
    match = window.router.at(MatchStation).view
    match.add_target("62, 45, 60")
    assert match.wait_until_idle()
    ways = interface(match.list)
    assert ways.childCount() == len(match.list.ways) > 1
    assert "dE" in ways.child(0).text(TEXT.Description)
    press(ways.child(1), TOGGLE)
    assert match.list.in_hand == 1
    window.router.show_section()
    assert window.wait_until_idle()


def test_stations_are_tabs_of_which_the_open_one_is_selected(window: MainWindow) -> None:
    tabs = {one.text(TEXT.Name): one for one in under(window.rail, ROLE.PageTab)}
    assert {station.words for station in STATIONS} <= tabs.keys()
    press(tabs["Rack"])
    assert window.router.station == "rack"
    selected = [name for name, one in tabs.items() if one.state().selected]
    assert selected == ["Rack"]
    settled(window)
    window.router.show_section()


def test_what_changes_is_said_aloud(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    said: list[str] = []
    for module in (named, messageline, paintpicker, finder):
        monkeypatch.setattr(module, "announce", lambda _, words: said.append(words))
    window.section.choose_coat(0)
    assert said[-1].startswith("coat 1: ")
    passes = window.document.plan.passages[0].coats[0].passes
    window.section.more_passes(1)
    assert said[-1] == f"{passes + 1} passes"
    window.say("Something has to be said.")
    assert said[-1] == "Something has to be said."
    window.section.choose_coat(1)
    window.section.more_passes(-8)
    settled(window)
    assert window.line.next.isVisible() or window.line.mend.isVisible()
    assert window.line.words.text() in said  # the remark
    menu = window.section.head.paints
    assert isinstance(menu, PaintMenu)
    menu.fill()
    QTest.keyClick(menu.picker.search, Qt.Key.Key_Down)
    assert menu.picker.paint is not None
    assert said[-1].startswith(menu.picker.paint.name)
    assert menu.jobs.wait_until_idle()
    window.find_anything()
    QTest.keyClicks(window.finder.search, "export")
    assert window.finder.in_hand is not None
    assert said[-1].startswith(window.finder.in_hand.title)
    window.finder.close()


@pytest.mark.parametrize("station", [kind.id for kind in STATIONS])
def test_tab_leads_through_a_page_as_it_is_seen(window: MainWindow, station: str) -> None:
    """Down and to the right: never up within a column, nor back within a row."""
    window.router.go(station)
    settled(window)
    first = at = window.rail.tabs
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
