"""Stacks side by side while a recipe is laid on them.

Where nothing glows or glints, a stack is a vector and a coat a matrix (`optics.projective`), so
that a coat on all stacks is one product, and every coat of a bank on stacks under coats of their
own is another. Other stacks are folded film by film.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from zesty_veil.advise.match.bank import (
    Bank,
    CoatRows,
    all_plain,
    finish_under,
    lab_seen,
    rows_under,
)
from zesty_veil.light.grid import BANDS, Array
from zesty_veil.optics.bispectral import plain
from zesty_veil.optics.projective import SIZE, entries, vector
from zesty_veil.predict.layer import StackOptics, joined_stacks
from zesty_veil.predict.look import ViewingConditions, colours

# So many stacks under the same coats are looked at more cheaply by what is seen through each coat.
_FEW = 5


@dataclass(frozen=True)
class Stacks:
    """Some stacks seen from inside.

    vectors : (36, 5, n). finish : (n,), k_f. odd : by number, those that glow or glint, of leading
    shape (1, 1); their vectors and finishes mean nothing.
    """

    vectors: Array
    finish: Array
    odd: Mapping[int, StackOptics] = field(default_factory=dict)

    @classmethod
    def of(cls, states: Sequence[StackOptics]) -> Stacks:
        """Return stacks of leading shape (1, 1) each as one."""
        vectors, finish = np.zeros((BANDS, SIZE, len(states))), np.zeros(len(states))
        odd = {}
        for i, state in enumerate(states):
            if _straight(state):
                vectors[..., i] = vector(state.R.d)[0, 0]
                finish[i] = state.finish.item()
            else:
                odd[i] = state
        return cls(vectors, finish, odd)

    @property
    def count(self) -> int:
        """How many there are."""
        return len(self.finish)

    def some(self, at: Sequence[int]) -> Stacks:
        """Return some of them."""
        odd = {row: self.odd[i] for row, i in enumerate(at) if i in self.odd}
        return Stacks(self.vectors[:, :, at], self.finish[list(at)], odd)

    def optics(self, i: int) -> StackOptics:
        """Return one of them, of leading shape (1, 1)."""
        if i in self.odd:
            return self.odd[i]
        R = entries(self.vectors[:, :, i])
        return StackOptics(
            plain(R.each(lambda x: x[None, None])), self.finish[i].reshape(1, 1), None
        )

    def under(self, coat: Bank, at: Sequence[int]) -> Stacks:
        """Return them with a coat, a bank of one, on some of them."""
        vectors, finish, odd = self.vectors.copy(), self.finish.copy(), dict(self.odd)
        some = [i for i in at if i not in odd] if coat.plain is not None else []
        if some:
            laid = coat.matrices[..., 0] @ vectors[:, :, some]
            vectors[:, :, some] = laid / laid[:, :1]
            finish[some] = coat.finish_on(finish[some, None])[:, 0]
        for i in (i for i in at if i not in some):
            state = coat.one_on(self.optics(i), 0)
            if _straight(state):
                vectors[..., i], finish[i] = vector(state.R.d)[0, 0], state.finish.item()
            else:
                odd[i] = state
        return Stacks(vectors, finish, odd)

    def labs(self, look: ViewingConditions, over: Sequence[Bank], at: Sequence[int]) -> Array:
        """Return CIELAB of some of them under more coats, banks of one each, (n, 3)."""
        out = np.empty((self.count, 3))
        some = [i for i in at if i not in self.odd] if all_plain(over) else []
        if some:
            lit, lost = (rows_under(over) @ self.vectors[:, :, some]).transpose(1, 0, 2)
            finish = finish_under(self.finish[some, None], over)[:, 0]
            out[some] = lab_seen(lit / lost, finish, look)
        rest = [i for i in at if i not in some]
        if rest:
            state = joined_stacks([self.optics(i) for i in rest])
            for bank in over:
                state = bank.one_on(state, 0)
            out[rest] = colours(state, look)[0][:, 0]
        return out[list(at)]

    def every(
        self,
        options: Bank,
        look: ViewingConditions,
        over: Sequence[Sequence[Bank]],
        rough: bool = False,
    ) -> Iterator[tuple[Sequence[int], CoatRows, Array]]:
        """Yield the colours of every coat of a bank on each stack, under coats of its own.

        Parameters
        ----------
        options
            The coats.
        look
            How they are seen.
        over
            For each stack what lies above, as banks of one coat each, from the lowest up.
        rough
            Whether single precision will do: within dE 0.01.

        Yields
        ------
        numbers of some stacks (n), numbers (k,) of coats, CIELAB (n, k, 3)
        """
        straight = [i for i in range(self.count) if i not in self.odd and all_plain(over[i])]
        some = straight if options.plain is not None else []
        if some:
            labs = self._every_plain(some, options, look, [over[i] for i in some], rough)
            yield some, options.plain_rows, labs
        groups: dict[tuple[object, ...], list[int]] = {}
        for i in range(self.count):
            if i not in some or options.odd:
                kind = self.odd[i].R.sources if i in self.odd else -1
                groups.setdefault((kind, i in some, *map(id, over[i])), []).append(i)
        for rows in groups.values():
            state = joined_stacks([self.optics(i) for i in rows])
            known = rows[0] in some
            for numbers, seen in options.labs_on(state, look, over[rows[0]], known):
                yield rows, numbers, seen

    def _every_plain(
        self,
        some: Sequence[int],
        options: Bank,
        look: ViewingConditions,
        over: Sequence[Sequence[Bank]],
        rough: bool,
    ) -> Array:
        """Return the same of plain coats on some stacks that are plain too, (stacks, k, 3)."""
        vectors, finish = self.vectors[:, :, some], self.finish[some, None]
        if len(some) > _FEW and len({tuple(map(id, each)) for each in over}) == 1:
            return options.labs_of(vectors, finish, look, over[0], rough)
        # What is seen is linear in the rows above, the option and the stack: one product.
        rows = np.stack([rows_under(each) for each in over], axis=1)  # (36, n, 2, 5)
        pairs = rows[..., None] * vectors.transpose(0, 2, 1)[:, :, None, None]
        every = options.rough_matrices if rough else options.matrices
        every = every.reshape(BANDS, SIZE * SIZE, -1)
        seen = pairs.reshape(BANDS, -1, SIZE * SIZE).astype(every.dtype) @ every
        lit, lost = np.moveaxis(seen.reshape(BANDS, len(some), 2, -1), 2, 0)
        left = options.finish_on(finish)
        left = np.stack([finish_under(left[n : n + 1], each)[0] for n, each in enumerate(over)])
        return lab_seen(lit / lost, left, look)


def joined(parts: Sequence[Stacks]) -> Stacks:
    """Return stacks one after the other as one."""
    odd, first = {}, 0
    for part in parts:
        odd.update({first + i: state for i, state in part.odd.items()})
        first += part.count
    return Stacks(
        np.concatenate([part.vectors for part in parts], axis=-1),
        np.concatenate([part.finish for part in parts]),
        odd,
    )


def _straight(state: StackOptics) -> bool:
    return state.R.sources == 0 and state.mirror is None
