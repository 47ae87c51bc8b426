"""Answers kept by their size in bytes: what is used oldest goes when there is no more room.

A limit of so many answers says nothing where one takes a kilobyte and another ten megabytes. Each
function that keeps answers has room of its own, and all of them together have the process's.
"""

from __future__ import annotations

import dataclasses
import itertools
import math
import threading
import weakref
from collections import OrderedDict
from collections.abc import Callable, Hashable
from functools import wraps
from typing import Any, ParamSpec, TypeVar

_Given = ParamSpec("_Given")
_Answer = TypeVar("_Answer")

_Thing = TypeVar("_Thing")

_LEAST = 512  # bytes that any answer takes with what it was asked by


class Room:
    """What several keepers may keep together: what was used longest ago gives way."""

    def __init__(self, most_bytes: float) -> None:
        self.most_bytes = most_bytes
        self.bytes = 0
        self.lock = threading.RLock()
        # Whose answer and to what, by a number, as a key may take long to hash; the newest last.
        self._used: OrderedDict[int, tuple[Keeper, Hashable]] = OrderedDict()
        self._numbers = itertools.count()

    def limit(self, megabytes: float) -> None:
        """Keep no more than this from now on."""
        with self.lock:
            self.most_bytes = megabytes * 1e6
            self._make()

    def enter(self, keeper: Keeper, key: Hashable, size: int) -> int:
        """Take in an answer of so many bytes; return its number."""
        number = next(self._numbers)
        self._used[number] = keeper, key
        self.bytes += size
        self._make()
        return number

    def use(self, number: int) -> None:
        """Take note that an answer was asked for."""
        self._used.move_to_end(number)

    def leave(self, number: int, size: int) -> None:
        """Let an answer go."""
        del self._used[number]
        self.bytes -= size

    def _make(self) -> None:
        while self.bytes > self.most_bytes and self._used:
            keeper, key = next(iter(self._used.values()))
            keeper.drop(key)


# All that this process keeps.
room = Room(math.inf)


class Keeper:
    """Answers by what was asked, the newest last; safe to be asked by several threads."""

    def __init__(self, most_bytes: int, within: Room = room) -> None:
        self.most_bytes = most_bytes
        self.bytes = 0
        self._answers: OrderedDict[Hashable, tuple[Any, int, int]] = OrderedDict()
        self._room = within
        self._lock = within.lock

    def get(self, key: Hashable, make: Callable[[], Any]) -> Any:
        """Return a kept answer, or make and keep it; what is larger than all room is not kept."""
        with self._lock:
            if key in self._answers:
                self._answers.move_to_end(key)
                answer, _, number = self._answers[key]
                self._room.use(number)
                return answer
        answer = make()
        size = _LEAST + size_of(answer)
        most = min(self.most_bytes, self._room.most_bytes)
        with self._lock:
            if key not in self._answers and size <= most:
                self._answers[key] = answer, size, self._room.enter(self, key, size)
                self.bytes += size
                while self.bytes > self.most_bytes:
                    self.drop(next(iter(self._answers)))
        return answer

    def drop(self, key: Hashable) -> None:
        """Forget one answer."""
        with self._lock:
            _, size, number = self._answers.pop(key)
            self._room.leave(number, size)
            self.bytes -= size

    def clear(self) -> None:
        """Forget all answers."""
        with self._lock:
            for key in list(self._answers):
                self.drop(key)


def kept_within(
    megabytes: float,
) -> Callable[[Callable[_Given, _Answer]], Callable[_Given, _Answer]]:
    """Keep the answers of a function within so many megabytes of arrays.

    Its arguments must be hashable, and given by place. `keeper` of the function tells and clears.
    """

    def keeping(function: Callable[_Given, _Answer]) -> Callable[_Given, _Answer]:
        keeper = Keeper(int(megabytes * 1e6))

        @wraps(function)
        def asked(*args: _Given.args, **named: _Given.kwargs) -> _Answer:
            key = (args, tuple(sorted(named.items())))
            answer: _Answer = keeper.get(key, lambda: function(*args, **named))
            return answer

        asked.keeper = keeper  # type: ignore[attr-defined]
        return asked

    return keeping


_in_use: weakref.WeakKeyDictionary[Any, weakref.ref[Any]] = weakref.WeakKeyDictionary()


def one_of_equals(thing: _Thing) -> _Thing:
    """Return the equal one that is in use already, or the thing itself if there is none.

    The same paint is read anew with every plan that holds it; each further one would take room
    here, in the helper, and in every answer that is kept by it.

    thing : hashable, and able to be referred to weakly
    """
    found = _in_use.get(thing)
    one: _Thing | None = None if found is None else found()
    if one is not None:
        return one
    _in_use[thing] = weakref.ref(thing)
    return thing


def size_of(answer: Any) -> int:
    """Return the bytes of the arrays in an answer: itself, or parts of tuples and dataclasses."""
    size = getattr(answer, "nbytes", None)
    if size is not None:
        # A view keeps all of what it looks at.
        base = getattr(answer, "base", None)
        return int(getattr(base, "nbytes", size) or size)
    if isinstance(answer, tuple | list):
        return sum(map(size_of, answer))
    if isinstance(answer, dict):
        return sum(map(size_of, answer.values()))
    if dataclasses.is_dataclass(answer):
        return sum(size_of(getattr(answer, f.name)) for f in dataclasses.fields(answer))
    return 0
