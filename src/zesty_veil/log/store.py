"""The log as one SQLite file: opening, upgrading, and what all tables share.

Each write is one transaction, flushed to the disk, so that a crash loses at most what is being
written; several windows wait for each other. Before an older file is upgraded it is copied.
"""

from __future__ import annotations

import os
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager, suppress
from pathlib import Path

from zesty_veil.errors import FileError, LogError
from zesty_veil.files import make_private, missing
from zesty_veil.paths import log_path
from zesty_veil.tr import tr

_WAIT_S = 10.0
# Each step leads from one schema to the next; a step that was released is never changed.
MIGRATIONS: tuple[str, ...] = (
    """
    CREATE TABLE record (
        number INTEGER PRIMARY KEY AUTOINCREMENT,
        moment TEXT NOT NULL,
        title TEXT NOT NULL,
        step TEXT NOT NULL,
        words TEXT NOT NULL,
        names TEXT NOT NULL,
        document BLOB NOT NULL
    );
    CREATE INDEX record_moment ON record (moment);
    """,
    """
    ALTER TABLE record ADD COLUMN counts INTEGER NOT NULL DEFAULT 1;
    ALTER TABLE record ADD COLUMN photograph TEXT NOT NULL DEFAULT '';
    ALTER TABLE record ADD COLUMN thumbnail BLOB;
    CREATE TABLE rack (
        name TEXT PRIMARY KEY,
        place INTEGER NOT NULL
    );
    CREATE TABLE racked (
        rack TEXT NOT NULL REFERENCES rack (name) ON DELETE CASCADE ON UPDATE CASCADE,
        paint TEXT NOT NULL,
        place INTEGER NOT NULL,
        document BLOB NOT NULL,
        PRIMARY KEY (rack, paint)
    );
    CREATE TABLE setting (name TEXT PRIMARY KEY, value TEXT NOT NULL);
    """,
    """
    CREATE TABLE guess (
        number INTEGER PRIMARY KEY AUTOINCREMENT,
        moment TEXT NOT NULL,
        document BLOB NOT NULL
    );
    CREATE TABLE learnt (name TEXT PRIMARY KEY, document BLOB NOT NULL);
    """,
    # What is searched and listed lies apart from the documents, which are a hundred times as large.
    # Rows of an older log are reckoned later: that reads every document once.
    """
    CREATE TABLE listing (
        number INTEGER PRIMARY KEY,
        moment TEXT NOT NULL,
        title TEXT NOT NULL,
        step TEXT NOT NULL,
        words TEXT NOT NULL,
        counts INTEGER NOT NULL,
        text TEXT NOT NULL,
        de REAL,
        reckoned INTEGER NOT NULL
    );
    CREATE INDEX listing_moment ON listing (moment, number);
    CREATE INDEX listing_left ON listing (reckoned) WHERE reckoned = 0;
    INSERT INTO listing SELECT number, moment, title, step, words, counts,
        lower(moment || ' ' || title || ' ' || step || ' ' || words || ' ' || names), NULL, 0
        FROM record;
    CREATE TABLE used (
        paint TEXT NOT NULL,
        number INTEGER NOT NULL,
        PRIMARY KEY (paint, number)
    );
    CREATE INDEX used_number ON used (number);
    CREATE TABLE refined (
        rack TEXT NOT NULL,
        paint TEXT NOT NULL,
        document BLOB NOT NULL,
        PRIMARY KEY (rack, paint)
    );
    CREATE TABLE damaged (
        moment TEXT NOT NULL DEFAULT CURRENT_TIMESTAMP,
        what TEXT NOT NULL,
        document BLOB
    );
    """,
)
LOG_SCHEMA = len(MIGRATIONS)


@contextmanager
def opened(path: Path | None = None) -> Iterator[Store]:
    """Open a log for a while, as a worker does; raises LogError as `Store`."""
    store = Store(path)
    try:
        yield store
    finally:
        store.close()


