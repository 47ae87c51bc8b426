"""The coats to choose from, each worked out as a layer once, so that stacks are only folded."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Any, NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace

from zesty_veil.kept import kept_within
from zesty_veil.light.cielab import lab
from zesty_veil.light.grid import BANDS, Array
from zesty_veil.light.illuminant import weights
from zesty_veil.optics.projective import SIZE, looks, matrix, vector
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.mixture import (
    Blend,
    Part,
    blend,
    neat_blend,
    thinned,
)
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.drying import whole
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.layer import Layer, StackOptics, apply_layer
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.predict.pour import Laydown, amounts, in_full, joined_passes, laid, layers, poured

CoatRows = npt.NDArray[np.intp]

# Where a coat lies that has no place yet.
_MIDDLE = 0.5


class Cost(NamedTuple):
    """What coats cost: minutes, passes, and pots mixed of two paints; (c,) each."""

    minutes: Array
    passes: CoatRows
    mixes: CoatRows


@dataclass(frozen=True)
class Bank:
    """Coats with their layers at one relief.

    plain : all that are plain films covering everything, as one layer of shape (1, c).
    odd : by number, those that glow, glint or cover in part: single passes to be laid in order.
    """

    coats: tuple[Coat, ...]
    cost: Cost
    plain_rows: CoatRows
    plain: Layer | None
    odd: Mapping[int, tuple[Layer, ...]]

    def all_on(self, state: StackOptics) -> Iterator[tuple[CoatRows, StackOptics]]:
        """Yield every coat on every one of some stacks.

        state
            Of leading shape (n, 1).

        Yields
        ------
        numbers (k,), StackOptics of leading shape (n, k)
            Coats by their numbers, in groups that share a kind of state.
        """
        if self.plain is not None:
            yield self.plain_rows, apply_layer(state, self.plain)
        for number, films in self.odd.items():
            yield np.array([number]), _with_films(state, films)

    def labs_on(
        self,
        state: StackOptics,
        look: ViewingConditions,
        over: Sequence[Bank] = (),
        only_odd: bool = False,
    ) -> Iterator[tuple[CoatRows, Array]]:
        """Yield the colours of every coat on every one of some stacks, as `all_on`.

        Parameters
        ----------
        state
            Of leading shape (n, 1).
        look
            How they are seen.
        over
            Banks of one coat each, which lie on all of them, from the lowest up.
        only_odd
            Whether those that are not plain are all that is asked for.

        Yields
        ------
        numbers (k,), CIELAB (n, k, 3)
        """
        straight = state.R.sources == 0 and state.mirror is None
        if not only_odd and straight and self.plain is not None and all_plain(over):
            yield (
                self.plain_rows,
                self.labs_of(vector(state.R.d)[:, 0].transpose(1, 2, 0), state.finish, look, over),
            )
        elif not only_odd and self.plain is not None:
            laid = apply_layer(state, self.plain)
            yield self.plain_rows, colours(_under(laid, over), look)[0]
        for number, films in self.odd.items():
            yield np.array([number]), colours(_under(_with_films(state, films), over), look)[0]

    def labs_of(
        self,
        vectors: Array,
        finish: Array,
        look: ViewingConditions,
        over: Sequence[Bank],
        rough: bool = False,
    ) -> Array:
        """Return the colours of every plain coat on plain stacks, under plain coats, (n, k, 3).

        vectors : (36, 5, n), by `optics.projective`. finish : (n, 1). rough : whether single
        precision will do, which takes half as long and is within dE 0.01.
        """
        every = self.rough_matrices if rough else self.matrices
        forms = rows_under(over).astype(every.dtype) @ every.reshape(BANDS, SIZE, -1)
        forms = forms.reshape(BANDS, 2, SIZE, -1)
        stacks = vectors.transpose(0, 2, 1).astype(every.dtype)
        lit, lost = (stacks @ forms[:, i] for i in range(2))  # (36, n, k)
        lit /= lost
        return lab_seen(lit, finish_under(self.finish_on(finish), over), look)

    @cached_property
    def matrices(self) -> Array:
        """The matrices of all plain coats side by side, (36, 5, 5, k): one product serves all."""
        assert self.plain is not None
        every = matrix(self.plain.film)[0]  # (k, 36, 5, 5)
        return np.ascontiguousarray(every.transpose(1, 2, 3, 0))

    @cached_property
    def rough_matrices(self) -> npt.NDArray[Any]:
        """The same in single precision."""
        return self.matrices.astype(np.float32)

    def finish_on(self, finish: Array) -> Array:
        """Return the k_f that each plain coat leaves of some surfaces (n, 1), (n, k)."""
        assert self.plain is not None
        return np.asarray(finish + self.plain.hides * (self.plain.finish - finish))

    def on(self, state: StackOptics, numbers: CoatRows) -> StackOptics:
        """Return the stacks (n, 1) of a state with one coat each, by number (n,); all plain."""
        assert self.plain is not None
        where = np.searchsorted(self.plain_rows, numbers)
        rows = (np.zeros(1, dtype=np.intp), where[:, None])
        finish = np.asarray(self.plain.finish)[rows]
        return apply_layer(state, self.plain.at(rows)._replace(finish=finish))  # type: ignore[arg-type]

    def only(self, number: int) -> Bank:
        """Return a bank of one of the coats, which is not worked out anew."""
        part, whole = slice(number, number + 1), self.cost
        cost = Cost(whole.minutes[part], whole.passes[part], whole.mixes[part])
        own = (self.coats[number],)
        if number in self.odd:
            return Bank(own, cost, self.plain_rows[:0], None, {0: self.odd[number]})
        assert self.plain is not None
        row = int(np.searchsorted(self.plain_rows, number))
        at = (slice(None), slice(row, row + 1))
        finish = np.asarray(self.plain.finish)[at]
        plain = self.plain.at(at)._replace(finish=finish)  # type: ignore[arg-type]
        return Bank(own, cost, np.zeros(1, dtype=np.intp), plain, {})

    def one_on(self, state: StackOptics, number: int) -> StackOptics:
        """Return one coat on stacks of leading shape (n, k)."""
        if number in self.odd:
            return _with_films(state, self.odd[number])
        if len(self.coats) == 1 and self.plain is not None:
            return apply_layer(state, self.plain)
        n, k = state.finish.shape
        rows = np.full(n * k, number)
        flat = StackOptics(
            state.R.shaped((n * k, 1)),
            state.finish.reshape(n * k, 1),
            None if state.mirror is None else state.mirror.reshape(n * k, 1, -1),
        )
        return self.on(flat, rows)


def all_plain(banks: Iterable[Bank]) -> bool:
    """Tell whether every one of some banks of one coat is a plain film that covers everything."""
    return all(one.plain is not None for one in banks)


def rows_under(over: Sequence[Bank]) -> Array:
    """Return the rows (36, 2, 5) whose quotient is what is seen of a stack under plain coats."""
    rows = np.broadcast_to(looks(), (BANDS, *looks().shape))
    for one in reversed(over):
        rows = rows @ one.matrices[..., 0]
    return rows


def finish_under(finish: Array, over: Iterable[Bank]) -> Array:
    """Return the k_f that plain coats, each a bank of one, leave of some surfaces (n, k)."""
    for one in over:
        finish = one.finish_on(finish)
    return finish


def lab_seen(seen: Array, finish: Array, look: ViewingConditions) -> Array:
    """Return CIELAB (..., 3) of what is seen (36, ...) without the finish, and of that (...)."""
    eye = weights(look.light, look.observer).astype(seen.dtype)
    white = eye.sum(axis=0)
    light = np.moveaxis(np.tensordot(eye, seen, axes=(0, 0)), 0, -1)
    if look.finish != "as painted":
        finish = np.full_like(finish, FINISHES["gloss" if look.finish == "wet" else look.finish])
    return lab(light + finish.astype(seen.dtype)[..., None] * white, white)


def _under(state: StackOptics, over: Sequence[Bank]) -> StackOptics:
    """Return stacks (n, k) with one coat of each bank on all of them."""
    if not over:
        return state
    n, k = state.finish.shape
    state = reshaped(state, n * k, 1)
    for one in over:
        state = one.one_on(state, 0)
    return reshaped(state, n, k)


def reshaped(state: StackOptics, n: int, k: int) -> StackOptics:
    """Return stacks with their places in another shape."""
    shape = state.R.d.shape[:2]
    finish = np.broadcast_to(state.finish, shape).reshape(n, k)
    mirror = None if state.mirror is None else state.mirror.reshape(n, k, -1)
    return StackOptics(state.R.shaped((n, k)), finish, mirror)


def _with_films(state: StackOptics, films: Iterable[Layer]) -> StackOptics:
    for film in films:
        state = apply_layer(state, film)
    if state.mirror is None:
        return state
    return state._replace(mirror=np.broadcast_to(state.mirror, state.R.d.shape))


def bank(
    coats: Sequence[Coat],
    paints: Mapping[str, Paint],
    relief: float,
    passage: Passage,
    metal: bool = False,
    place: float | None = None,
) -> Bank:
    """Return coats worked out at one relief of a passage.

    With a place they lie as they do there; without one they lie in full, as in the middle of the
    passage, wherever their spans are: who searches says which of them a place has. With `metal`
    there is metal below.
    """
    straight = metal or any(paint.flakes is not None for paint in paints.values())
    plain: list[tuple[int, Blend, tuple[Array, Array, Array]]] = []
    odd: dict[int, tuple[Layer, ...]] = {}
    neat_mixes: dict[tuple[Part, ...], Blend] = {}
    like = Passage("", passage.length_mm, tilt=passage.tilt, own_hand=passage.own_hand)
    for number, coat in enumerate(coats):
        parts = coat.mixture.parts
        if parts not in neat_mixes:
            neat_mixes[parts] = neat_blend(parts, paints)
        mix = thinned(neat_mixes[parts], coat.mixture)
        bare = replace(coat, mixture=replace(coat.mixture, parts=()))
        if place is None:
            down = _laid(in_full(bare), like, _MIDDLE, relief)
        else:
            down = _laid(bare, like, place, relief)
        pour = poured(coat, mix, down)
        if mix.dyes is None and not mix.flakes and not pour.tool.dab_mm:
            (joined,) = joined_passes(pour)
            plain.append((number, joined.mix, amounts(pour, joined)))
        else:
            own = tuple(paints[part.paint] for part in parts)
            odd[number] = _odd(coat, own, like, place, relief, straight)
    cost = Cost(
        np.array([whole(coat, passage) for coat in coats]),
        np.array([coat.passes for coat in coats], dtype=np.intp),
        np.array([int(len(coat.mixture.parts) > 1) for coat in coats], dtype=np.intp),
    )
    rows = np.array([number for number, _, _ in plain], dtype=np.intp)
    together = None
    if plain:
        mix = plain[0][1]._replace(
            mu_a=np.array([m.mu_a for _, m, _ in plain])[None],
            mu_s=np.array([m.mu_s for _, m, _ in plain])[None],
            finish=np.array([m.finish for _, m, _ in plain])[None],  # type: ignore[arg-type]
        )
        neat, dry, texture = (
            np.concatenate([one[i] for _, _, one in plain], axis=1) for i in range(3)
        )
        cover = np.ones(len(plain))
        together = Layer.of(mix, neat, dry, cover, straight, texture=texture)
    return Bank(tuple(coats), cost, rows, together, odd)


@kept_within(16)
def _odd(
    coat: Coat,
    paints: tuple[Paint, ...],
    passage: Passage,
    place: float | None,
    relief: float,
    straight: bool,
) -> tuple[Layer, ...]:
    """Return the films of a coat that cannot be worked out together with others.

    Kept, because what glows takes longest of all, and a picker asks for the same again and again.
    """
    mix = blend(coat.mixture, {paint.name: paint for paint in paints})
    bare = replace(coat, mixture=replace(coat.mixture, parts=()))
    if place is None:
        down = _laid(in_full(bare), passage, _MIDDLE, relief)
    else:
        down = _laid(bare, passage, place, relief)
    return tuple(layers(poured(coat, mix, down), straight))


@lru_cache(maxsize=2_000)
def _laid(coat: Coat, passage: Passage, place: float, relief: float) -> Laydown:
    """Return what a coat lays down, of which only the thinner of its mixture counts."""
    return laid(coat, passage, np.array([place]), np.array([relief]))
