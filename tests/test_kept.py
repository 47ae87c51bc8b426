"""Answers kept by their size: each function has room, and all of them together have room."""

from __future__ import annotations

import gc
import weakref
from importlib.resources import files

import numpy as np

from zesty_veil.desktop.session.apart.wire import HelperEnd, MessageKind, WindowEnd, unframed
from zesty_veil.kept import Keeper, Room, one_of_equals
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.fileformat import parse

DEMO = files("zesty_veil") / "data" / "glasswright.veil"

KB = 1000


def _of(size: int) -> np.ndarray:
    return np.zeros(size, dtype=np.uint8)


def _asked(keeper: Keeper, key: str, size: int = 10 * KB) -> bool:
    """Ask a keeper; return whether it had to make the answer."""
    made = []
    keeper.get(key, lambda: made.append(key) or _of(size))
    return bool(made)


def test_the_answer_used_longest_ago_gives_way_within_a_keeper() -> None:
    keeper = Keeper(25 * KB, Room(1e9))
    assert _asked(keeper, "a")
    assert _asked(keeper, "b")
    assert not _asked(keeper, "a")
    assert _asked(keeper, "c")
    assert not _asked(keeper, "a")
    assert _asked(keeper, "b")
    assert keeper.bytes <= 25 * KB


def test_keepers_share_a_room_and_the_one_used_longest_ago_gives_way() -> None:
    room = Room(35 * KB)
    one, other = Keeper(10**9, room), Keeper(10**9, room)
    assert _asked(one, "a")
    assert _asked(other, "a")
    assert _asked(other, "b")
    assert not _asked(one, "a")  # now the first of the other is what was used longest ago
    assert _asked(one, "b")
    assert room.bytes == one.bytes + other.bytes <= 35 * KB
    assert not _asked(one, "a")
    assert not _asked(other, "b")
    assert _asked(other, "a")


def test_a_smaller_room_lets_answers_go_at_once_and_keeps_nothing_larger() -> None:
    room = Room(1e9)
    keeper = Keeper(10**9, room)
    for key in "abcd":
        _asked(keeper, key)
    room.limit(0.025)
    assert keeper.bytes == room.bytes <= 25 * KB
    assert not _asked(keeper, "d")
    assert _asked(keeper, "large", 30 * KB)
    assert _asked(keeper, "large", 30 * KB)
    assert not _asked(keeper, "d")
    keeper.clear()
    assert room.bytes == keeper.bytes == 0


def test_a_paint_read_again_is_the_one_that_is_in_use() -> None:
    raw = DEMO.read_bytes()
    first, again = parse(raw), parse(raw)
    assert all(a is b for a, b in zip(first.paints, again.paints, strict=True))


def test_a_paint_that_crossed_does_not_cross_again_with_another_plan() -> None:
    raw = DEMO.read_bytes()
    end = WindowEnd()
    before, _ = end.request(parse(raw))
    assert len(before) == 1
    assert end.request(parse(raw))[0] == []
    # The helper forgets all, and is told again: its kept answers are still by the same paints.
    helper = HelperEnd()
    kind, _, _, body = unframed(before[0])
    assert kind is MessageKind.LEARN
    helper.learn(body)
    kept = helper.request(memoryview(end.request(parse(raw))[1])).paints
    helper.forget()
    helper.learn(body)
    told_again = helper.request(memoryview(end.request(parse(raw))[1])).paints
    assert all(a is b for a, b in zip(kept, told_again, strict=True))


def test_what_nobody_uses_any_more_is_let_go() -> None:
    paint = Paint("Gone", "ink", ("PB29",), 0.01, (1.0,) * 36, (1.0,) * 36)
    assert one_of_equals(paint) is paint
    one = id(one_of_equals(Paint("Gone", "ink", ("PB29",), 0.01, (1.0,) * 36, (1.0,) * 36)))
    assert one == id(paint)
    seen = weakref.ref(paint)
    del paint
    gc.collect()
    assert seen() is None
