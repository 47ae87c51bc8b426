"""The rack: the paints at hand. The demo rack is invented."""

from __future__ import annotations

from collections.abc import Iterable
from functools import cache

import msgspec
import numpy as np

from zesty_veil import data
from zesty_veil.errors import PaintError
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.paint import Kind, Paint
from zesty_veil.paint.pigment import pigments


class Recipe(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A shipped paint as amounts of pigment, 1 = the strength in pigments.json.

    `scatter` lowers the scattering of pigments ground finer, as in inks.
    """

    name: str
    maker: str
    kind: Kind
    pigments: dict[str, float]
    finish: str
    scatter: float

    def paint(self) -> Paint:
        """Return the paint with its spectra worked out by volume (Duncan 1940)."""
        table = pigments()
        K = sum((a * table[code].K() for code, a in self.pigments.items()), np.zeros(1))
        S = sum((a * table[code].S() for code, a in self.pigments.items()), np.zeros(1))
        return Paint(
            name=self.name,
            kind=self.kind,
            pigments=tuple(self.pigments),
            K=tuple(float(round(v, 4)) for v in K),
            S=tuple(float(round(v, 4)) for v in S * self.scatter),
            finish=FINISHES[self.finish],
            maker=self.maker,
        )


@cache
def demo_rack() -> tuple[Paint, ...]:
    """Return the paints of the invented maker Brackwater."""
    recipes = msgspec.json.decode(data.read("rack.json"), type=tuple[Recipe, ...])
    return tuple(recipe.paint() for recipe in recipes)


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
        raise PaintError(f"There is no paint '{name.strip()}' in the rack; it holds {names}.")
    if len(fits) > 1:
        names = ", ".join(p.name for p in fits)
        raise PaintError(f"'{name.strip()}' fits more than one paint ({names}); say which.")
    return fits[0]
