"""Tables of spectra as CSV: wavelengths down and samples across, or samples down.

The first cell of the header says which: a wavelength's name ("nm", "wavelength") means that each
column is a sample, anything else that each row is one and that the other headers are wavelengths.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.exchange.colours import Sample, refuse_many
from zesty_veil.light.cielab import lab, xyz
from zesty_veil.light.grid import Array, wavelengths
from zesty_veil.light.illuminant import weights
from zesty_veil.tr import tr

_LEAST_BANDS = 8
_MOST_LETTERS = 100_000
_MOST_SHARE = 2.0  # no paint sends back more, and a white in per cent does
_NM = re.compile(r"(?:.*?[^\d.])?(\d{3}(?:\.\d+)?)\s*(?:nm)?", re.IGNORECASE)
_LAB_NAMES = (("L", "a", "b"), ("L*", "a*", "b*"), ("LAB_L", "LAB_A", "LAB_B"))


def on_grid(nm: Array, values: Array) -> Array:
    """Return a spectrum (n,) at wavelengths (n,) brought to ours, (36,)."""
    order = np.argsort(nm, kind="stable")
    return np.asarray(np.interp(wavelengths(), nm[order], values[order]))


def as_shares(found: Iterable[Sample]) -> tuple[Sample, ...]:
    """Return the samples of one file with their spectra as shares, at least 0.

    A file is in per cent or in shares as a whole: one dark sample in per cent looks like a share.
    """
    every = tuple(found)
    spectra = [each.spectrum for each in every if each.spectrum is not None]
    percent = any(float(spectrum.max()) > _MOST_SHARE for spectrum in spectra)
    out = []
    for each in every:
        if each.spectrum is None:
            out.append(each)
            continue
        shares = np.clip(each.spectrum / (100 if percent else 1), 0.0, None)
        colour = of_spectrum(each.name, shares).lab if each.from_spectrum else each.lab
        out.append(replace(each, lab=colour, spectrum=shares, percent=percent))
    return tuple(out)


def of_spectrum(name: str, spectrum: Array) -> Sample:
    """Return a sample of which only the spectrum is known; its CIELAB is that in daylight."""
    eye = weights()
    colour = lab(xyz(spectrum, eye), eye.sum(axis=0))
    return Sample(name, colour, spectrum, from_spectrum=True)


def read_spectra(text: str, what: str) -> tuple[Sample, ...]:
    """Return the colours of a CSV of spectra or of CIELAB; `what` names it in sentences.

    Cells are parted by commas, semicolons or tabs.

    Raises
    ------
    InputError
        If it is no such table, or is not whole.
    """
    rows = _rows(text, what)
    header = [cell.strip() for cell in rows[0]]
    if header[0].casefold().strip("[]() ") in {"nm", "wavelength", "wavelengths", "lambda"}:
        columns = [_nm(cell) for cell in header[1:]]
        if all(nm is not None for nm in columns) and len(columns) >= _LEAST_BANDS:
            return as_shares(_down(rows, what))
        return as_shares(_across(rows, what))
    return as_shares(_down(rows, what))


def _rows(text: str, what: str) -> list[list[str]]:
    lines = [line for line in text.splitlines() if line.strip()]
    if len(lines) < 2:
        raise InputError(
            tr("{0} holds no table of colours: it has no header and line below it.").format(what)
        )
    mark = max(",;\t", key=lines[0].count)
    refuse_many(max(len(lines), lines[0].count(mark)) - 1, what)
    if max(map(len, lines)) > _MOST_LETTERS:
        raise InputError(
            tr("{0} has a line of over {1} letters; export it again.").format(what, _MOST_LETTERS)
        )
    try:
        return list(csv.reader(io.StringIO("\n".join(lines)), delimiter=mark))
    except csv.Error as error:
        raise InputError(tr("{0} cannot be read as CSV: {1}.").format(what, error)) from None


def _across(rows: list[list[str]], what: str) -> tuple[Sample, ...]:
    """Each column but the first is a sample."""
    numbers = np.array([_numbers(row, len(rows[0]), what) for row in rows[1:]])
    if len(numbers) < _LEAST_BANDS:
        raise InputError(
            tr("{0} has {1} wavelengths; it needs {2} or more.").format(
                what, len(numbers), _LEAST_BANDS
            )
        )
    return tuple(
        of_spectrum(name.strip() or f"colour {k}", on_grid(numbers[:, 0], numbers[:, k]))
        for k, name in enumerate(rows[0][1:], 1)
    )


def _down(rows: list[list[str]], what: str) -> tuple[Sample, ...]:
    """Each row is a sample; headers are wavelengths, or L, a, b."""
    header = [cell.strip() for cell in rows[0]]
    names = next((keys for keys in _LAB_NAMES if all(key in header for key in keys)), None)
    bands = {i: nm for i, cell in enumerate(header) if i and (nm := _nm(cell)) is not None}
    if len(bands) < _LEAST_BANDS and names is None:
        raise InputError(
            tr(
                "{0} has neither spectra (headers 380, 390, …) nor CIELAB (headers L, a, b)."
            ).format(what)
        )
    out: list[Sample] = []
    for row in rows[1:]:
        if len(row) != len(header):
            raise InputError(
                tr("{0}: “{1}” must have {2} cells.").format(what, ",".join(row)[:40], len(header))
            )
        name = row[0].strip() or f"colour {len(out) + 1}"
        if len(bands) >= _LEAST_BANDS:
            values = _numbers(["0", *(row[i] for i in bands)], len(bands) + 1, what)[1:]
            out.append(of_spectrum(name, on_grid(np.array(list(bands.values())), values)))
        elif names is not None:
            cells = ["0", *(row[header.index(key)] for key in names)]
            out.append(Sample(name, _numbers(cells, 4, what)[1:]))
    return tuple(out)


def _numbers(cells: list[str], count: int, what: str) -> Array:
    try:
        out = np.array([float(cell) for cell in cells])
        if len(cells) != count or not np.isfinite(out).all():
            raise ValueError
    except ValueError:
        raise InputError(
            tr("{0}: “{1}” must be {2} cells of numbers.").format(what, ",".join(cells)[:40], count)
        ) from None
    return out


def _nm(cell: str) -> float | None:
    found = _NM.fullmatch(cell.strip())
    nm = float(found[1]) if found else 0.0
    return nm if 300 <= nm <= 900 else None
