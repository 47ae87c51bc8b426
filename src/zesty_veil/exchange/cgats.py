"""Colours with spectra as CGATS text, which measuring programs read and write.

References
----------
ANSI CGATS.17 / ISO 28178, exchange format for colour and process control data: keywords,
BEGIN_DATA_FORMAT, BEGIN_DATA, and fields such as SAMPLE_ID, LAB_L and SPECTRAL_NM; from memory.
"""

from __future__ import annotations

import re
from collections.abc import Sequence

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.exchange.colours import Sample, refuse_many
from zesty_veil.exchange.spectra import as_shares, of_spectrum, on_grid
from zesty_veil.light.cielab import lab
from zesty_veil.light.grid import Array, wavelengths
from zesty_veil.light.illuminant import LIGHTS, white
from zesty_veil.tr import tr

_LAB = ("LAB_L", "LAB_A", "LAB_B")
_XYZ = ("XYZ_X", "XYZ_Y", "XYZ_Z")
_LEAST_BANDS = 8
_CELL = re.compile(r"""(?:"([^"]*)"|(?<!\S)'([^']*)'(?!\S)|(\S+))(?=\s|$)""")
_MOST_FIELDS = 1000


def write_cgats(title: str, light: str, found: Sequence[Sample]) -> str:
    """Return colours, all with spectra or none, as the text of a CGATS file."""
    spectral = all(one.spectrum is not None for one in found)
    bands = [f"SPECTRAL_NM{nm:.0f}" for nm in wavelengths()] if spectral else []
    fields = ["SAMPLE_ID", "SAMPLE_NAME", *_LAB, *bands]
    lines = [
        "CGATS.17",
        'ORIGINATOR "Zesty Veil"',
        f"DESCRIPTOR {_quoted(title)}",
        f'WEIGHTING_FUNCTION "ILLUMINANT, {light}"',
        'WEIGHTING_FUNCTION "OBSERVER, 2 degree"',
        f"NUMBER_OF_FIELDS {len(fields)}",
        "BEGIN_DATA_FORMAT",
        " ".join(fields),
        "END_DATA_FORMAT",
        f"NUMBER_OF_SETS {len(found)}",
        "BEGIN_DATA",
    ]
    for number, one in enumerate(found, 1):
        numbers = [f"{v:.4f}" for v in one.lab]
        if spectral and one.spectrum is not None:
            numbers += [f"{v:.6f}" for v in one.spectrum]
        lines.append(" ".join([str(number), _quoted(one.name), *numbers]))
    return "\n".join([*lines, "END_DATA"]) + "\n"


def read_cgats(text: str, what: str) -> tuple[Sample, ...]:
    """Return the colours of a CGATS file; `what` names it in sentences.

    Spectra on other wavelengths are brought to ours; those in per cent are divided by 100.

    Raises
    ------
    InputError
        If it is no such file, or is not whole.
    """
    fields = _between(text, "BEGIN_DATA_FORMAT", "END_DATA_FORMAT", what)
    names = [name.upper() for line in fields for name in line.split()]
    if len(names) > _MOST_FIELDS:
        raise InputError(
            tr("{0} has {1} fields, and no instrument has; export it again.").format(
                what, len(names)
            )
        )
    bands = {i: nm for i, name in enumerate(names) if (nm := _nm(name)) is not None}
    three = next((keys for keys in (_LAB, _XYZ) if all(key in names for key in keys)), None)
    if three is None and len(bands) < _LEAST_BANDS:
        raise InputError(
            tr(
                "{0} has no LAB_L, LAB_A, LAB_B, no XYZ and no spectra; export it with one of them."
            ).format(what)
        )
    light = _light(text)
    out = []
    lines = _between(text, "BEGIN_DATA", "END_DATA", what)
    refuse_many(len(lines), what)
    at = names.index("SAMPLE_NAME") if "SAMPLE_NAME" in names else 0
    places = [names.index(name) for name in three or ()]
    for line in lines:
        try:
            cells = _cells(line)
            if len(cells) != len(names):
                raise ValueError
            numbers = np.array([float(cells[place]) for place in places])
            values = np.array([float(cells[i]) for i in bands])
            if not np.isfinite([*numbers, *values]).all():
                raise ValueError
        except ValueError:
            raise InputError(
                tr("{0}: “{1}” must have {2} cells, numbers where they belong.").format(
                    what, line[:40], len(names)
                )
            ) from None
        out.append(_sample(cells[at], numbers, three, _spectrum(values, bands), light))
    if not out:
        raise InputError(tr("{0} holds no colour.").format(what))
    return as_shares(out)


def _cells(line: str) -> list[str]:
    """Return the cells of a line, which blanks part except within quotes.

    A quote ends at the next one; nothing else, such as a backslash, has a meaning in it.
    """
    if '"' not in line and "'" not in line:
        return line.split()
    return [quoted or single or plain for quoted, single, plain in _CELL.findall(line)]


def _sample(
    name: str, numbers: Array, three: tuple[str, ...] | None, spectrum: Array | None, light: str
) -> Sample:
    if three == _LAB:
        return Sample(name, numbers, spectrum, light)
    if three == _XYZ:
        return Sample(name, lab(numbers / 100, white(light)), spectrum, light)
    assert spectrum is not None  # fewer bands than that were refused
    return of_spectrum(name, spectrum)


def _spectrum(values: Array, bands: dict[int, float]) -> Array | None:
    if len(bands) < _LEAST_BANDS:
        return None
    return on_grid(np.array(list(bands.values())), values)


def _nm(field: str) -> float | None:
    for head in ("SPECTRAL_NM_", "SPECTRAL_NM", "SPECTRAL_", "NM_", "NM", "R_", "R"):
        if field.startswith(head) and field[len(head) :].isdigit() and len(field) > len(head) + 2:
            return float(field[len(head) :])
    return None


def _light(text: str) -> str:
    """Return the illuminant that a file names; D50 where it names none, as ISO 13655 has it."""
    for line in text.splitlines():
        words = line.upper()
        if words.startswith(("WEIGHTING_FUNCTION", "ILLUMINATION_NAME", "ILLUMINANT")):
            for name in LIGHTS:
                if re.search(rf"\b{name}\b", words):
                    return name
    return "D50"


def _between(text: str, first: str, last: str, what: str) -> list[str]:
    lines = [line.strip() for line in text.splitlines()]
    lines = [line for line in lines if not line.startswith("#")]
    try:
        start = lines.index(first)
        end = lines.index(last, start)
    except ValueError:
        raise InputError(
            tr("{0} is no CGATS text: {1} and {2} must stand in it.").format(what, first, last)
        ) from None
    return [line for line in lines[start + 1 : end] if line]


def _quoted(words: str) -> str:
    return '"' + " ".join(words.replace('"', "'").split()) + '"'
