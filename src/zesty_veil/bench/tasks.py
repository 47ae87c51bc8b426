"""A plan as work for the hand: every pass of every coat on every figure, in chains."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from zesty_veil.bench.air import Air, before_flood, floods, recoat
from zesty_veil.bench.schedule import Changes, Schedule, Task, scheduled
from zesty_veil.errors import InputError
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.drying import Minutes, painting_minutes
from zesty_veil.plan.model import Coat, Passage, Plan
from zesty_veil.tr import tr

MOST_FIGURES_AT_ONCE = 12
MOST_PASSES_LAID = 2400
_MOST_BY_CHAINS = 400_000
# A varnish dries as slowly as paint of twice its film; common practice says 15 to 30 minutes.
_VARNISH_FILM = 2.0
SPRAYS = frozenset({"airbrush", "spray"})


@dataclass(frozen=True, order=True)
class Pass:
    """Which pass of which coat: numbers from 0; ground coats count before the passage's own."""

    passage: int
    coat: int
    number: int


def laid_on(passage: Passage) -> tuple[Coat, ...]:
    """Return everything that is laid on a passage, its ground's coats first."""
    return (*passage.ground.coats, *passage.coats)


def tasks(plan: Plan, air: Air, figures: int | None = None) -> tuple[tuple[Task, ...], ...]:
    """Return the passes of a plan in chains, one for each passage of each figure.

    Raises
    ------
    InputError
        If there are more figures than anybody paints together, or none.
    """
    count = plan.figures if figures is None else figures
    if not 1 <= count <= MOST_FIGURES_AT_ONCE:
        raise InputError(
            tr("{0} figures at once: it must be from 1 to {1}.").format(count, MOST_FIGURES_AT_ONCE)
        )
    passes = count * sum(coat.passes for p in plan.passages for coat in laid_on(p))
    chains = count * sum(bool(laid_on(p)) for p in plan.passages)
    if passes > MOST_PASSES_LAID or passes * chains > _MOST_BY_CHAINS:
        raise InputError(
            tr(
                "That is {0} passes on {1} passages, and up to {2} on some hundred can be put "
                "in order; take fewer figures, or part the plan."
            ).format(passes, chains, MOST_PASSES_LAID)
        )
    rack = plan.rack()
    return tuple(
        _chain(passage, p, figure, rack, air)
        for figure in range(count)
        for p, passage in enumerate(plan.passages)
        if laid_on(passage)
    )


def waits(
    passage: Passage, coat: int, air: Air, rack: Mapping[str, Paint] | None = None
) -> Minutes:
    """Return how long a coat waits for the next; longer if a flood follows it, or it is varnish.

    `rack` tells what is varnish; without it nothing is.
    """
    coats = laid_on(passage)
    if rack is not None and _kinds(coats[coat], rack) == {"varnish"}:
        return recoat(coats[coat], air, _VARNISH_FILM)
    flooded = coat + 1 < len(coats) and floods(coats[coat + 1]) and not floods(coats[coat])
    return before_flood(coats[coat], air) if flooded else recoat(coats[coat], air)


def planned(
    plan: Plan, air: Air, figures: int | None = None, changes: Changes | None = None
) -> Schedule:
    """Return the order in which a plan is painted."""
    return scheduled(tasks(plan, air, figures), Changes() if changes is None else changes)


def _chain(
    passage: Passage, index: int, figure: int, rack: dict[str, Paint], air: Air
) -> tuple[Task, ...]:
    coats = laid_on(passage)
    late = _lateness(coats, rack)
    out = []
    for c, coat in enumerate(coats):
        hand = painting_minutes(coat, passage) / coat.passes
        last = waits(passage, c, air, rack)
        between = last if _kinds(coat, rack) == {"varnish"} else recoat(coat, air)
        for number in range(coat.passes):
            wait = last if number == coat.passes - 1 else between
            out.append(
                Task(
                    hand, (wait.least + wait.most) / 2, figure, coat.mixture,
                    coat.tool in SPRAYS, late[c], Pass(index, c, number),
                )
            )  # fmt: skip
    return tuple(out)


def _kinds(coat: Coat, rack: Mapping[str, Paint]) -> set[str]:
    return {rack[part.paint].kind for part in coat.mixture.parts}


def _lateness(coats: tuple[Coat, ...], rack: Mapping[str, Paint]) -> list[int]:
    """Return how late each coat is: 2 for varnish on top, 1 for fluorescent spots, 0 for the rest.

    Only what ends a passage can wait for the rest of the figure.
    """
    out = [0] * len(coats)
    latest = 2
    for c in range(len(coats) - 1, -1, -1):
        kinds = _kinds(coats[c], rack)
        own = 2 if kinds == {"varnish"} else 1 if "fluorescent" in kinds else 0
        latest = min(latest, own)
        out[c] = latest
    return out
