"""Large logs and damaged ones: searched, listed, reckoned, and taken out of."""

from __future__ import annotations

import sqlite3
import stat

import numpy as np
import pytest
from msgspec.structs import replace

from conftest import small_plan
from test_log import record, seen
from zesty_veil.errors import LogError
from zesty_veil.log.drawn import DrawdownMix, one_by_one, paint_drawdown
from zesty_veil.log.guess import Guesses
from zesty_veil.log.logbook import Logbook
from zesty_veil.log.racks import Racks
from zesty_veil.log.store import Store
from zesty_veil.log.store import opened as opened_log
from zesty_veil.paint.kinds import USUAL_TOOL
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.rack import demo_rack
from zesty_veil.paint.tool import tools
from zesty_veil.paths import log_path
from zesty_veil.plan.model import Coat


@pytest.fixture
def book() -> Logbook:
    return Logbook(Store())


@pytest.mark.parametrize("indexed", [True, False])
def test_searching_is_the_same_with_and_without_an_index(book: Logbook, indexed: bool) -> None:
    book._store.indexed = indexed
    book.add(record("2026-01-01T00:00:00+00:00", 'Said "50 % off_\\ x" & ÄRGER'))
    book.add(record("2026-02-01T00:00:00+00:00", "clean"))
    for words, wanted in (
        ("ärger", (1,)), ('"50', (1,)), ("off_", (1,)), ("o_f", ()), ("%", (1,)), ("100%", ()),
        ("\\", (1,)), ("cl", (2,)), ("an", (2, 1)), ("lean EMBER", (2,)), ("", (2, 1)),
        ("NEAR OR AND", ()), ("*", ()), ("(", ()),
    ):  # fmt: skip
        assert book.numbers(words) == wanted, words


def test_lists_follow_what_is_added_and_taken_out(book: Logbook) -> None:
    numbers = [book.add(record(f"2026-01-{d:02d}T00:00:00+00:00", f"day{d}")) for d in (3, 1, 2)]
    assert book.numbers() == (numbers[0], numbers[2], numbers[1])
    assert book.numbers("day2") == (numbers[2],)
    removed = book.remove(numbers[2])
    assert removed is not None
    assert book.numbers("day2") == ()
    assert book.numbers() == (numbers[0], numbers[1])
    assert book.put_back(removed) == numbers[2]
    assert book.numbers("day2") == (numbers[2],)
    assert book.get(numbers[2]) == removed.record
    with opened_log() as other:
        Logbook(other).add(record("2026-05-01T00:00:00+00:00", "from another window"))
    assert len(book.numbers()) == 4
    assert [line.words for line in book.page(book.numbers("another"))] == ["from another window"]


def test_a_record_comes_back_with_its_photograph(book: Logbook) -> None:
    number = book.add(record(), (".jpg", b"picture"), b"small")
    name = book.get(number).photograph
    removed = book.remove(number)
    assert removed is not None
    assert not book.photograph_path(name).exists()
    book.put_back(removed)
    assert book.photograph_path(name).read_bytes() == b"picture"
    assert stat.S_IMODE(book.photograph_path(name).stat().st_mode) == 0o600
    assert stat.S_IMODE(book.photograph_path(name).parent.stat().st_mode) == 0o700
    assert stat.S_IMODE(log_path().stat().st_mode) == 0o600
    assert book.page([number])[0].thumbnail == b"small"


def test_an_index_that_another_program_left_behind_is_made_anew(book: Logbook) -> None:
    book._store.indexed = False  # as a program without the index writes
    book.add(record(words="unindexed"))
    book._store.close()
    assert len(Logbook(Store()).numbers("unindexed")) == 1


