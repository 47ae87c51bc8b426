"""Racks as files: JSON with a schema (whole), CSV (what a spreadsheet holds), GPL (colours out)."""

from __future__ import annotations

import csv
import functools
import io
import itertools
from collections.abc import Callable, Iterator, Mapping
from pathlib import Path
from typing import get_args

import msgspec
import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.exchange.colours import Sample
from zesty_veil.exchange.csvtext import plain_cell, row_of
from zesty_veil.exchange.palette import write_gpl
from zesty_veil.files import write_atomically
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import hexadecimal, lab_of, parsed, srgb
from zesty_veil.log.card import Card, Patch
from zesty_veil.log.files import decoded, read_whole
from zesty_veil.log.measured import likely, measured
from zesty_veil.log.racks import MOST_PAINTS, STATUSES, Kept, Rack, Status, check_rack
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.kinds import KINDS, USUAL_TOOL, Kind
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.check import paint_faults
from zesty_veil.plan.edits import usual_coat
from zesty_veil.plan.model import Ground, Passage, Primer
from zesty_veil.predict.field import predict
from zesty_veil.tr import tr

RACK_FORMAT = "zesty-veil rack"
RACK_SCHEMA = 2  # 1 was never released
ENDINGS = (".json", ".csv", ".gpl")
_MOST_MB = 40
_MOST_HEAD = 100_000

_Tell = Callable[[int, int], None]


def told_nobody(done: int, total: int) -> None:
    """Tell nobody how far it is."""


_COLUMNS = (
    "name",
    "maker",
    "kind",
    "pigments",
    "finish",
    "status",
    "notes",
    "white",
    "black",
    "spectra",
)

# Kinds that a table's colours can tell of.
_KINDS: dict[str, Kind] = {kind: kind for kind in get_args(Kind) if not KINDS[kind].unfit}


class _File(msgspec.Struct, forbid_unknown_fields=True):
    format: str
    schema: int
    rack: Rack


def rack_schema() -> bytes:
    """Return the JSON Schema (draft 2020-12) of a rack's file."""
    return msgspec.json.format(msgspec.json.encode(msgspec.json.schema(_File)), indent=1) + b"\n"


def write_rack(rack: Rack, path: Path, tell: _Tell = told_nobody) -> None:
    """Write a rack in the format that the file's name asks for.

    `tell` is called with paints done and in all, and may raise to stop it.

    Raises
    ------
    InputError, FileError
        With one sentence; nothing is half-written then.
    """
    ending = path.suffix.lower()
    if path.name.lower().endswith(".schema.json"):
        write_atomically(path, rack_schema())
    elif ending == ".json":
        file = _File(RACK_FORMAT, RACK_SCHEMA, rack)
        write_atomically(path, msgspec.json.format(msgspec.json.encode(file), indent=1) + b"\n")
    elif ending == ".csv":
        write_atomically(path, _table(rack, tell))
    elif ending == ".gpl":
        write_atomically(path, write_gpl(rack.name, _samples(rack, tell)).encode())
    else:
        raise InputError(tr("{0} must end in one of {1}.").format(path.name, ", ".join(ENDINGS)))


def read_rack(
    path: Path,
    known: Rack | None = None,
    tell: _Tell = told_nobody,
) -> Rack:
    """Return the rack in a JSON or CSV file; a CSV's rack is called as the file is.

    `known` is a rack from which paints are taken that a CSV cannot carry (fluorescent, metallic,
    varnish), by name. `tell` is called with paints done and in all, and may raise to stop it.

    Raises
    ------
    FileError, InputError
        With one sentence that begins with the file's name.
    """
    raw = read_whole(path, _MOST_MB, "rack")
    is_json = raw.lstrip()[:1] == b"{"
    rack = _parsed(raw, path.name) if is_json else _from_table(raw, path, known, tell)
    try:
        check_rack(rack)
    except InputError as error:
        raise InputError(f"{path.name}: {error}") from None
    return rack


def _parsed(raw: bytes, what: str) -> Rack:
    file = decoded(raw, _File, what, "rack")
    if file.format != RACK_FORMAT or file.schema != RACK_SCHEMA:
        raise InputError(
            tr("{0} is no rack of schema {1}; export it with this program.").format(
                what, RACK_SCHEMA
            )
        )
    return file.rack


def _table(rack: Rack, tell: _Tell) -> Iterator[bytes]:
    yield row_of(_COLUMNS)
    finishes = {k: name for name, k in FINISHES.items()}
    for done, kept in enumerate(rack.paints):
        tell(done, len(rack.paints))
        paint = kept.paint
        nearest = min(FINISHES.values(), key=functools.partial(_apart, paint.finish))
        colours = [
            hexadecimal(srgb(usual_colour(paint, ground))[0]) for ground in ("white", "black")
        ]
        # What two colours cannot tell goes along whole, or the file could not be taken in again.
        whole = msgspec.json.encode(paint).decode() if KINDS[paint.kind].unfit else ""
        yield row_of(
            [paint.name, paint.maker, paint.kind, " ".join(paint.pigments), finishes[nearest],
             kept.status, kept.notes, *colours, whole]
        )  # fmt: skip


