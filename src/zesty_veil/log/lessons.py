"""What a log teaches of the paints at hand, told step by step."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

from zesty_veil.log.learn import MOST_RECORDS, RECORDS_A_PAINT, Learnt, lesson
from zesty_veil.log.learning import Learning
from zesty_veil.log.logbook import Logbook
from zesty_veil.log.store import opened
from zesty_veil.paint.paint import Paint


@dataclass(frozen=True)
class ToLearn:
    """The log, and the paints that its records may refine."""

    log: Path
    rack: str
    paints: tuple[Paint, ...]


@dataclass(frozen=True)
class Lesson:
    """How far a lesson has come, and at its end what it taught."""

    asked: ToLearn
    done: int
    total: int
    found: Learnt | None = None


def lessons(asked: ToLearn, should_continue: Callable[[], bool]) -> Iterator[Lesson]:
    """Yield now and then how far it is, and at last what the records teach."""
    paints = {paint.name: paint for paint in asked.paints}
    with opened(asked.log) as store:
        book, strips = Logbook(store), Learning(store).strips()
        numbers = book.that_teach(RECORDS_A_PAINT, MOST_RECORDS)
        every = max(len(numbers) // 50, 10)
        for step in lesson(book.each(numbers), paints, hand=strips, total=len(numbers)):
            if not should_continue():
                return
            if isinstance(step, Learnt):
                yield Lesson(asked, 1, 1, step)
            elif step[0] % every == 0:
                yield Lesson(asked, *step)
