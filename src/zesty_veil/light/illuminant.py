"""Illuminants and observers, baked from CIE tables into weights per band.

References
----------
CIE 15:2018, Colorimetry. The tables are baked by tools/bake_cie.py, which says how.
"""

from __future__ import annotations

from functools import cache

import numpy as np

from zesty_veil import data
from zesty_veil.errors import InputError
from zesty_veil.light.grid import BANDS, Array

LIGHTS: dict[str, str] = {
    "D65": "daylight",
    "D50": "warm daylight",
    "A": "warm bulb",
    "LED-B3": "white LED lamp",
    "F11": "shop tube",
}
OBSERVERS = (2, 10)


def weights(light: str = "D65", observer: int = 2) -> Array:
    """Return what turns a spectrum of reflectance into XYZ.

    Parameters
    ----------
    light
        One of `LIGHTS`.
    observer
        2 (CIE 1931) or 10 (CIE 1964), in degrees.

    Returns
    -------
    (36, 3) float64, read-only
        Illuminant x observer, normalised so that a perfect diffuser has Y = 1.

    Raises
    ------
    InputError
        If the light or the observer is not known.

    >>> weights().shape
    (36, 3)
    """
    _check(light)
    if observer not in OBSERVERS:
        raise InputError(f"There is no observer of {observer} degrees; use 2 or 10.")
    columns = _table("cie_weights.csv")
    return _frozen(np.stack([columns[f"{light}/{observer}/{axis}"] for axis in "XYZ"], axis=1))


def white(light: str = "D65", observer: int = 2) -> Array:
    """Return the XYZ of a perfect diffuser, (3,) float64 with Y = 1.

    >>> white('D50').round(3).tolist()
    [0.964, 1.0, 0.825]
    """
    out: Array = weights(light, observer).sum(axis=0)
    return out


def power(light: str = "D65") -> Array:
    """Return the relative power of a light per band, (36,) float64 with mean 1.

    >>> power('A').shape
    (36,)
    """
    _check(light)
    return _table("cie_power.csv")[light]


def _check(light: str) -> None:
    if light not in LIGHTS:
        raise InputError(f"There is no light '{light}'; use one of {', '.join(LIGHTS)}.")


@cache
def _table(name: str) -> dict[str, Array]:
    header, *rows = data.read(name).decode("ascii").split()
    table = np.array([[float(cell) for cell in row.split(",")] for row in rows])
    if table.shape[0] != BANDS:
        raise ValueError(f"{name} has {table.shape[0]} bands, expected {BANDS}")
    return {key: _frozen(table[:, i]) for i, key in enumerate(header.split(",")) if i}


def _frozen(array: Array) -> Array:
    array = np.ascontiguousarray(array)
    array.setflags(write=False)
    return array
