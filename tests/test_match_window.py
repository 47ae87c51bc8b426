"""Match in the real window: a target written, ways found, one laid, all of it undone."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from driving import coats, scene
from zesty_veil.desktop.match.matchview import MatchView
from zesty_veil.desktop.window import MainWindow
from zesty_veil.plan import edits
from zesty_veil.plan.model import Target

KEY, LEFT = Qt.Key, Qt.MouseButton.LeftButton


def opened_match(window: MainWindow) -> MatchView:
    """Ask for coats by the key, and return the page."""
    QTest.keyClick(window.station.view, KEY.Key_C)
    match = window.station.stage.match
    assert match is not None
    assert window.station.stage.currentWidget() is match
    return match


def write_target(match: MatchView, words: str) -> None:
    match.target.setFocus()
    QTest.keyClicks(match.target, words)
    QTest.keyClick(match.target, KEY.Key_Return)


def test_a_target_is_written_matched_and_laid(small: MainWindow) -> None:
    small.station.view.read_at(0.5)
    before = small.document.plan
    match = opened_match(small)
    assert "No target yet" in match.words.text()
    assert not match.lay.isEnabled()
    write_target(match, "#2f6fb0")
    assert match.wait_until_idle()
    assert len(match.list.ways) >= 2
    assert match.list.ways[0].mean < 2
    assert "Upper ribbon: wanted" in match.words.text()
    # The lower ribbon of the way in hand is drawn in the colour that was wanted.
    box = match.list.row(0)
    point = QPoint(round(box.x() + 60), round(box.y() + 8 + 36))
    pixel = match.list.grab().toImage().pixelColor(point)
    assert (
        np.abs(np.array([pixel.red(), pixel.green(), pixel.blue()]) - [0x2F, 0x6F, 0xB0]).max() < 12
    )
    # The second is taken in hand and laid.
    QTest.keyClick(match.list, KEY.Key_Down)
    assert match.list.in_hand == 1
    way = match.list.ways[1]
    QTest.keyClick(match.list, KEY.Key_Return)
    assert small.wait_until_idle()
    assert small.station.stage.currentWidget() is small.station.view
    assert coats(small) == way.coats
    told = scene(small).forecast.missed
    assert told is not None
    assert abs(told.by[0] - way.off[0]) < 0.5
    held = {paint.name for paint in small.document.plan.paints}
    assert {part.paint for coat in way.coats for part in coat.mixture.parts} <= held
    small.document.undo()  # the coats
    small.document.undo()  # the target
    assert small.document.plan == before
    small.wait_until_idle()


def test_ways_go_on_from_a_coat(small: MainWindow) -> None:
    small.station.choose_coat(0)
    small.station.view.read_at(0.5)
    match = opened_match(small)
    write_target(match, "60,40,50")
    match.start.setCurrentIndex(1)
    match.start.activated.emit(1)
    assert "on top of Lime White" in match.start.currentText()
    assert match.wait_until_idle()
    below = coats(small)[0]
    QTest.mouseClick(match.lay, LEFT)
    assert coats(small)[0] == below
    assert coats(small)[1:] == match.list.ways[0].coats
    small.wait_until_idle()


def test_limits_are_kept_and_searching_is_stopped(small: MainWindow) -> None:
    plan = edits.aim(small.document.plan, 0, Target(0.5, (55.0, 30.0, -20.0)))
    small.document.edit(plan, "target")
    match = opened_match(small)
    match.coats.setValue(1)
    match.mixes.setValue(0)
    assert match.wait_until_idle()
    assert all(len(way.coats) <= 1 for way in match.list.ways)
    assert not match.stop.isEnabled()
    match.coats.setValue(6)
    assert match.stop.isEnabled()
    QTest.mouseClick(match.stop, LEFT)
    assert "Stopped" in match.words.text()
    assert match.wait_until_idle()
    # Keys of the section rest meanwhile; Escape goes back.
    passes = coats(small)[1].passes
    QTest.keyClick(match.list, KEY.Key_Plus)
    assert coats(small)[1].passes == passes
    QTest.keyClick(match.list, KEY.Key_Escape)
    assert small.station.stage.currentWidget() is small.station.view
    small.wait_until_idle()


def test_a_ramp_of_targets_is_matched_by_nested_coats(small: MainWindow) -> None:
    plan = small.document.plan
    for place, lab in ((0.1, (93.0, 0.0, 8.0)), (0.9, (45.0, 55.0, 35.0))):
        plan = edits.aim(plan, 0, Target(place, lab))
    small.document.edit(plan, "targets")
    match = opened_match(small)
    match.coats.setValue(3)
    assert match.wait_until_idle()
    way = match.list.ways[0]
    assert way.mean < 4
    assert len({coat.span for coat in way.coats}) > 1
    QTest.mouseDClick(match.list, LEFT, pos=match.list.row(0).center().toPoint())
    assert coats(small) == way.coats
    small.wait_until_idle()


def test_what_is_no_colour_says_so_where_it_is_written(small: MainWindow) -> None:
    match = opened_match(small)
    before = small.document.plan
    write_target(match, "reddish")
    assert "'reddish' is no colour" in match.words.text()
    assert match.target.text() == "reddish"  # nothing is lost
    assert small.document.plan is before
    match.give_up()
    small.wait_until_idle()


def test_ways_for_a_plan_that_has_moved_on_are_not_laid(small: MainWindow) -> None:
    plan = edits.aim(small.document.plan, 0, Target(0.5, (55.0, 30.0, 20.0)))
    small.document.edit(plan, "target")
    match = opened_match(small)
    match.coats.setValue(1)
    assert match.wait_until_idle()
    small.document.edit(edits.prime(small.document.plan, 0, "grey"), "primer")
    QTest.keyClick(match.list, KEY.Key_Return)
    assert coats(small) == plan.passages[0].coats  # searched again instead
    assert match.wait_until_idle()
    match.give_up()
    small.wait_until_idle()
