"""The forward model of a card: from spectra and films to the colours of its patches.

The same physics as `predict`, on flat fields of one paint, with the derivatives that fitting
needs: in each band the light depends on absorption and scattering of that band only.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from zesty_veil.light.cielab import xyz_from_lab
from zesty_veil.light.grid import BANDS, Array
from zesty_veil.light.illuminant import weights
from zesty_veil.light.recovery import recover_reflectance
from zesty_veil.log.card import Backing, Card, Patch
from zesty_veil.optics.film import film
from zesty_veil.optics.stack import over
from zesty_veil.optics.streams import Sym, lambertian
from zesty_veil.optics.surface import FINISHES, internal, seen
from zesty_veil.paint.mixture import Mixture, dry_share, starved, strength
from zesty_veil.paint.tool import tools
from zesty_veil.predict.layer import FINISH_FILM_MM

# What the printed card sends back where nobody has measured it: office paper, laser black.
CARD_WHITE, CARD_BLACK = 0.88, 0.04
CARD_FINISH = FINISHES["matt"]
_STEP = 1e-4


@dataclass(frozen=True, eq=False)
class Drawdown:
    """The painted patches of some cards, p of them, on s strips.

    A strip is what was laid in one go across both halves. `neat` and `dry` (p,) are nominal films
    in mm, `texture` (p,) how uneven they lie, `below` (p, 36) the internal reflectance of the
    backing, `thinned` (p, 2) what turns the paint's own k_f into that of the thinned film: factor
    and summand.
    """

    patches: tuple[Patch, ...]
    card: npt.NDArray[np.intp]  # (p,)
    strip: npt.NDArray[np.intp]  # (p,)
    passes: Array  # (s,) of each strip
    strip_card: npt.NDArray[np.intp]  # (s,)
    neat: Array
    dry: Array
    below: Array
    thinned: Array
    texture: Array


def drawdown(cards: Sequence[Card]) -> Drawdown:
    """Lay some cards of one paint out for fitting."""
    patches, of_card, of_strip, neat, dry, below = [], [], [], [], [], []
    thinned, texture = [], []
    strips: dict[tuple[int, int], int] = {}
    for number, card in enumerate(cards):
        mixture = Mixture((), card.thinner, card.thinning)
        pass_mm = tools()[card.tool].wet_film_um / 1000
        grounds = {name: backing(card, name) for name in ("white", "black")}
        starve = [starved(k, mixture) for k in (0.0, 0.01)]
        factor = (starve[1] - starve[0]) / 0.01
        for patch in card.patches:
            if not patch.passes:
                continue
            patches.append(patch)
            of_card.append(number)
            of_strip.append(strips.setdefault((number, patch.passes), len(strips)))
            neat.append(pass_mm * patch.passes * strength(mixture))
            dry.append(pass_mm * patch.passes * dry_share(mixture))
            below.append(grounds[patch.backing])
            thinned.append((factor, starve[0]))
            texture.append(tools()[card.tool].texture / np.sqrt(patch.passes))
    return Drawdown(
        tuple(patches),
        np.array(of_card),
        np.array(of_strip),
        np.array([passes for _, passes in strips], dtype=np.float64),
        np.array([number for number, _ in strips]),
        np.array(neat),
        np.array(dry),
        np.array(below),
        np.array(thinned),
        np.array(texture),
    )


def backing(card: Card, name: Backing) -> Array:
    """Return the internal reflectance of one half of a card, (36,), from its bare patch if read."""
    for patch in card.patches:
        if patch.passes == 0 and patch.backing == name:
            if patch.spectrum is not None:
                return internal(np.array(patch.spectrum), CARD_FINISH)
            eye = weights()
            light = xyz_from_lab(patch.colour, eye.sum(axis=0))
            return internal(recover_reflectance(light, eye), CARD_FINISH)
    plain = CARD_WHITE if name == "white" else CARD_BLACK
    return internal(np.full(BANDS, plain), CARD_FINISH)


def reflectance(down: Drawdown, theta: Array, films: Array, k_f: float) -> Array:
    """Return what is seen of the patches, (p, 36).

    Parameters
    ----------
    down
        The patches.
    theta : (72,)
        Log absorption, then log reduced scattering, in 1/mm.
    films : (p,)
        Log of how much more lies there than nominal.
    k_f
        Finish of the neat paint's film.
    """
    more = np.exp(films)
    mu_a, mu_s = np.exp(theta[:BANDS]), np.exp(theta[BANDS:])
    # One deviation below the mean and one above; all of it is seen at once.
    X, below = down.neat * more, lambertian(down.below)
    halves = [
        over(film(mu_a, mu_s, (X * (1 + sign * down.texture))[:, None]), below) for sign in (-1, 1)
    ]
    R = Sym(*((thin + thick) / 2 for thin, thick in zip(*halves, strict=True)))
    return seen(R, _finish(down, more, k_f)[:, None])


def _finish(down: Drawdown, more: Array, k_f: float) -> Array:
    own = down.thinned[:, 0] * k_f + down.thinned[:, 1]
    hides = -np.expm1(-down.dry * more / FINISH_FILM_MM)
    return np.asarray(CARD_FINISH + hides * (own - CARD_FINISH))


@dataclass(frozen=True, eq=False)
class Slopes:
    """Derivatives of the patches' reflectance; all (p, 36).

    By log absorption and log scattering of the same band, by the log film of the patch, and by k_f.
    """

    mu_a: Array
    mu_s: Array
    film: Array
    k_f: Array


def slopes(down: Drawdown, theta: Array, films: Array, k_f: float, at: Array) -> Slopes:
    """Return the derivatives of `reflectance`, whose value is `at`."""
    shift = np.zeros_like(theta)
    shift[:BANDS] = _STEP
    mu_a = (reflectance(down, theta + shift, films, k_f) - at) / _STEP
    mu_s = (reflectance(down, theta + (_STEP - shift), films, k_f) - at) / _STEP
    by_film = (reflectance(down, theta, films + _STEP, k_f) - at) / _STEP
    by_finish = (reflectance(down, theta, films, k_f + _STEP) - at) / _STEP
    return Slopes(mu_a, mu_s, by_film, by_finish)
