"""The coats to choose from, each worked out as a layer once, so that stacks are only folded."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from zesty_veil.light.grid import Array
from zesty_veil.optics.bispectral import Bispectral
from zesty_veil.paint.laydown import SITES, covered, pool, reach
from zesty_veil.paint.mixture import (
    MOST_WATER,
    Blend,
    Mixture,
    Part,
    Thinner,
    blend,
    dry_share,
    pooling,
    starved,
    strength,
)
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.tool import tools
from zesty_veil.plan.drying import whole
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.layer import Layer, State, put

Rows = npt.NDArray[np.intp]

# Tools that a kind of paint is laid with, the usual one first; common practice.
_BY_KIND = {
    "opaque": ("loaded", "glaze"),
    "transparent": ("loaded", "glaze"),
    "ink": ("glaze", "loaded"),
    "wash": ("wash", "glaze"),
    "contrast": ("contrast", "glaze"),
    "fluorescent": ("loaded", "glaze"),
    "metallic": ("loaded",),
}
_ANYWHERE = ("airbrush", "sponge", "stipple")
# Thinnings (parts of water to one of paint) and passes that are tried first, by tool.
_FIRST = {
    "loaded": ((0.5, 1.0, 2.0), (1, 2, 4)),
    "glaze": ((1.0, 3.0, 5.0), (1, 2, 4)),
    "wash": ((0.0, 1.0, 3.0), (1, 2)),
    "contrast": ((0.0, 1.0), (1, 2)),
    "airbrush": ((1.0, 3.0), (2, 6)),
    "sponge": ((1.0, 2.0), (2, 6)),
    "stipple": ((0.5, 1.0), (2, 4)),
}
# Thinnings that a coat is tuned over; passes go from one up.
FINE_THINNINGS = (0.0, 0.5, 1.0, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 7.0)
FINE_PASSES = (1, 2, 3, 4, 5, 6)
_RATIOS = ((1, 1), (2, 1), (1, 2), (4, 1), (1, 4))


class Cost(NamedTuple):
    """What coats cost: minutes, passes, and pots mixed of two paints; (c,) each."""

    minutes: Array
    passes: Rows
    mixes: Rows


@dataclass(frozen=True)
class Bank:
    """Coats with their layers at one relief.

    plain : all that are plain films covering everything, as one layer of shape (1, c).
    odd : by number, those that glow, glint or cover in part: single passes to be laid in order.
    """

    coats: tuple[Coat, ...]
    cost: Cost
    plain_rows: Rows
    plain: Layer | None
    odd: Mapping[int, tuple[Layer, ...]]

    def all_on(self, state: State) -> Iterator[tuple[Rows, State]]:
        """Yield every coat on every one of some stacks.

        state
            Of leading shape (n, 1).

        Yields
        ------
        numbers (k,), State of leading shape (n, k)
            Coats by their numbers, in groups that share a kind of state.
        """
        if self.plain is not None:
            yield self.plain_rows, put(state, self.plain)
        for number, layers in self.odd.items():
            yield np.array([number]), _laid(state, layers)

    def on(self, state: State, numbers: Rows) -> State:
        """Return the stacks (n, 1) of a state with one coat each, by number (n,); all plain."""
        assert self.plain is not None
        where = np.searchsorted(self.plain_rows, numbers)
        layer = self.plain
        picked = layer._replace(
            R0=layer.R0[0, where][:, None],
            T=layer.T[0, where][:, None],
            T2=layer.T2[0, where][:, None],
            direct=None if layer.direct is None else layer.direct[0, where][:, None],
            hides=layer.hides[0, where][:, None],
            finish=np.asarray(layer.finish)[0, where][:, None],
        )
        return put(state, picked)

    def one_on(self, state: State, number: int) -> State:
        """Return one coat on stacks of leading shape (n, k)."""
        if number in self.odd:
            return _laid(state, self.odd[number])
        n, k = state.finish.shape
        rows = np.full(n * k, number)
        flat = State(
            Bispectral(*(x.reshape(n * k, 1, *x.shape[2:]) for x in state.R)),
            state.finish.reshape(n * k, 1),
            None if state.mirror is None else state.mirror.reshape(n * k, 1, -1),
        )
        return self.on(flat, rows)


def _laid(state: State, layers: Iterable[Layer]) -> State:
    for layer in layers:
        state = put(state, layer)
    if state.mirror is None:
        return state
    return state._replace(mirror=np.broadcast_to(state.mirror, state.R.d.shape))


def bank(
    coats: Sequence[Coat],
    paints: Mapping[str, Paint],
    relief: float,
    passage: Passage,
    metal: bool = False,
) -> Bank:
    """Return coats worked out at a relief; `passage` tells how long each takes.

    Coats lie in full: their spans and feathers do not count. With `metal` there is metal below.
    """
    straight = metal or any(paint.flakes is not None for paint in paints.values())
    plain, odd = [], {}
    neat_mixes: dict[tuple[Part, ...], Blend] = {}
    for number, coat in enumerate(coats):
        parts = coat.mixture.parts
        if parts not in neat_mixes:
            neat_mixes[parts] = blend(Mixture(parts), paints)
        mix = neat_mixes[parts]
        mix = mix._replace(finish=starved(mix.finish, coat.mixture))
        film, cover = _film(coat.tool, coat.mixture.thinner, coat.mixture.thinning, relief)
        film *= passage.film(coat.tool)
        if coat.sites != SITES:
            film *= float(reach(coat.sites, np.array([relief]))[0])
        wet = np.array([film])
        neat, dry = (wet * share(coat.mixture) for share in (strength, dry_share))
        if mix.dyes is None and not mix.flakes and cover == 1:
            plain.append((number, mix, coat.passes * neat, coat.passes * dry))
        else:
            full = cover == 1
            times, passes = (coat.passes, 1) if full else (1, coat.passes)
            layer = Layer.of(mix, times * neat, times * dry, np.array([cover]), straight)
            odd[number] = (layer,) * passes
    cost = Cost(
        np.array([whole(coat, passage) for coat in coats]),
        np.array([coat.passes for coat in coats], dtype=np.intp),
        np.array([int(len(coat.mixture.parts) > 1) for coat in coats], dtype=np.intp),
    )
    rows = np.array([number for number, *_ in plain], dtype=np.intp)
    together = None
    if plain:
        first = plain[0][1]
        mix = first._replace(
            K=np.array([m.K for _, m, _, _ in plain])[None],
            S=np.array([m.S for _, m, _, _ in plain])[None],
            finish=np.array([m.finish for _, m, _, _ in plain])[None],  # type: ignore[arg-type]
        )
        neat = np.concatenate([n for *_, n, _ in plain])[None]
        dry = np.concatenate([d for *_, d in plain])[None]
        together = Layer.of(mix, neat, dry, np.ones(len(plain)), straight)
    return Bank(tuple(coats), cost, rows, together, odd)


@lru_cache(maxsize=20_000)
def _film(name: str, thinner: Thinner, thinning: float, relief: float) -> tuple[float, float]:
    """Return the wet film of one pass at a relief in mm, and the share of the area it touches."""
    tool, r = tools()[name], np.array([relief])
    p = pooling(tool.pooling, Mixture((), thinner, thinning))
    return tool.wet_film_um / 1000 * float(pool(p, r)[0]), float(covered(tool, r)[0])


def first_coats(paints: Sequence[Paint], at_hand: Sequence[str]) -> list[Coat]:
    """Return the coats of single paints that a search starts from."""
    out = []
    for paint in paints:
        for tool in tools_for(paint, at_hand):
            thinnings, passes = _FIRST.get(tool, ((1.0,), (1, 2)))
            for thinning in thinnings:
                mixture = Mixture((Part(paint.name),), "water", thinning)
                out += [Coat(mixture, tool, count) for count in passes]
    return out


def mixed_coats(paints: Sequence[Paint], at_hand: Sequence[str]) -> list[Coat]:
    """Return coats of two paints each, in few drops."""
    out = []
    mixable = [p for p in paints if p.kind in {"opaque", "transparent", "ink"}]
    for i, one in enumerate(mixable):
        for other in mixable[i + 1 :]:
            tool = tools_for(one, at_hand)[:1] or tools_for(other, at_hand)[:1]
            for a, b in _RATIOS:
                parts = (Part(one.name, a), Part(other.name, b))
                out += [
                    Coat(Mixture(parts, "water", thinning), name, passes)
                    for name in tool
                    for thinning, passes in ((1.0, 1), (1.0, 3), (3.0, 2))
                ]
    return out


def tuned(coat: Coat) -> list[Coat]:
    """Return a coat over all thinnings and passes that it can be tuned over.

    It is thinned with water, and with medium where so much water would starve the film.
    """
    return [
        Coat(Mixture(coat.mixture.parts, _thinner(thinning), thinning), coat.tool, passes)
        for thinning in FINE_THINNINGS
        for passes in FINE_PASSES
    ]


def _thinner(thinning: float) -> Thinner:
    return "medium" if thinning > MOST_WATER else "water"


def tools_for(paint: Paint, at_hand: Sequence[str]) -> tuple[str, ...]:
    """Return the tools at hand that a paint is laid with."""
    usual = _BY_KIND.get(paint.kind, ())
    extra = _ANYWHERE if usual else ()
    return tuple(tool for tool in (*usual, *extra) if tool in at_hand)
