"""A sitting goes on when something changes: air, evening, figures, plan, or the window ends."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace as changed
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from conftest import small_plan
from driving import opened, saved
from test_sitting_window import Clock, lay, sat_down, state, two_figures
from zesty_veil.bench import sitting as bench
from zesty_veil.bench.air import Air
from zesty_veil.bench.resume import most_figures_laid, resumed
from zesty_veil.bench.sitting import Sitting
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.errors import InputError
from zesty_veil.plan import edits
from zesty_veil.plan.samples import sample

KEY, LEFT = Qt.Key, Qt.MouseButton.LeftButton
_AIR = Air(20.0, 50.0)


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def bench_window(qtbot: QtBot, dressed: object) -> Iterator[MainWindow]:
    yield from opened(qtbot, two_figures())


def laid(sitting: Sitting, count: int) -> Sitting:
    """Return a sitting with some passes laid, an hour apart."""
    for k in range(count):
        sitting = bench.lay_pass(sitting, 3600.0 * k)
    return sitting


@settings(max_examples=12)
@given(count=st.integers(0, 20), dryer=st.booleans(), figures=st.integers(1, 3))
def test_what_is_laid_stays_laid_and_all_else_is_scheduled_once(
    count: int, dryer: bool, figures: int
) -> None:
    begun = bench.begun(replace(sample("diver"), figures=2), _AIR, 0.0)
    assert begun is not None
    before = laid(begun, count)
    plan = replace(sample("diver"), figures=max(figures, most_figures_laid(before)))
    found = resumed(before, plan, changed(_AIR, hairdryer=dryer))
    assert found is not None
    after, dropped = found
    assert dropped == 0
    assert [one.at for one in after.laid] == [one.at for one in before.laid]
    for one, was in zip(after.laid, before.laid, strict=True):
        mine, old = bench.work_at(after, one.where), bench.work_at(before, was.where)
        assert (mine.what, mine.figure) == (old.what, old.figure)
    every = [(c, k) for c, chain in enumerate(bench.chains_of(after)) for k in range(len(chain))]
    assert sorted(after.order) == every
    assert sum(after.evenings) == len(every)


def test_passes_of_a_coat_that_is_another_now_count_no_longer() -> None:
    begun = bench.begun(small_plan(), _AIR, 0.0)
    assert begun is not None
    before = laid(begun, 3)
    coat = small_plan().passages[0].coats[1]
    # How thin it came out may be known better: it is laid. Of another paint it is not.
    thinner = edits.set_coat(small_plan(), 0, 1, edits.with_thinning(coat, 5.0))
    found = resumed(before, thinner, _AIR)
    assert found is not None
    assert (len(found[0].laid), found[1]) == (3, 0)
    first = small_plan().passages[0].coats[0]
    swapped = replace(coat, mixture=replace(coat.mixture, parts=first.mixture.parts))
    other = edits.set_coat(small_plan(), 0, 1, swapped)
    found = resumed(before, other, _AIR)
    assert found is not None
    after, dropped = found
    assert (len(after.laid), dropped) == (2, 1)
    with pytest.raises(InputError, match="too short; give at least"):
        resumed(before, small_plan(), _AIR, evening=1.0)
    whole = laid(begun, len(begun.order))
    found = resumed(whole, small_plan(), Air(10.0, 80.0))
    assert found is not None
    assert found[0].laid == whole.laid


def test_a_change_offers_to_reschedule_and_keeps_what_is_laid(
    bench_window: MainWindow, clock: Clock
) -> None:
    view = sat_down(bench_window, clock)
    lay(view, clock, 3, 7200)
    before = state(view).laid
    assert view.reschedule.isHidden()
    view.bench.evening.setFocus()
    view.bench.evening.selectAll()
    QTest.keyClicks(view.bench.evening, "1 h 30")
    QTest.keyClick(view.bench.evening, KEY.Key_Return)
    assert view.bench.evening.value() == 90
    assert view.bench.evening.text() == "1 h 30"
    assert view.reschedule.isVisible()
    assert "keeps 3 laid passes" in view.words.text()
    QTest.keyClick(view, KEY.Key_Backspace)
    assert "keeps 2 laid passes" in view.words.text()
    QTest.keyClick(view, KEY.Key_Space)
    before = state(view).laid
    QTest.mouseClick(view.reschedule, LEFT)
    assert view.wait_until_idle()
    assert state(view).laid == before
    assert len(state(view).evenings) > 1
    assert view.reschedule.isHidden()
    # Too short an evening is said, and nothing is lost.
    now = state(view)
    view.bench.evening.setValue(2)
    QTest.mouseClick(view.reschedule, LEFT)
    assert view.wait_until_idle()
    assert "too short; give at least" in view.words.text()
    assert state(view).order == now.order
    # A figure that something is laid on stays.
    view.bench.figures.setValue(1)
    kept = most_figures_laid(now)
    assert view.bench.figures.value() == kept
    assert kept == 1 or "so it stays" in view.words.text()
    view.go()
    bench_window.wait_until_idle()


def test_what_is_laid_while_it_is_rescheduled_is_kept(
    bench_window: MainWindow, clock: Clock
) -> None:
    view = sat_down(bench_window, clock)
    view.bench.hairdryer.click()
    QTest.keyClick(view, KEY.Key_E)
    QTest.keyClick(view, KEY.Key_Space)
    assert len(state(view).laid) == 1
    assert view.wait_until_idle()
    assert view.wait_until_idle()
    assert len(state(view).laid) == 1
    assert state(view).hairdryer
    view.go()
    bench_window.wait_until_idle()


def test_space_lays_wherever_the_keyboard_stands(bench_window: MainWindow, clock: Clock) -> None:
    view = sat_down(bench_window, clock)
    places = (view.bench.hairdryer, view.bench.figures, view.bench.evening, view.later, view.again)
    for count, place in enumerate(places, 1):
        place.setFocus()
        values = (view.bench.figures.value(), view.bench.evening.value())
        QTest.keyClick(place, KEY.Key_Space)
        assert len(state(view).laid) == count
        assert not view.bench.hairdryer.isChecked()
        assert (view.bench.figures.value(), view.bench.evening.value()) == values
        clock.now += 7200
        view.tick()
    # So do the letters of the page.
    view.bench.evening.setFocus()
    QTest.keyClick(view.bench.evening, KEY.Key_P)
    assert state(view).paused is not None
    QTest.keyClick(view.bench.celsius, KEY.Key_P)
    assert state(view).paused is None
    # In a time that is being typed it is a letter; and Enter presses what it stands on.
    view.bench.evening.setFocus()
    view.bench.evening.selectAll()
    QTest.keyClicks(view.bench.evening, "2 h")
    assert len(state(view).laid) == len(places)
    view.bench.hairdryer.setFocus()
    assert view.bench.evening.value() == 120
    QTest.keyClick(view.bench.hairdryer, KEY.Key_Return)
    assert view.bench.hairdryer.isChecked()
    view.go()
    bench_window.wait_until_idle()


def test_starting_over_asks_before_laid_passes_are_dropped(
    bench_window: MainWindow, clock: Clock
) -> None:
    view = sat_down(bench_window, clock)
    QTest.keyClick(view, KEY.Key_Space)
    before = state(view).laid
    QTest.keyClick(view, KEY.Key_N)
    assert state(view).laid == before
    line = bench_window.line
    assert line.words.text().startswith("1 pass would no longer count as laid.")
    QTest.mouseClick(line.answers["stay"], LEFT)
    assert view.wait_until_idle()
    assert state(view).laid == before
    QTest.keyClick(view, KEY.Key_N)
    QTest.mouseClick(line.answers["do"], LEFT)
    assert view.wait_until_idle()
    assert state(view).laid == ()
    view.go()
    bench_window.wait_until_idle()


def test_a_recovered_plan_finds_its_sitting_and_its_file(
    qtbot: QtBot, clock: Clock, tmp_path: Path, dressed: object
) -> None:
    path = tmp_path / "diver.veil"
    for window in opened(qtbot, two_figures()):
        assert saved(window, path)
        view = sat_down(window, clock)
        lay(view, clock, 5, 7200)
        assert len(state(view).laid) == 5
        view.go()
        window.section.choose_passage(0)
        window.section.more_passes(1)
        window.autosave.keep()
        assert window.autosave.writes.wait_until_idle()
        # The process is killed here: another one finds what it left.
        died = tmp_path / "died.veil"
        for each in window.autosave.path.parent.glob(f"{window.autosave.path.stem}*"):
            if each.suffix != ".lock":
                (died.with_suffix(each.suffix)).write_bytes(each.read_bytes())
        work = window.document.plan
        window.document.forget()
    for window in opened(qtbot, sample("glasswright")):
        window.files.offer(died)
        assert window.user_store.writes.wait_until_idle()
        QTest.mouseClick(window.line.answers["recover"], LEFT)
        assert window.user_store.writes.wait_until_idle()
        assert window.document.plan == work
        assert window.document.unsaved
        assert window.document.path == path
        view = sat_down(window, clock)
        assert len(state(view).laid) == 5
        view.go()
        # It is saved where it came from, as nobody else has written there since.
        assert saved(window)
        assert not window.document.unsaved
