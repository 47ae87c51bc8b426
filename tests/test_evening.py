"""What a painter meets in an evening: presses that count, answers to what was asked, ways back."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QEvent, QPointF, Qt
from PySide6.QtGui import QEnterEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from conftest import small_plan
from driving import closed, coats, go, opened, saved, settled
from zesty_veil.desktop.logbook.station import LogStation
from zesty_veil.desktop.match.station import MatchStation
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.fileformat import save
from zesty_veil.plan.model import Ground, Passage, Plan
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.services.picking import Picking, picked

KEY, LEFT = Qt.Key, Qt.MouseButton.LeftButton


def olive_plan() -> Plan:
    """Return yellow straight over black, of which it is said that it turns green."""
    rack = {paint.name: paint for paint in demo_rack()}
    yellow = parse_coat("Kiln Yellow; water 1; passes 3; tool loaded", rack)
    passage = Passage("cloak", 20.0, 100.0, ground=Ground("black"), coats=(yellow,))
    return Plan("olive", (passage,), (rack["Kiln Yellow"],))


def test_a_remedy_counts_while_the_forecast_is_on_its_way(qtbot: QtBot) -> None:
    for window in opened(qtbot, olive_plan()):
        assert window.line.mend.isVisible()
        before = len(coats(window))
        remedy = window.line.mend.text()
        # The plan moves on: what is said is of the plan as it was a moment ago.
        window.section.more_passes(1)
        QTest.mouseClick(window.line.mend, LEFT)
        assert window.wait_until_idle()
        settled(window)
        assert len(coats(window)) == before + 1, remedy
        assert window.document.plan.passages[0].coats[-1].passes == 4
        # Of what no longer holds it is said so.
        window.document.undo()
        assert window.wait_until_idle()
        assert window.line.mend.isVisible()
        window.document.edit(edits.prime(window.document.plan, 0, "white"), "white")
        QTest.mouseClick(window.line.mend, LEFT)
        assert window.wait_until_idle()
        settled(window)
        assert "no longer holds" in window.line.words.text()
        assert len(coats(window)) == before


def hover(window: MainWindow, over: bool) -> None:
    """Bring the pointer over the remedy's button, long enough, or take it away."""
    middle = QPointF(5.0, 5.0)
    event = QEnterEvent(middle, middle, middle) if over else QEvent(QEvent.Type.Leave)
    QApplication.sendEvent(window.line.mend, event)
    if over:
        window.line.hovering.timeout.emit()  # as the clock does a moment later
    assert window.wait_until_idle()
    settled(window)


def test_a_remedy_shows_what_it_would_do_while_the_pointer_is_on_it(qtbot: QtBot) -> None:
    for window in opened(qtbot, olive_plan()):
        remark, before = window.line.words.text(), coats(window)
        steps = len(window.document.history.past)
        hover(window, True)
        # It is seen, the plan has no step more, and the remark does not jump away.
        assert len(window.document.plan.passages[0].coats) == len(before) + 1
        assert len(window.document.history.past) == steps
        assert window.line.words.text() == remark
        hover(window, False)
        assert window.document.plan.passages[0].coats == before
        assert window.line.words.text() == remark
        # Pressed while it is shown, it is done once.
        hover(window, True)
        QTest.mouseClick(window.line.mend, LEFT)
        assert window.wait_until_idle()
        settled(window)
        assert len(coats(window)) == len(before) + 1
        assert len(window.document.history.past) == steps + 1
        hover(window, False)
        assert len(coats(window)) == len(before) + 1


def test_what_is_only_shown_is_part_of_no_edit(qtbot: QtBot) -> None:
    for window in opened(qtbot, olive_plan()):
        before = coats(window)
        hover(window, True)
        assert len(window.document.plan.passages[0].coats) == len(before) + 1
        QTest.keyClick(window.section.view, KEY.Key_Plus)
        assert window.wait_until_idle()
        settled(window)
        assert len(coats(window)) == len(before)
        assert coats(window)[0].passes == before[0].passes + 1


def test_remarks_stand_there_again_soon_after_saving(qtbot: QtBot, tmp_path: Path) -> None:
    for window in opened(qtbot, olive_plan()):
        remark = window.line.words.text()
        assert saved(window, tmp_path / "olive.veil")
        assert window.line.words.text() == "Saved olive.veil."
        assert window.line.passing.isActive()
        window.line.passing.timeout.emit()  # as the clock does a few seconds later
        assert window.line.words.text() == remark
        assert window.line.mend.isVisible()
        # What went wrong stays until something is done.
        window.say("That cannot be done.")
        assert not window.line.passing.isActive()


def test_over_a_chosen_ground_a_coat_is_added_as_paint(small: MainWindow) -> None:
    section = small.section
    bare = edits.with_coats(small.document.plan.passages[0], ())
    small.document.edit(edits.set_passage(small.document.plan, 0, bare), "bare")
    section.ground.prepare("underpaint")
    assert small.wait_until_idle()
    ground = small.document.plan.passages[0].ground.coats
    assert ground
    assert section.coat is None  # the ground's highest is in hand
    section.add_coat(next(p for p in demo_rack() if p.name == "Kiln Yellow"))
    passage = small.document.plan.passages[0]
    assert passage.ground.coats == ground
    assert [coat.mixture.parts[0].paint for coat in passage.coats] == ["Kiln Yellow"]
    assert section.coat == 0
    # Between coats of the ground it is one of them.
    section.choose_coat(0)
    section.add_coat(next(p for p in demo_rack() if p.name == "Kiln Yellow"))
    assert len(small.document.plan.passages[0].ground.coats) == len(ground) + 1
    assert small.wait_until_idle()


