"""A paint: what the films are made of."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated

import msgspec
import numpy as np

from zesty_veil.light.grid import BANDS, Array
from zesty_veil.limits import MOST_LETTERS, SPECTRUM, at_most, between, from_to
from zesty_veil.paint.kinds import Kind

# More than this in 1/mm is no paint: light would not enter a thousandth of a micrometre.
MOST_PER_MM = 1e6
MOST_IN_POT = 24
MOST_MODES = 24

Name = Annotated[str, at_most(MOST_LETTERS, "its name")]
Code = Annotated[str, at_most(MOST_LETTERS, "a pigment")]
PerMm = Annotated[tuple[Annotated[float, between(0, MOST_PER_MM)], ...], SPECTRUM]
Shares = Annotated[tuple[Annotated[float, between(0, 1)], ...], SPECTRUM]
Mode = Annotated[
    tuple[Annotated[float, between(-10, 10)], ...],
    from_to(2 * BANDS, 2 * BANDS, "a mode of spread"),
]


class Fluorescence(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A fluorescent dye in a paint.

    `mu_a` is the part of the paint's absorption (1/mm, 36 bands) that excites the dye; `emission`
    is the spectrum that it sends out, in energy, with sum 1; `efficiency` is quanta out per quantum
    in. Light goes to longer wavelengths only: the dye sends out nothing where it is excited.
    """

    emission: Shares
    efficiency: Annotated[float, between(0, 1, "the efficiency of its glow")]
    mu_a: PerMm = ()


class Flakes(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Metal flakes in a paint: `density` is their area in a volume (1/mm).

    `mirror` is the reflectance of the metal, 36 bands.
    """

    density: Annotated[float, between(0, MOST_PER_MM, "the density of its flakes")]
    mirror: Shares


class Paint(msgspec.Struct, frozen=True, forbid_unknown_fields=True, weakref=True):
    """A neat paint with the two spectra that predict it.

    `mu_a` and `mu_s` are absorption and reduced scattering of wet paint in 1/mm, 36 numbers each
    from 380 to 730 nm (see optics.film); `finish` is k_f of the dry film (see optics.surface);
    `pigments` are Colour Index codes.

    `spread` says how far a measured paint may be off: modes of 72 numbers, log mu_a, then log mu_s.
    Any paint that the measurements allow is this one times exp(sum z_k mode_k), z standard normal.
    A paint without modes was not measured.
    """

    name: Name
    kind: Kind
    pigments: Annotated[tuple[Code, ...], at_most(MOST_IN_POT, "its pigments")]
    finish: Annotated[float, between(0, 0.04)]
    mu_a: PerMm = ()
    mu_s: PerMm = ()
    maker: Annotated[str, at_most(MOST_LETTERS, "its maker")] = ""
    glow: Fluorescence | None = None
    flakes: Flakes | None = None
    spread: Annotated[tuple[Mode, ...], at_most(MOST_MODES, "the modes of its spread")] = ()


@lru_cache(maxsize=2048)
def spectra(paint: Paint) -> tuple[Array, Array]:
    """Return absorption and scattering of a paint as read-only arrays, (36,) float64 in 1/mm."""
    mu_a, mu_s = (np.array(numbers, dtype=np.float64) for numbers in (paint.mu_a, paint.mu_s))
    mu_a.setflags(write=False)
    mu_s.setflags(write=False)
    return mu_a, mu_s


def tinted(paint: Paint, z: Array) -> Array:
    """Return the factors on the spectra of draws of a measured paint, (draws, 72) float64.

    z : (draws, k), standard normal, with at least as many columns as the paint has modes.
    """
    modes = np.array(paint.spread)
    return np.asarray(np.exp(z[:, : len(modes)] @ modes))
