"""Records in the log: adding, reading, searching, and taking one out of what is learnt."""

from __future__ import annotations

import hashlib
import sqlite3
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import NamedTuple

import msgspec
import numpy as np

from zesty_veil.errors import LogError
from zesty_veil.files import is_there, make_private, missing, write_atomically
from zesty_veil.log.judge import TrendPoint, delta_components, running
from zesty_veil.log.record import RECORD_SCHEMA, Record, check_record
from zesty_veil.log.searching import query_for
from zesty_veil.log.store import Store
from zesty_veil.plan.edits import used_only
from zesty_veil.tr import tr

_COLUMNS = "number, counts, photograph, document"
_AT_ONCE = 32  # documents read in one go; each may be some hundred kilobytes
MOST_POINTS = 400


class Line(NamedTuple):
    """What a list of records shows of one."""

    number: int
    when: str
    title: str
    step: str
    words: str
    counts: bool
    thumbnail: bytes | None


class Removed(NamedTuple):
    """A record that was taken out, whole, so that it can be put back."""

    record: Record
    thumbnail: bytes | None
    photograph: bytes | None


class Logbook:
    """The records of a log, the last first."""

    def __init__(self, store: Store) -> None:
        self._store = store
        self._order: tuple[int, tuple[int, ...]] = (-1, ())  # all numbers, as of some change

    def add(
        self,
        record: Record,
        photograph: tuple[str, bytes] | None = None,
        thumbnail: bytes | None = None,
    ) -> int:
        """Write a record down and return its number.

        Parameters
        ----------
        record
            Its number is given here, unless it has one that is free.
        photograph
            File ending and bytes of a photograph to keep beside the log.
        thumbnail
            A small PNG of it.

        Raises
        ------
        InputError, LogError, FileError
            If the record is impossible or cannot be written; nothing is written then.
        """
        check_record(record)
        kept = self._keep(*photograph) if photograph is not None else ""
        document = msgspec.json.encode(
            msgspec.structs.replace(record, number=0, photograph=kept, schema=RECORD_SCHEMA)
        )
        with self._store.writing() as db:
            done = db.execute(
                "INSERT INTO record (number, moment, title, step, words, names, document, counts, "
                "photograph, thumbnail) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
                (record.number or None, record.when, record.plan.title, record.step, record.words,
                 _names(record), document, record.counts, kept, thumbnail),
            )  # fmt: skip
            number = int(done.lastrowid or 0)
            self._list(db, number, record)
            return number

    def put_back(self, removed: Removed) -> int:
        """Put a record back that was taken out; raises as `add`."""
        name = removed.record.photograph
        photograph = None
        if removed.photograph is not None:
            photograph = (Path(name).suffix, removed.photograph)
        return self.add(removed.record, photograph, removed.thumbnail)

    def all(self) -> tuple[Record, ...]:
        """Return every record that can be read, the oldest first."""
        return tuple(self.each(reversed(self.numbers())))

    def each(self, numbers: Iterator[int] | Sequence[int]) -> Iterator[Record]:
        """Yield records one by one, as many are more than memory holds; damaged ones are left out.

        Raises
        ------
        LogError
            If the log cannot be read.
        """
        wanted = list(numbers)
        for start in range(0, len(wanted), _AT_ONCE):
            some = wanted[start : start + _AT_ONCE]
            marks = ",".join("?" * len(some))
            with self._store.reading() as db:
                rows = db.execute(
                    f"SELECT {_COLUMNS} FROM record WHERE number IN ({marks})", some
                ).fetchall()
            found = {row[0]: row for row in rows}
            for number in some:
                if number not in found:
                    continue
                try:
                    yield _record(found[number])
                except LogError:
                    continue  # it is told where it is looked at

    def get(self, number: int) -> Record:
        """Return one record; raises LogError if there is none of that number, or it is damaged."""
        with self._store.reading() as db:
            row = db.execute(
                f"SELECT {_COLUMNS} FROM record WHERE number = ?", (number,)
            ).fetchone()
        if row is None:
            raise LogError(
                tr("There is no record {0} in the log; 'log list' shows those there.").format(
                    number
                )
            )
        return _record(row)

    def numbers(self, words: str = "") -> tuple[int, ...]:
        """Return the records in which all of some words occur, the last first.

        Title, step, notes, date and the names of paints and passages are searched, for parts of
        words too, whatever their case.
        """
        order = self._all_numbers()
        query, given = query_for(words, self._store.indexed)
        if not query:
            return order
        with self._store.reading() as db:
            found = {row[0] for row in db.execute(query, given)}
        # To sort tens of thousands of rows takes longer than to look each of them up.
        return tuple(number for number in order if number in found)

    def _all_numbers(self) -> tuple[int, ...]:
        """Return all numbers, the last first; kept as long as nobody writes."""
        with self._store.reading() as db:
            change = hash((self._store.changes(), db.total_changes))
            if self._order[0] != change:
                rows = db.execute(
                    "SELECT number FROM listing ORDER BY moment DESC, number DESC"
                ).fetchall()
                self._order = change, tuple(row[0] for row in rows)
        return self._order[1]

    def page(self, numbers: Sequence[int]) -> tuple[Line, ...]:
        """Return what a list shows of some records, in their order; those that are gone are not."""
        marks = ",".join("?" * len(numbers))
        with self._store.reading() as db:
            rows = db.execute(
                "SELECT listing.number, listing.moment, listing.title, listing.step, "
                "listing.words, listing.counts, record.thumbnail FROM listing JOIN record "
                f"ON record.number = listing.number WHERE listing.number IN ({marks})",
                list(numbers),
            ).fetchall()
        found = {
            row[0]: Line(row[0], row[1], row[2], row[3], row[4], bool(row[5]), row[6])
            for row in rows
        }
        return tuple(found[number] for number in numbers if number in found)

    def lines(self, words: str = "") -> tuple[Line, ...]:
        """Return what a list shows of all records in which some words occur, the last first."""
        numbers = self.numbers(words)
        starts = range(0, len(numbers), _AT_ONCE)
        return tuple(line for i in starts for line in self.page(numbers[i : i + _AT_ONCE]))

    def trend(self) -> tuple[TrendPoint, ...]:
        """Return how far predictions were off, record by record, the oldest of the last first."""
        with self._store.reading() as db:
            rows = db.execute(
                "SELECT moment, de FROM listing WHERE de IS NOT NULL "
                f"ORDER BY moment DESC, number DESC LIMIT {MOST_POINTS}"
            ).fetchall()
        return running([(str(when), float(de)) for when, de in reversed(rows)])

    def titles(self) -> dict[str, tuple[str, ...]]:
        """Return by paint the titles of the plans that were logged with it."""
        with self._store.reading() as db:
            rows = db.execute(
                "SELECT DISTINCT used.paint, listing.title FROM used JOIN listing "
                "ON listing.number = used.number"
            ).fetchall()
        out: dict[str, list[str]] = {}
        for paint, title in rows:
            out.setdefault(paint, []).append(title)
        return {paint: tuple(titles) for paint, titles in out.items()}

    def that_teach(self, each_paint: int, most: int) -> tuple[int, ...]:
        """Return the newest records that count, enough for each paint, the newest first.

        each_paint : how many of each paint. most : how many in all.
        """
        with self._store.reading() as db:
            rows = db.execute(
                "SELECT DISTINCT number, moment FROM (SELECT used.number AS number, "
                "listing.moment AS moment, row_number() OVER (PARTITION BY used.paint "
                "ORDER BY listing.moment DESC, used.number DESC) AS nth FROM used JOIN listing "
                "ON listing.number = used.number WHERE listing.counts AND listing.de IS NOT NULL) "
                "WHERE nth <= ? ORDER BY moment DESC, number DESC LIMIT ?",
                (each_paint, most),
            ).fetchall()
        return tuple(row[0] for row in rows)

    def reckon(self, most: int = _AT_ONCE) -> int:
        """Reckon what lists and trends show of records of an older program; return how many."""
        with self._store.reading() as db:
            rows = db.execute(
                f"SELECT number FROM listing WHERE reckoned = 0 LIMIT {most:d}"
            ).fetchall()
        numbers = [row[0] for row in rows]
        if not numbers:
            return 0
        records = {record.number: record for record in self.each(numbers)}
        with self._store.writing() as db:
            for number in numbers:
                if number in records:
                    self._unlist(db, number)
                    self._list(db, number, records[number])
                else:
                    db.execute("UPDATE listing SET reckoned = 1 WHERE number = ?", (number,))
        return len(numbers)

    def count(self, number: int, counts: bool) -> None:
        """Let paints and hand learn from a record, or not; raises LogError."""
        self.get(number)
        with self._store.writing() as db:
            for table in ("record", "listing"):
                db.execute(f"UPDATE {table} SET counts = ? WHERE number = ?", (counts, number))

    def remove(self, number: int) -> Removed | None:
        """Take a record out of the log, and its photograph, and return them; raises LogError.

        A damaged record is taken out too, and cannot be put back.
        """
        try:
            record: Record | None = self.get(number)
        except LogError:
            record = None
        with self._store.writing() as db:
            row = db.execute(
                "SELECT photograph, thumbnail FROM record WHERE number = ?", (number,)
            ).fetchone()
            if row is None:
                raise LogError(
                    tr("There is no record {0} in the log; 'log list' shows those there.").format(
                        number
                    )
                )
            photograph, thumbnail = row
            db.execute("DELETE FROM record WHERE number = ?", (number,))
            self._unlist(db, number)
            used = db.execute(
                "SELECT count(*) FROM record WHERE photograph = ?", (photograph,)
            ).fetchone()[0]
        path = self.photograph_path(photograph) if photograph else None
        raw = path.read_bytes() if path is not None and is_there(path) else None
        if path is not None and not used:
            path.unlink(missing_ok=True)
        return None if record is None else Removed(record, thumbnail, raw)

    def photograph_path(self, name: str) -> Path:
        """Return where a photograph is kept."""
        return photograph_path(self._store.path, name)

    def _keep(self, ending: str, raw: bytes) -> str:
        # The same photograph twice is kept once.
        name = hashlib.sha256(raw).hexdigest()[:24] + ending.lower()
        path = self.photograph_path(name)
        if missing(path):
            make_private(path.parent)
            write_atomically(path, raw, private=True)
        return name

    def _list(self, db: sqlite3.Connection, number: int, record: Record) -> None:
        """Write down what is listed and searched of a record."""
        title, names = record.plan.title, _names(record)
        text = " ".join((record.when, title, record.step, record.words, names)).casefold()
        des = [delta_components(seen).de for seen in record.seen]
        de = float(np.median(des)) if des else None
        db.execute(
            "INSERT INTO listing VALUES (?, ?, ?, ?, ?, ?, ?, ?, 1)",
            (number, record.when, title, record.step, record.words, record.counts, text, de),
        )
        paints = {paint.name for paint in used_only(record.plan).paints}
        db.executemany(
            "INSERT OR IGNORE INTO used VALUES (?, ?)", [(name, number) for name in sorted(paints)]
        )
        if self._store.indexed:
            db.execute("INSERT INTO found (rowid, text) VALUES (?, ?)", (number, text))

    def _unlist(self, db: sqlite3.Connection, number: int) -> None:
        if self._store.indexed:
            db.execute(
                "INSERT INTO found (found, rowid, text) "
                "SELECT 'delete', number, text FROM listing WHERE number = ?",
                (number,),
            )
        db.execute("DELETE FROM listing WHERE number = ?", (number,))
        db.execute("DELETE FROM used WHERE number = ?", (number,))


class _Head(msgspec.Struct):
    """What is read first: enough to tell whether the rest can be read."""

    schema: int = 1


def photograph_path(log: Path, name: str) -> Path:
    """Return where a photograph of a log is kept."""
    return log.parent / "photographs" / Path(name).name


def _record(row: tuple[int, int, str, bytes]) -> Record:
    number, counts, photograph, document = row
    try:
        found = msgspec.json.decode(document, type=_Head).schema
        if found > RECORD_SCHEMA:
            raise LogError(
                tr(
                    "Record {0} of the log is of schema {1}, and this program reads up to {2}; "
                    "look at it with a newer version."
                ).format(number, found, RECORD_SCHEMA)
            )
        record = msgspec.json.decode(document, type=Record)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError, TypeError):
        raise LogError(
            tr("Record {0} of the log is damaged; take it out with 'log remove {1}'.").format(
                number, number
            )
        ) from None
    return msgspec.structs.replace(
        record, number=number, counts=bool(counts), photograph=str(photograph)
    )


def _names(record: Record) -> str:
    """Return what a record can be found by besides its words: its paints and passages."""
    used = used_only(record.plan).paints
    return " ".join([*(p.name for p in used), *(p.name for p in record.plan.passages)])
