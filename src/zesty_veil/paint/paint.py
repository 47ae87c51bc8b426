"""A paint: what the films are made of."""

from __future__ import annotations

from functools import lru_cache
from typing import Literal

import msgspec
import numpy as np

from zesty_veil.light.grid import Array

Kind = Literal[
    "opaque", "transparent", "ink", "wash", "contrast", "fluorescent", "metallic", "varnish"
]

# The tool and load that a painter would take for each kind when nothing is said.
USUAL_TOOL: dict[str, str] = {
    "opaque": "loaded",
    "transparent": "loaded",
    "ink": "glaze",
    "wash": "wash",
    "contrast": "contrast",
    "fluorescent": "loaded",
    "metallic": "loaded",
    "varnish": "loaded",
}


class Glow(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A fluorescent dye in a paint.

    `K` is the part of the paint's absorption (1/mm, 36 bands) that excites the dye; `emission` is
    the spectrum that it sends out, in energy, with sum 1; `efficiency` is quanta out per quantum
    in. Light goes to longer wavelengths only: the dye sends out nothing where it is excited.
    """

    K: tuple[float, ...]
    emission: tuple[float, ...]
    efficiency: float


class Flakes(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Metal flakes in a paint: `density` covers 1 - exp(-density X) of the area (1/mm).

    `mirror` is the reflectance of the metal, 36 bands.
    """

    density: float
    mirror: tuple[float, ...]


class Paint(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A neat paint with the two spectra that predict it.

    `K` and `S` are absorption and scattering of wet paint in 1/mm, 36 numbers each from 380 to
    730 nm; `finish` is k_f of the dry film (see optics.surface); `pigments` are Colour Index codes.

    `spread` says how far a measured paint may be off: modes of 72 numbers, log K then log S. Any
    paint that the measurements allow is this one times exp(sum z_k mode_k), z standard normal. A
    paint without modes was not measured.
    """

    name: str
    kind: Kind
    pigments: tuple[str, ...]
    K: tuple[float, ...]
    S: tuple[float, ...]
    finish: float
    maker: str = ""
    glow: Glow | None = None
    flakes: Flakes | None = None
    spread: tuple[tuple[float, ...], ...] = ()


@lru_cache(maxsize=2048)
def spectra(paint: Paint) -> tuple[Array, Array]:
    """Return K and S of a paint as read-only arrays, (36,) float64 in 1/mm."""
    K, S = np.array(paint.K, dtype=np.float64), np.array(paint.S, dtype=np.float64)
    K.setflags(write=False)
    S.setflags(write=False)
    return K, S


def tinted(paint: Paint, z: Array) -> Array:
    """Return the factors on K and S of draws of a measured paint, (draws, 72) float64.

    z : (draws, k), standard normal, with at least as many columns as the paint has modes.
    """
    modes = np.array(paint.spread)
    return np.asarray(np.exp(z[:, : len(modes)] @ modes))
