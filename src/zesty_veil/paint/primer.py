"""Primers: what stands below the first coat, as internal reflectance (invented spectra)."""

from __future__ import annotations

from functools import cache

import numpy as np

from zesty_veil import data
from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array
from zesty_veil.optics.surface import FINISHES
from zesty_veil.tr import tr

# The plain ones first; the others are coloured undercoats from a can.
PRIMERS = ("white", "grey", "black", "ivory", "brown", "red", "blue")
PLAIN = PRIMERS[:3]
PRIMER_FINISH = FINISHES["matt"]


def primer(name: str) -> Array:
    """Return the internal reflectance of a primer, (36,) float64, read-only.

    Raises
    ------
    InputError
        If there is no such primer.
    """
    if name not in PRIMERS:
        raise InputError(
            tr("There is no ground '{0}'; use one of {1}.").format(name, ", ".join(PRIMERS))
        )
    return _table()[name]


@cache
def _table() -> dict[str, Array]:
    header, *rows = data.read("primers.csv").decode("ascii").split()
    table = np.array([[float(cell) for cell in row.split(",")] for row in rows])
    table.setflags(write=False)
    return {name: table[:, i] for i, name in enumerate(header.split(","))}
