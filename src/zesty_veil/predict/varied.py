"""Many draws of one passage at once: paints, thinnings and films each a little otherwise.

All draws go through the same films side by side; how they stray is up to who asks.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import NamedTuple

import numpy as np

from zesty_veil.errors import DroppedError
from zesty_veil.light.grid import BANDS, Array
from zesty_veil.paint.mixture import LATEX_MU_S, Blend, blend
from zesty_veil.paint.paint import Paint, spectra
from zesty_veil.paint.tool import Tool, tools
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.lay import Laydown, evened, ground, laid
from zesty_veil.predict.layer import Layer, State, put
from zesty_veil.predict.look import Look, colours

_BLOCK = 36_864


class Draws(NamedTuple):
    """What strays in some draws.

    tints : by paint, factors on absorption and on scattering, (draws, 1 or 36)
    each. thinnings : by coat, (draws,)
    parts of thinner. films : by coat, (draws, passes) factors on the film of each pass. milk :
    where the last pass is still wet, (draws,) factors on what its latex scatters.
    """

    tints: Mapping[str, tuple[Array, Array]]
    thinnings: Sequence[Array]
    films: Sequence[Array]
    milk: Array | None = None


def drawn(
    passage: Passage,
    paints: Mapping[str, Paint],
    u: Array,
    relief: Array,
    draws: Draws,
    look: Look,
    wanted: Callable[[], bool] = lambda: True,
) -> Array:
    """Return the colours of all draws of a passage, (draws, n, m, 3) CIELAB.

    Raises
    ------
    DroppedError
        If it was not wanted to the end.
    """
    varied = []
    for coat, thinning, films in zip(passage.coats, draws.thinnings, draws.films, strict=True):
        mix = blend(coat.mixture, paints)
        a, s = _tint_of(coat, paints, draws.tints, mix)
        down = laid(coat, passage, u, relief)
        water = coat.mixture.thinner == "water"
        varied.append(_Varied(mix, down, water, a, s, thinning, films, tools()[coat.tool]))
    if varied and draws.milk is not None:
        varied[-1] = varied[-1]._replace(milk=draws.milk)
    start = ground(passage, paints, u, relief)
    count = len(draws.films[0]) if draws.films else 1
    out = []
    # A few draws at a time stay in the processor's cache.
    step = max(_BLOCK // (u.size * relief.size * BANDS), 1)
    for first in range(0, count, step):
        if not wanted():
            raise DroppedError
        some = slice(first, min(first + step, count))
        state = _repeated(start, some.stop - some.start)
        for each in varied:
            state = _lay_all(state, each.some(some))
        out.append(colours(state, look)[0])
    return np.concatenate(out)


class _Varied(NamedTuple):
    """One coat with what varies of it, one value per draw."""

    mix: Blend
    down: Laydown
    water: bool
    a: Array  # (draws, 1 or 36) factor on absorption
    s: Array  # (draws, 1 or 36) factor on scattering
    thinning: Array  # (draws,)
    films: Array  # (draws, passes) factor on the film of each pass
    tool: Tool
    milk: Array | None = None  # (draws,) where its last pass is still wet

    def some(self, part: slice) -> _Varied:
        """Return the coat with some of its draws."""
        milk = None if self.milk is None else self.milk[part]
        return self._replace(
            a=self.a[part], s=self.s[part], thinning=self.thinning[part], films=self.films[part],
            milk=milk,
        )  # fmt: skip


def _tint_of(
    coat: Coat, paints: Mapping[str, Paint], tints: Mapping[str, tuple[Array, Array]], mix: Blend
) -> tuple[Array, Array]:
    """Return the factors on the spectra of a coat's mixture; coats of one pot share them."""
    parts = coat.mixture.parts
    total = sum(part.parts for part in parts)
    if all(tints[part.paint][0].shape[1] == 1 for part in parts):
        # The tint of a mixture is that of its paints by their share.
        shares = np.array([part.parts / total for part in parts])
        a, s = np.tensordot(shares, np.stack([tints[part.paint] for part in parts]), 1)
        return a, s
    out = []
    for which, whole in enumerate((mix.mu_a, mix.mu_s)):
        varied = sum(
            part.parts / total * spectra(paints[part.paint])[which] * tints[part.paint][which]
            for part in parts
        )
        out.append(np.asarray(varied / np.where(whole > 0, whole, 1.0)))
    return out[0], out[1]


def _repeated(state: State, draws: int) -> State:
    """Return a stack once for each draw."""

    shape = (draws, *state.finish.shape)
    mirror = None if state.mirror is None else np.broadcast_to(state.mirror, (*shape, BANDS))
    return State(state.R.spread(shape), np.broadcast_to(state.finish, shape), mirror)


def _lay_all(state: State, coat: _Varied) -> State:
    """Return all draws of a stack with one more coat on each."""
    mix = coat.mix._replace(
        mu_a=coat.mix.mu_a * coat.a[:, None, None, :], mu_s=coat.mix.mu_s * coat.s[:, None, None, :]
    )
    strength = (1 / (1 + coat.thinning))[:, None, None]
    dry = strength if coat.water else np.ones_like(strength)
    along, across, cover = coat.down
    last = along.shape[0] - (coat.milk is not None)  # a pass that is still wet stands alone
    # (passes, draws, n): what each pass leaves
    each = coat.films.T[:, :, None] * along[:, None, :]
    together = (cover == 1).all() and last > 0
    every = [each[:last]] if together else [each[[i]] for i in range(last)]
    fresh = None if coat.milk is None else each[-1:]
    straight = state.mirror is not None
    for heap in (*every, *(() if fresh is None else (fresh,))):
        if heap is fresh and coat.milk is not None:
            binder = (1 if coat.water else 1 + coat.thinning) * coat.milk
            mix = mix._replace(mu_s=mix.mu_s + LATEX_MU_S * binder[:, None, None, None])
        wet = heap.sum(axis=0)[:, :, None] * across
        texture = evened(coat.tool.texture, heap)[:, :, None]
        layer = Layer.of(mix, wet * strength, wet * dry, cover, straight, coat.tool.dab_mm, texture)
        state = put(state, layer)
    return state
