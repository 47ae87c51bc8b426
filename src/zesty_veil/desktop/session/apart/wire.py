"""What goes between the window and its helper: frozen requests one way, answers the other.

A rack goes with every request, and a figure that the painter scanned may be a megabyte. Such large
parts cross once; then a number stands for them, both ways, and it is the same object again that
comes back. What a request asked comes back as itself too.
"""

from __future__ import annotations

import io
import pickle
import struct
from collections.abc import Callable
from enum import IntEnum
from typing import Any

from zesty_veil.kept import one_of_equals
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Sculpt

_HEADER = struct.Struct("<QQB")
_SHARED: dict[type, int] = {Paint: 1, Sculpt: 256}  # how much of the room each takes
MOST_SHARED = 8192
_ASKED = "asked"


class MessageKind(IntEnum):
    """What a message is."""

    LEARN = 0  # parts that numbers stand for from now on
    FORGET = 1  # no number stands for anything any more
    ASK = 2
    DROP = 3  # nothing older than this is wanted of a channel
    CLOSE = 4
    ANSWER = 5
    FAILED = 6
    LAST = 7


def framed(kind: MessageKind, channel: int = 0, number: int = 0, body: bytes = b"") -> bytes:
    """Return a message as bytes."""
    return _HEADER.pack(channel, number, kind) + body


def unframed(raw: bytes) -> tuple[MessageKind, int, int, memoryview]:
    """Return a message's kind, channel, number and body."""
    channel, number, kind = _HEADER.unpack_from(raw)
    return MessageKind(kind), channel, number, memoryview(raw)[_HEADER.size :]


class _Pickler(pickle.Pickler):
    def __init__(self, file: io.BytesIO, stands_for: Callable[[Any], int | str | None]) -> None:
        super().__init__(file, protocol=5)
        self._stands_for = stands_for

    def persistent_id(self, obj: Any) -> int | str | None:
        return self._stands_for(obj)


class _Unpickler(pickle.Unpickler):
    def __init__(self, file: io.BytesIO, found: Callable[[Any], Any]) -> None:
        super().__init__(file)
        self._found = found

    def persistent_load(self, pid: Any) -> Any:
        return self._found(pid)


def _dumped(thing: Any, stands_for: Callable[[Any], int | str | None]) -> bytes:
    file = io.BytesIO()
    _Pickler(file, stands_for).dump(thing)
    return file.getvalue()


class WindowEnd:
    """The window's side: numbers the large parts of its requests, and knows them in answers."""

    def __init__(self) -> None:
        self._numbers: dict[int, int] = {}  # by id; the parts below keep it from being used anew
        self._parts: dict[int, Any] = {}
        self._before: dict[int, Any] = {}  # answers under way may still name these
        self._next = 0
        self._room = MOST_SHARED

    def request(self, request: Any) -> tuple[list[bytes], bytes]:
        """Return the messages that go before a request, and its body."""
        before: list[bytes] = []
        if self._room <= 0:
            self._before, self._parts, self._numbers = self._parts, {}, {}
            self._room = MOST_SHARED
            before.append(framed(MessageKind.FORGET))
        fresh: list[tuple[int, Any]] = []

        def stands_for(obj: Any) -> int | None:
            size = _SHARED.get(type(obj))
            if size is None:
                return None
            number = self._numbers.get(id(obj))
            if number is None:
                number = self._numbers[id(obj)] = self._next
                self._parts[number] = obj
                self._next += 1
                self._room -= size
                fresh.append((number, obj))
            return number

        try:
            body = _dumped(request, stands_for)
        except Exception:
            # Nobody was told what these numbers stand for.
            for number, obj in fresh:
                del self._numbers[id(obj)], self._parts[number]
            raise
        if fresh:
            before.append(framed(MessageKind.LEARN, body=pickle.dumps(fresh, protocol=5)))
        return before, body

    def answer(self, body: memoryview, request: Any) -> Any:
        """Return an answer to a request."""

        def found(pid: Any) -> Any:
            if pid == _ASKED:
                return request
            return self._parts[pid] if pid in self._parts else self._before[pid]

        return _Unpickler(io.BytesIO(body), found).load()


class HelperEnd:
    """The helper's side: learns what numbers stand for, and uses them in answers."""

    def __init__(self) -> None:
        self._parts: dict[int, Any] = {}
        self._numbers: dict[int, int] = {}

    def learn(self, body: memoryview) -> None:
        """Take parts with their numbers."""
        for number, read in pickle.loads(body):
            obj = one_of_equals(read)
            self._parts[number] = obj
            self._numbers[id(obj)] = number

    def forget(self) -> None:
        """Let go of all parts."""
        # New ones: a worker may be writing an answer with the old.
        self._parts, self._numbers = {}, {}

    def request(self, body: memoryview) -> Any:
        """Return a request."""
        return _Unpickler(io.BytesIO(body), self._parts.__getitem__).load()

    def answer(self, answer: Any, request: Any) -> bytes:
        """Return an answer's body."""
        # Numbers hold only as long as their parts live, so both are taken at once.
        parts, numbers = self._parts, self._numbers

        def stands_for(obj: Any) -> int | str | None:
            if obj is request:
                return _ASKED
            if type(obj) in _SHARED:
                number = numbers.get(id(obj))
                if number is not None and parts.get(number) is obj:
                    return number
            return None

        return _dumped(answer, stands_for)