def _apart(one: float, other: float) -> float:
    return abs(one - other)


def usual_colour(paint: Paint, ground: Primer, passes: int = 1) -> Array:
    """Return the colour (3,) of a usual coat of a paint over a primer, CIELAB in daylight."""
    coat = msgspec.structs.replace(usual_coat(paint), passes=passes)
    passage = Passage("drawdown", ground=Ground(ground), coats=(coat,))
    field = predict(passage, {paint.name: paint}, np.zeros(1), np.zeros(1))
    return np.asarray(field.lab[0, 0])


def _samples(rack: Rack, tell: _Tell) -> list[Sample]:
    out = []
    for done, kept in enumerate(rack.paints):
        tell(done, len(rack.paints))
        out += [
            Sample(f"{kept.paint.name} over {ground}", usual_colour(kept.paint, ground))
            for ground in ("white", "black")
        ]
    return out


def _from_table(raw: bytes, path: Path, known: Rack | None, tell: _Tell) -> Rack:
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise InputError(tr("{0} is no text; give JSON or CSV.").format(path.name)) from None
    head = text[:_MOST_HEAD].splitlines()
    mark = max(",;\t", key=head[0].count) if head else ","
    try:
        table = csv.DictReader(io.StringIO(text), delimiter=mark)
        # One more than a rack holds is enough to refuse the rest unread.
        rows = list(itertools.islice(table, MOST_PAINTS + 1))
    except csv.Error as error:
        raise InputError(tr("{0} cannot be read as CSV: {1}.").format(path.name, error)) from None
    if not rows or "name" not in rows[0] or "kind" not in rows[0]:
        raise InputError(tr(
            "{0} needs a header with name, kind, and perhaps {1}, and a line for each "
            "paint."
        ).format(path.name, ', '.join(_COLUMNS[3:])))  # fmt: skip
    if len(rows) > MOST_PAINTS:
        raise InputError(
            tr("{0} has over {1} paints; take in a part of them.").format(path.name, MOST_PAINTS)
        )
    others: dict[tuple[str, str], Kept] = {
        (kept.paint.name, kept.paint.kind): kept for kept in (known or Rack("")).paints
    }
    found = []
    for number, row in enumerate(rows):
        tell(number, len(rows))
        found.append(_paint(row, f"{path.name}, line {number + 2}", others))
    name = " ".join(path.stem.split())[:60] or "rack"
    return Rack(name, tuple(found))


def _paint(row: dict[str, str | None], what: str, known: Mapping[tuple[str, str], Kept]) -> Kept:
    def cell(name: str) -> str:
        return plain_cell((row.get(name) or "").strip())

    name, kind = cell("name"), cell("kind").lower()
    if not name:
        raise InputError(tr("{0}: the paint has no name; give it one.").format(what))
    if kind not in _KINDS:
        if cell("spectra"):
            return _whole(cell, what)
        if (name, kind) in known:
            return known[name, kind]
        raise InputError(
            tr("{0}: the kind '{1}' must be one of {2}; others come with JSON.").format(
                what, kind, ", ".join(_KINDS)
            )
        )
    status = _status(cell, what)
    finish = cell("finish")
    if finish and finish not in FINISHES:
        raise InputError(
            tr("{0}: the finish '{1}' must be one of {2}.").format(
                what, finish, ", ".join(FINISHES)
            )
        )
    codes = tuple(cell("pigments").replace(",", " ").split())
    patches = []
    for ground in ("white", "black"):
        if cell(ground):
            try:
                rgb = parsed(cell(ground))
            except InputError as error:
                raise InputError(f"{what}: {error}") from None
            L, a, b = (float(v) for v in lab_of(rgb))
            # Colours that a screen cannot show are moved to its edge, and may be deeper.
            edge = bool((rgb <= 0).any() or (rgb >= 1).any())
            patches.append(Patch(ground, 1, (L, a, b), doubt="at the edge" if edge else ""))
    card = Card(
        name,
        _KINDS[kind],
        tuple(patches),
        codes,
        cell("maker"),
        finish,
        tool=USUAL_TOOL[kind],
    )
    try:
        paint = measured([card]).paint if patches else likely(card)
    except InputError as error:
        raise InputError(f"{what}: {error}") from None
    return Kept(paint, status, cell("notes"), (card,) if patches else ())


def _status(cell: Callable[[str], str], what: str) -> Status:
    status = cell("status") or "own"
    for known in STATUSES:
        if status == known:
            return known
    raise InputError(
        tr("{0}: the status '{1}' must be one of {2}.").format(what, status, ", ".join(STATUSES))
    )


def _whole(cell: Callable[[str], str], what: str) -> Kept:
    """Return a paint that goes along with its spectra; its name is the one in the table."""
    paint = decoded(cell("spectra").encode(), Paint, f"{what}, spectra", "")
    paint = msgspec.structs.replace(paint, name=cell("name"))
    for fault in paint_faults(paint):
        raise InputError(f"{what}: {fault}")
    return Kept(paint, _status(cell, what), cell("notes"))
