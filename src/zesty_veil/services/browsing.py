"""Looking things up in the log, away from the interface thread: lists, lines, one record."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

from zesty_veil.log.judge import TrendPoint
from zesty_veil.log.logbook import Line, Logbook
from zesty_veil.log.record import Record
from zesty_veil.log.store import Store, opened


@dataclass(frozen=True)
class LogSearch:
    """Words that records are to hold; without any, all of them, and the trend anew."""

    log: Path
    words: str
    anew: bool = True  # whether the log may have changed since it was searched last


@dataclass(frozen=True)
class Listed:
    """The numbers of the records that were found, the last first, and the trend of all."""

    asked: LogSearch
    numbers: tuple[int, ...]
    trend: tuple[TrendPoint, ...] | None


class Searching:
    """Work for a worker: searches a log, which stays open between two letters."""

    def __init__(self) -> None:
        self._store: Store | None = None

    def __call__(self, asked: LogSearch, should_continue: Callable[[], bool]) -> Iterator[Listed]:
        """Yield what was found; the trend comes after what is typed for."""
        if self._store is None or self._store.path != asked.log or self._store.parted():
            self.close()
            self._store = Store(asked.log)
            self._book = Logbook(self._store)
        numbers = self._book.numbers(asked.words)
        yield Listed(asked, numbers, None)
        if asked.anew and should_continue():
            yield Listed(asked, numbers, self._book.trend())

    def close(self) -> None:
        """Close the log."""
        if self._store is not None:
            self._store.close()
            self._store = None


@dataclass(frozen=True)
class Some:
    """Records of which a list is about to show lines."""

    log: Path
    numbers: tuple[int, ...]


def lines(asked: Some, should_continue: Callable[[], bool]) -> Iterator[tuple[Line, ...]]:
    """Yield lines of a list."""
    with opened(asked.log) as store:
        yield Logbook(store).page(asked.numbers)


@dataclass(frozen=True)
class One:
    """A record to be shown whole."""

    log: Path
    number: int


def looking(asked: One, should_continue: Callable[[], bool]) -> Iterator[Record]:
    """Yield a record; raises LogError if it is damaged."""
    with opened(asked.log) as store:
        yield Logbook(store).get(asked.number)
