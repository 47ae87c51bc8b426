"""Many draws of one passage at once: paints, thinnings and films each a little otherwise.

All draws go through the same films side by side; how they stray is up to who asks.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import NamedTuple

import numpy as np

from zesty_veil.errors import DroppedError
from zesty_veil.light.grid import BANDS, Array
from zesty_veil.optics.bispectral import Bispectral
from zesty_veil.paint.mixture import Blend, blend
from zesty_veil.paint.paint import Paint, spectra
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.lay import Laydown, ground, laid
from zesty_veil.predict.layer import Layer, State, put
from zesty_veil.predict.look import Look, colours

_BLOCK = 9_216


class Draws(NamedTuple):
    """What strays in some draws.

    tints : by paint, factors on K and on S, (draws, 1 or 36) each. thinnings : by coat, (draws,)
    parts of thinner. films : by coat, (draws, passes) factors on the film of each pass.
    """

    tints: Mapping[str, tuple[Array, Array]]
    thinnings: Sequence[Array]
    films: Sequence[Array]


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
        k, s = _tint_of(coat, paints, draws.tints, mix)
        down = laid(coat, passage, u, relief)
        varied.append(_Varied(mix, down, coat.mixture.thinner == "water", k, s, thinning, films))
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
    k: Array  # (draws, 1 or 36) factor on K
    s: Array  # (draws, 1 or 36) factor on S
    thinning: Array  # (draws,)
    films: Array  # (draws, passes) factor on the film of each pass

    def some(self, part: slice) -> _Varied:
        """Return the coat with some of its draws."""
        return self._replace(
            k=self.k[part], s=self.s[part], thinning=self.thinning[part], films=self.films[part]
        )


def _tint_of(
    coat: Coat, paints: Mapping[str, Paint], tints: Mapping[str, tuple[Array, Array]], mix: Blend
) -> tuple[Array, Array]:
    """Return the factors on K and S of a coat's mixture; coats of one pot share them."""
    parts = coat.mixture.parts
    total = sum(part.parts for part in parts)
    if all(tints[part.paint][0].shape[1] == 1 for part in parts):
        # The tint of a mixture is that of its paints by their share.
        shares = np.array([part.parts / total for part in parts])
        k, s = np.tensordot(shares, np.stack([tints[part.paint] for part in parts]), 1)
        return k, s
    out = []
    for which, whole in enumerate((mix.K, mix.S)):
        varied = sum(
            part.parts / total * spectra(paints[part.paint])[which] * tints[part.paint][which]
            for part in parts
        )
        out.append(np.asarray(varied / np.where(whole > 0, whole, 1.0)))
    return out[0], out[1]


def _repeated(state: State, draws: int) -> State:
    """Return a stack once for each draw."""

    def again(x: Array) -> Array:
        return np.broadcast_to(x, (draws, *x.shape))

    R = Bispectral(*(again(x) for x in state.R))
    mirror = None if state.mirror is None else again(state.mirror)
    return State(R, again(state.finish), mirror)


def _lay_all(state: State, coat: _Varied) -> State:
    """Return all draws of a stack with one more coat on each."""
    K = coat.mix.K * coat.k[:, None, None, :]
    mix = coat.mix._replace(K=K, S=coat.mix.S * coat.s[:, None, None, :])
    strength = (1 / (1 + coat.thinning))[:, None, None]
    dry = strength if coat.water else np.ones_like(strength)
    along, across, cover = coat.down
    every = [coat.films @ along]
    if not (cover == 1).all():
        every = [coat.films[:, [i]] * along[i] for i in range(along.shape[0])]
    straight = state.mirror is not None
    for share in every:
        wet = share[:, :, None] * across
        state = put(state, Layer.of(mix, wet * strength, wet * dry, cover, straight))
    return state