class Store:
    """An open log.

    Parameters
    ----------
    path
        Its file; made, with its folder, if it is not there.

    Raises
    ------
    LogError
        If it cannot be opened, is no log, or is of a newer program.
    """

    def __init__(self, path: Path | None = None) -> None:
        self.path = log_path() if path is None else path
        self.trouble: list[str] = []  # sentences about what was damaged and is set aside
        with self._told():
            make_private(self.path.parent)
            if missing(self.path):
                # SQLite would make it readable by all; its journals take the file's own mode.
                os.close(os.open(self.path, os.O_WRONLY | os.O_CREAT | os.O_CLOEXEC, 0o600))
            self._db = sqlite3.connect(
                self.path, timeout=_WAIT_S, isolation_level=None, check_same_thread=False
            )
            status = self.path.stat()
            self._file = status.st_dev, status.st_ino
        try:
            with self._told():
                self._db.execute("PRAGMA synchronous = FULL")
                self._db.execute("PRAGMA foreign_keys = ON")
                self._upgrade()
                self.indexed = self._index()
        except LogError:
            self._db.close()
            raise

    def parted(self) -> bool:
        """Tell whether the file was deleted, or another one put in its place, while it is open."""
        try:
            now = self.path.stat()
        except OSError:
            return missing(self.path)
        return (now.st_dev, now.st_ino) != self._file

    def write_again(self) -> None:
        """Write what is open to the file's place, where nothing is any more; raises LogError."""
        with self._told():
            make_private(self.path.parent)
            os.close(os.open(self.path, os.O_WRONLY | os.O_CREAT | os.O_CLOEXEC, 0o600))
            with closing(sqlite3.connect(self.path)) as other:
                self._db.backup(other)

    def close(self) -> None:
        """Close the file."""
        self._db.close()

    @contextmanager
    def writing(self) -> Iterator[sqlite3.Connection]:
        """Write within one transaction: all of it or nothing.

        Raises
        ------
        LogError
            If it cannot be written.
        """
        with self._told():
            # IMMEDIATE: whoever writes next waits here, not in the middle.
            self._db.execute("BEGIN IMMEDIATE")
            try:
                yield self._db
                self._db.execute("COMMIT")
            except BaseException:
                with suppress(sqlite3.Error):
                    self._db.execute("ROLLBACK")
                raise

    @contextmanager
    def reading(self) -> Iterator[sqlite3.Connection]:
        """Read; raises LogError if that cannot be done."""
        with self._told():
            yield self._db

    def setting(self, name: str, usual: str = "") -> str:
        """Return a setting kept with the log."""
        with self.reading() as db:
            row = db.execute("SELECT value FROM setting WHERE name = ?", (name,)).fetchone()
        return str(row[0]) if row else usual

    def set(self, name: str, value: str) -> None:
        """Keep a setting."""
        with self.writing() as db:
            db.execute("INSERT OR REPLACE INTO setting VALUES (?, ?)", (name, value))

    def changes(self) -> int:
        """Return a number that differs when somebody else has written."""
        with self.reading() as db:
            return int(db.execute("PRAGMA data_version").fetchone()[0])

    def _upgrade(self) -> None:
        found = self._version()
        if found > LOG_SCHEMA:
            raise LogError(
                tr(
                    "The log {0} is of schema {1}, and this program reads up to {2}; open it "
                    "with a newer version."
                ).format(self.path, found, LOG_SCHEMA)
            )
        if found == LOG_SCHEMA:
            return
        if found:
            self._back_up(found)
        self._db.execute("BEGIN IMMEDIATE")
        # Another window may have upgraded it while this one waited.
        for number, step in enumerate(MIGRATIONS[self._version() :], self._version() + 1):
            for statement in step.split(";"):
                if statement.strip():
                    self._db.execute(statement)
            self._db.execute(f"PRAGMA user_version = {number:d}")
        self._db.execute("COMMIT")

    def _index(self) -> bool:
        """Make sure of an index of all letters; tell whether SQLite here can have one.

        Where it cannot (FTS5 was left out), records are searched one by one. A program without it
        may have written meanwhile, so the counts are compared.
        """
        try:
            self._db.execute(
                "CREATE VIRTUAL TABLE IF NOT EXISTS found USING "
                "fts5(text, content='listing', content_rowid='number', tokenize='trigram')"
            )
            counts = [
                self._db.execute(f"SELECT count(*) FROM {table}").fetchone()[0]
                for table in ("found_docsize", "listing")
            ]
            if counts[0] != counts[1]:
                self._db.execute("INSERT INTO found(found) VALUES ('rebuild')")
        except sqlite3.OperationalError as error:
            if "locked" in str(error) or "readonly" in str(error):
                raise
            return False
        return True

    def _version(self) -> int:
        return int(self._db.execute("PRAGMA user_version").fetchone()[0])

    def _back_up(self, version: int) -> None:
        """Copy the file as it is, by SQLite's own means, so that the copy is whole."""
        copy = self.path.with_name(f"{self.path.name}.schema-{version}.bak")
        with closing(sqlite3.connect(copy)) as other:
            self._db.backup(other)

    @contextmanager
    def _told(self) -> Iterator[None]:
        """Turn what SQLite and the system say into a sentence."""
        try:
            yield
        except sqlite3.OperationalError as error:
            busy = "locked" in str(error)
            what = "is busy in another window; try again" if busy else f"cannot be used: {error}"
            raise LogError(tr("The log {0} {1}.").format(self.path, what)) from None
        except sqlite3.ProgrammingError as error:
            raise LogError(tr("The log {0} cannot be used: {1}").format(self.path, error)) from None
        except sqlite3.DatabaseError:
            raise LogError(
                tr(
                    "{0} is damaged or is no log; move it away, or put a backup in its place."
                ).format(self.path)
            ) from None
        except FileError as error:
            raise LogError(
                tr("The log {0} cannot be opened: {1}").format(self.path, error)
            ) from None
        except OSError as error:
            reason = (error.strerror or type(error).__name__).lower()
            raise LogError(
                tr("The log {0} cannot be opened: {1}.").format(self.path, reason)
            ) from None
