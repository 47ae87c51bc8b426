"""Work over several evenings, where one is too short: each begins with all that is dry by then."""

from __future__ import annotations

from collections.abc import Callable

from zesty_veil.bench.schedule import NONE, Chains, Changes, Schedule, bound, scheduled
from zesty_veil.errors import InputError
from zesty_veil.tr import tr

MOST_EVENINGS = 60


def split_sessions(
    chains: Chains,
    minutes: float | None,
    changes: Changes = NONE,
    should_continue: Callable[[], bool] = lambda: True,
) -> tuple[Schedule, ...]:
    """Return a schedule for each evening; only one if the time is not limited.

    Every one of them is dry before the next. `Placed.place` counts on from evening to evening.

    Raises
    ------
    InputError
        If some work does not fit into an evening, or there would be too many.
    """
    if minutes is None:
        return (scheduled(chains, changes, should_continue),)
    done = [0] * len(chains)
    out: list[Schedule] = []
    while any(k < len(chain) for k, chain in zip(done, chains, strict=True)) and should_continue():
        if len(out) == MOST_EVENINGS:
            raise InputError(
                tr("It would take more than {0} evenings; give them longer.").format(MOST_EVENINGS)
            )
        left = [chain[k:] for k, chain in zip(done, chains, strict=True)]
        whole = scheduled(left, changes, should_continue)
        kept = tuple(one for one in whole.placed if one.end <= minutes)
        if not kept:
            raise InputError(
                tr("An evening of {0:g} minutes is too short; give at least {1:.0f}.").format(
                    minutes, min((one.end for one in whole.placed), default=1)
                )
            )
        for one in kept:
            done[one.chain] = max(
                done[one.chain], len(chains[one.chain]) - len(left[one.chain]) + one.place + 1
            )
        out.append(Schedule(kept, bound([[one.work] for one in kept])))
    return tuple(out)
