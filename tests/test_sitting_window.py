"""The Sitting station in the real window, under a fake clock."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from driving import opened, saved
from zesty_veil.bench import sitting as bench
from zesty_veil.bench.tasks import Pass
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.desktop.sitting.sittingview import SittingView
from zesty_veil.desktop.sitting.station import SittingStation
from zesty_veil.paths import sitting_path
from zesty_veil.plan import edits
from zesty_veil.plan.model import Plan
from zesty_veil.plan.samples import sample

KEY, LEFT = Qt.Key, Qt.MouseButton.LeftButton


class Clock:
    """A clock on the wall that stands still until it is put on."""

    def __init__(self) -> None:
        self.now = 2_000_000.0

    def __call__(self) -> float:
        return self.now


@pytest.fixture
def clock() -> Clock:
    return Clock()


def two_figures() -> Plan:
    return replace(sample("diver"), figures=2)


@pytest.fixture
def bench_window(qtbot: QtBot, dressed: object) -> Iterator[MainWindow]:
    yield from opened(qtbot, two_figures())


def sat_down(window: MainWindow, clock: Clock) -> SittingView:
    view = window.router.at(SittingStation).view
    view.now = clock
    window.menus.actions["to sitting"].trigger()
    assert window.router.currentWidget() is view
    assert view.wait_until_idle()
    assert view.wait_until_idle()
    return view


def lay(view: SittingView, clock: Clock, count: int, seconds: float) -> None:
    """Lay some passes, so many seconds each."""
    for _ in range(count):
        QTest.keyClick(view, KEY.Key_Space)
        clock.now += seconds
        view.tick()


def state(view: SittingView) -> bench.Sitting:
    assert view.sitting is not None
    return view.sitting


def test_a_sitting_is_led_through_by_one_key(bench_window: MainWindow, clock: Clock) -> None:
    view = sat_down(bench_window, clock)
    plan = bench_window.document.plan
    total = len(state(view).order)
    assert f"{total} passes in about" in view.words.text()
    assert "pots wet at once" in view.words.text()
    first = state(view).in_hand
    assert first is not None
    what = bench.work_at(state(view), first).what
    assert isinstance(what, Pass)
    assert view.card.head == plan.passages[what.passage].name
    assert view.card.where == "figure 1 of 2"
    told = view.card.told
    assert told is not None
    assert told.telling.what == what
    assert "passes" in view.lanes.accessibleDescription()
    waited = 0
    for k in range(total):
        where = bench.current(state(view), clock.now)
        assert where is not None
        left = bench.seconds_left(state(view), where[0], clock.now)
        if view.card.waits:
            # The card says how long, and turns about when the time is up.
            waited += 1
            dark = view.card.grab().toImage().pixelColor(4, 4).lightness()
            clock.now += left + 0.1
            view.tick()
            assert view.card.waits == ""
            assert view.card.grab().toImage().pixelColor(4, 4).lightness() > dark + 60
        QTest.keyClick(view, KEY.Key_Space)
        assert len(state(view).laid) == k + 1
        assert state(view).laid[-1].where == where
        clock.now += 20
        view.tick()
    assert waited > 0
    assert view.card.head == "All passes are laid."
    QTest.keyClick(view, KEY.Key_Space)
    assert len(state(view).laid) == total
    QTest.keyClick(view, KEY.Key_Escape)
    assert bench_window.router.currentWidget() is bench_window.section.view
    assert bench_window.document.plan is plan  # a sitting changes no plan
    bench_window.wait_until_idle()


def test_keys_for_a_wet_hand(bench_window: MainWindow, clock: Clock) -> None:
    view = sat_down(bench_window, clock)
    first = state(view).in_hand
    QTest.keyClick(view, KEY.Key_S)
    assert state(view).in_hand != first
    QTest.keyClick(view, KEY.Key_Space)
    QTest.keyClick(view, KEY.Key_Backspace)
    assert state(view).laid == ()
    QTest.keyClick(view, KEY.Key_P)
    assert view.card.waits == "paused"
    QTest.keyClick(view, KEY.Key_Space)
    assert state(view).laid == ()
    QTest.mouseClick(view.hold, LEFT)
    assert view.card.waits == ""
    QTest.mouseClick(view.laid, LEFT)
    assert len(state(view).laid) == 1
    assert view.wait_until_idle()
    # Split into evenings, it says when one is over.
    view.bench.evening.setValue(45)
    QTest.keyClick(view, KEY.Key_E)
    assert view.progress.isVisible()
    assert view.wait_until_idle()
    assert view.progress.isHidden()
    assert len(state(view).laid) == 1
    first_evening = state(view).evenings[0]
    for _ in range(first_evening - 1):
        clock.now += 7200
        view.tick()
        QTest.keyClick(view, KEY.Key_Space)
    assert f"Evening 1 of {len(state(view).evenings)} is done" in view.words.text()
    view.bench.evening.setValue(0)
    # Blown dry, it is scheduled anew and waits for less.
    before = state(view)
    view.bench.hairdryer.click()
    QTest.keyClick(view, KEY.Key_E)
    assert view.wait_until_idle()
    assert state(view).laid == before.laid
    waits = [sum(w.wait for c in bench.chains_of(s) for w in c) for s in (before, state(view))]
    assert waits[1] < 0.5 * waits[0]
    view.go()
    bench_window.wait_until_idle()


def test_a_closed_window_goes_on_at_the_same_second(
    qtbot: QtBot, bench_window: MainWindow, clock: Clock, tmp_path: Path
) -> None:
    view = sat_down(bench_window, clock)
    lay(view, clock, 5, 31)
    assert view.wait_until_idle()
    kept = bench.kept_sitting(sitting_path(None, bench_window.document.plan.title))
    assert kept == state(view)
    drying = bench.drying(state(view), clock.now)
    assert drying
    for window in opened(qtbot, two_figures()):
        again = sat_down(window, clock)
        assert state(again) == kept
        assert bench.drying(state(again), clock.now) == drying
        again.go()
        window.wait_until_idle()
    # Another plan has a sitting of its own, and this one is there again after it.
    for window in opened(qtbot, sample("glasswright")):
        other = sat_down(window, clock)
        assert state(other).plan.title == window.document.plan.title
        QTest.keyClick(other, KEY.Key_Space)
        other.go()
        window.wait_until_idle()
    for window in opened(qtbot, edits.retitle(two_figures(), kept.plan.title)):
        again = sat_down(window, clock)
        assert state(again) == kept
        # Saved, it goes on under its file; changed, it says that it is of the plan as it was.
        assert saved(window, tmp_path / "diver.veil")
        again.go()
        window.document.edit(edits.remove_coat(window.document.plan, 0, 0), "coat")
        again = sat_down(window, clock)
        assert state(again) == kept
        assert "The plan has changed" in again.words.text()
        assert again.reschedule.isVisible()
        QTest.keyClick(again, KEY.Key_Space)
        assert again.wait_until_idle()
        own = bench.kept_sitting(sitting_path(tmp_path / "diver.veil", kept.plan.title))
        assert own is not None
        assert len(own.laid) == len(kept.laid) + 1
        again.go()
        window.wait_until_idle()
    view.go()
    bench_window.wait_until_idle()


def test_what_went_wrong_is_asked_of_what_is_laid(bench_window: MainWindow, clock: Clock) -> None:
    view = sat_down(bench_window, clock)
    QTest.keyClick(view, KEY.Key_R)  # nothing is laid yet, and nothing happens
    assert bench_window.router.currentWidget() is view
    QTest.keyClick(view, KEY.Key_Space)
    what = bench.work_at(state(view), state(view).laid[-1].where).what
    assert isinstance(what, Pass)
    QTest.keyClick(view, KEY.Key_R)
    router = bench_window.router
    page = router.at(SittingStation).wrong
    assert router.currentWidget() is page
    assert page.passage.currentData() == what.passage
    page.give_up()
    bench_window.wait_until_idle()


def test_damaged_or_empty_is_said(bench_window: MainWindow, clock: Clock, qtbot: QtBot) -> None:
    path = sitting_path(None, bench_window.document.plan.title)
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(b"{")
    view = sat_down(bench_window, clock)
    assert "is damaged" in bench_window.line.words.text()
    assert state(view).laid == ()  # it begins anew, and the damaged one is put aside
    assert path.with_name(f"{path.name}.damaged-1").read_bytes() == b"{"
    view.go()
    for window in opened(qtbot, Plan("empty")):
        window.menus.actions["to sitting"].trigger()
        assert window.router.page is window.router.at(SittingStation).start
        window.router.give_up()
        window.wait_until_idle()
    bench_window.wait_until_idle()
