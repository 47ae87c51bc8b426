"""The log as a file: CSV with a line for each observed colour, or JSON with everything."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from pathlib import Path

import msgspec

from zesty_veil.errors import InputError
from zesty_veil.exchange.csvtext import row_of
from zesty_veil.files import write_atomically
from zesty_veil.log.judge import delta_components
from zesty_veil.log.record import Record
from zesty_veil.tr import tr

LOG_FORMAT = "zesty-veil log"
LOG_FILE_SCHEMA = 1
_COLUMNS = (
    "record", "when", "plan", "step", "minutes", "celsius", "humidity percent", "hand", "counts",
    "words",
    "passage", "mm", "site", "coats", "L", "a", "b", "how", "predicted L", "predicted a",
    "predicted b", "dE00", "lightness", "chroma", "hue",
)  # fmt: skip


def write_log(records: Iterable[Record], path: Path) -> int:
    """Write records in the format that the file's name asks for, and return how many.

    They are taken and written one by one, as all together may be more than memory holds.

    Raises
    ------
    InputError, FileError
        With one sentence; nothing is half-written then.
    """
    makers = {".json": _document, ".csv": _table}
    make = makers.get(path.suffix.lower())
    if make is None:
        raise InputError(tr("{0} must end in .csv or .json.").format(path.name))
    count = 0

    def counted() -> Iterator[Record]:
        nonlocal count
        for record in records:
            count += 1
            yield record

    write_atomically(path, make(counted()))
    return count


def _document(records: Iterable[Record]) -> Iterator[bytes]:
    yield f'{{"format": "{LOG_FORMAT}", "schema": {LOG_FILE_SCHEMA}, "records": ['.encode()
    mark = b"\n"
    for record in records:
        yield mark + msgspec.json.encode(record)
        mark = b",\n"
    yield b"\n]}\n"


def _table(records: Iterable[Record]) -> Iterator[bytes]:
    yield row_of(_COLUMNS)
    for record in records:
        air = record.conditions
        humidity = None if air.humidity is None else round(100 * air.humidity, 1)
        head = [record.number, record.when, record.plan.title, record.step, record.minutes,
                air.celsius, humidity, record.plan.hand, int(record.counts),
                record.words]  # fmt: skip
        lengths = {p.name: p.length_mm for p in record.plan.passages}
        for seen in record.seen:
            far = delta_components(seen)
            numbers = (*seen.lab, seen.how, *seen.predicted)
            yield row_of(
                [*head, seen.passage, f"{seen.place * lengths.get(seen.passage, 1.0):.2f}",
                 seen.site, seen.coats,
                 *(f"{v:.2f}" if isinstance(v, float) else v for v in numbers),
                 *(f"{v:.2f}" for v in (far.de, far.lightness, far.chroma, far.hue))]
            )  # fmt: skip
        if not record.seen:
            yield row_of([*head, *[""] * (len(_COLUMNS) - len(head))])
