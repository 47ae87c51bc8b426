"""Colours with spectra as CGATS text, which measuring programs read and write.

References
----------
ANSI CGATS.17 / ISO 28178, exchange format for colour and process control data: keywords,
BEGIN_DATA_FORMAT, BEGIN_DATA, and fields such as SAMPLE_ID, LAB_L and SPECTRAL_NM; from memory.
"""

from __future__ import annotations

import shlex
from collections.abc import Sequence

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.exchange.colours import Sample
from zesty_veil.light.grid import Array, wavelengths

_LAB = ("LAB_L", "LAB_A", "LAB_B")
_MOST = 100_000


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
    names = [name for line in fields for name in line.split()]
    bands = {i: _nm(name) for i, name in enumerate(names) if _nm(name) is not None}
    if not all(name in names for name in _LAB):
        raise InputError(f"{what} has no LAB_L, LAB_A, LAB_B; export it with CIELAB.")
    out = []
    for line in _between(text, "BEGIN_DATA", "END_DATA", what)[:_MOST]:
        try:
            cells = shlex.split(line)
            if len(cells) != len(names):
                raise ValueError
            lab = np.array([float(cells[names.index(name)]) for name in _LAB])
            values = np.array([float(cells[i]) for i in bands])
            if not np.isfinite([*lab, *values]).all():
                raise ValueError
        except ValueError:
            raise InputError(
                f"{what}: “{line[:40]}” must have {len(names)} cells, numbers where they belong."
            ) from None
        at = names.index("SAMPLE_NAME") if "SAMPLE_NAME" in names else 0
        out.append(Sample(cells[at], lab, _spectrum(values, bands)))
    if not out:
        raise InputError(f"{what} holds no colour.")
    return tuple(out)


def _spectrum(values: Array, bands: dict[int, float | None]) -> Array | None:
    if len(bands) < 2:
        return None
    nm = np.array([v for v in bands.values() if v is not None])
    order = np.argsort(nm)
    found = np.interp(wavelengths(), nm[order], values[order])
    return np.asarray(found / 100 if found.max() > 2 else found)


def _nm(field: str) -> float | None:
    for head in ("SPECTRAL_NM_", "SPECTRAL_NM", "NM_", "NM"):
        if field.startswith(head) and field[len(head) :].isdigit():
            return float(field[len(head) :])
    return None


def _between(text: str, first: str, last: str, what: str) -> list[str]:
    lines = [line.strip() for line in text.splitlines()]
    try:
        start = lines.index(first)
        end = lines.index(last, start)
    except ValueError:
        raise InputError(f"{what} is no CGATS text: {first} and {last} must stand in it.") from None
    return [line for line in lines[start + 1 : end] if line]


def _quoted(words: str) -> str:
    return '"' + " ".join(words.replace('"', "'").split()) + '"'
