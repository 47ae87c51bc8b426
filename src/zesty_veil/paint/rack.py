"""The rack: the paints at hand. The demo rack is invented."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from functools import cache

import msgspec
import numpy as np

from zesty_veil import data
from zesty_veil.errors import PaintError
from zesty_veil.light.grid import BANDS, Array, wavelengths
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.kinds import Kind
from zesty_veil.paint.paint import Flakes, Fluorescence, Paint
from zesty_veil.paint.pigment import NEAT_COAT_MM, Band, Pigment, pigments
from zesty_veil.tr import tr

# Absorption of the binder itself, 1/mm; from memory.
_BINDER = 0.02


class GlowRecipe(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A fluorescent dye: bands per neat coat, cut off above `cut_nm`, where its emission begins."""

    absorbs: tuple[Band, ...]
    cut_nm: float
    peak_nm: float
    width_nm: float
    efficiency: float
    scatters: float

    def glow(self) -> Fluorescence:
        """Return the dye with its spectra."""
        nm = wavelengths()
        mu_a = sum((band.spectrum(nm) for band in self.absorbs), np.zeros(1)) / NEAT_COAT_MM
        # A dye sends out a little of what it could take up again; the cut leaves that overlap out,
        # so that light only ever goes to longer wavelengths.
        mu_a = np.where(nm < self.cut_nm, mu_a, 0.0)
        emission = np.exp(-0.5 * ((nm - self.peak_nm) / self.width_nm) ** 2)
        emission = np.where(nm >= self.cut_nm, emission, 0.0)
        return Fluorescence(_numbers(emission / emission.sum(), 8), self.efficiency, _numbers(mu_a))


class FlakesRecipe(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Metal flakes: `coverage` is the density per neat loaded coat."""

    metal: str
    coverage: float

    def flakes(self) -> Flakes:
        """Return the flakes with the reflectance of their metal."""
        return Flakes(
            round(self.coverage / NEAT_COAT_MM, 4), _numbers(_metals()[self.metal].mirror())
        )


class Metal(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """The reflectance of a metal as a step from `low` to `high` at an edge in nm, from memory."""

    low: float
    high: float
    edge: float
    width: float

    def mirror(self) -> Array:
        """Return the reflectance, (36,) 0-1."""
        step = 1 / (1 + np.exp((self.edge - wavelengths()) / self.width))
        return np.asarray(self.low + (self.high - self.low) * step)


@cache
def _metals() -> dict[str, Metal]:
    return msgspec.json.decode(data.read("metals.json"), type=dict[str, Metal])


class Formulation(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A shipped paint as amounts of pigment, 1 = the strength in pigments.json.

    `scatter` lowers the scattering of pigments ground finer, as in inks.
    """

    name: str
    maker: str
    kind: Kind
    pigments: dict[str, float]
    finish: str
    scatter: float
    glow: GlowRecipe | None = None
    flakes: FlakesRecipe | None = None

    def spectra(self, table: Mapping[str, Pigment]) -> tuple[Array, Array]:
        """Return absorption and reduced scattering, (36,) each in 1/mm of neat wet paint."""
        # Clear binder is not quite clear.
        mu_a, mu_s = np.full(BANDS, _BINDER), np.zeros(BANDS)
        for code, amount in self.pigments.items():
            mu_a = mu_a + amount * table[code].mu_a()
            mu_s = mu_s + amount * table[code].mu_s()
        if self.glow is not None:
            mu_a = mu_a + np.array(self.glow.glow().mu_a)
            mu_s = mu_s + self.glow.scatters / NEAT_COAT_MM
        return mu_a, mu_s * self.scatter

    def paint(self, table: Mapping[str, Pigment] | None = None) -> Paint:
        """Return the paint, of the shipped pigments or of those of another table."""
        mu_a, mu_s = self.spectra(pigments() if table is None else table)
        return Paint(
            name=self.name,
            kind=self.kind,
            pigments=tuple(self.pigments),
            mu_a=_numbers(mu_a),
            mu_s=_numbers(mu_s),
            finish=FINISHES[self.finish],
            maker=self.maker,
            glow=self.glow.glow() if self.glow is not None else None,
            flakes=self.flakes.flakes() if self.flakes is not None else None,
        )


def _numbers(spectrum: Array, digits: int = 4) -> tuple[float, ...]:
    return tuple(float(round(v, digits)) for v in spectrum)


@cache
def demo_rack() -> tuple[Paint, ...]:
    """Return the paints of the invented maker Brackwater."""
    formulations = msgspec.json.decode(data.read("rack.json"), type=tuple[Formulation, ...])
    return tuple(recipe.paint() for recipe in formulations)


def find(name: str, paints: Iterable[Paint]) -> Paint:
    """Return the paint of a name; case does not matter, and a part that fits one paint is enough.

    Raises
    ------
    PaintError
        If no paint fits, or more than one.
    """
    paints = tuple(paints)
    wanted = " ".join(name.split()).casefold()
    exact = [p for p in paints if p.name.casefold() == wanted]
    fits = exact or [p for p in paints if wanted and wanted in p.name.casefold()]
    if not fits:
        names = ", ".join(p.name for p in paints)
        raise PaintError(
            tr("There is no paint '{0}' in the rack; it holds {1}.").format(name.strip(), names)
        )
    if len(fits) > 1:
        names = ", ".join(p.name for p in fits)
        raise PaintError(
            tr("'{0}' fits more than one paint ({1}); say which.").format(name.strip(), names)
        )
    return fits[0]
