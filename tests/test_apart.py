"""Computing in a process of its own: the same answers, no thread of the window in the way."""

from __future__ import annotations

import os
import pickle
import subprocess
import sys
from collections.abc import Callable, Iterator
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from apartworks import counting, failing, for_ever, returning, user_store
from driving import opened
from zesty_veil.desktop.session.apart import wire
from zesty_veil.desktop.session.apart.link import Helpers, helpers
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.start.station import StartStation
from zesty_veil.errors import DroppedError, InputError, VeilError
from zesty_veil.paint.rack import demo_rack
from zesty_veil.paths import fault_path
from zesty_veil.plan.samples import sample
from zesty_veil.services.starting import DEMOS


@pytest.fixture
def apart(monkeypatch: pytest.MonkeyPatch) -> Iterator[Helpers]:
    """Compute in helpers while a test runs; they find works in the folder of the tests."""
    others = os.environ.get("PYTHONPATH", "").split(os.pathsep)
    monkeypatch.setenv("PYTHONPATH", os.pathsep.join([str(Path(__file__).parent), *others]))
    helpers.begin()
    yield helpers
    helpers.end()


class _Told:
    """What a job says."""

    def __init__(self, jobs: NewestWins) -> None:
        self.answers: list[object] = []
        self.failures: list[Exception] = []
        jobs.answered.connect(self.answers.append)
        jobs.failed.connect(self.failures.append)


@pytest.fixture
def job(qtbot: QtBot, apart: Helpers) -> Iterator[Callable[..., tuple[NewestWins, _Told]]]:
    """Make jobs that are done apart."""
    made: list[NewestWins] = []

    def make(work: Callable, which: str = "short") -> tuple[NewestWins, _Told]:
        jobs: NewestWins = NewestWins(work, None, which)  # type: ignore[arg-type]
        made.append(jobs)
        return jobs, _Told(jobs)

    yield make
    for jobs in made:
        jobs.close()


def test_answers_come_in_order_from_another_process(job: Callable) -> None:
    jobs, told = job(counting)
    jobs.ask(5)
    assert jobs.wait_until_idle()
    assert [k for k, _ in told.answers] == list(range(5))
    assert {pid for _, pid in told.answers} == {helpers.link("short").process.pid}  # type: ignore[union-attr]


def test_a_newer_request_ends_an_endless_one(job: Callable, qtbot: QtBot) -> None:
    jobs, told = job(for_ever)
    jobs.ask("first")
    jobs.ask("second")
    for word in ("third", "fourth"):
        jobs.ask(word)
    jobs.drop()
    jobs.ask("last")
    qtbot.waitUntil(lambda: told.answers[-1:] == ["last"], timeout=20_000)
    assert not jobs.idle()  # it is at work
    jobs.drop()
    assert jobs.wait_until_idle()
    assert told.failures == []


def test_failures_are_told_and_errors_are_written_down(job: Callable) -> None:
    jobs, told = job(failing)
    for asked in ("painter", "dropped", "seven"):
        jobs.ask(asked)
        assert jobs.wait_until_idle()
    kinds = [type(f) for f in told.failures]
    assert kinds == [InputError, DroppedError, VeilError]
    assert "another place" in str(told.failures[0])
    assert "ZeroDivisionError" in str(told.failures[2])
    assert "in failing" in fault_path().read_text()


def test_a_helper_that_dies_is_told_of_and_another_takes_its_place(job: Callable) -> None:
    jobs, told = job(failing)
    other, heard = job(for_ever)
    other.ask("still")
    jobs.ask("killed")
    assert jobs.wait_until_idle()
    assert other.wait_until_idle()
    for failure in (*told.failures, *heard.failures):
        assert "ask once more" in str(failure)
    assert len(told.failures) == len(heard.failures) == 1
    jobs.ask("painter")
    assert jobs.wait_until_idle()
    assert isinstance(told.failures[-1], InputError)


def test_where_no_helper_can_be_begun_threads_compute(
    job: Callable, monkeypatch: pytest.MonkeyPatch
) -> None:
    helpers.end()
    monkeypatch.setattr(sys, "executable", "/nowhere/python")
    helpers.begin()
    jobs, told = job(counting)
    jobs.ask(2)
    assert jobs.wait_until_idle()
    assert told.answers == [(0, os.getpid()), (1, os.getpid())]


def test_a_request_that_cannot_be_sent_fails_and_the_next_is_answered(job: Callable) -> None:
    jobs, told = job(returning)
    paint = demo_rack()[0]
    jobs.ask((paint, lambda: None))
    assert jobs.wait_until_idle()
    assert len(told.failures) == 1
    jobs.ask((paint, 1))
    assert jobs.wait_until_idle()
    assert told.answers[0][0] == (paint, 1)  # type: ignore[index]


