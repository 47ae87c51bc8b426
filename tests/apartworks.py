"""Works for a helper process, as stations give them. No Qt here, as it is not there either."""

from __future__ import annotations

import os
import signal
from collections.abc import Callable, Iterator

import numpy as np

from zesty_veil.errors import DroppedError, InputError
from zesty_veil.kept import Keeper, room


def counting(most: int, should_continue: Callable[[], bool]) -> Iterator[tuple[int, int]]:
    """Yield numbers, and the process that counts."""
    for k in range(most):
        yield k, os.getpid()


def for_ever(asked: str, should_continue: Callable[[], bool]) -> Iterator[str]:
    """Yield one word, and then nothing while it is wanted."""
    yield asked
    while should_continue():
        pass


def failing(asked: str, should_continue: Callable[[], bool]) -> Iterator[str]:
    """Fail as asked."""
    if asked == "painter":
        raise InputError("Nothing can be painted there; choose another place.")
    if asked == "dropped":
        raise DroppedError
    if asked == "killed":
        os.kill(os.getpid(), signal.SIGKILL)
    yield from ()
    raise ZeroDivisionError(asked)


def returning(asked: object, should_continue: Callable[[], bool]) -> Iterator[object]:
    """Yield what was asked, and a copy of nothing."""
    yield asked, np.arange(3.0)


def user_store(asked: int, should_continue: Callable[[], bool]) -> Iterator[int]:
    """Keep many megabytes of answers as films are kept; yield how many bytes are kept."""
    keeper = Keeper(2 * asked)
    for k in range(asked // 1_000_000):
        keeper.get(k, lambda: np.empty(1_000_000, dtype=np.uint8))
    yield room.bytes
