"""How sure a prediction is: the hand varies, the drops vary, and the paint may not be measured.

Every draw lays the whole passage again with films, thinning and paints a little off, all draws at
once. Draws always start from the same number, so that a plan keeps its band. The sizes of the
variations are common practice, not measured.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from statistics import NormalDist
from typing import Literal

import numpy as np

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import BANDS, Array, wavelengths
from zesty_veil.light.shapes import flat_places
from zesty_veil.paint.mixture import LATEX_SD
from zesty_veil.paint.paint import Paint, spectra, tinted
from zesty_veil.plan.model import Hand, Passage
from zesty_veil.predict.draws import Draws, sample_colours
from zesty_veil.predict.field import fold
from zesty_veil.predict.look import DAYLIGHT, ViewingConditions, colours

DRAWS = 64
# Spread of the film of one pass, as its coefficient of variation, by hand.
FILM_CV: dict[Hand, float] = {"steady": 0.2, "ordinary": 0.3, "loose": 0.45}
# Spread of the thinner's ratio, by how it is counted.
Counting = Literal["drops", "brush-loads"]
RATIO_CV: dict[Counting, float] = {"drops": 0.1, "brush-loads": 0.2}
# Of a paint that nobody has measured: the spread of its strength and of its scattering; how far its
# bands lie aside, in nm; and how its spectra tilt, as a log from one end to the middle.
PAINT_CV = 0.25
_SHIFT_NM, _TILT = 5.0, (0.1, 0.2)
# One sitting is rich or poor as a whole: the load, the brush and the light of that evening.
_SITTING_SD = 0.12
# What the model itself is off, of each of L, C and h as they are seen (tests/test_two_angles.py).
_MODEL_DE = 0.3

Cause = Literal["film", "ratio", "paint"]

CAUSES: tuple[Cause, ...] = ("film", "ratio", "paint")


@dataclass(frozen=True)
class ColourUncertainty:
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
    look: ViewingConditions = DAYLIGHT,
    counting: Counting = "drops",
    should_continue: Callable[[], bool] = lambda: True,
) -> ColourUncertainty:
    """Return how sure the colours of a passage are.

    Parameters
    ----------
    passage, paints, u, relief, look
        As `predict.field.predict`.
    hand
        How evenly films are laid, by tools of which the passage's own hand says nothing.
    counting
        How thinner is counted.
    should_continue
        Asked now and then; when it says no, the rest is not computed.

    Raises
    ------
    DroppedError
        If it was not wanted to the end.
    """
    flat_places(u=u, relief=relief)
    nominal, _ = colours(fold(passage, passage.coats, paints, u, relief, look), look)
    strayed = _drawn(
        passage, paints, u, relief, hand, look, counting, CAUSES, DRAWS, should_continue
    )
    polar = lch(strayed)
    # Hues are compared on the side of the circle where the nominal lies.
    middle = lch(nominal)
    hue = middle[..., 2]
    polar[..., 2] = hue + (polar[..., 2] - hue + 180) % 360 - 180
    polar += _model_error(middle, polar.shape[0])
    low, high = np.quantile(polar, [0.1, 0.9], axis=0)
    causes: dict[Cause, float] = {}
    few = slice(None, None, max(u.size // 8, 1))
    for cause in CAUSES:
        alone = _drawn(
            passage,
            paints,
            u[few],
            relief,
            hand,
            look,
            counting,
            (cause,),
            DRAWS // 4,
            should_continue,
        )
        causes[cause] = float(np.median(ciede2000(alone, nominal[few])))
    return ColourUncertainty(low, high, np.median(ciede2000(strayed, nominal), axis=0), causes)


def _drawn(
    passage: Passage,
    paints: Mapping[str, Paint],
    u: Array,
    relief: Array,
    hand: Hand,
    look: ViewingConditions,
    counting: Counting,
    causes: tuple[Cause, ...],
    draws: int,
    should_continue: Callable[[], bool],
) -> Array:
    """Return the colours of all draws, (draws, n, m, 3) CIELAB."""
    rng = np.random.default_rng(1931)
    paint_cv = PAINT_CV if "paint" in causes else 0.0
    used = {part.paint for coat in passage.coats for part in coat.mixture.parts}
    tints = {name: _tints(paints[name], paint_cv, draws) for name in used}
    own = {one.tool: one.cv for one in passage.own_hand if one.cv is not None}
    ratio_cv = RATIO_CV[counting] if "ratio" in causes else 0.0
    thinnings, films = [], []
    sitting_sd = _SITTING_SD if "film" in causes else 0.0
    sitting = np.exp(sitting_sd * _evenly(np.random.default_rng(1954), draws))
    for coat in passage.coats:
        thinnings.append(coat.mixture.thinning * _lognormal(rng, ratio_cv, draws)[:, 0])
        film_cv = own.get(coat.tool, FILM_CV[hand]) if "film" in causes else 0.0
        films.append(sitting * _lognormal(rng, film_cv, draws, coat.passes))
    milk = None
    if look.finish == "wet":
        sd = LATEX_SD if "paint" in causes else 0.0
        milk = np.exp(sd * _evenly(np.random.default_rng(1970), draws)[:, 0])
    return sample_colours(
        passage, paints, u, relief, Draws(tints, thinnings, films, milk), look, should_continue
    )


def _model_error(middle: Array, draws: int) -> Array:
    """Return how far the model may be off, alike at all places, (draws, n, m, 3) in L, C and h.

    A unit of CIEDE2000 is S_L in L, S_C in C and S_H round the circle at that chroma.
    """
    L, C = middle[..., 0], middle[..., 1]
    off = (L - 50) ** 2
    S_L = 1 + 0.015 * off / np.sqrt(20 + off)
    S_h = np.degrees((1 + 0.015 * C) / np.maximum(C, 1.0))
    size = np.stack([S_L, 1 + 0.045 * C, np.minimum(S_h, 60.0)], axis=-1)
    z = _evenly(np.random.default_rng(2000), draws, 3)
    return np.asarray(_MODEL_DE * z[:, None, None] * size)


def _tints(paint: Paint, cv: float, draws: int) -> tuple[Array, Array]:
    """Return factors on the spectra of a paint, (draws, 36): by the modes of a measured one.

    Of one that was not measured, strength and scattering stray, bands lie aside, spectra tilt. Each
    paint has numbers of its own, so that what becomes of one leaves all others as they were.
    """
    own = np.random.default_rng([1931, *paint.name.encode()])
    plain = _lognormal(own, cv, draws, 2).T[..., None]
    if not cv:
        return plain[0], plain[1]
    if paint.spread:
        both = tinted(paint, own.standard_normal((draws, len(paint.spread))))
        return both[:, :BANDS], both[:, BANDS:]
    nm = wavelengths()
    z = _evenly(own, draws, 3)
    aside = _SHIFT_NM * z[:, :1]
    tilts = np.array(_TILT)[:, None, None] * z.T[1:, :, None] * (nm - 555) / 175
    mu_a = spectra(paint)[0]
    moved = np.interp(nm - aside, nm, mu_a) / np.where(mu_a > 0, mu_a, 1.0)
    return plain[0] * moved * np.exp(tilts[0]), plain[1] * np.exp(tilts[1])


def _evenly(rng: np.random.Generator, draws: int, count: int = 1) -> Array:
    """Return standard normal numbers (draws, count), each column spread as evenly as can be.

    A column has one number from each of as many shares of alike weight, shuffled: chance would
    weigh too much in so few draws, and always in the same way, as they start from the same number.
    """
    normal = NormalDist()
    even = [normal.inv_cdf((i + 0.5) / draws) for i in range(draws)]
    return np.stack([rng.permutation(even) for _ in range(count)], axis=1)


def _lognormal(rng: np.random.Generator, cv: float, draws: int, count: int = 1) -> Array:
    """Return factors (draws, count) of mean 1 and a coefficient of variation; always drawn."""
    sigma = np.sqrt(np.log1p(cv * cv))
    return np.asarray(np.exp(sigma * _evenly(rng, draws, count) - sigma * sigma / 2))
