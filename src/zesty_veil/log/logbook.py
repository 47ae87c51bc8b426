"""Records in the log: adding, reading, searching, and taking one out of what is learnt."""

from __future__ import annotations

import hashlib
from pathlib import Path
from typing import NamedTuple

import msgspec

from zesty_veil.errors import LogError
from zesty_veil.files import make_private, write_atomically
from zesty_veil.log.record import Record, check_record
from zesty_veil.log.store import Store
from zesty_veil.plan.edits import used_only

_COLUMNS = "number, counts, photograph, document"


class Line(NamedTuple):
    """What a list of records shows of one."""

    number: int
    when: str
    title: str
    step: str
    words: str
    counts: bool
    thumbnail: bytes | None


class Logbook:
    """The records of a log, the last first."""

    def __init__(self, store: Store) -> None:
        self._store = store

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
            Its number is given here.
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
        document = msgspec.json.encode(msgspec.structs.replace(record, number=0, photograph=kept))
        with self._store.writing() as db:
            done = db.execute(
                "INSERT INTO record (moment, title, step, words, names, document, counts, "
                "photograph, thumbnail) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
                (record.when, record.plan.title, record.step, record.words, _names(record),
                 document, record.counts, kept, thumbnail),
            )  # fmt: skip
            return int(done.lastrowid or 0)

    def all(self) -> tuple[Record, ...]:
        """Return every record, the oldest first."""
        with self._store.reading() as db:
            rows = db.execute(f"SELECT {_COLUMNS} FROM record ORDER BY moment, number").fetchall()
        return tuple(self._record(row) for row in rows)

    def get(self, number: int) -> Record:
        """Return one record; raises LogError if there is none of that number."""
        with self._store.reading() as db:
            row = db.execute(
                f"SELECT {_COLUMNS} FROM record WHERE number = ?", (number,)
            ).fetchone()
        if row is None:
            raise LogError(f"There is no record {number} in the log; 'log list' shows those there.")
        return self._record(row)

    def lines(self, words: str = "") -> tuple[Line, ...]:
        """Return the records in which all of some words occur, the last first.

        Title, step, notes, date and the names of paints and passages are searched.
        """
        with self._store.reading() as db:
            rows = db.execute(
                "SELECT number, moment, title, step, words, names, counts, thumbnail "
                "FROM record ORDER BY moment DESC, number DESC"
            ).fetchall()
        wanted = words.casefold().split()
        found = []
        for number, when, title, step, note, names, counts, thumbnail in rows:
            text = " ".join((when, title, step, note, names)).casefold()
            if all(word in text for word in wanted):
                found.append(Line(number, when, title, step, note, bool(counts), thumbnail))
        return tuple(found)

    def count(self, number: int, counts: bool) -> None:
        """Let paints and hand learn from a record, or not; raises LogError."""
        self.get(number)
        with self._store.writing() as db:
            db.execute("UPDATE record SET counts = ? WHERE number = ?", (counts, number))

    def remove(self, number: int) -> None:
        """Take a record out of the log for good, and its photograph; raises LogError."""
        photograph = self.get(number).photograph
        with self._store.writing() as db:
            db.execute("DELETE FROM record WHERE number = ?", (number,))
            used = db.execute(
                "SELECT count(*) FROM record WHERE photograph = ?", (photograph,)
            ).fetchone()[0]
        if photograph and not used:
            self.photograph_path(photograph).unlink(missing_ok=True)

    def photograph_path(self, name: str) -> Path:
        """Return where a photograph is kept."""
        return self._store.path.parent / "photographs" / Path(name).name

    def _keep(self, ending: str, raw: bytes) -> str:
        # The same photograph twice is kept once.
        name = hashlib.sha256(raw).hexdigest()[:24] + ending.lower()
        path = self.photograph_path(name)
        if not path.exists():
            make_private(path.parent)
            write_atomically(path, raw, private=True)
        return name

    def _record(self, row: tuple[int, int, str, bytes]) -> Record:
        number, counts, photograph, document = row
        try:
            record = msgspec.json.decode(document, type=Record)
        except msgspec.DecodeError:
            raise LogError(
                f"Record {number} of the log is damaged; take it out with 'log remove {number}'."
            ) from None
        return msgspec.structs.replace(
            record, number=number, counts=bool(counts), photograph=photograph
        )


def _names(record: Record) -> str:
    """Return what a record can be found by besides its words: its paints and passages."""
    used = used_only(record.plan).paints
    return " ".join([*(p.name for p in used), *(p.name for p in record.plan.passages)])
