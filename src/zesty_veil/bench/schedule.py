"""In what order to paint: one hand, several figures, and films that dry meanwhile.

Every pass is a stroke of work for the hand, after which its passage must dry. The passes of a
passage keep their order. What is sought is the order that is done soonest. It is found by a beam
over the orders: of all beginnings only those go on that could still be done soonest, by a bound
that no order can beat (the hand's work left, or the longest chain of work and drying left).

References
----------
List scheduling with look-ahead: common practice in operations research; with delays between the
jobs of a chain the problem is hard (P. Brucker, Scheduling Algorithms, 5th ed., 2007, chapter 7).
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Sequence
from dataclasses import dataclass, replace

_BEAM = 16
# Up to so much work is tried in every order, or near it.
_FEW, _ALL = 8, 1200
# Passes times chains beyond which fewer beginnings go on, and how many at least.
_MANY, _LEAST_BEAM = 4000, 3
_MOST_CHOICES = 60
# How much it counts that long chains go on, and how much longer ones count more than others.
_PULLS, _NORM = (0.05, 0.6), 12
# Of two beginnings that could be done as soon, the one that has idled less goes on.
_IDLE = 1e-3


@dataclass(frozen=True)
class Task:
    """One stretch of work of the hand, and how long its passage must dry after it, in minutes.

    pot : what is on the brush; another one must be made, or the brush rinsed. sprays : whether it
    is sprayed, for which the place is made ready once. late : it waits for all work on its figure
    that is less late: fluorescent spots and then varnish come last. what : whatever it stands for.
    """

    hand: float
    wait: float
    figure: int = 0
    pot: Hashable = None
    sprays: bool = False
    late: int = 0
    what: object = None


@dataclass(frozen=True)
class Placed:
    """Work with its times, in minutes: when the hand gets ready for it, lays it, and is done."""

    chain: int
    place: int
    work: Task
    ready_from: float
    start: float
    end: float

    @property
    def dry(self) -> float:
        """When the next film may go on."""
        return self.end + self.work.wait


@dataclass(frozen=True)
class Changes:
    """Minutes that changing costs: a pot to be mixed, a brush to be rinsed, a place to spray."""

    mix: float = 1.5
    rinse: float = 0.3
    spray: float = 4.0


NONE = Changes(0.0, 0.0, 0.0)


@dataclass(frozen=True)
class Schedule:
    """Work in order, with times. bound : no order is done sooner than this, in minutes."""

    placed: tuple[Placed, ...]
    bound: float

    @property
    def makespan(self) -> float:
        """When the hand is done."""
        return max((one.end for one in self.placed), default=0.0)

    @property
    def idle(self) -> float:
        """How long the hand waits for films to dry."""
        return self.makespan - sum(one.end - one.ready_from for one in self.placed)

    @property
    def pots_at_once(self) -> int:
        """How many pots must stay wet at once: each from its first use to its last."""
        uses: dict[Hashable, tuple[float, float]] = {}
        for one in self.placed:
            first = uses.get(one.work.pot, (one.start, one.end))[0]
            uses[one.work.pot] = first, one.end
        return max(
            (sum(a <= at < b for a, b in uses.values()) for at, _ in uses.values()), default=0
        )


@dataclass(frozen=True)
class _Begun:
    """A beginning of an order."""

    time: float
    at: tuple[int, ...]  # how far each chain is
    dry: tuple[float, ...]  # when each chain may go on
    pot: Hashable
    made: frozenset[Hashable]
    sprayed: bool
    idle: float
    last: Placed | None  # what was placed last, after `before`
    left: float  # the hand's work to come
    count: int = 0  # how much is placed
    before: _Begun | None = None

    def placed(self) -> tuple[Placed, ...]:
        """Return all that is placed, in order."""
        out: list[Placed] = []
        one: _Begun | None = self
        while one is not None and one.last is not None:
            out.append(one.last)
            one = one.before
        return tuple(reversed(out))


Chains = Sequence[Sequence[Task]]


def bound(chains: Chains, changes: Changes = NONE) -> float:
    """Return a time before which no order is done: all work and mixing, or the longest chain."""
    pots = {work.pot for chain in chains for work in chain} - {None}
    hand = sum(work.hand for chain in chains for work in chain) + changes.mix * len(pots)
    return max(hand, *(_tail(chain, 0) for chain in chains), 0.0)


def scheduled(
    chains: Chains,
    changes: Changes = NONE,
    should_continue: Callable[[], bool] = lambda: True,
    beam: int = _BEAM,
) -> Schedule:
    """Return work in an order that is done soon; always the same for the same work.

    Parameters
    ----------
    chains
        Work that must keep its order, by passage and figure.
    changes
        What changing costs.
    should_continue
        Asked between the steps; when it says no, what there is by then is returned.
    beam
        How many beginnings go on at a time.
    """
    chains = [_rising(chain) for chain in chains]
    count = sum(len(chain) for chain in chains)
    if count <= _FEW:
        beam = _ALL  # so few can be tried in every order
    elif count * len(chains) > _MANY:
        # So much work leaves room enough: what waits for one film finds another to lay.
        beam = max(beam * _MANY // (count * len(chains)), _LEAST_BEAM)
    searched = (_searched(chains, changes, should_continue, beam, pull) for pull in _PULLS)
    # A narrow beam may lose its way; never resting is a plain way that it must beat.
    plain = _never_resting(chains, changes, should_continue)
    best = max((*searched, plain), key=lambda one: (one.count, -one.time))
    return Schedule(best.placed(), bound(chains, changes))


def _never_resting(chains: Chains, changes: Changes, should_continue: Callable[[], bool]) -> _Begun:
    """Return the order in which whatever is dry is laid, the longest chain first.

    While the hand rests, one chain dries from its first film to its last: so it takes less than all
    work and the longest chain together, twice the best at most (after R. L. Graham, "Bounds for
    certain multiprocessing anomalies", Bell System Technical Journal 45 (1966), 1563-1581).
    """
    left = sum(work.hand for chain in chains for work in chain)
    none, dry = tuple(0 for _ in chains), tuple(0.0 for _ in chains)
    one = _Begun(0.0, none, dry, None, frozenset(), False, 0.0, None, left)

    def soonest(each: _Begun) -> tuple[float, float, float]:
        assert each.last is not None
        c, k = each.last.chain, each.last.place
        return each.last.ready_from, -_tail(chains[c], k), each.time

    for _ in range(sum(len(chain) for chain in chains)):
        if not should_continue():
            break
        one = min(_next(one, chains, changes), key=soonest)
    return one


def _searched(
    chains: Chains, changes: Changes, should_continue: Callable[[], bool], beam: int, pull: float
) -> _Begun:
    """Return the best order that a beam finds; `pull` is how much all long chains count."""
    # What is to come is reckoned with the changes that it will take, or they are put off for ever.
    costs = [_likely(chain, changes) for chain in chains]
    tails = [
        [_tail(chain, k) + sum(cost[k:]) for k in range(len(chain) + 1)]
        for chain, cost in zip(chains, costs, strict=True)
    ]
    left = sum(work.hand for chain in chains for work in chain) + sum(map(sum, costs))
    pots = len({work.pot for chain in chains for work in chain} - {None})
    whole = max(bound(chains), 1e-9)
    none = tuple(0 for _ in chains)
    dry = tuple(0.0 for _ in chains)
    begun = [_Begun(0.0, none, dry, None, frozenset(), False, 0.0, None, left)]
    for _ in range(sum(len(chain) for chain in chains)):
        if not should_continue():
            break
        grown: dict[tuple[object, ...], tuple[float, _Begun]] = {}
        for one in begun:
            for grew in _next(one, chains, changes):
                last = grew.last
                assert last is not None
                new = replace(grew, left=grew.left - costs[last.chain][last.place])
                ends = [
                    max(new.time, new.dry[c]) + tails[c][k]
                    for c, k in enumerate(new.at)
                    if k < len(chains[c])
                ]
                unmade = (pots - len(new.made - {None})) * changes.mix
                least = max(new.time + new.left + unmade, *ends, 0.0)
                # Besides the longest chain all long ones count, or they are left to the end.
                many = sum((end / whole) ** _NORM for end in ends) ** (1 / _NORM)
                score = least + pull * whole * many + _IDLE * new.idle
                key = (new.at, new.pot, tuple(max(dry - new.time, 0.0) for dry in new.dry))
                if key not in grown or score < grown[key][0]:
                    grown[key] = score, new
        ranked = sorted(grown.values(), key=lambda each: each[0])
        begun = _various([new for _, new in ranked], beam)
    return begun[0]


def _rising(chain: Sequence[Task]) -> tuple[Task, ...]:
    """Return a chain in which nothing is later than what must follow it.

    What waits for all less late work of its figure would else wait for what waits for it.
    """
    out, least = list(chain), None
    for k in range(len(out) - 1, -1, -1):
        least = out[k].late if least is None else min(least, out[k].late)
        if out[k].late != least:
            out[k] = replace(out[k], late=least)
    return tuple(out)


def _likely(chain: Sequence[Task], changes: Changes) -> list[float]:
    """Return what getting ready for each piece of a chain will take, about."""
    out = []
    for k, work in enumerate(chain):
        rinses = k == 0 or chain[k - 1].pot != work.pot
        out.append(changes.rinse * rinses + changes.spray * work.sprays)
    return out


def _various(ranked: Sequence[_Begun], most: int) -> list[_Begun]:
    """Return the first beginnings, few of each that has done the same work."""
    seen: dict[tuple[int, ...], int] = {}
    kept: list[_Begun] = []
    for one in ranked:
        if len(kept) == most:
            break
        if seen.get(one.at, 0) < max(most // 6, 2):
            seen[one.at] = seen.get(one.at, 0) + 1
            kept.append(one)
    return kept


def _tail(chain: Sequence[Task], k: int) -> float:
    """Return how long the rest of a chain takes by itself; the last film may dry alone."""
    left = chain[k:]
    return sum(w.hand for w in left) + sum(w.wait for w in left[:-1])


def _next(one: _Begun, chains: Chains, changes: Changes) -> list[_Begun]:
    """Return a beginning with one piece of work more, in every way worth trying."""
    open_late: dict[int, int] = {}
    # Lateness rises along a chain, so its next piece is its least late one.
    for k, chain in zip(one.at, chains, strict=True):
        if k < len(chain):
            work = chain[k]
            open_late[work.figure] = min(open_late.get(work.figure, work.late), work.late)
    choices: list[tuple[float, float, float, int, Task]] = []
    for c, chain in enumerate(chains):
        if one.at[c] == len(chain):
            continue
        work = chain[one.at[c]]
        if work.late > open_late[work.figure]:
            continue
        change = _change(one, work, changes)
        # The hand gets ready while the film dries.
        start = max(one.time + change, one.dry[c])
        choices.append((start - change, start, start + work.hand, c, work))
    soonest = min(end for _, _, end, _, _ in choices)
    if len(choices) > _MOST_CHOICES:
        # Of hundreds that are dry, those that can begin soonest; the pot in hand comes first there.
        choices = sorted(choices, key=lambda each: (each[1], each[3]))[:_MOST_CHOICES]
    out, seen = [], set()
    for begins, start, end, c, work in choices:
        # What could begin only when another is done already can as well come after it.
        if begins >= soonest and end > soonest:
            continue
        # Of figures that stand alike the first is as good as any.
        alike = (work.what, work.hand, work.wait, work.pot, max(one.dry[c], one.time), one.at[c])
        if work.what is not None and alike in seen:
            continue
        seen.add(alike)
        placed = Placed(c, one.at[c], work, begins, start, end)
        at = (*one.at[:c], one.at[c] + 1, *one.at[c + 1 :])
        dry = (*one.dry[:c], end + work.wait, *one.dry[c + 1 :])
        idle = one.idle + begins - one.time
        made = one.made | {work.pot}
        out.append(
            _Begun(
                end,
                at,
                dry,
                work.pot,
                made,
                work.sprays,
                idle,
                placed,
                one.left - work.hand,
                one.count + 1,
                one,
            )
        )
    return out


def _change(one: _Begun, work: Task, changes: Changes) -> float:
    change = 0.0
    if work.pot is not None and work.pot != one.pot:
        change += changes.rinse if work.pot in one.made else changes.mix
    if work.sprays and not one.sprayed:
        change += changes.spray
    return change
