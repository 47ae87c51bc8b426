"""Answers kept by their size in bytes: what is used oldest goes when there is no more room.

A limit of so many answers says nothing where one takes a kilobyte and another ten megabytes.
"""

from __future__ import annotations

import dataclasses
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from functools import wraps
from typing import Any, ParamSpec, TypeVar

Given = ParamSpec("Given")
Answer = TypeVar("Answer")

_LEAST = 512  # bytes that any answer takes with what it was asked by


class Keeper:
    """Answers by what was asked, the newest last; safe to be asked by several threads."""

    def __init__(self, most_bytes: int) -> None:
        self.most_bytes = most_bytes
        self.bytes = 0
        self._answers: OrderedDict[Hashable, tuple[Any, int]] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Hashable, make: Callable[[], Any]) -> Any:
        """Return a kept answer, or make and keep it; what is larger than all room is not kept."""
        with self._lock:
            if key in self._answers:
                self._answers.move_to_end(key)
                return self._answers[key][0]
        answer = make()
        size = _LEAST + size_of(answer)
        with self._lock:
            if key not in self._answers and size <= self.most_bytes:
                self._answers[key] = answer, size
                self.bytes += size
                while self.bytes > self.most_bytes:
                    _, (_, gone) = self._answers.popitem(last=False)
                    self.bytes -= gone
        return answer

    def clear(self) -> None:
        """Forget all answers."""
        with self._lock:
            self._answers.clear()
            self.bytes = 0


def kept_within(
    megabytes: float,
) -> Callable[[Callable[Given, Answer]], Callable[Given, Answer]]:
    """Keep the answers of a function within so many megabytes of arrays.

    Its arguments must be hashable, and given by place. `keeper` of the function tells and clears.
    """

    def keeping(function: Callable[Given, Answer]) -> Callable[Given, Answer]:
        keeper = Keeper(int(megabytes * 1e6))

        @wraps(function)
        def asked(*args: Given.args, **named: Given.kwargs) -> Answer:
            key = (args, tuple(sorted(named.items())))
            answer: Answer = keeper.get(key, lambda: function(*args, **named))
            return answer

        asked.keeper = keeper  # type: ignore[attr-defined]
        return asked

    return keeping


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
