"""Coats laid over many places at once, each different stack of films worked out only once.

While a painter changes one coat, those below it stay as they are; their stack is kept.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Hashable, Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from zesty_veil.kept import Keeper
from zesty_veil.predict.layer import Layer, StackOptics, apply_layer, joined_stacks

# So many numbers at a time stay in the processor's cache; larger arrays wait for memory.
_BLOCK = 28_512
_KEPT_BYTES = 24_000_000
_KEPT_PASSAGES = 16

Rows = npt.NDArray[np.intp]


class Prepared(NamedTuple):
    """A coat worked out for a passage: per pass its layer, and which row lies at each place."""

    passes: tuple[tuple[Layer, Rows], ...]


class Block(NamedTuple):
    """Some places of a passage: the different stacks there, and which of them lies at each."""

    places: slice
    stacks: StackOptics
    where: Rows

    def with_coats(self, coats: Sequence[Prepared]) -> Block:
        """Return the places with more coats on them."""
        stacks, where = self.stacks, self.where
        for coat in coats:
            for layer, place in coat.passes:
                rows = int(layer.absent.size)
                pairs, then = np.unique(where * rows + place[self.places], return_inverse=True)
                below = pairs // rows
                if below.size != stacks.finish.shape[0] or (np.diff(below) != 1).any():
                    stacks = stacks.some(below)
                stacks, where = apply_layer(stacks, layer, pairs % rows), then
        return Block(self.places, stacks, where)

    def state(self) -> StackOptics:
        """Return the stack at each of the places."""
        if self.where.size == self.stacks.finish.shape[0] and (np.diff(self.where) == 1).all():
            return self.stacks
        return self.stacks.some(self.where)


def parted(state: StackOptics) -> tuple[Block, ...]:
    """Return a stack (n, m) in blocks that stay in the processor's cache through all coats."""
    places, alike = state.finish.shape[0], state.alike
    step = max(_BLOCK // max(state.R.d.steep[:1].size, 1), 1)
    out = []
    for first in range(0, places, step):
        block = slice(first, min(first + step, places))
        count = block.stop - block.start
        where = np.zeros(count, dtype=np.intp) if alike else np.arange(count)
        out.append(Block(block, state.some(slice(0, 1) if alike else block), where))
    return tuple(out)


def fold_coats(state: StackOptics, coats: Sequence[Prepared]) -> StackOptics:
    """Return a stack (n, m) with more coats on it, worked out for its places.

    Passes of partial cover are averaged one by one, as the eye does at arm's length. Places that
    have had the same films so far are one stack: most coats lie in full or not at all over most of
    a passage.
    """
    if not coats:
        return state
    passes = [one for coat in coats for one in coat.passes]
    if state.alike and all((place == place[0]).all() for _, place in passes):
        one = Block(slice(0, 1), state.some(slice(0, 1)), np.zeros(1, dtype=np.intp))
        return one.with_coats(coats).state().repeated(state.finish.shape[0])
    return joined_stacks([block.with_coats(coats).state() for block in parted(state)])


class Below:
    """Remembers how passages were laid last, and keeps the stack below where they change."""

    def __init__(self) -> None:
        self._last: OrderedDict[Hashable, tuple[Hashable, ...]] = OrderedDict()
        self.keeper = Keeper(_KEPT_BYTES)

    def lay(
        self,
        passage: Hashable,
        ground: StackOptics,
        keys: tuple[Hashable, ...],
        coats: Sequence[Prepared],
    ) -> StackOptics:
        """Return `fold_coats`, sooner where lower coats are as they were the time before.

        Parameters
        ----------
        passage
            What besides the coats decides how the stack comes out.
        ground, coats
            As for `fold_coats`.
        keys
            Of each coat what decides its layers.
        """
        last = self._last.pop(passage, ())
        self._last[passage] = keys
        if len(self._last) > _KEPT_PASSAGES:
            self._last.popitem(last=False)
        same = 0
        while same < min(len(last), len(keys)) and last[same] == keys[same]:
            same += 1
        if not 0 < same < len(keys):
            return fold_coats(ground, coats)
        below: tuple[Block, ...] = self.keeper.get(
            (passage, keys[:same]),
            lambda: tuple(block.with_coats(coats[:same]) for block in parted(ground)),
        )
        return joined_stacks([block.with_coats(coats[same:]).state() for block in below])