def test_what_a_paint_does_to_a_coat_on_ridges_is_shown_on_ridges(
    rack: dict[str, Paint],
) -> None:
    base = parse_coat("Lime White; passes 2; tool loaded", rack)
    ridge = parse_coat("Ember Orange; passes 2; tool loaded; sites ridge", rack)
    ridge = edits.with_span(ridge, 0.4, 1.0)
    plan = Plan("p", (Passage("blade", coats=(base, ridge)),), tuple(demo_rack()))
    some = tuple(rack[name] for name in ("Kiln Yellow", "Harbour Violet", "Lamp Black"))
    # And where the place that is read lies before it, where it begins.
    for place in (0.5, 0.1):
        asked = Picking(plan, 0, None, place, some, ViewingConditions(), 1, "Ember Orange")
        *_, last = picked(asked, lambda: True)
        first = [rgb[0] for rgb in last.rgb.values()]
        for one, other in ((0, 1), (0, 2), (1, 2)):
            assert np.abs(first[one] - first[other]).max() > 0.05


def test_a_coat_that_is_drawn_but_gone_is_not_taken_in_hand(small: MainWindow) -> None:
    small.section.view.selected.emit(7)
    assert small.section.coat == 1
    small.menus.actions["smooth here"].trigger()
    assert small.wait_until_idle()


def test_match_is_left_when_the_plan_has_no_passage_any_more(small: MainWindow) -> None:
    go(small, "match")
    match = small.router.at(MatchStation).view
    small.files.show(Plan("nothing"), None)
    small.router.show_page(match)
    small.document.edit(edits.retitle(small.document.plan, "still nothing"), "title")
    assert small.router.station == "section"
    match.add_target("strong orange")
    assert small.document.plan.passages == ()
    settled(small)


def test_a_second_window_on_an_open_plan_is_told(qtbot: QtBot, tmp_path: Path) -> None:
    path = tmp_path / "a.veil"
    save(small_plan(), path)
    for first in opened(qtbot, small_plan()):
        first.files.open(path)
        assert first.user_store.writes.wait_until_idle()
        second = MainWindow(small_plan(), path)
        try:
            second.show()
            settled(second)
            assert "a.veil is also open" in second.line.words.text()
        finally:
            second.document.forget()
            closed(second)


def test_help_leads_back_to_where_somebody_came_from(small: MainWindow) -> None:
    go(small, "log")
    page = small.router.at(LogStation).view
    page.enter()
    page.entry.notes.setPlainText("pooled")
    go(small, "help")
    QTest.keyClick(QApplication.focusWidget() or small, KEY.Key_Escape)
    assert small.router.station == "log"
    assert small.router.page is page
    assert page.pages.currentWidget() is page.entry  # with all that was written
    assert page.entry.notes.toPlainText() == "pooled"
    page.give_up()
    settled(small)
    # By another way out of the help, what lay below it rests.
    go(small, "match")
    match = small.router.at(MatchStation).view
    go(small, "help")
    go(small, "section")
    assert small.router.station == "section"
    go(small, "help")
    QTest.keyClick(QApplication.focusWidget() or small, KEY.Key_Escape)
    assert small.router.station == "section"
    assert match.wait_until_idle()


@pytest.mark.parametrize("popover", ["paints", "seen", "find"])
def test_the_keys_of_the_menus_hold_while_a_popover_is_open(
    small: MainWindow, popover: str
) -> None:
    small.section.more_passes(1)
    opens = {
        "paints": small.section.open_rack, "seen": small.section.head.seen.click,
        "find": small.find_anything,
    }  # fmt: skip
    opens[popover]()
    focus = QApplication.focusWidget()
    assert focus is not None
    # Letters are its own; keys with Ctrl are those of the window.
    passes = coats(small)[1].passes
    QTest.keyClick(focus, KEY.Key_Plus)
    assert coats(small)[1].passes == passes
    QTest.keyClick(focus, KEY.Key_Q, Qt.KeyboardModifier.ControlModifier)
    assert small.isVisible()
    assert "not saved" in small.line.words.text()
    QTest.mouseClick(small.line.answers["stay"], LEFT)
    settled(small)


def test_a_press_elsewhere_closes_a_popover_and_does_nothing_else(small: MainWindow) -> None:
    handle = small.windowHandle()
    assert handle is not None
    section = small.section
    section.open_rack()
    inside = section.head.paints.mapTo(small, section.head.paints.rect().center())
    QTest.mousePress(handle, LEFT, pos=inside)  # and nothing is chosen before it is let go
    assert section.head.paints.isVisible()
    # The press is on a coat's passes: it closes the paints, and no more.
    before, coat = small.document.plan, section.coat
    add = section.head.seen.mapTo(small, section.head.seen.rect().center())
    QTest.mouseClick(handle, LEFT, pos=add)
    assert not section.head.paints.isVisible()
    assert not section.head.panel.isVisible()
    assert (small.document.plan, section.coat) == (before, coat)
    QTest.mouseClick(handle, LEFT, pos=add)
    assert section.head.panel.isVisible()
    # A window of another size has it elsewhere.
    small.resize(small.width() + 40, small.height())
    QApplication.processEvents()
    assert not section.head.panel.isVisible()
    settled(small)
