"""The log: written whole or not at all, upgraded with a backup, shared by two windows."""

from __future__ import annotations

import csv
import io
import json
import os
import signal
import sqlite3
import subprocess
import sys
import time
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace

from conftest import small_plan
from zesty_veil.errors import InputError, LogError
from zesty_veil.exchange.logfile import write_log
from zesty_veil.light.cielab import lab_from_lch
from zesty_veil.log.judge import delta_components, predicted_at
from zesty_veil.log.logbook import Logbook
from zesty_veil.log.record import RECORD_SCHEMA, Conditions, ObservedColour, Record
from zesty_veil.log.store import LOG_SCHEMA, MIGRATIONS, Store
from zesty_veil.paths import log_path

Lab = tuple[float, float, float]


def seen(lab: Lab = (60.0, 40.0, 50.0), predicted: Lab = (60.0, 40.0, 50.0)) -> ObservedColour:
    return ObservedColour("flame", 0.5, "flat", 2, lab, predicted)


def record(when: str = "2026-03-01T20:00:00+00:00", words: str = "", **more: object) -> Record:
    made = Record(when, small_plan(), "all", (seen(),), words, 90.0, Conditions(21.0, 0.45))
    return replace(made, **more)


@pytest.fixture
def book() -> Logbook:
    return Logbook(Store())


def test_records_are_kept_as_they_are(book: Logbook) -> None:
    number = book.add(record(words="Pooled in the recess."), (".JPG", b"picture"), b"small")
    kept = book.get(number)
    assert replace(kept, number=0, photograph="", schema=1) == record(words="Pooled in the recess.")
    assert book.photograph_path(kept.photograph).read_bytes() == b"picture"
    assert book.photograph_path(kept.photograph).parent == log_path().parent / "photographs"
    assert book.lines()[0].thumbnail == b"small"
    # The same photograph again takes no more room; it goes with the last record that has it.
    again = book.add(record(), (".jpg", b"picture"))
    book.remove(number)
    assert book.photograph_path(kept.photograph).exists()
    book.remove(again)
    assert not book.photograph_path(kept.photograph).exists()
    with pytest.raises(LogError, match=f"no record {number}"):
        book.get(number)


def test_records_are_found_by_what_is_in_them(book: Logbook) -> None:
    book.add(record("2026-03-01T20:00:00+00:00", "Pooled in the recess."))
    book.add(record("2026-04-02T20:00:00+00:00", "Clean.", step="the orange"))
    assert [line.when[:7] for line in book.lines()] == ["2026-04", "2026-03"]
    for words, count in (
        ("pooled", 1), ("RECESS pooled", 1), ("ember", 2), ("flame", 2), ("2026-04", 1),
        ("orange", 2), ("clean orange", 1), ("violet", 0), ("small plan", 2),
    ):  # fmt: skip
        assert len(book.lines(words)) == count, words


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"seen": (replace(seen(), passage="cloak"),)}, "no such passage"),
        ({"seen": (replace(seen(), coats=9),)}, "counts 9 coats"),
        ({"seen": (replace(seen(), place=1.5),)}, "from 0 to 1"),
        ({"seen": (seen((float("nan"), 0.0, 0.0)),)}, "L of 'lab' is nan"),
        ({"minutes": -1.0}, "time taken in minutes is -1"),
    ],
)
def test_an_impossible_record_is_refused_whole(
    book: Logbook, change: dict[str, object], words: str
) -> None:
    with pytest.raises(InputError, match=words):
        book.add(record(**change), (".jpg", b"picture"))
    assert not book.lines()
    assert not (log_path().parent / "photographs").exists()


WRITES = """
import sys
sys.path.insert(0, {tests!r})
from test_log import record
from zesty_veil.log.logbook import Logbook
from zesty_veil.log.store import Store
book = Logbook(Store())
for i in range(200):
    print(book.add(record(words=str(i)), (".jpg", b"picture" + bytes([i]))), flush=True)
"""