def test_paints_cross_once_and_come_back_themselves() -> None:
    window, helper = wire.WindowEnd(), wire.HelperEnd()
    rack = demo_rack()

    def sent(request: object) -> tuple[int, object]:
        before, body = window.request(request)
        for raw in before:
            kind, _, _, rest = wire.unframed(raw)
            helper.forget() if kind is wire.MessageKind.FORGET else helper.learn(rest)
        return sum(map(len, before)) + len(body), helper.request(memoryview(body))

    first, got = sent(rack)
    again, twice = sent((rack, rack[3]))
    assert got == rack
    assert twice[1] is got[3]  # type: ignore[index]
    assert again < first / 50
    request = (rack, "what is asked")
    _, there = sent(request)
    back = window.answer(memoryview(helper.answer((there, there[0][5], 3), there)), request)  # type: ignore[index]
    assert back[0] is request
    assert back[1] is rack[5]


def test_what_was_shared_is_let_go_of_in_time(monkeypatch: pytest.MonkeyPatch) -> None:
    """However many paints a long day shows, only so many are kept; answers under way still come."""
    monkeypatch.setattr(wire, "MOST_SHARED", 20)
    window, helper = wire.WindowEnd(), wire.HelperEnd()
    last = None
    for _ in range(50):
        rack = tuple(pickle.loads(pickle.dumps(p)) for p in demo_rack()[:8])
        late = None if last is None else helper.answer(last, None)
        before, body = window.request(rack)
        for raw in before:
            kind, _, _, rest = wire.unframed(raw)
            helper.forget() if kind is wire.MessageKind.FORGET else helper.learn(rest)
        last = helper.request(memoryview(body))
        assert last == rack
        if late is not None:
            assert window.answer(memoryview(late), None) == rack
    assert len(window._parts) <= 40
    assert len(helper._parts) <= 40


def test_a_helper_keeps_little_however_much_there_is_to_keep(job: Callable) -> None:
    jobs, told = job(user_store)
    jobs.ask(400_000_000)
    assert jobs.wait_until_idle()
    assert 50_000_000 < told.answers[0] < 150_000_000


def test_the_helper_has_no_toolkit() -> None:
    """All that stations give to a helper stands in modules without Qt (or it would be a window)."""
    works = (
        "services.forecast", "services.finding", "services.thinnings", "services.lighting",
        "services.sittingcard", "services.fitting", "services.asking", "services.recordforecast",
        "services.picking", "services.starting",
        "desktop.rack.model", "desktop.session.apart.helper",
    )  # fmt: skip
    words = ";".join(f"import zesty_veil.{name}" for name in works)
    words += ";import zesty_veil.log.lessons, sys; print([m for m in sys.modules if 'PySide' in m])"
    out = subprocess.run([sys.executable, "-c", words], capture_output=True, text=True, check=True)
    assert out.stdout.strip() == "[]"


def test_a_window_shows_the_same_with_a_helper(qtbot: QtBot, apart: Helpers) -> None:
    shown = []
    for on in (True, False):
        apart.on = on
        for window in opened(qtbot, sample("glasswright")):
            assert window.wait_until_idle()
            forecast = window.section.forecast
            assert forecast is not None
            assert forecast.field is not None
            assert forecast.request.plan is window.document.plan
            words = [r.words for r in forecast.remarks or ()]
            shown.append((forecast.field.lab, words, forecast.form))
    for mine, theirs in zip(*shown, strict=True):
        np.testing.assert_array_equal(mine, theirs)


def test_the_door_answers_from_a_helper(qtbot: QtBot, apart: Helpers) -> None:
    """The picker's colours and the start page's cards are worked out apart as well."""
    for window in opened(qtbot, sample("glasswright")):
        assert window.wait_until_idle()
        menu = window.section.head.paints
        menu.fill()
        assert menu.jobs.wait_until_idle()
        assert len(menu.picker.list.colours) > 20
        menu.closed.emit()
        window.menus.actions["to start"].trigger()
        assert window.user_store.writes.wait_until_idle()
        start = window.router.at(StartStation).view
        assert start.wait_until_idle()
        assert len(start.cards) >= len(DEMOS)
        assert start.glaze._shown is not None


def test_nothing_is_told_to_a_window_that_is_gone(job: Callable, qtbot: QtBot) -> None:
    """Quitting while something is computed said that the helper had died, to nobody."""
    jobs, told = job(for_ever)
    jobs.ask("word")
    qtbot.waitUntil(lambda: told.answers == ["word"], timeout=20_000)
    told.answers.clear()
    helpers.end()
    QApplication.processEvents()
    assert told.failures == []
    assert told.answers == []


def test_helpers_end_with_the_window(apart: Helpers) -> None:
    link = apart.link("short")
    assert link is not None
    apart.end()
    assert link.process.returncode == 0
