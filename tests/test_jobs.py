"""The newest request wins, failures too, and the interface thread never waits."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator

import pytest
from pytestqt.qtbot import QtBot

from zesty_veil.desktop.session.jobs import EachInTurn, NewestWins
from zesty_veil.errors import FileError, VeilError
from zesty_veil.paths import fault_path


@pytest.fixture
def bench(qtbot: QtBot) -> Iterator[tuple[NewestWins[str, str], list[object], threading.Event]]:
    """A worker that waits for a gate in requests called 'slow', and what reached the receiver."""
    gate = threading.Event()

    def work(request: str, should_continue: Callable[[], bool]) -> Iterator[str]:
        if "slow" in request:
            gate.wait(10)
        if "bad" in request:
            raise ValueError(request)
        yield f"{request} first"
        if should_continue():
            yield f"{request} second"

    jobs: NewestWins[str, str] = NewestWins(work)
    heard: list[object] = []
    jobs.answered.connect(heard.append)
    jobs.failed.connect(heard.append)
    yield jobs, heard, gate
    gate.set()
    jobs.close()


Bench = tuple[NewestWins[str, str], list[object], threading.Event]


def test_answers_arrive_in_order(bench: Bench) -> None:
    jobs, heard, _ = bench
    jobs.ask("a")
    assert not jobs.idle()
    assert jobs.wait_until_idle()
    assert heard == ["a first", "a second"]


def test_only_the_newest_is_heard(bench: Bench) -> None:
    jobs, heard, gate = bench
    for request in ("slow a", "b", "c", "d"):
        jobs.ask(request)
    gate.set()
    assert jobs.wait_until_idle()
    assert heard == ["d first", "d second"]


def test_an_old_failure_is_not_heard_and_a_new_one_is(bench: Bench) -> None:
    jobs, heard, gate = bench
    jobs.ask("slow bad")
    jobs.ask("good")
    gate.set()
    assert jobs.wait_until_idle()
    assert heard == ["good first", "good second"]
    jobs.ask("bad")
    assert jobs.wait_until_idle()
    # The program's own error is told in a sentence, and its traceback is written down.
    assert isinstance(heard[-1], VeilError)
    assert str(fault_path()) in str(heard[-1])
    assert "Traceback" in fault_path().read_text()


def test_what_is_written_is_done_in_order_and_none_is_dropped(qtbot: QtBot) -> None:
    queue, heard, gate = EachInTurn(), [], threading.Event()
    queue.failed.connect(lambda error: heard.append(str(error)))

    def refused() -> None:
        raise FileError("b cannot be written.")

    queue.do(lambda: (gate.wait(10), "a")[1], heard.append)
    queue.do(refused, heard.append)
    queue.do(refused, heard.append, lambda _: heard.append("b was refused"))
    queue.do(lambda: "c", heard.append)
    assert not queue.idle()
    gate.set()
    assert queue.wait_until_idle()
    assert heard == ["a", "b cannot be written.", "b was refused", "c"]
    queue.do(lambda: heard.append("d"))
    queue.close()  # waits for what is left
    assert heard[-1] == "d"
    queue.do(lambda: heard.append("too late"))
    assert heard[-1] == "d"


def test_asking_never_waits(bench: Bench) -> None:
    jobs, _, gate = bench
    jobs.ask("slow a")
    jobs.ask("slow b")  # returns although the worker stands still
    assert not jobs.wait_until_idle(0.05)
    gate.set()
    assert jobs.wait_until_idle()
