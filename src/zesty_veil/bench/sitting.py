"""A sitting under way: what is laid, what dries, and what comes next, by the clock on the wall.

It is a frozen document like a plan; every key is a function from one sitting to the next. Drying is
reckoned from the clock and not from how long the program ran, so that closing it loses nothing.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from pathlib import Path

import msgspec
from msgspec.structs import replace

from zesty_veil.bench.air import Air
from zesty_veil.bench.schedule import Changes, Task
from zesty_veil.bench.sessions import split_sessions
from zesty_veil.bench.tasks import tasks
from zesty_veil.errors import FileError, InputError, PlanFileError
from zesty_veil.files import is_there, make_private, put_aside, read_limited, write_atomically
from zesty_veil.paths import one_sitting_path, sitting_path
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.model import Plan
from zesty_veil.tr import tr

MINUTE = 60.0
_MOST_BYTES = 64_000_000
Where = tuple[int, int]  # chain, and place in it


class LaidPass(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One pass that is laid: which, and when the hand was done with it, in seconds of the clock."""

    where: Where
    at: float


class Sitting(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A plan on the bench.

    order : all passes as they were scheduled. laid : those that are done, in the order of doing.
    in_hand : the pass that is being laid, whatever else is dry by now. put_off : chains that the
    painter would rather not go on with now. minutes, pots : how long it takes as scheduled, and how
    many pots are wet at once. evenings : how many passes fall into each. paused : since when, in
    seconds of the clock, if it is. evening : how many minutes there are at a time, if not any.
    """

    plan: Plan
    celsius: float
    humidity: float
    hairdryer: bool
    order: tuple[Where, ...]
    begun: float
    laid: tuple[LaidPass, ...] = ()
    in_hand: Where | None = None
    put_off: tuple[int, ...] = ()
    minutes: float = 0.0
    pots: int = 0
    evenings: tuple[int, ...] = ()
    retarder: bool = False
    paused: float | None = None
    evening: float | None = None

    @property
    def air(self) -> Air:
        """The air at the bench."""
        return Air(self.celsius, self.humidity, self.hairdryer, self.retarder)


def begun(
    plan: Plan,
    air: Air,
    now: float,
    should_continue: Callable[[], bool] = lambda: True,
    evening: float | None = None,
) -> Sitting | None:
    """Return a sitting that begins now, or nothing if it is not wanted any more.

    `evening` is how many minutes there are at a time; none for as long as it takes.

    Raises
    ------
    InputError
        If there is nothing to lay, or an evening is too short for anything.
    """
    chains = tasks(plan, air)
    if not chains:
        raise InputError(tr("There is nothing to lay in this plan; add a coat first."))
    found = split_sessions(chains, evening, Changes(), should_continue)
    if not should_continue():
        return None
    following = [0] * len(chains)
    order = []
    for one in (placed for each in found for placed in each.placed):
        order.append((one.chain, following[one.chain]))
        following[one.chain] += 1
    return Sitting(
        plan, air.celsius, air.humidity, air.hairdryer, tuple(order), now,
        minutes=sum(each.makespan for each in found),
        pots=max(each.pots_at_once for each in found),
        evenings=tuple(len(each.placed) for each in found),
        retarder=air.retarder, evening=evening,
    )  # fmt: skip


def evening_of(sitting: Sitting) -> tuple[int, bool]:
    """Return which evening it is, from 1, and whether all of its work is laid."""
    done, last = len(sitting.laid), 0
    for number, count in enumerate(sitting.evenings, 1):
        last += count
        if done <= last:
            return number, done == last
    return max(len(sitting.evenings), 1), True


@lru_cache(maxsize=4)
def _chains(plan: Plan, air: Air) -> tuple[tuple[Task, ...], ...]:
    return tasks(plan, air)


def chains_of(sitting: Sitting) -> tuple[tuple[Task, ...], ...]:
    """Return the work of a sitting in chains, as `tasks` does."""
    return _chains(sitting.plan, sitting.air)


def work_at(sitting: Sitting, where: Where) -> Task:
    """Return the work at a place."""
    return chains_of(sitting)[where[0]][where[1]]


def dry_at(sitting: Sitting, chain: int) -> float:
    """Return when a chain may go on, in seconds of the clock; the beginning if nothing is laid."""
    for one in reversed(sitting.laid):
        if one.where[0] == chain:
            return one.at + MINUTE * work_at(sitting, one.where).wait
    return sitting.begun


def current(sitting: Sitting, now: float) -> Where | None:
    """Return what to lay now, or what will be dry first; nothing when all is laid.

    What is in hand stays there. Else the first of the schedule that is dry comes first; what is put
    off, last.
    """
    if sitting.in_hand is not None:
        return sitting.in_hand
    done = {one.where for one in sitting.laid}
    following: dict[int, Where] = {}
    for where in sitting.order:
        if where not in done:
            following.setdefault(where[0], where)
    following = {c: w for c, w in following.items() if not _too_early(sitting, w, following)}
    if not following:
        return None
    rank = {where: k for k, where in enumerate(sitting.order)}
    dry = [w for c, w in following.items() if dry_at(sitting, c) <= now]
    if dry:
        return min(dry, key=lambda w: (w[0] in sitting.put_off, rank[w]))
    return min(following.values(), key=lambda w: (dry_at(sitting, w[0]), rank[w]))


def _too_early(sitting: Sitting, where: Where, following: dict[int, Where]) -> bool:
    """Tell whether something must wait for the rest of its figure: varnish and bright spots."""
    work = work_at(sitting, where)
    others = (work_at(sitting, w) for w in following.values())
    return any(o.figure == work.figure and o.late < work.late for o in others)


def seconds_left(sitting: Sitting, chain: int, now: float) -> float:
    """Return how long a chain still dries."""
    return max(dry_at(sitting, chain) - now, 0.0)


def drying(sitting: Sitting, now: float) -> tuple[tuple[int, float], ...]:
    """Return the chains that dry, with the seconds left, the next to be dry first."""
    left = ((chain, seconds_left(sitting, chain, now)) for chain in range(len(chains_of(sitting))))
    return tuple(sorted((each for each in left if each[1] > 0), key=lambda each: each[1]))


def taken(sitting: Sitting, now: float) -> Sitting:
    """Return the sitting with the brush on what comes next, if that is dry."""
    where = current(sitting, now)
    if where is None or sitting.paused is not None or seconds_left(sitting, where[0], now) > 0:
        return sitting
    return sitting if where == sitting.in_hand else replace(sitting, in_hand=where)


def lay_pass(sitting: Sitting, now: float) -> Sitting:
    """Return the sitting with the current pass laid, or as it was while it is paused or done."""
    where = current(sitting, now)
    if where is None or sitting.paused is not None:
        return sitting
    laid = (*sitting.laid, LaidPass(where, now))
    return replace(sitting, laid=laid, in_hand=None, put_off=())


def redo(sitting: Sitting) -> Sitting:
    """Return the sitting with the last pass not laid yet."""
    if not sitting.laid:
        return sitting
    return replace(sitting, laid=sitting.laid[:-1], in_hand=sitting.laid[-1].where, put_off=())


def put_off(sitting: Sitting, now: float) -> Sitting:
    """Return the sitting with something else to lay next, if anything else is dry."""
    where = current(sitting, now)
    if where is None:
        return sitting
    return replace(sitting, in_hand=None, put_off=(*sitting.put_off, where[0]))


def pause(sitting: Sitting, now: float) -> Sitting:
    """Return the sitting paused, or going on; films dry meanwhile."""
    return replace(sitting, paused=now if sitting.paused is None else None)


def minutes_of_work_left(sitting: Sitting) -> float:
    """Return how long the hand has to work yet, without waiting."""
    done = {one.where for one in sitting.laid}
    return sum(work_at(sitting, where).hand for where in sitting.order if where not in done)


def keep_sitting(sitting: Sitting, path: Path) -> None:
    """Write a sitting down, whole or not at all.

    Raises
    ------
    FileError
        If that cannot be done.
    """
    make_private(path.parent)
    write_atomically(path, msgspec.json.encode(sitting), private=True)


def sitting_of(plan: Path | None, title: str) -> Sitting | None:
    """Return the sitting that was written down for a plan, or nothing if there is none.

    One that was begun before the plan had a file, or by an older program, is found too. What is
    damaged is put aside, so that it is told of once and not lost.

    Raises
    ------
    FileError
        If a file cannot be read, or is damaged.
    """
    for path in dict.fromkeys(
        (sitting_path(plan, title), sitting_path(None, title), one_sitting_path())
    ):
        try:
            found = kept_sitting(path)
        except FileError:
            put_aside(path)
            raise
        if found is not None and found.plan.title == title:
            return found
    return None


def kept_sitting(path: Path) -> Sitting | None:
    """Return the sitting that was written down, or nothing if there is none.

    Raises
    ------
    FileError
        If the file cannot be read, or is damaged; it stays as it is.
    """
    if not is_there(path):
        return None
    raw = read_limited(path, _MOST_BYTES, "sitting")
    try:
        sitting = msgspec.json.decode(raw, type=Sitting)
        check_plan(sitting.plan)
        in_hand = () if sitting.in_hand is None else (sitting.in_hand,)
        for where in (*sitting.order, *in_hand, *(one.where for one in sitting.laid)):
            work_at(sitting, where)
    except (msgspec.MsgspecError, UnicodeError, InputError, IndexError, RecursionError) as error:
        raise PlanFileError(
            tr("The sitting kept in {0} is damaged ({1}); begin it anew.").format(path, error)
        ) from error
    return sitting
