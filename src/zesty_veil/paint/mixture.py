"""Mixtures of paints, and what thinner does to them.

References
----------
D. R. Duncan, "The colour of pigment mixtures", Proc. Phys. Soc. 52 (1940), 390-401: coefficients
of a mixture are the volume-weighted sums of its parts. That holds of absorption and scattering; of
two-flux K and S, which have the surface's share in them, only nearly.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Annotated, Literal, NamedTuple

import msgspec
import numpy as np

from zesty_veil.errors import InputError, PaintError
from zesty_veil.light.grid import BANDS, Array
from zesty_veil.limits import at_most, between
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.paint import MOST_IN_POT, Fluorescence, Name, Paint, spectra
from zesty_veil.tr import tr

Thinner = Literal["water", "medium", "thick medium"]
MOST_PARTS = 99.0
MOST_THINNING = 50.0
THINNERS: tuple[Thinner, ...] = ("water", "medium", "thick medium")

# Water beyond this many parts to one of paint starves the binder, and the film dries matt.
_STARVED_FROM = 3.0
_STARVED_SCALE = 9.0
# Beyond this many parts painters reach for medium in place of water; common practice.
MOST_WATER = 5.0


# Reduced scattering of wet acrylic latex, 1/mm, from memory: in two-flux terms 2 to 10, and how far
# that strays as a log.
LATEX_MU_S, LATEX_SD = 6.0, 0.63


class Part(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Some parts (drops) of one paint."""

    paint: Name
    parts: Annotated[float, between(0.01, MOST_PARTS)] = 1.0


class Mixture(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Paints in parts, and a thinner.

    `thinning` is parts of thinner to one part of paint, as painters write it: 3 means 3:1.
    """

    parts: Annotated[tuple[Part, ...], at_most(MOST_IN_POT, "paints in its pot")]
    thinner: Thinner = "water"
    thinning: Annotated[float, between(0, MOST_THINNING)] = 0.0


NO_MIRROR: Array = np.zeros(BANDS)
NO_MIRROR.setflags(write=False)


class Dyes(NamedTuple):
    """The fluorescent dyes of a mixture, k of them."""

    share: Array  # (k, 36) of the mixture's absorption, what each dye absorbs; 0-1
    emission: Array  # (k, 36) energy, sum 1
    efficiency: Array  # (k,) quanta out per quantum in


class Blend(NamedTuple):
    """What a mixture is, apart from its thinner."""

    mu_a: Array  # (36,) 1/mm of neat mixture
    mu_s: Array  # (36,) 1/mm
    finish: float  # k_f of the dry film
    dyes: Dyes | None = None
    flakes: float = 0.0  # 1/mm, their area in a volume of the neat mixture
    mirror: Array = NO_MIRROR  # (36,) reflectance of the flakes, averaged by density


def blend(mixture: Mixture, paints: Mapping[str, Paint]) -> Blend:
    """Return the spectra and finish of a mixture; all as `neat_blend`."""
    return thinned(neat_blend(mixture.parts, paints), mixture)


def thinned(mix: Blend, mixture: Mixture) -> Blend:
    """Return what a neat mixture is with the thinner that it has in the pot."""
    return mix._replace(finish=starved(mix.finish, mixture))


def neat_blend(parts: Sequence[Part], paints: Mapping[str, Paint]) -> Blend:
    """Return the spectra and finish of paints mixed without a thinner.

    Raises
    ------
    PaintError
        If a paint is not among `paints`.
    InputError
        If there is nothing in the mixture, or parts are not positive finite numbers.
    """
    total = sum(part.parts for part in parts)
    if not total > 0 or not all(p.parts > 0 and math.isfinite(p.parts) for p in parts):
        raise InputError(tr("A mixture needs at least one paint, each with more than 0 parts."))
    mu_a, mu_s, finish = np.zeros(1), np.zeros(1), 0.0
    glows: list[tuple[float, Fluorescence]] = []
    density, mirror = 0.0, np.zeros(BANDS)
    for part in parts:
        if part.paint not in paints:
            raise PaintError(
                tr("The paint '{0}' is not held by the plan; add it first.").format(part.paint)
            )
        paint = paints[part.paint]
        share = part.parts / total
        a, s = spectra(paint)
        mu_a, mu_s = mu_a + share * a, mu_s + share * s
        finish += share * paint.finish
        if paint.glow is not None:
            glows.append((share, paint.glow))
        if paint.flakes is not None:
            part_density = share * paint.flakes.density
            density += part_density
            mirror += part_density * np.array(paint.flakes.mirror)
    if density:
        mirror /= density
    return Blend(mu_a, mu_s, finish, _dyes(glows, mu_a), density, mirror)


def _dyes(glows: list[tuple[float, Fluorescence]], mu_a: Array) -> Dyes | None:
    if not glows:
        return None
    whole = np.where(mu_a > 0, mu_a, 1.0)
    return Dyes(
        np.array([share * np.array(glow.mu_a) / whole for share, glow in glows]),
        np.array([glow.emission for _, glow in glows]),
        np.array([glow.efficiency for _, glow in glows]),
    )


def latex_of(mixture: Mixture) -> float:
    """Return what a mixture's binder scatters while it is wet, 1/mm: paint and medium have it."""
    return LATEX_MU_S * dry_share(mixture) / strength(mixture)


def milky(mix: Blend, latex: Array | float) -> Blend:
    """Return what a mixture is while it is wet: its binder is latex, which scatters until it dries.

    latex : 1/mm of neat mixture, as `latex_of`; it broadcasts against the spectra.
    """
    return mix._replace(mu_s=mix.mu_s + latex)


def strength(mixture: Mixture) -> float:
    """Return the share of neat paint in the pot, 1 / (1 + thinning)."""
    return 1.0 / (1.0 + mixture.thinning)


def dry_share(mixture: Mixture) -> float:
    """Return what stays of a wet film: water leaves, medium stays."""
    return strength(mixture) if mixture.thinner == "water" else 1.0


def starved(finish: float, mixture: Mixture) -> float:
    """Return k_f after thinning: much water leaves too little binder, and the film goes matt."""
    if mixture.thinner != "water":
        return finish
    lack = -math.expm1(-max(mixture.thinning - _STARVED_FROM, 0.0) / _STARVED_SCALE)
    return finish + (max(FINISHES["matt"], finish) - finish) * lack


def pooling(p: float, mixture: Mixture) -> float:
    """Return a tool's pooling with this thinner in the pot.

    Water makes a wet film run, and the more so the wetter it lies; a blotted film hardly runs
    however thin the paint. Thick medium stays where it is put.
    """
    if mixture.thinner == "water":
        return p * (1 + 0.1 * mixture.thinning / (1 + 0.1 * mixture.thinning) * p)
    if mixture.thinner == "medium":
        return p
    return p / (1 + 0.5 * mixture.thinning)
