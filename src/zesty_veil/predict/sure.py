"""How sure a prediction is: the hand varies, the drops vary, and the paint may not be measured.

Every draw lays the whole passage again with films, thinning and paints a little off, all draws at
once. Draws have a fixed seed, so that the same plan gives the same band. The sizes of the
variations are common practice, not measured.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import Array
from zesty_veil.optics.bispectral import plain
from zesty_veil.paint.mixture import blend
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Hand, Passage
from zesty_veil.predict.field import fold
from zesty_veil.predict.lay import ground, laid
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
CAUSES: tuple[Cause, ...] = ("film", "ratio", "paint")


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
) -> Sureness:
    """Return how sure the colours of a passage are.

    Parameters
    ----------
    passage, paints, u, relief, look
        As `predict.field.predict`.
    hand
        How evenly films are laid.
    counting
        How thinner is counted.
    """
    nominal, _ = colours(fold(passage, passage.coats, paints, u, relief), look)
    drawn = _drawn(passage, paints, u, relief, hand, look, counting, CAUSES, DRAWS)
    polar = lch(drawn)
    # Hues are compared on the side of the circle where the nominal lies.
    hue = lch(nominal)[..., 2]
    polar[..., 2] = hue + (polar[..., 2] - hue + 180) % 360 - 180
    low, high = np.quantile(polar, [0.1, 0.9], axis=0)
    causes: dict[Cause, float] = {}
    few = slice(None, None, max(u.size // 8, 1))
    for cause in CAUSES:
        alone = _drawn(passage, paints, u[few], relief, hand, look, counting, (cause,), DRAWS // 4)
        causes[cause] = float(np.median(ciede2000(alone, nominal[few])))
    return Sureness(low, high, np.median(ciede2000(drawn, nominal), axis=0), causes)


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
) -> Array:
    """Return the colours of all draws, (draws, n, m, 3) CIELAB."""
    rng = np.random.default_rng(1931)
    films = FILM_CV[hand] if "film" in causes else 0.0
    ratios = RATIO_CV[counting] if "ratio" in causes else 0.0
    tints = {
        name: _lognormal(rng, PAINT_CV if "paint" in causes else 0.0, (2, draws))
        for name in sorted(paints)
    }
    state = ground(passage, paints, u, relief)
    state = State(
        plain(np.broadcast_to(state.R.d, (draws, *state.R.d.shape)))
        if not state.R.sources
        else state.R,
        np.broadcast_to(state.finish, (draws, *state.finish.shape)),
        state.mirror,
    )
    for coat in passage.coats:
        state = _lay_all(state, coat, paints, passage, u, relief, rng, films, ratios, tints)
    return colours(state, look)[0]


def _lay_all(
    state: State,
    coat: Coat,
    paints: Mapping[str, Paint],
    passage: Passage,
    u: Array,
    relief: Array,
    rng: np.random.Generator,
    films: float,
    ratios: float,
    tints: Mapping[str, Array],
) -> State:
    """Return all draws of a stack with one more coat on each."""
    draws = state.finish.shape[0]
    mix = blend(coat.mixture, paints)
    names = [part.paint for part in coat.mixture.parts]
    parts = np.array([part.parts for part in coat.mixture.parts])
    # The tint of a mixture is that of its paints by their share; films of one coat share it.
    shares = parts / parts.sum()
    k, s = (
        np.tensordot(shares, np.stack([tints[name][i] for name in names]), 1)[:, None, None, None]
        for i in (0, 1)
    )
    mix = mix._replace(K=mix.K * k, S=mix.S * s)
    thinning = coat.mixture.thinning * _lognormal(rng, ratios, (draws,))
    strength = (1 / (1 + thinning))[:, None, None]
    dry = strength if coat.mixture.thinner == "water" else np.ones_like(strength)
    along, across, cover = laid(coat, passage, u, relief)
    single = _lognormal(rng, films, (draws, coat.passes))
    if (cover == 1).all():
        every: list[Array] = [single @ along]
    else:
        every = [single[:, [i]] * along[i] for i in range(coat.passes)]
    for share in every:
        wet = share[:, :, None] * across
        straight = state.mirror is not None
        state = put(state, Layer.of(mix, wet * strength, wet * dry, cover, straight))
    return state


def _lognormal(rng: np.random.Generator, cv: float, shape: tuple[int, ...]) -> Array:
    """Return factors of mean 1 and a coefficient of variation; the draws are made in any case."""
    sigma = np.sqrt(np.log1p(cv * cv))
    return np.asarray(np.exp(sigma * rng.standard_normal(shape) - sigma * sigma / 2))
