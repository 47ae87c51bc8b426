"""All that a few coats reach: stacks grown coat by coat, one kept for each colour on the way.

A beam that keeps what is nearest to the target would throw white away when orange is wanted. So the
beam keeps, of all stacks that come to about the same colour, the one that is soonest done; what is
wanted is asked only of the result, and one result serves every target on that ground.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.bank import Bank, CoatRows
from zesty_veil.advise.match.difference import delta_e, delta_e_approx
from zesty_veil.advise.match.limits import Limits
from zesty_veil.light.grid import Array
from zesty_veil.plan.model import Coat
from zesty_veil.predict.layer import StackOptics, joined_stacks
from zesty_veil.predict.look import ViewingConditions

# So many stacks are kept to be grown, of plain films and of each other kind.
_MOST, _MOST_ODD = 900, 60
# Where there are more, colours closer together than this are taken as one, in L, a and b, and
# wider and wider until few enough are left.
_CELL: Array = np.array([2.0, 3.5, 3.5])
_WIDER = 1.25
_BLOCK = 24
# Of each level so many stacks that are about nearest are measured.
_LOOKED_AT = 1000


@dataclass(frozen=True)
class Pool:
    """Stacks of one kind that are grown.

    state : of leading shape (n, 1). coats : (n, d), their coats by number in the bank.
    minutes, passes, mixes : (n,), what they cost.
    """

    state: StackOptics
    coats: CoatRows
    minutes: Array
    passes: CoatRows
    mixes: CoatRows

    @property
    def kind(self) -> tuple[int, bool]:
        """What its states have in common: sources of fluorescence, and whether there are flakes."""
        return self.state.R.sources, self.state.mirror is not None


@dataclass(frozen=True)
class Grown:
    """A pool with one coat more: every coat of `numbers` (k,) on every stack.

    lab : (n, k, 3) float32. allowed : (n, k), within the limits. minutes : (n, k).
    """

    pool: Pool
    numbers: CoatRows
    lab: npt.NDArray[np.float32]
    allowed: npt.NDArray[np.bool_]
    minutes: npt.NDArray[np.float32]


Level = tuple[Grown, ...]


def bare_pool(ground: StackOptics) -> Pool:
    """Return the ground, of leading shape (1, 1), as what is grown first."""
    none = np.zeros(1, dtype=np.intp)
    return Pool(ground, np.zeros((1, 0), dtype=np.intp), np.zeros(1), none, none)


def levels(
    ground: StackOptics,
    bank: Bank,
    limits: Limits,
    look: ViewingConditions,
    should_continue: Callable[[], bool] = lambda: True,
) -> Iterator[Level]:
    """Yield what one coat reaches, then two, up to as many as the limits allow.

    Parameters
    ----------
    ground
        Of leading shape (1, 1).
    bank, limits, look
        What may be laid, and how it is seen.
    should_continue
        Asked several times a second; when it says no, nothing more is yielded.
    """
    pools = [bare_pool(ground)]
    for depth in range(1, limits.coats + 1):
        grown: list[Grown] = []
        for pool in pools:
            for part in _grown(pool, bank, limits, look, should_continue):
                grown.append(part)
            if not should_continue():
                return
        yield tuple(grown)
        if depth < limits.coats:
            pools = list(_chosen(grown, bank))


def nearest(
    level: Level, bank: Bank, target: Array, most: int
) -> list[tuple[float, tuple[Coat, ...]]]:
    """Return the stacks of a level that come nearest to a colour, with dE00, the nearest first.

    Of each kind of stack at most so many; `bank` is what the level was grown from.
    """
    if not level:
        return []
    roughs = []
    for grown in level:
        rough = delta_e_approx(grown.lab.reshape(-1, 3), target)
        rough[~grown.allowed.ravel()] = np.inf
        roughs.append(rough)
    every = np.concatenate(roughs)
    count = min(_LOOKED_AT, every.size)
    limit = np.partition(every, count - 1)[count - 1]
    picked = [np.flatnonzero((rough <= limit) & np.isfinite(rough)) for rough in roughs]
    labs = [grown.lab.reshape(-1, 3)[some] for grown, some in zip(level, picked, strict=True)]
    off = delta_e(np.concatenate(labs).astype(np.float64), target)
    out: list[tuple[float, tuple[int, ...]]] = []
    first = 0
    for grown, some in zip(level, picked, strict=True):
        here = off[first : first + some.size]
        first += some.size
        for k in np.argsort(here, kind="stable")[:most]:
            row, column = divmod(int(some[k]), grown.numbers.size)
            numbers = (*grown.pool.coats[row], grown.numbers[column])
            out.append((float(here[k]), tuple(int(n) for n in numbers)))
    return [(gap, tuple(bank.coats[n] for n in numbers)) for gap, numbers in sorted(out)]


def _grown(
    pool: Pool,
    bank: Bank,
    limits: Limits,
    look: ViewingConditions,
    should_continue: Callable[[], bool],
) -> Iterator[Grown]:
    parts: dict[int, tuple[CoatRows, list[npt.NDArray[np.float32]]]] = {}
    for first in range(0, len(pool.minutes), _BLOCK):
        if not should_continue():
            return
        some = pool.state.some(slice(first, first + _BLOCK))
        for i, (numbers, lab) in enumerate(bank.labs_on(some, look)):
            if not should_continue():
                return
            parts.setdefault(i, (numbers, []))[1].append(lab.astype(np.float32))
    for numbers, labs in parts.values():
        minutes = pool.minutes[:, None] + bank.cost.minutes[numbers]
        allowed = pool.passes[:, None] + bank.cost.passes[numbers] <= limits.passes
        allowed &= pool.mixes[:, None] + bank.cost.mixes[numbers] <= limits.mixes
        if limits.minutes is not None:
            allowed &= minutes <= limits.minutes
        yield Grown(pool, numbers, np.concatenate(labs), allowed, minutes.astype(np.float32))


def _chosen(grown: list[Grown], bank: Bank) -> Iterator[Pool]:
    """Yield the stacks that are grown further: of each colour the soonest done."""
    kinds: dict[tuple[int, bool], list[Pool]] = {}
    for pool in _picked(grown, bank):
        kinds.setdefault(pool.kind, []).append(pool)
    for pools in kinds.values():
        yield Pool(
            joined_stacks([pool.state for pool in pools]),
            np.concatenate([pool.coats for pool in pools]),
            np.concatenate([pool.minutes for pool in pools]),
            np.concatenate([pool.passes for pool in pools]),
            np.concatenate([pool.mixes for pool in pools]),
        )


def _picked(grown: list[Grown], bank: Bank) -> Iterator[Pool]:
    plain = [g for g in grown if g.pool.kind == (0, False) and g.numbers[0] not in bank.odd]
    odd = [g for g in grown if not (g.pool.kind == (0, False) and g.numbers[0] not in bank.odd)]
    for group, most in ((plain, _MOST), (odd, _MOST_ODD)):
        if not group:
            continue
        which, row, column = _soonest(group, most)
        for i, part in enumerate(group):
            here = which == i
            if here.any():
                yield _pool(part, row[here], column[here], bank)


def _soonest(group: list[Grown], most: int) -> tuple[CoatRows, CoatRows, CoatRows]:
    """Return the soonest done stack of each colour: which part, which stack, which coat."""
    which, row, column = (
        np.concatenate(x)
        for x in zip(
            *(
                (np.full(n.size, i), n, k)
                for i, part in enumerate(group)
                for n, k in (np.nonzero(part.allowed),)
            ),
            strict=True,
        )
    )
    lab = np.concatenate([part.lab[part.allowed] for part in group])
    minutes = np.concatenate([part.minutes[part.allowed] for part in group])
    # The same colour after fewer minutes comes first; ties keep their order, so that every run
    # gives the same answer.
    best, cell = np.argsort(minutes, kind="stable"), _CELL
    while best.size > most:
        # What was left out already stays out, so that each round is quicker than the last.
        codes = np.floor(lab[best] / cell.astype(np.float32)).astype(np.int64) + 4096
        code = (codes[:, 0] << 26) | (codes[:, 1] << 13) | codes[:, 2]
        _, first = np.unique(code, return_index=True)
        best, cell = best[np.sort(first)], cell * _WIDER
    return which[best], row[best], column[best]


def _pool(part: Grown, row: CoatRows, column: CoatRows, bank: Bank) -> Pool:
    """Return some of the stacks of a grown pool as a pool."""
    numbers, pool = part.numbers[column], part.pool
    state = pool.state.some(row)
    odd = numbers[0] in bank.odd
    laid = bank.one_on(state, int(numbers[0])) if odd else bank.on(state, numbers)
    return Pool(
        laid,
        np.concatenate([pool.coats[row], numbers[:, None]], axis=1),
        pool.minutes[row] + bank.cost.minutes[numbers],
        pool.passes[row] + bank.cost.passes[numbers],
        pool.mixes[row] + bank.cost.mixes[numbers],
    )
