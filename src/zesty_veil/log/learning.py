"""What was learnt, kept in the log: refined paints of each rack, and the painter's own hand.

Refined paints stand beside what cards and makers say; they hold only as long as the paint below
them is the one they were refined from, so that a new card begins anew. Everything can be worked
out again from the records that count: taking a record out takes back what it taught.
"""

from __future__ import annotations

from collections.abc import Mapping

import msgspec
from msgspec.structs import replace

from zesty_veil.errors import InputError
from zesty_veil.log.learn import Learnt
from zesty_veil.log.racks import Kept, Rack
from zesty_veil.log.store import Store
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.check import check_hand
from zesty_veil.plan.model import OwnTool

_HAND = "hand"
# A hand that leaves within so much of the usual film is the usual hand.
_SAME_FILM = 0.03


class Refined(msgspec.Struct, frozen=True):
    """A paint as records refined it, and from which paint."""

    base: Paint
    paint: Paint


class _OfRack(msgspec.Struct, frozen=True):
    """What was learnt with a rack; `refined` is where older programs kept paints."""

    refined: dict[str, Refined] = {}
    films: dict[str, float] = {}
    weights: dict[int, float] = {}
    before: float = 0.0
    after: float = 0.0


class Learning:
    """Keeps what records taught, and gives paints and hand as they are known now."""

    def __init__(self, store: Store) -> None:
        self._store = store

    def keep(self, rack: str, bases: Mapping[str, Paint], found: Learnt) -> None:
        """Keep what records taught of a rack's paints."""
        refined = {name: Refined(bases[name], paint) for name, paint in found.paints.items()}
        kept = _OfRack({}, found.films, found.weights, found.before, found.after)
        with self._store.writing() as db:
            db.execute(
                "INSERT OR REPLACE INTO learnt VALUES (?, ?)", (rack, msgspec.json.encode(kept))
            )
            db.execute("DELETE FROM refined WHERE rack = ?", (rack,))
            db.executemany(
                "INSERT INTO refined VALUES (?, ?, ?)",
                [(rack, name, msgspec.json.encode(one)) for name, one in refined.items()],
            )

    def known(self, rack: Rack) -> Rack:
        """Return a rack with its paints as they are known now."""
        refined = self._refined(rack.name)

        def now(kept: Kept) -> Kept:
            found = refined.get(kept.paint.name)
            if found is None or found.base != kept.paint:
                return kept
            return replace(kept, paint=found.paint)

        return replace(rack, paints=tuple(now(kept) for kept in rack.paints))

    def weights(self, rack: str) -> dict[int, float]:
        """Return how much each record counted, by its number."""
        return dict(self._of(rack).weights)

    def accuracy(self, rack: str) -> tuple[float, float]:
        """Return the median dE00 of what came out, before and after learning."""
        found = self._of(rack)
        return found.before, found.after

    def set_strips(self, own: tuple[OwnTool, ...]) -> None:
        """Keep what strips told of the hand; a tool measured again replaces what was known."""
        others = tuple(o for o in self.strips() if o.tool not in {mine.tool for mine in own})
        self._store.set(_HAND, msgspec.json.encode((*others, *own)).decode())

    def forget_strips(self) -> None:
        """Take back what strips told of the hand."""
        self._store.set(_HAND, "[]")

    def strips(self) -> tuple[OwnTool, ...]:
        """Return what strips told of the hand; what is damaged is set aside, and said once."""
        kept = self._store.setting(_HAND, "[]")
        try:
            found = msgspec.json.decode(kept, type=tuple[OwnTool, ...])
            check_hand(found)
        except (msgspec.DecodeError, UnicodeError, RecursionError, InputError):
            with self._store.writing() as db:
                db.execute("INSERT INTO damaged (what, document) VALUES ('hand', ?)", (kept,))
                db.execute("INSERT OR REPLACE INTO setting VALUES (?, '[]')", (_HAND,))
            self._store.trouble.append(
                "What was known of your hand could not be read and is set aside; lay its strips "
                "again."
            )
            return ()
        return found

    def hand(self, rack: str) -> tuple[OwnTool, ...]:
        """Return the hand as it is known now: by its strips, refined by the log."""
        films = self._of(rack).films
        own = {one.tool: one for one in self.strips()}
        for tool, film in films.items():
            before = own.get(tool, OwnTool(tool))
            own[tool] = replace(before, film=round(before.film * film, 3))
        return tuple(
            own[tool]
            for tool in sorted(own)
            if abs(own[tool].film - 1) > _SAME_FILM or own[tool].cv is not None
        )

    def _of(self, rack: str) -> _OfRack:
        with self._store.reading() as db:
            row = db.execute("SELECT document FROM learnt WHERE name = ?", (rack,)).fetchone()
        if row is None:
            return _OfRack()
        try:
            return msgspec.json.decode(row[0], type=_OfRack)
        except (msgspec.DecodeError, UnicodeDecodeError, RecursionError, TypeError):
            return _OfRack()  # worked out again with the next record

    def _refined(self, rack: str) -> dict[str, Refined]:
        with self._store.reading() as db:
            rows = db.execute(
                "SELECT paint, document FROM refined WHERE rack = ?", (rack,)
            ).fetchall()
        out = {} if rows else dict(self._of(rack).refined)
        for paint, document in rows:
            try:
                out[paint] = msgspec.json.decode(document, type=Refined)
            except (msgspec.DecodeError, UnicodeDecodeError, RecursionError, TypeError):
                continue  # worked out again with the next record
        return out
