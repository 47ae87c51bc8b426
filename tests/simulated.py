"""A simulated painter, for tests only: true paints, a hand that strays, and stacks that came out.

The paints are pigments whose bands, strengths and scattering differ from the shipped table, as one
maker's differ from another's, each with its own index (1.40 to 1.55) and its own way of scattering
(g 0.3 to 0.9); light goes through them by adding-doubling and is read at 45/0 (truepaint.py).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.stats import gamma

import truepaint as true
from zesty_veil.light.grid import wavelengths
from zesty_veil.log.card import Card, Patch
from zesty_veil.log.fit import fitted_lab
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.pigment import pigments
from zesty_veil.paint.tool import tools

HAND_CV, RATIO_CV = 0.3, 0.1
PLACES = 4  # read together
PAPER, TONER = 0.88, 0.04
PAPER_INDEX = 1.45

# kind, codes and amounts, factor on scattering
POTS = (
    ("opaque", {"PW6": 1.0}, 1.0),
    ("opaque", {"PBk7": 1.0}, 1.0),
    ("opaque", {"PR254": 1.0, "PW6": 0.25}, 1.0),
    ("opaque", {"PB29": 0.9, "PW6": 0.3}, 1.0),
    ("opaque", {"PY42": 1.0}, 1.0),
    ("opaque", {"PBr7": 1.0}, 1.0),
    ("transparent", {"PY74": 1.0}, 1.0),
    ("transparent", {"PO73": 1.0}, 1.0),
    ("transparent", {"PR122": 0.6}, 1.0),
    ("transparent", {"PG7": 1.0, "PY74": 0.6}, 1.0),
    ("transparent", {"PB15:3": 0.8}, 1.0),
    ("ink", {"PV23": 0.5}, 0.2),
    ("ink", {"PR122": 0.9}, 0.2),
    ("wash", {"PBr7": 0.06, "PBk7": 0.015}, 0.8),
)


def hand(rng: np.random.Generator, cv: float, size=None):
    """Return factors of mean 1."""
    sigma = np.sqrt(np.log1p(cv * cv))
    return np.exp(sigma * rng.standard_normal(size) - sigma * sigma / 2)


def true_paint(rng: np.random.Generator, kind: str, amounts: dict, scatter: float):
    """Return a paint by transport whose bands lie some nanometres beside the shipped table's."""
    nm = wavelengths()
    mu_a, reduced = np.full(36, 0.02), np.full(36, 0.1)
    for code, amount in amounts.items():
        pigment = pigments()[code]
        shift = rng.normal(0, 5)
        mu_a = mu_a + amount * hand(rng, 0.25) * np.interp(nm - shift, nm, pigment.mu_a())
        falls = (nm / 550) ** -rng.normal(0, 0.4)
        reduced = reduced + amount * hand(rng, 0.25) * scatter * pigment.mu_s() * falls
    g, n = float(rng.uniform(0.3, 0.9)), float(rng.uniform(1.40, 1.55))
    mu_s = reduced / (1 - g)
    usual = {"opaque": "matt", "ink": "gloss"}.get(kind, "satin")
    k_f = float(np.clip(FINISHES[usual] + rng.normal(0, 0.003), 0.002, 0.04))
    return true.TruePaint(" ".join(amounts), kind, tuple(amounts), mu_a, mu_s, g, k_f, n)


@dataclass
class Laid:
    """One coat as it really lies: neat film and dry film in mm."""

    paint: true.TruePaint
    neat: float
    dry: float
    thinning: float
    texture: float = 0.0  # deviation of the film over its mean, finer than the eye parts


def lay(rng, paint, tool, passes, thinning, cv=HAND_CV, ratio_cv=RATIO_CV) -> Laid:
    """Lay some passes with a hand that strays."""
    wet = tools()[tool].wet_film_um / 1000 * hand(rng, cv, passes).sum()
    real = thinning * (hand(rng, ratio_cv) if ratio_cv else 1.0)
    texture = tools()[tool].texture / np.sqrt(passes)
    return Laid(paint, wet / (1 + real), wet / (1 + real), thinning, texture)


def seen(ground: np.ndarray, coats: list[Laid], ground_k: float = 0.04) -> np.ndarray:
    """Return what is read of coats over a ground of internal reflectance (36,), at 45/0.

    Ridges and valleys of one coat know nothing of those below: some places are read together.
    """
    rng = np.random.default_rng(len(coats))
    films = [rng.permutation(heights(coat.texture)) * coat.neat for coat in coats]
    return np.mean(
        [_read_at(ground, coats, at, ground_k) for at in zip(*films, strict=True)]
        or [_read_at(ground, [], (), ground_k)],
        axis=0,
    )


def heights(texture: float) -> np.ndarray:
    """Return how thick a film lies at some places, as often thin as thick, of mean 1."""
    if not texture:
        return np.ones(PLACES)
    shape = texture**-2
    some = gamma.ppf((np.arange(PLACES) + 0.5) / PLACES, shape) / shape
    some = 1 + (some - some.mean()) * texture / some.std()
    return some / some.mean()


def _read_at(ground: np.ndarray, coats: list[Laid], films, ground_k: float) -> np.ndarray:
    """Return what is read at one place, where the coats are so many mm thick."""
    n = coats[-1].paint.n if coats else PAPER_INDEX  # the surface is that of the uppermost
    R, k = true.lambertian(ground, n), ground_k
    for coat, mm in zip(coats, films, strict=True):
        R = true.over(coat.paint.slab(float(mm), n), R)
        own = coat.paint.k_f
        own += (max(0.04, own) - own) * -np.expm1(-max(coat.thinning - 3, 0) / 3)
        k += -np.expm1(-coat.dry / 0.006) * (own - k)
    return true.seen(R, k, n)


def inside(reflectance: float) -> np.ndarray:
    """Return the internal reflectance of a grey paper that is read so, matt, by its own index."""
    low, high = 0.0, 1.0
    for _ in range(50):
        middle = (low + high) / 2
        read_as = true.seen(true.lambertian(np.full(1, middle), PAPER_INDEX), 0.04, PAPER_INDEX)
        low, high = (middle, high) if read_as[0] < reflectance else (low, middle)
    return np.full(36, low)


def card_of(rng, paint, thinning, tool, passes=(1, 2, 4), cv=HAND_CV) -> list[tuple]:
    """Paint a card; return (backing, passes, spectrum seen) of all its patches."""
    out = []
    for n in (0, *passes):
        laid = [lay(rng, paint, tool, n, thinning, cv)] if n else []
        for backing, R in (("white", PAPER), ("black", TONER)):
            out.append((backing, n, seen(inside(R), laid)))
    return out


def read(rng, paint, patches, thinning, tool, source, known=True) -> Card:
    """Read a painted card with the noise of a source, as a spectrum or as Lab."""
    found = []
    for backing, n, R in patches:
        if source in {"bench meter", "instrument"}:
            noisy = R * (1 + rng.normal(0, 0.004)) + rng.normal(0, 0.0015, 36)
            found.append(Patch(backing, n, spectrum=tuple(np.clip(noisy, 0, 1.5).tolist())))
        else:
            lab = fitted_lab(R) + rng.normal(0, 0.6, 3)
            lab[0] = np.clip(lab[0], 0, 100)
            found.append(Patch(backing, n, lab=tuple(lab.tolist())))
    codes = paint.pigments if known else ()
    return Card(
        paint.name, paint.kind, tuple(found), codes, thinning=thinning, tool=tool, source=source
    )
