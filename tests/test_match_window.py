"""Match in the real window: a target written, ways found, one laid, all of it undone."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from driving import coats, scene
from zesty_veil.advise.match.recipe import Recipe
from zesty_veil.desktop.match.bestat import best_at
from zesty_veil.desktop.match.matchview import MatchView
from zesty_veil.desktop.match.station import MatchStation
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.light.srgb import lab_of, parsed
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.rack import demo_rack, find
from zesty_veil.plan import edits
from zesty_veil.plan.fileformat import dump, parse
from zesty_veil.plan.model import Coat, Passage, Target
from zesty_veil.services.colours import parse_colour
from zesty_veil.services.finding import ShownWay

KEY, LEFT = Qt.Key, Qt.MouseButton.LeftButton
# Enough for several ways to a warm colour; a search of the whole rack is tested without a window.
_WARM = (
    "Lime White", "Driftbone Ivory", "Kiln Yellow", "Ember Orange", "Furnace Red", "Hull Umber",
    "Anchor Rust", "Dune Ochre", "Slipway Orange", "Bisque Skin", "Clinker Red Ink",
)  # fmt: skip


def opened_match(window: MainWindow) -> MatchView:
    """Ask for coats by the key, and return the page."""
    QTest.keyClick(window.section.view, KEY.Key_C)
    match = window.router.at(MatchStation).view
    assert window.router.currentWidget() is match
    return match


def write_target(match: MatchView, words: str) -> None:
    match.wanted.target.setFocus()
    QTest.keyClicks(match.wanted.target, words)
    QTest.keyClick(match.wanted.target, KEY.Key_Return)


def begin(match: MatchView, words: str) -> None:
    """Choose what the ways start from, by its words."""
    start = match.wanted.start
    row = next(i for i in range(start.count()) if words in start.itemText(i))
    start.setCurrentIndex(row)
    start.activated.emit(row)


def only(match: MatchView, *names: str) -> None:
    """Leave out all paints but some, so that a search is soon done."""
    for paint in demo_rack():
        match.limits.use([paint.name], paint.name in names)


def test_match_begins_by_a_press_while_no_colour_is_wanted(small: MainWindow) -> None:
    """It showed an empty wall and a dead sentence."""
    match = opened_match(small)
    assert match.empty.isVisibleTo(match)
    write, _, violet, _ = match.empty.buttons
    match.list.setFocus()
    QTest.mouseClick(write, LEFT)
    assert match.wanted.target.hasFocus()
    only(match, "Lime White", "Harbour Violet")
    QTest.mouseClick(violet, LEFT)
    (target,) = small.document.plan.passages[0].targets
    np.testing.assert_allclose(target.lab, parse_colour("dark violet"), atol=0.01)
    assert match.list.isVisibleTo(match)
    assert not match.empty.isVisibleTo(match)
    assert match.wait_until_idle()
    assert match.list.ways
    # The target is taken away again: the station says anew how it begins.
    small.document.edit(edits.aim_at(small.document.plan, 0, ()), "no target")
    match.follow()
    assert match.empty.isVisibleTo(match)


def test_a_target_is_written_matched_and_laid(small: MainWindow) -> None:
    small.section.view.read_at(0.5)
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
    box = match.list.box(0)
    point = QPoint(round(box.x() + 60), round(box.y() + 35))
    pixel = match.list.viewport().grab().toImage().pixelColor(point)
    assert (
        np.abs(np.array([pixel.red(), pixel.green(), pixel.blue()]) - [0x2F, 0x6F, 0xB0]).max() < 12
    )
    # The second is taken in hand and laid.
    QTest.keyClick(match.list, KEY.Key_Down)
    assert match.list.in_hand == 1
    way = match.list.ways[1]
    QTest.keyClick(match.list, KEY.Key_Return)
    assert small.wait_until_idle()
    assert small.router.currentWidget() is small.section.view
    assert coats(small) == way.coats
    told = scene(small).forecast.missed
    assert told is not None
    assert abs(told.by[0] - way.delta_e[0]) < 0.5
    held = {paint.name for paint in small.document.plan.paints}
    assert {part.paint for coat in way.coats for part in coat.mixture.parts} <= held
    small.document.undo()  # the coats
    small.document.undo()  # the target
    assert small.document.plan == before
    small.wait_until_idle()


def test_ways_go_on_from_a_coat(small: MainWindow) -> None:
    small.section.choose_coat(0)
    small.section.view.read_at(0.5)
    match = opened_match(small)
    only(match, *_WARM)
    match.limits.coats.setValue(2)
    write_target(match, "60,40,50")
    begin(match, "on top of Lime White")
    assert match.wait_until_idle()
    below = coats(small)[0]
    QTest.mouseClick(match.lay, LEFT)
    assert coats(small)[0] == below
    assert coats(small)[1:] == match.list.ways[0].coats
    small.wait_until_idle()


def test_limits_are_kept_and_searching_is_stopped(small: MainWindow) -> None:
    plan = edits.set_target(small.document.plan, 0, Target(0.5, (55.0, 30.0, -20.0)))
    small.document.edit(plan, "target")
    match = opened_match(small)
    match.limits.coats.setValue(1)
    match.limits.mixes.setValue(0)
    assert match.wait_until_idle()
    assert all(len(way.coats) <= 1 for way in match.list.ways)
    assert not match.stop.isEnabled()
    match.limits.coats.setValue(6)
    assert match.stop.isEnabled()
    QTest.mouseClick(match.stop, LEFT)
    assert "Stopped" in match.words.text()
    assert match.wait_until_idle()
    # Keys of the section rest meanwhile; Escape goes back.
    passes = coats(small)[1].passes
    QTest.keyClick(match.list, KEY.Key_Plus)
    assert coats(small)[1].passes == passes
    QTest.keyClick(match.list, KEY.Key_Escape)
    assert small.router.currentWidget() is small.section.view
    small.wait_until_idle()


def test_a_ramp_of_targets_is_matched_by_nested_coats(small: MainWindow) -> None:
    plan = small.document.plan
    for place, lab in ((0.1, (93.0, 0.0, 8.0)), (0.9, (45.0, 55.0, 35.0))):
        plan = edits.set_target(plan, 0, Target(place, lab))
    small.document.edit(plan, "targets")
    match = opened_match(small)
    match.limits.coats.setValue(3)
    assert match.wait_until_idle()
    way = match.list.ways[0]
    assert way.mean < 4
    assert len({coat.span for coat in way.coats}) > 1
    QTest.mouseDClick(match.list.viewport(), LEFT, pos=match.list.box(0).center().toPoint())
    assert coats(small) == way.coats
    small.wait_until_idle()


def test_what_is_no_colour_says_so_where_it_is_written(small: MainWindow) -> None:
    match = opened_match(small)
    before = small.document.plan
    write_target(match, "reddish")
    assert "'reddish' is no colour" in match.words.text()
    assert match.wanted.target.text() == "reddish"  # nothing is lost
    assert small.document.plan is before
    match.give_up()
    small.wait_until_idle()


def test_ways_for_a_plan_that_has_moved_on_are_not_laid(small: MainWindow) -> None:
    plan = edits.set_target(small.document.plan, 0, Target(0.5, (55.0, 30.0, 20.0)))
    small.document.edit(plan, "target")
    match = opened_match(small)
    only(match, *_WARM)
    match.limits.coats.setValue(1)
    match.limits.mixes.setValue(0)
    assert match.wait_until_idle()
    small.document.edit(edits.prime(small.document.plan, 0, "grey"), "primer")
    QTest.keyClick(match.list, KEY.Key_Return)
    assert coats(small) == plan.passages[0].coats  # ways for the new primer are sought already
    assert match.wait_until_idle()
    assert match.list.ways[0].base.ground.primer == "grey"
    # So they are when another light falls on it, and when another passage comes in view.
    small.section.head.light.setCurrentIndex(small.section.head.light.findData("A"))
    small.section.head.light.activated.emit(small.section.head.light.currentIndex())
    assert match.stop.isEnabled()
    assert match.wait_until_idle()
    small.document.edit(edits.copy_passage(small.document.plan, 0), "copy")
    small.document.edit(edits.aim_at(small.document.plan, 1, ()), "no target")
    small.section.choose_passage(1)
    assert "No target yet" in match.words.text()
    assert not match.list.ways
    match.give_up()
    small.wait_until_idle()


def test_a_spoiled_passage_is_rescued(small: MainWindow) -> None:
    """A red that came out too dark: going on is compared with covering first."""
    plan = edits.set_target(small.document.plan, 0, Target(0.5, (75.0, 10.0, 60.0)))
    red = Coat(Mixture((Part("Furnace Red"),), "water", 0.5), "loaded", 5)
    plan = edits.add_coat(edits.hold(plan, find("Furnace Red", demo_rack())), 0, red)
    small.document.edit(plan, "spoiled")
    match = opened_match(small)
    match.limits.coats.setValue(3)
    match.limits.mixes.setValue(0)
    only(match, "Lime White", "Driftbone Ivory", "Kiln Yellow", "Ember Orange", "Dune Ochre")
    begin(match, "from all that is there now")
    assert match.wait_until_idle()
    kinds = {way.answer.covers for way in match.list.ways}
    assert kinds == {True, False}
    way = next(way for way in match.list.ways if way.answer.covers)
    white = {"Lime White", "Driftbone Ivory"}
    assert white & {part.paint for coat in way.coats for part in coat.mixture.parts}
    match.list.take(match.list.ways.index(way))
    before = coats(small)
    QTest.keyClick(match.list, KEY.Key_Return)
    small.wait_until_idle()
    assert coats(small) == (*before, *way.coats)
    told = scene(small).forecast.missed
    assert told is not None
    assert told.by[0] == pytest.approx(way.delta_e[0], abs=0.01)
    assert told.by[0] < 9  # no ochre lies in a clear orange, and white not so thick


def test_ways_start_from_a_measured_colour(small: MainWindow) -> None:
    plan = edits.set_target(small.document.plan, 0, Target(0.5, (45.0, 30.0, -30.0)))
    small.document.edit(plan, "target")
    match = opened_match(small)
    match.limits.coats.setValue(2)
    match.limits.mixes.setValue(0)
    only(match, "Lime White", "Harbour Violet", "Foxglove Magenta", "Flask Blue")
    begin(match, "from a measured colour")
    assert "Write the colour that you measured" in match.words.text()
    QTest.keyClicks(match.wanted.measured, "#c08a70")
    QTest.keyClick(match.wanted.measured, KEY.Key_Return)
    assert match.wait_until_idle()
    QTest.keyClick(match.list, KEY.Key_Return)
    small.wait_until_idle()
    ground = small.document.plan.passages[0].ground
    assert ground.measured is not None
    np.testing.assert_allclose(ground.measured, lab_of(parsed("#c08a70")), atol=0.01)
    # The section shows it: its ground is the colour that was measured, whatever the primer.
    shown = scene(small).forecast.ground
    assert shown is not None
    np.testing.assert_allclose(shown[10] * 255, [0xC0, 0x8A, 0x70], atol=2)
    assert not any(button.isChecked() for button in small.section.passages.primers.values())
    assert parse(dump(small.document.plan)).passages == small.document.plan.passages


def test_any_primer_may_be_taken(small: MainWindow) -> None:
    plan = edits.set_target(small.document.plan, 0, Target(0.5, (85.0, 5.0, 80.0)))
    small.document.edit(edits.prime(plan, 0, "black"), "target")
    match = opened_match(small)
    match.limits.coats.setValue(1)
    match.limits.mixes.setValue(0)
    begin(match, "whichever primer is best")
    assert match.wait_until_idle()
    assert match.list.ways[0].words == "white primer"
    QTest.mouseClick(match.lay, LEFT)
    assert small.document.plan.passages[0].ground.primer == "white"
    small.wait_until_idle()


def test_the_colours_of_another_passage_are_wanted(small: MainWindow) -> None:
    small.document.edit(edits.copy_passage(small.document.plan, 0), "copy")
    small.section.choose_passage(0)
    match = opened_match(small)
    match.limits.coats.setValue(1)
    match.wanted.like.activated.emit(1)
    assert match.wait_until_idle()
    targets = small.document.plan.passages[0].targets
    assert len(targets) == match.wanted.count.value()
    small.document.undo()
    assert not small.document.plan.passages[0].targets
    # Where the other one has targets of its own, those are meant.
    own = (Target(0.5, (55.0, 30.0, 20.0), "recess"),)
    small.document.edit(edits.aim_at(small.document.plan, 1, own), "targets")
    match.wanted.like.activated.emit(1)
    assert match.wait_until_idle()
    assert small.document.plan.passages[0].targets == own
    match.give_up()
    small.wait_until_idle()


def test_a_way_is_kept_and_compared_with_others(small: MainWindow) -> None:
    plan = edits.set_target(small.document.plan, 0, Target(0.5, (60.0, 40.0, 50.0)))
    small.document.edit(plan, "target")
    match = opened_match(small)
    only(match, *_WARM)
    match.limits.coats.setValue(2)
    match.limits.mixes.setValue(0)
    assert match.wait_until_idle()
    way = match.list.ways[0]
    QTest.keyClick(match.list, KEY.Key_P)
    assert match.wait_until_idle()
    assert [w.kept for w in match.list.ways[:2]] == [True, False]
    assert way.coats not in [other.coats for other in match.list.ways[1:]]  # it stands there once
    match.limits.coats.setValue(1)
    assert match.wait_until_idle()
    assert match.list.ways[0].coats == way.coats
    assert all(len(other.coats) <= 1 for other in match.list.ways[1:])
    # The plot has them all; a press on one there takes it in hand.
    last = len(match.list.ways) - 1
    QTest.mouseClick(match.plot, LEFT, pos=match.plot.point(last).toPoint())
    assert match.list.in_hand == last
    picture = match.plot.grab().toImage()
    middle = match.plot.point(last).toPoint() + QPoint(8, 0)
    assert picture.pixelColor(middle).lightness() < 80
    # The kept one is let go again.
    match.list.take(0)
    assert match.keep.text() == "Let go"
    QTest.mouseClick(match.keep, LEFT)
    assert match.wait_until_idle()
    assert not any(w.kept for w in match.list.ways)
    match.give_up()
    small.wait_until_idle()


def test_a_coat_of_a_way_is_thinned_otherwise(small: MainWindow) -> None:
    plan = edits.set_target(small.document.plan, 0, Target(0.5, (60.0, 40.0, 50.0)))
    small.document.edit(plan, "target")
    match = opened_match(small)
    only(match, *_WARM)
    match.limits.mixes.setValue(0)
    assert match.wait_until_idle()
    way = match.list.ways[0]
    QTest.keyClick(match.list, KEY.Key_Left)
    at = match.list.coat
    assert at == len(way.coats) - 2
    assert match.wait_until_idle()
    number, row = next(
        (i, row) for i, row in enumerate(match.table.rows)
        if row.coat is not None and row.coat != way.coats[at]
    )  # fmt: skip
    QTest.mouseClick(match.table, LEFT, pos=match.table.row(number).center().toPoint())
    assert match.wait_until_idle()
    other = next(each for each in match.list.ways if each.kept)
    assert other.coats[at] == row.coat
    assert other.coats[:at] + other.coats[at + 1 :] == way.coats[:at] + way.coats[at + 1 :]
    assert other.mean < way.mean + 1.5
    # At its own thinning it is as it was found, if that is among those that are offered.
    rows = {each.coat.mixture.thinning: each.coat for each in match.table.rows if each.coat}
    assert rows[row.coat.mixture.thinning] == row.coat
    own = way.coats[at]
    assert rows.get(own.mixture.thinning, own) == own
    match.give_up()
    small.wait_until_idle()


def test_tools_and_paints_are_left_out(small: MainWindow) -> None:
    plan = edits.set_target(small.document.plan, 0, Target(0.5, (40.0, 20.0, -60.0)))
    small.document.edit(plan, "target")
    match = opened_match(small)
    match.limits.coats.setValue(2)
    match.limits.mixes.setValue(0)
    for action in match.limits.tools.menu().actions():
        action.setChecked(action.data() == "glaze")
    menu = match.limits.ticks
    menu.fill()
    menu.none.click()
    assert match.limits.usable() == ()
    for name in ("Lime White", "Kiln Yellow", "Furnace Red"):
        menu.picker.search.setText(name)
        QTest.keyClick(menu.picker.search, Qt.Key.Key_Return)
    # All or none are those that the typed words leave.
    menu.picker.search.setText("kelp")
    menu.every.click()
    assert any("Kelp" in paint.name for paint in match.limits.usable())
    menu.none.click()
    menu.picker.search.clear()
    assert {paint.name for paint in match.limits.usable()} == {
        "Lime White", "Kiln Yellow", "Furnace Red",
    }  # fmt: skip
    assert menu.jobs.wait_until_idle()
    menu.closed.emit()
    assert match.wait_until_idle()
    used = [coat for way in match.list.ways for coat in way.coats]
    assert {coat.tool for coat in used} == {"glaze"}
    assert {p.paint for c in used for p in c.mixture.parts} <= {
        "Lime White", "Kiln Yellow", "Furnace Red",
    }  # fmt: skip
    # It says what is missing, and what would help most.
    assert "would help most" in match.words.text()
    assert "left out" in match.limits.paints.text()
    for action in match.limits.tools.menu().actions():
        action.setChecked(False)
    assert "No tool is at hand" in match.words.text()
    match.give_up()
    small.wait_until_idle()


def test_a_search_shows_how_far_it_is(small: MainWindow) -> None:
    plan = edits.set_target(small.document.plan, 0, Target(0.5, (60.0, 40.0, 50.0)))
    small.document.edit(plan, "target")
    match = opened_match(small)
    shares = []
    match.jobs.answered.connect(lambda found: shares.append(found.share))
    assert match.progress.isVisible()
    assert match.wait_until_idle()
    assert shares == sorted(shares)
    assert len(set(shares)) > 5
    assert shares[-1] == 1
    assert not match.progress.isVisible()
    match.give_up()
    small.wait_until_idle()


def test_the_light_of_a_passage_is_chosen_in_its_menu(small: MainWindow) -> None:
    small.document.edit(edits.copy_passage(small.document.plan, 0), "copy")
    menu = small.menus.lit_by
    small.section.choose_passage(0)
    menu.aboutToShow.emit()
    none, other = menu.actions()
    assert none.isChecked()
    assert other.text() == small.document.plan.passages[1].name
    other.trigger()
    assert small.document.plan.passages[0].lit_by == other.text()
    # The remarks speak of it: what is lit is as light as its light.
    assert small.wait_until_idle()
    told = scene(small).forecast.remarks
    assert told is not None
    assert "outshines source" in [remark.kind for remark in told]
    menu.aboutToShow.emit()
    menu.actions()[0].trigger()
    assert small.document.plan.passages[0].lit_by is None
    small.wait_until_idle()


def test_a_passage_that_is_gone_is_not_copied(small: MainWindow) -> None:
    """What is offered may be a moment older than the plan; asking for it does nothing."""
    match = opened_match(small)
    for index in (1, 7, -1):
        match.want_like(index)
    assert match.copies.idle()
    assert match.wait_until_idle()


def test_where_all_are_as_near_none_is_called_nearest() -> None:
    def way(off: float, passes: int) -> ShownWay:
        laid = (Coat(Mixture((Part("Kiln Yellow"),)), "loaded", passes),)
        answer = Recipe(laid, (off,), 9.0 * passes, 1, 1.0)
        none = np.zeros((0, 3))
        return ShownWay(answer, Passage("p"), (off,), none, none, (), ())

    assert best_at([way(0.0, 2), way(0.04, 1)]) == ["", "fewest passes, soonest"]
    assert best_at([way(0.0, 2), way(1.0, 1)])[0] == "nearest"
