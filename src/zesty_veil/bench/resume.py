"""Going on with a sitting in another order: what is laid stays laid, the rest is scheduled anew."""

from __future__ import annotations

from collections.abc import Callable

from zesty_veil.bench.air import Air
from zesty_veil.bench.schedule import Changes, Task
from zesty_veil.bench.sessions import split_sessions
from zesty_veil.bench.sitting import LaidPass, Sitting, chains_of
from zesty_veil.bench.tasks import Pass, laid_on, tasks
from zesty_veil.paint.mixture import Part
from zesty_veil.plan.model import Plan

_Chain = tuple[Task, ...]


def most_figures_laid(sitting: Sitting) -> int:
    """Return the number of the last figure on which something is laid, from 1; 0 for none."""
    chains = chains_of(sitting)
    return max((chains[one.where[0]][0].figure + 1 for one in sitting.laid), default=0)


def resumed(
    before: Sitting,
    plan: Plan,
    air: Air,
    should_continue: Callable[[], bool] = lambda: True,
    evening: float | None = None,
) -> tuple[Sitting, int] | None:
    """Return a sitting of a plan that goes on from what another has laid.

    Also how many laid passes it has no place for, as their coats are others now. Nothing is
    returned if it is not wanted any more.

    Raises
    ------
    InputError
        If an evening is too short for anything that is left.
    """
    chains = tasks(plan, air)
    laid = _carried(before, plan, chains)
    following = [sum(one.where[0] == c for one in laid) for c in range(len(chains))]
    left = [chain[k:] for chain, k in zip(chains, following, strict=True)]
    found = split_sessions(left, evening, Changes(), should_continue) if any(left) else ()
    if not should_continue():
        return None
    order = [one.where for one in laid]
    for one in (placed for each in found for placed in each.placed):
        order.append((one.chain, following[one.chain]))
        following[one.chain] += 1
    counts = [len(each.placed) for each in found] or [0]
    counts[0] += len(laid)
    sitting = Sitting(
        plan, air.celsius, air.humidity, air.hairdryer, tuple(order), before.begun, laid,
        minutes=sum(each.makespan for each in found),
        pots=max((each.pots_at_once for each in found), default=0),
        evenings=tuple(counts), retarder=air.retarder, paused=before.paused, evening=evening,
    )  # fmt: skip
    return sitting, len(before.laid) - len(laid)


def _carried(before: Sitting, plan: Plan, chains: tuple[_Chain, ...]) -> tuple[LaidPass, ...]:
    """Return what is laid, by its place in other chains; without what is of another coat there."""
    places = {_called(plan, chain): c for c, chain in enumerate(chains)}
    was, done = chains_of(before), [0] * len(chains)
    out = []
    for one in before.laid:
        chain, k = was[one.where[0]], one.where[1]
        to = places.get(_called(before.plan, chain))
        if to is None or k != done[to] or k >= len(chains[to]):
            continue
        if _laid(before.plan, chain[k]) == _laid(plan, chains[to][k]):
            out.append(LaidPass((to, k), one.at))
            done[to] += 1
    return tuple(out)


def _called(plan: Plan, chain: _Chain) -> tuple[int, str]:
    what = chain[0].what
    assert isinstance(what, Pass)
    return chain[0].figure, plan.passages[what.passage].name


def _laid(plan: Plan, task: Task) -> tuple[tuple[Part, ...], str]:
    """Return of what paints a pass is, and with which tool it is laid.

    How thin it came out may be known better by now; it is the same pass.
    """
    what = task.what
    assert isinstance(what, Pass)
    coat = laid_on(plan.passages[what.passage])[what.coat]
    return coat.mixture.parts, coat.tool