def test_the_newest_of_each_paint_teach(book: Logbook) -> None:
    other = replace(small_plan(), passages=(replace(small_plan().passages[0], coats=()),))
    rare = book.add(record("2025-01-01T00:00:00+00:00"))
    book.add(record("2026-06-01T00:00:00+00:00", plan=other, seen=()))
    ignored = book.add(record("2026-05-01T00:00:00+00:00"))
    book.count(ignored, False)
    numbers = [book.add(record(f"2026-01-{d:02d}T00:00:00+00:00")) for d in range(1, 9)]
    assert book.that_teach(3, 100) == tuple(reversed(numbers[-3:]))
    assert book.that_teach(100, 100) == (*reversed(numbers), rare)
    assert len(book.that_teach(100, 4)) == 4


def test_what_an_older_program_wrote_is_listed_at_once_and_reckoned_later(book: Logbook) -> None:
    number = book.add(record(words="Old", seen=(seen((66.0, 40.0, 50.0)),)))
    with book._store.writing() as db:
        db.execute("UPDATE listing SET de = NULL, reckoned = 0")
        db.execute("DELETE FROM used")
    assert book.trend() == ()
    assert book.numbers("old") == (number,)
    assert book.reckon() == 1
    assert book.reckon() == 0
    assert len(book.trend()) == 1
    assert "Ember Orange" in book.titles()


def spoil(table: str, value: object, where: str = "1") -> None:
    with sqlite3.connect(log_path()) as db:
        db.execute(f"UPDATE {table} SET document = ? WHERE {where}", (value,))


@pytest.mark.parametrize("value", [b"\xff{", b"{}", "text", 7, 2.5, b"[" * 50_000])
def test_damaged_records_are_left_out_said_and_taken_out(book: Logbook, value: object) -> None:
    one, other = book.add(record(words="good")), book.add(record(words="bad"))
    spoil("record", value, f"number = {other}")
    assert [r.number for r in book.all()] == [one]
    with pytest.raises(LogError, match=f"Record {other} of the log is damaged"):
        book.get(other)
    assert book.remove(other) is None
    assert book.numbers() == (one,)


@pytest.mark.parametrize("value", [b"\xff{", b"{}", "text", 10**9])
def test_a_damaged_paint_is_set_aside_and_said_once(value: object) -> None:
    store = Store()
    racks = Racks(store)
    spoil("racked", value, "paint = 'Kiln Yellow'")
    assert len(racks.get().paints) == len(demo_rack()) - 1
    assert len(store.trouble) == 1
    assert "Kiln Yellow in the rack" in store.trouble[0]
    assert len(racks.get().paints) == len(demo_rack()) - 1
    assert len(store.trouble) == 1
    with store.reading() as db:
        assert db.execute("SELECT count(*) FROM damaged").fetchone() == (1,)


def test_damaged_guesses_do_not_count() -> None:
    store = Store()
    with store.writing() as db:
        for value in (b"{", "x", 5):
            db.execute("INSERT INTO guess (moment, document) VALUES ('', ?)", (value,))
    assert Guesses(store).all() == ()


def test_a_closed_log_is_not_called_damaged() -> None:
    store = Store()
    store.close()
    with pytest.raises(LogError, match="closed database"):
        store.setting("rack")


def test_films_at_once_are_films_one_by_one() -> None:
    """What a drawdown shows at once equals its passes followed one by one, for every paint.

    But for their ridges: an average of films leaves out a little of how those of single passes lie.
    """
    for paint in demo_rack():
        for laid in (
            DrawdownMix(),
            DrawdownMix(3.0, "medium"),
            DrawdownMix(6.0),
            DrawdownMix(1.0, "water", "sponge"),
            DrawdownMix(2.0, "water", "airbrush"),
        ):
            coat = Coat(
                Mixture((Part(paint.name),), laid.thinner, laid.thinning),
                laid.tool or USUAL_TOOL[paint.kind],
            )
            slow = one_by_one(coat, {paint.name: paint}, np.zeros(1))
            flat = tools()[coat.tool].texture == 0
            np.testing.assert_allclose(
                paint_drawdown(paint, laid).lab, slow, atol=1e-9 if flat else 0.5
            )