def test_a_kill_loses_at_most_the_record_being_written() -> None:
    """kill -9 in the middle of 200 writes: everything that was told as written is there."""
    env = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    code = WRITES.format(tests=str(Path(__file__).parent))
    with subprocess.Popen([sys.executable, "-c", code], env=env, stdout=subprocess.PIPE) as child:
        assert child.stdout is not None
        told = [int(child.stdout.readline()) for _ in range(40)]
        time.sleep(0.003)
        child.send_signal(signal.SIGKILL)
        told += [int(line) for line in child.stdout.read().split()]
    book = Logbook(Store())
    kept = {r.number for r in book.all()}
    assert set(told) <= kept
    assert len(kept) <= len(told) + 1
    for one in book.all():
        assert book.photograph_path(one.photograph).read_bytes().startswith(b"picture")
    with sqlite3.connect(log_path()) as db:
        assert db.execute("PRAGMA integrity_check").fetchone() == ("ok",)
    assert book.add(record()) not in kept


def test_two_windows_write_to_one_log() -> None:
    """Two processes at once: nothing is lost, nothing is damaged, and both are seen."""
    env = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    code = WRITES.format(tests=str(Path(__file__).parent)).replace("range(200)", "range(30)")
    both = [
        subprocess.Popen([sys.executable, "-c", code], env=env, stdout=subprocess.PIPE)
        for _ in range(2)
    ]
    told = [int(n) for child in both for n in child.communicate(timeout=120)[0].split()]
    assert len(set(told)) == 60
    book = Logbook(Store())
    assert {r.number for r in book.all()} == set(told)


def test_a_window_sees_what_another_wrote() -> None:
    mine, other = Store(), Store()
    before = mine.changes()
    assert mine.changes() == before
    Logbook(other).add(record())
    assert mine.changes() != before
    assert len(Logbook(mine).lines()) == 1


def old_log(schema: int) -> None:
    """Make a log as an older program left it, with one record in it."""
    log_path().parent.mkdir(parents=True)
    import msgspec  # noqa: PLC0415

    with sqlite3.connect(log_path()) as db:
        for step in MIGRATIONS[:schema]:
            db.executescript(step)
        db.execute(f"PRAGMA user_version = {schema}")
        db.execute(
            "INSERT INTO record (moment, title, step, words, names, document) "
            "VALUES (?, 'Old', '', 'kept', '', ?)",
            ("2025-01-01T00:00:00+00:00", msgspec.json.encode(record(words="kept"))),
        )


@pytest.mark.parametrize("schema", range(1, LOG_SCHEMA))
def test_an_older_log_is_upgraded_and_backed_up(schema: int) -> None:
    old_log(schema)
    before = log_path().read_bytes()
    store = Store()
    assert [r.words for r in Logbook(store).all()] == ["kept"]
    assert Logbook(store).get(1).counts
    store.set("rack", "x")
    backup = log_path().with_name(f"log.sqlite.schema-{schema}.bak")
    with sqlite3.connect(backup) as db, sqlite3.connect(":memory:") as then:
        then.deserialize(before)
        assert list(db.iterdump()) == list(then.iterdump())
        assert db.execute("PRAGMA user_version").fetchone() == (schema,)
    assert Store().setting("rack") == "x"


def test_a_newer_or_damaged_log_is_left_alone() -> None:
    Store().close()
    with sqlite3.connect(log_path()) as db:
        db.execute(f"PRAGMA user_version = {LOG_SCHEMA + 1}")
    with pytest.raises(LogError, match="newer version"):
        Store()
    log_path().write_bytes(b"this is no log at all, but it is long enough to be looked at" * 40)
    with pytest.raises(LogError, match="damaged or is no log"):
        Store()
    assert log_path().read_bytes().startswith(b"this is no log")
    log_path().unlink()
    log_path().mkdir()
    with pytest.raises(LogError, match="cannot be"):
        Store()


