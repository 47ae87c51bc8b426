"""The log as a file: CSV with a line for each observed colour, or JSON with everything."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from pathlib import Path

import msgspec

from zesty_veil.errors import InputError
from zesty_veil.files import write_atomically
from zesty_veil.log.judge import apart
from zesty_veil.log.record import Record

FORMAT = "zesty-veil log"
SCHEMA = 1
_COLUMNS = (
    "record", "when", "plan", "step", "minutes", "celsius", "humidity", "hand", "counts", "words",
    "passage", "mm", "site", "coats", "L", "a", "b", "how", "predicted L", "predicted a",
    "predicted b", "dE00", "lightness", "chroma", "hue",
)  # fmt: skip


class _File(msgspec.Struct, forbid_unknown_fields=True):
    format: str
    schema: int
    records: tuple[Record, ...]


def write_log(records: Sequence[Record], path: Path) -> int:
    """Write records in the format that the file's name asks for, and return how many.

    Raises
    ------
    InputError, FileError
        With one sentence; nothing is half-written then.
    """
    ending = path.suffix.lower()
    if ending == ".json":
        file = _File(FORMAT, SCHEMA, tuple(records))
        raw = msgspec.json.format(msgspec.json.encode(file), indent=1) + b"\n"
    elif ending == ".csv":
        raw = _table(records).encode()
    else:
        raise InputError(f"{path.name} must end in .csv or .json.")
    write_atomically(path, raw)
    return len(records)


def _table(records: Sequence[Record]) -> str:
    out = io.StringIO()
    rows = csv.writer(out)
    rows.writerow(_COLUMNS)
    for record in records:
        air = record.conditions
        head = [record.number, record.when, record.plan.title, record.step, record.minutes,
                air.celsius, air.humidity, record.plan.hand, int(record.counts),
                record.words]  # fmt: skip
        lengths = {p.name: p.length_mm for p in record.plan.passages}
        for seen in record.seen:
            far = apart(seen)
            numbers = (*seen.lab, seen.how, *seen.predicted)
            rows.writerow(
                [*head, seen.passage, f"{seen.place * lengths.get(seen.passage, 1.0):.2f}",
                 seen.site, seen.coats,
                 *(f"{v:.2f}" if isinstance(v, float) else v for v in numbers),
                 *(f"{v:.2f}" for v in (far.de, far.lightness, far.chroma, far.hue))]
            )  # fmt: skip
        if not record.seen:
            rows.writerow([*head, *[""] * (len(_COLUMNS) - len(head))])
    return out.getvalue()
