"""Racks in the log: several of them, each with its paints, what is known of them, and notes."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from typing import Literal

import msgspec
from msgspec.structs import replace

from zesty_veil.errors import InputError, LogError, PaintError
from zesty_veil.kept import one_of_equals
from zesty_veil.log.card import Card
from zesty_veil.log.store import Store
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.check import paint_faults
from zesty_veil.tr import listed, tr

Status = Literal["own", "wanted", "empty"]
STATUSES: tuple[Status, ...] = ("own", "wanted", "empty")
DEMO = "Brackwater"
MOST_PAINTS = 2000
_MOST_NAME = 60
_MOST_TOLD = 3


class Kept(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A paint of a rack: whether it is at hand, notes, and the cards it was measured from.

    `before` is the paint as it was before it was measured, so that measuring can be taken back.
    """

    paint: Paint
    status: Status = "own"
    notes: str = ""
    cards: tuple[Card, ...] = ()
    before: Paint | None = None


class Rack(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A rack by its name, with its paints in order."""

    name: str
    paints: tuple[Kept, ...] = ()

    def find(self, name: str) -> Kept:
        """Return the paint of exactly that name; raises PaintError if there is none."""
        for kept in self.paints:
            if kept.paint.name == name:
                return kept
        raise PaintError(
            tr("There is no paint '{0}' in the rack {1}; see 'rack list'.").format(name, self.name)
        )


class Racks:
    """The racks of a log. The demo rack is there from the start, and can be changed like any."""

    def __init__(self, store: Store) -> None:
        self._store = store
        # Paints as they were read last, by their documents: most stay the same between two reads,
        # and what is drawn of them is kept by the very paint.
        self._read: dict[bytes, Kept] = {}
        with store.reading() as db:
            empty = db.execute("SELECT count(*) FROM rack").fetchone()[0] == 0
        if empty:
            self.put(Rack(DEMO, tuple(Kept(paint) for paint in demo_rack())))

    def names(self) -> tuple[str, ...]:
        """Return the names of the racks, in the order in which they were made."""
        with self._store.reading() as db:
            return tuple(row[0] for row in db.execute("SELECT name FROM rack ORDER BY place"))

    def current(self) -> str:
        """Return the name of the rack in use."""
        names = self.names()
        chosen = self._store.setting("rack", names[0] if names else DEMO)
        return chosen if chosen in names else names[0]

    def choose(self, name: str) -> None:
        """Use another rack; raises LogError if there is none of that name."""
        self._check(name)
        self._store.set("rack", name)

    def get(self, name: str | None = None) -> Rack:
        """Return a rack, by default the one in use; raises LogError."""
        name = self.current() if name is None else name
        self._check(name)
        with self._store.reading() as db:
            rows = db.execute(
                "SELECT place, paint, document FROM racked WHERE rack = ? ORDER BY place, paint",
                (name,),
            ).fetchall()
        read, damaged = {}, []
        for place, paint, raw in rows:
            # SQLite keeps whatever was put there; only bytes can be a document.
            document = raw if isinstance(raw, bytes) else str(raw).encode()
            try:
                read[place, paint] = document, self._read.get(document) or _decoded(document)
            except (msgspec.DecodeError, UnicodeDecodeError, RecursionError, InputError):
                damaged.append((paint, document))
        self._read = dict(read.values())
        self._set_aside(name, damaged)
        return Rack(name, tuple(kept for _, kept in read.values()))

    def _set_aside(self, rack: str, damaged: list[tuple[str, bytes]]) -> None:
        """Move paints that cannot be read out of a rack, and have it said once."""
        if not damaged:
            return
        with self._store.writing() as db:
            for paint, document in damaged:
                db.execute(
                    "INSERT INTO damaged (what, document) VALUES (?, ?)",
                    (f"paint {paint} of {rack}", document),
                )
                db.execute("DELETE FROM racked WHERE rack = ? AND paint = ?", (rack, paint))
        names = [paint for paint, _ in damaged[:_MOST_TOLD]]
        if len(damaged) > _MOST_TOLD:
            names.append(tr("{0} more").format(len(damaged) - _MOST_TOLD))
        words = tr("{0} in the rack {1} couldn't be read, and was set aside. Import it again.")
        self._store.trouble.append(words.format(listed(names), rack))

    def put(self, rack: Rack) -> None:
        """Keep a rack, in place of one of that name.

        Raises
        ------
        InputError, LogError
            If it has no name, or two paints of one name; nothing changes then.
        """
        check_rack(rack)
        with self._store.writing() as db:
            _write(db, rack)

    def remove(self, name: str) -> None:
        """Take a rack away; raises LogError if it is the last one."""
        self._check(name)
        with self._store.writing() as db:
            if db.execute("SELECT count(*) FROM rack").fetchone()[0] == 1:
                raise LogError(tr("This is the only rack; make another before taking it away."))
            db.execute("DELETE FROM rack WHERE name = ?", (name,))

    def change(self, rack: str, paint: str, edit: Callable[[Kept], Kept]) -> Kept:
        """Change one paint of a rack and return it; what others changed meanwhile stays.

        Raises
        ------
        PaintError, LogError
            If there is no such paint or rack.
        """
        with self._store.writing() as db:
            row = db.execute(
                "SELECT document FROM racked WHERE rack = ? AND paint = ?", (rack, paint)
            ).fetchone()
            if row is None:
                raise PaintError(tr("There is no paint '{0}' in the rack {1}.").format(paint, rack))
            kept = edit(msgspec.json.decode(row[0], type=Kept))
            if kept.paint.name != paint:
                raise InputError(tr("A paint keeps its name; add it anew under another."))
            db.execute(
                "UPDATE racked SET document = ? WHERE rack = ? AND paint = ?",
                (msgspec.json.encode(kept), rack, paint),
            )
        return kept

    def add(self, rack: str, kept: Kept) -> None:
        """Add a paint to a rack; raises InputError if its name is there, LogError."""
        self._check(rack)
        check_rack(Rack(rack, (kept,)))
        with self._store.writing() as db:
            try:
                db.execute(
                    "INSERT INTO racked SELECT ?, ?, coalesce(max(place), 0) + 1, ? FROM racked "
                    "WHERE rack = ?",
                    (rack, kept.paint.name, msgspec.json.encode(kept), rack),
                )
            except sqlite3.IntegrityError:
                raise InputError(
                    tr(
                        "The rack {0} has a paint '{1}' already; give this one another name."
                    ).format(rack, kept.paint.name)
                ) from None

    def drop(self, rack: str, paint: str) -> tuple[Kept, int] | None:
        """Take a paint out of a rack; return it with its place, for `put_back`, if it was there."""
        with self._store.writing() as db:
            row = db.execute(
                "SELECT document, place FROM racked WHERE rack = ? AND paint = ?", (rack, paint)
            ).fetchone()
            db.execute("DELETE FROM racked WHERE rack = ? AND paint = ?", (rack, paint))
        return None if row is None else (msgspec.json.decode(row[0], type=Kept), int(row[1]))

    def put_back(self, rack: str, kept: Kept, place: int) -> None:
        """Put a paint back where it was; raises InputError if its name is taken, LogError."""
        self._check(rack)
        with self._store.writing() as db:
            if db.execute(
                "SELECT 1 FROM racked WHERE rack = ? AND paint = ?", (rack, kept.paint.name)
            ).fetchone():
                raise InputError(
                    tr("The rack {0} has a paint '{1}' again already.").format(
                        rack, kept.paint.name
                    )
                )
            db.execute(
                "INSERT INTO racked VALUES (?, ?, ?, ?)",
                (rack, kept.paint.name, place, msgspec.json.encode(kept)),
            )

    def measure(self, rack: str, paint: Paint, cards: tuple[Card, ...]) -> Kept:
        """Keep what cards told of a paint, new or in the rack; what it was before can come back."""
        try:
            return self.change(
                rack,
                paint.name,
                lambda kept: replace(
                    kept, paint=paint, cards=cards, before=kept.before or kept.paint
                ),
            )
        except PaintError:
            kept = Kept(paint, cards=cards)
            self.add(rack, kept)
            return kept

    def unmeasure(self, rack: str, paint: str) -> Kept:
        """Take a paint's measurement back; raises InputError if it was never otherwise."""

        def back(kept: Kept) -> Kept:
            if kept.before is None:
                raise InputError(
                    tr("{0} was not measured over something else; nothing to undo.").format(paint)
                )
            return replace(kept, paint=kept.before, before=None, cards=())

        return self.change(rack, paint, back)

    def _check(self, name: str) -> None:
        names = self.names()
        if name not in names:
            raise LogError(
                tr("There is no rack '{0}'; there are {1}.").format(name, ", ".join(names))
            )


def _decoded(document: bytes) -> Kept:
    """Return a paint out of its document; raises msgspec's errors, or InputError."""
    kept = msgspec.json.decode(document, type=Kept)
    for fault in paint_faults(kept.paint):
        raise InputError(f"'{kept.paint.name}': {fault}")
    return replace(kept, paint=one_of_equals(kept.paint))


def free_name(wanted: str, taken: tuple[str, ...]) -> str:
    """Return a name for a rack: the wanted one, or with a number where that is taken."""
    names = (wanted if n == 1 else f"{wanted} {n}" for n in range(1, len(taken) + 2))
    return next(name for name in names if name not in taken)


def check_rack(rack: Rack) -> None:
    """Refuse a rack that holds something impossible; raises InputError with one sentence."""
    if not rack.name.strip() or len(rack.name) > _MOST_NAME:
        raise InputError(tr("A rack needs a name of at most {0} letters.").format(_MOST_NAME))
    if len(rack.paints) > MOST_PAINTS:
        raise InputError(
            tr("The rack has {0} paints; it holds {1} at most.").format(
                len(rack.paints), MOST_PAINTS
            )
        )
    seen: set[str] = set()
    for kept in rack.paints:
        if kept.paint.name in seen:
            raise InputError(
                tr("The rack has two paints '{0}'; rename one.").format(kept.paint.name)
            )
        seen.add(kept.paint.name)
        for fault in paint_faults(kept.paint):
            raise InputError(tr("The paint '{0}': {1}").format(kept.paint.name, fault))


def _write(db: sqlite3.Connection, rack: Rack) -> None:
    db.execute(
        "INSERT OR IGNORE INTO rack SELECT ?, coalesce(max(place), 0) + 1 FROM rack", (rack.name,)
    )
    db.execute("DELETE FROM racked WHERE rack = ?", (rack.name,))
    db.executemany(
        "INSERT INTO racked VALUES (?, ?, ?, ?)",
        [
            (rack.name, kept.paint.name, place, msgspec.json.encode(kept))
            for place, kept in enumerate(rack.paints)
        ],
    )
