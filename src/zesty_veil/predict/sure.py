"""How sure a prediction is: the hand varies, the drops vary, and the paint may not be measured.

Every draw lays the whole passage again with films, thinning and paints a little off, all draws at
once. Draws always start from the same number, so that a plan keeps its band. The sizes of the
variations are common practice, not measured.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import BANDS, Array
from zesty_veil.optics.bispectral import Bispectral
from zesty_veil.paint.mixture import Blend, blend
from zesty_veil.paint.paint import Paint, spectra, tinted
from zesty_veil.plan.model import Coat, Hand, Passage
from zesty_veil.predict.field import fold
from zesty_veil.predict.lay import Laydown, ground, laid
from zesty_veil.predict.layer import Layer, State, put
from zesty_veil.predict.look import DAYLIGHT, Look, colours

DRAWS = 64
# Spread of the film of one pass, as its coefficient of variation, by hand.
FILM_CV: dict[Hand, float] = {"steady": 0.2, "ordinary": 0.3, "loose": 0.45}
# Spread of the thinner's ratio, by how it is counted.
Counting = Literal["drops", "brush-loads"]
RATIO_CV: dict[Counting, float] = {"drops": 0.1, "brush-loads": 0.2}
# Spread of K and S of a paint that nobody has measured.
PAINT_CV = 0.25

Cause = Literal["film", "ratio", "paint"]
_BLOCK = 9_216

CAUSES: tuple[Cause, ...] = ("film", "ratio", "paint")


class DroppedError(Exception):
    """The answer is not wanted any more; nobody sees this but who asked."""


@dataclass(frozen=True)
class Sureness:
    """How far colours may stray, at each place (n, m) of a field.

    low, high : (n, m, 3), the 10 and 90 % bounds of L, C and h (degrees; h may pass 360).
    median : (n, m), median dE00 from the nominal colour.
    causes : the median over all places with only one cause at work.
    """

    low: Array
    high: Array
    median: Array
    causes: dict[Cause, float]

    @property
    def main_cause(self) -> Cause:
        """The cause that matters most."""
        return max(CAUSES, key=lambda cause: self.causes[cause])


def sureness(
    passage: Passage,
    paints: Mapping[str, Paint],
    u: Array,
    relief: Array,
    hand: Hand = "ordinary",
    look: Look = DAYLIGHT,
    counting: Counting = "drops",
    wanted: Callable[[], bool] = lambda: True,
) -> Sureness:
    """Return how sure the colours of a passage are.

    Parameters
    ----------
    passage, paints, u, relief, look
        As `predict.field.predict`.
    hand
        How evenly films are laid, by tools of which the passage's own hand says nothing.
    counting
        How thinner is counted.
    wanted
        Asked now and then; when it says no, the rest is not computed.

    Raises
    ------
    DroppedError
        If it was not wanted to the end.
    """
    nominal, _ = colours(fold(passage, passage.coats, paints, u, relief), look)
    drawn = _drawn(passage, paints, u, relief, hand, look, counting, CAUSES, DRAWS, wanted)
    polar = lch(drawn)
    # Hues are compared on the side of the circle where the nominal lies.
    hue = lch(nominal)[..., 2]
    polar[..., 2] = hue + (polar[..., 2] - hue + 180) % 360 - 180
    low, high = np.quantile(polar, [0.1, 0.9], axis=0)
    causes: dict[Cause, float] = {}
    few = slice(None, None, max(u.size // 8, 1))
    for cause in CAUSES:
        alone = _drawn(
            passage, paints, u[few], relief, hand, look, counting, (cause,), DRAWS // 4, wanted
        )
        causes[cause] = float(np.median(ciede2000(alone, nominal[few])))
    return Sureness(low, high, np.median(ciede2000(drawn, nominal), axis=0), causes)


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


def _drawn(
    passage: Passage,
    paints: Mapping[str, Paint],
    u: Array,
    relief: Array,
    hand: Hand,
    look: Look,
    counting: Counting,
    causes: tuple[Cause, ...],
    draws: int,
    wanted: Callable[[], bool],
) -> Array:
    """Return the colours of all draws, (draws, n, m, 3) CIELAB."""
    rng = np.random.default_rng(1931)
    paint_cv = PAINT_CV if "paint" in causes else 0.0
    tints = {name: _tints(rng, paints[name], paint_cv, draws) for name in sorted(paints)}
    own = {one.tool: one.cv for one in passage.own_hand if one.cv is not None}
    ratio_cv = RATIO_CV[counting] if "ratio" in causes else 0.0
    varied = []
    for coat in passage.coats:
        mix = blend(coat.mixture, paints)
        k, s = _tint_of(coat, paints, tints, mix)
        thinning = coat.mixture.thinning * _lognormal(rng, ratio_cv, (draws,))
        film_cv = own.get(coat.tool, FILM_CV[hand]) if "film" in causes else 0.0
        films = _lognormal(rng, film_cv, (draws, coat.passes))
        down = laid(coat, passage, u, relief)
        varied.append(_Varied(mix, down, coat.mixture.thinner == "water", k, s, thinning, films))
    start = ground(passage, paints, u, relief)
    out = []
    # A few draws at a time stay in the processor's cache.
    step = max(_BLOCK // (u.size * relief.size * BANDS), 1)
    for first in range(0, draws, step):
        if not wanted():
            raise DroppedError
        some = slice(first, min(first + step, draws))
        state = _repeated(start, some.stop - some.start)
        for each in varied:
            state = _lay_all(state, each.some(some))
        out.append(colours(state, look)[0])
    return np.concatenate(out)


def _tints(rng: np.random.Generator, paint: Paint, cv: float, draws: int) -> tuple[Array, Array]:
    """Return factors on K and S of a paint, (draws, 1), or by the modes of a measured one, 36.

    The numbers are drawn in any case, so that measuring one paint leaves all else as it was.
    """
    plain = _lognormal(rng, cv, (2, draws))[..., None]
    if not paint.spread:
        return plain[0], plain[1]
    own = np.random.default_rng([1931, *paint.name.encode()])
    z = own.standard_normal((draws, len(paint.spread))) if cv else np.zeros((draws, 1))
    both = tinted(paint, z) if cv else np.ones((draws, 2 * BANDS))
    return both[:, :BANDS], both[:, BANDS:]


def _tint_of(
    coat: Coat, paints: Mapping[str, Paint], tints: Mapping[str, tuple[Array, Array]], mix: Blend
) -> tuple[Array, Array]:
    """Return the factors on K and S of a coat's mixture; coats of one pot share them."""
    parts = coat.mixture.parts
    total = sum(part.parts for part in parts)
    if not any(paints[part.paint].spread for part in parts):
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


def _lognormal(rng: np.random.Generator, cv: float, shape: tuple[int, ...]) -> Array:
    """Return factors of mean 1 and a coefficient of variation; the draws are made in any case."""
    sigma = np.sqrt(np.log1p(cv * cv))
    return np.asarray(np.exp(sigma * rng.standard_normal(shape) - sigma * sigma / 2))
