"""Many draws of one passage at once: paints, thinnings and films each a little otherwise.

All draws go through the same films side by side; how they stray is up to who asks.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import NamedTuple

import numpy as np

from zesty_veil.errors import DroppedError
from zesty_veil.light.grid import BANDS, Array
from zesty_veil.light.shapes import flat_places
from zesty_veil.paint.mixture import LATEX_MU_S, Blend, blend
from zesty_veil.paint.paint import Paint, spectra
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.lay import ground
from zesty_veil.predict.layer import StackOptics, apply_layer
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.predict.pour import Laydown, Poured, laid, layers, poured

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


def sample_colours(
    passage: Passage,
    paints: Mapping[str, Paint],
    u: Array,
    relief: Array,
    draws: Draws,
    look: ViewingConditions,
    should_continue: Callable[[], bool] = lambda: True,
) -> Array:
    """Return the colours of all draws of a passage, (draws, n, m, 3) CIELAB.

    Raises
    ------
    DroppedError
        If it was not wanted to the end.
    """
    flat_places(u=u, relief=relief)
    names = {part.paint for coat in (*passage.ground.coats, *passage.coats)
             for part in coat.mixture.parts}  # fmt: skip
    straight = any(paints[name].flakes is not None for name in names if name in paints)
    every = [
        _Varied(coat, blend(coat.mixture, paints), laid(coat, passage, u, relief),
                *_tint_of(coat, paints, draws.tints), thinning, films)
        for coat, thinning, films in zip(
            passage.coats, draws.thinnings, draws.films, strict=True
        )
    ]  # fmt: skip
    if every and draws.milk is not None:
        every[-1] = every[-1]._replace(milk=draws.milk)
    start = ground(passage, paints, u, relief)
    count = len(draws.films[0]) if draws.films else 1
    out = []
    # A few draws at a time stay in the processor's cache.
    step = max(_BLOCK // (u.size * relief.size * BANDS), 1)
    for first in range(0, count, step):
        if not should_continue():
            raise DroppedError
        some = slice(first, min(first + step, count))
        state = _repeated(start, some.stop - some.start)
        for each in every:
            for film in layers(each.poured(some), straight):
                state = apply_layer(state, film)
        out.append(colours(state, look)[0])
    return np.concatenate(out)


class _Varied(NamedTuple):
    """One coat with what varies of it, one value per draw."""

    coat: Coat
    mix: Blend
    down: Laydown
    a: Array  # (draws, 1 or 36) factor on absorption
    s: Array  # (draws, 1 or 36) factor on scattering
    thinning: Array  # (draws,)
    films: Array  # (draws, passes) factor on the film of each pass
    milk: Array | None = None  # (draws,) where its last pass is still wet

    def poured(self, part: slice) -> Poured:
        """Return some of its draws, ready to be laid."""
        as_planned = poured(self.coat, self.mix, self.down, self.milk is not None)
        neat = 1 / (1 + self.thinning[part])[:, None, None]
        dry = neat if self.coat.mixture.thinner == "water" else np.ones_like(neat)
        latex = None
        if self.milk is not None:
            latex = LATEX_MU_S * (dry / neat * self.milk[part, None, None])[..., None]
        mix = self.mix._replace(
            mu_a=self.mix.mu_a * self.a[part, None, None, :],
            mu_s=self.mix.mu_s * self.s[part, None, None, :],
        )
        along = self.films[part].T[:, :, None] * self.down.along[:, None, :]
        return as_planned._replace(mix=mix, along=along, neat=neat, dry=dry, latex=latex)


def _tint_of(
    coat: Coat, paints: Mapping[str, Paint], tints: Mapping[str, tuple[Array, Array]]
) -> tuple[Array, Array]:
    """Return the factors on the spectra of a coat's mixture; coats of one pot share them."""
    parts = coat.mixture.parts
    total = sum(part.parts for part in parts)
    if all(tints[part.paint][0].shape[1] == 1 for part in parts):
        # The tint of a mixture is that of its paints by their share.
        shares = np.array([part.parts / total for part in parts])
        a, s = np.tensordot(shares, np.stack([tints[part.paint] for part in parts]), 1)
        return a, s
    mix = blend(coat.mixture, paints)
    out = []
    for which, whole in enumerate((mix.mu_a, mix.mu_s)):
        varied = sum(
            part.parts / total * spectra(paints[part.paint])[which] * tints[part.paint][which]
            for part in parts
        )
        out.append(np.asarray(varied / np.where(whole > 0, whole, 1.0)))
    return out[0], out[1]


def _repeated(state: StackOptics, draws: int) -> StackOptics:
    """Return a stack once for each draw."""

    shape = (draws, *state.finish.shape)
    mirror = None if state.mirror is None else np.broadcast_to(state.mirror, (*shape, BANDS))
    return StackOptics(state.R.spread(shape), np.broadcast_to(state.finish, shape), mirror)