def test_differences_are_told_by_lightness_chroma_and_hue() -> None:
    base = np.array([60.0, 50.0, 40.0])  # L, C, h
    for change, part, words in (
        ((8, 0, 0), "lightness", "lighter"),
        ((-8, 0, 0), "lightness", "darker"),
        ((0, 12, 0), "chroma", "stronger"),
        ((0, -12, 0), "chroma", "duller"),
        ((0, 0, 15), "hue", "more orange"),
        ((0, 0, -15), "hue", "redder"),
    ):
        one, other = (
            tuple(lab_from_lch(v).tolist()) for v in (base, base + np.array(change, dtype=float))
        )
        found = delta_components(seen(other, one))
        assert words in found.words
        parts = {"lightness": found.lightness, "chroma": found.chroma, "hue": found.hue}
        biggest = max(parts, key=lambda name: abs(parts[name]))
        assert biggest == part
        assert np.sign(parts[part]) == np.sign(sum(change))
        # Alone, a part is the whole difference, but for CIEDE2000's rotation of blues.
        assert abs(parts[part]) == pytest.approx(found.de, rel=0.25)
    assert delta_components(seen()).words == "as predicted"


def test_the_trend_tells_whether_it_gets_better(book: Logbook) -> None:
    for month, off in ((5, 1.0), (1, 9.0), (3, 5.0)):
        when = f"2026-0{month}-01T00:00:00+00:00"
        book.add(record(when, seen=(seen((60.0 + off, 40.0, 50.0)),)))
    book.add(record("2026-06-01T00:00:00+00:00", seen=()))
    points = book.trend()
    assert [p.when[6] for p in points] == ["1", "3", "5"]
    assert points[0].de > points[1].de > points[2].de
    assert points[2].running == pytest.approx(points[1].de)


def test_a_prediction_is_of_the_coats_that_lay_there() -> None:
    plan = small_plan()
    one, two = (predicted_at(plan, "flame", 0.5, "flat", n) for n in (1, 2))
    assert one[0] > 90 > two[0]
    with pytest.raises(InputError, match="no passage 'cloak'"):
        predicted_at(plan, "cloak", 0.5, "flat", 1)


def test_the_log_goes_out_as_csv_and_json(book: Logbook, tmp_path: Path) -> None:
    book.add(record(words="One, with a comma", seen=(seen(), seen((66.0, 40.0, 50.0)))))
    book.add(record(seen=()))
    assert write_log(book.all(), tmp_path / "log.csv") == 2
    rows = list(csv.DictReader(io.StringIO((tmp_path / "log.csv").read_text())))
    assert [row["record"] for row in rows] == ["1", "1", "2"]
    assert rows[0]["words"] == "One, with a comma"
    assert float(rows[1]["lightness"]) > 3 > float(rows[0]["dE00"])
    assert rows[0]["mm"] == "5.00"
    write_log(book.all(), tmp_path / "log.json")
    whole = json.loads((tmp_path / "log.json").read_text())
    assert [len(r["seen"]) for r in whole["records"]] == [2, 0]
    with pytest.raises(InputError, match=r"\.csv or \.json"):
        write_log(book.all(), tmp_path / "log.txt")
    assert not (tmp_path / "log.txt").exists()


def test_a_record_of_a_newer_program_is_told_of_and_one_without_a_schema_is_the_first(
    book: Logbook,
) -> None:
    number = book.add(record())
    with sqlite3.connect(log_path()) as db:
        (document,) = db.execute("SELECT document FROM record").fetchone()
        content = json.loads(document)
        assert content.pop("schema") == RECORD_SCHEMA
        db.execute("UPDATE record SET document = ?", (json.dumps(content).encode(),))
    assert book.get(number).schema == 1
    content |= {"schema": RECORD_SCHEMA + 1, "moon": "full"}
    with sqlite3.connect(log_path()) as db:
        db.execute("UPDATE record SET document = ?", (json.dumps(content).encode(),))
    with pytest.raises(LogError, match=f"is of schema {RECORD_SCHEMA + 1}.*newer version"):
        book.get(number)
