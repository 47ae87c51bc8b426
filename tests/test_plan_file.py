"""The plan as a file: there and back, and every way in which a file can be wrong."""

from __future__ import annotations

import hashlib
import json
import os
import stat
from collections.abc import Callable
from pathlib import Path
from typing import Any

import msgspec
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from conftest import small_plan
from driving import opens
from zesty_veil import files
from zesty_veil.cli.main import run
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.errors import FileError, PlanFileError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.fileformat import (
    PLAN_SCHEMA,
    PlanFile,
    dump,
    load,
    parse,
    parse_file,
    said_of_earlier,
    save,
)
from zesty_veil.plan.model import Plan
from zesty_veil.plan.samples import SAMPLES, sample
from zesty_veil.services.looks import moved_looks, save_plan


@pytest.fixture
def good() -> dict[str, Any]:
    """The content of a good file, to be spoiled."""
    content: dict[str, Any] = json.loads(dump(small_plan()))
    return content


def test_a_plan_comes_back_as_it_was(tmp_path: Path) -> None:
    path = tmp_path / "flame.veil"
    save(small_plan(), path)
    assert load(path) == small_plan()
    assert [p.name for p in tmp_path.iterdir()] == ["flame.veil"]  # nothing left lying about


def test_a_file_holds_the_paints_it_uses_and_no_others() -> None:
    plan = small_plan()
    for paint in demo_rack():
        plan = edits.hold(plan, paint)
    held = {p.name for p in parse(dump(plan)).paints}
    assert held == {"Lime White", "Ember Orange"}


@pytest.mark.parametrize("name", SAMPLES)
def test_demo_plans_are_good_plans(name: str) -> None:
    plan = sample(name)
    assert plan.passages
    assert parse(dump(plan)) == plan


def coat(content: dict[str, Any]) -> dict[str, Any]:
    """Return the second coat of the file's one passage."""
    out: dict[str, Any] = content["plan"]["passages"][0]["coats"][1]
    return out


SPOILED: list[tuple[str, Callable[[dict[str, Any]], Any], str]] = [
    ("negative passes", lambda c: coat(c).update(passes=-2), "'flame': coat 2: 'passes' is -2"),
    ("no passes", lambda c: coat(c).update(passes=0), "'passes' is 0; it must be from 1"),
    ("text for passes", lambda c: coat(c).update(passes="two"), r"coats\[1\].passes.*int"),
    ("half a pass", lambda c: coat(c).update(passes=1.5), "passes.*int"),
    ("span too far", lambda c: coat(c).update(span=[0.2, 1.4]), "end of its span is 1.4"),
    (
        "span before the light",
        lambda c: coat(c).update(span=[-0.1, 1]),
        "start of its span is -0.1",
    ),
    ("span backwards", lambda c: coat(c).update(span=[0.8, 0.2]), "ends before it starts"),
    ("span of three", lambda c: coat(c).update(span=[0, 0.5, 1]), "span.*length 2"),
    ("feather", lambda c: coat(c).update(feather=[0, -0.5]), "feather on its far side is -0.5"),
    (
        "unknown paint",
        lambda c: coat(c)["mixture"]["parts"][0].update(paint="Moon Dust"),
        "the paint 'Moon Dust' is not among",
    ),
    ("no paint", lambda c: coat(c)["mixture"].update(parts=[]), "mixture has no paint"),
    (
        "parts",
        lambda c: coat(c)["mixture"]["parts"][0].update(parts=-1),
        "Part 'Ember Orange': 'parts' is -1",
    ),
    ("thinning", lambda c: coat(c)["mixture"].update(thinning=-3), "'thinning' is -3"),
    ("thinner", lambda c: coat(c)["mixture"].update(thinner="gin"), "thinner.*gin"),
    ("unknown tool", lambda c: coat(c).update(tool="trowel"), "tool 'trowel' is not known"),
    ("unknown site", lambda c: coat(c).update(sites=["cave"]), "sites.*cave"),
    ("a site twice", lambda c: coat(c).update(sites=["flat", "flat"]), "sites must be some of"),
    ("unknown field", lambda c: coat(c).update(colour="red"), "saved by a newer version"),
    ("length", lambda c: c["plan"]["passages"][0].update(length_mm=0), "'length_mm' is 0"),
    ("primer", lambda c: c["plan"]["passages"][0]["ground"].update(primer="pink"), "primer.*pink"),
    (
        "surround",
        lambda c: c["plan"]["passages"][0].update(surround="sea"),
        "surround 'sea' is not",
    ),
    ("name", lambda c: c["plan"]["passages"][0].update(name=" "), "it has no name"),
    (
        "two of a name",
        lambda c: c["plan"]["passages"].append(c["plan"]["passages"][0]),
        "Two passages are called 'flame'",
    ),
    ("light", lambda c: c["plan"].update(light="candle"), "light 'candle' is not known"),
    ("figures", lambda c: c["plan"].update(figures=0), "'figures' is 0"),
    ("hand", lambda c: c["plan"].update(hand="third"), "hand.*third"),
    ("short spectrum", lambda c: c["plan"]["paints"][0].update(mu_a=[1.0]), "'mu_a' has 1 num"),
    ("negative spectrum", lambda c: c["plan"]["paints"][0]["mu_s"].__setitem__(3, -1), "at 410 nm"),
    (
        "a paint twice",
        lambda c: c["plan"]["paints"].append(c["plan"]["paints"][0]),
        "held more than once",
    ),
    ("newer schema", lambda c: c.update(schema=PLAN_SCHEMA + 1), "newer version"),
    ("schema 0", lambda c: c.update(schema=0), "schema 0, which no released version wrote"),
    ("schema in words", lambda c: c.update(schema="one"), "not a Zesty Veil plan"),
    ("another format", lambda c: c.update(format="recipe"), "not a Zesty Veil plan"),
    ("no plan", lambda c: c.pop("plan"), "missing required field 'plan'"),
    ("plan is a list", lambda c: c.update(plan=[]), "expected 'object', got 'array'"),
    (
        "measured ground out of range",
        lambda c: c["plan"]["passages"][0]["ground"].update(measured=[50, 999, 0]),
        "a of 'measured' is 999",
    ),
    (
        "measured ground of two numbers",
        lambda c: c["plan"]["passages"][0]["ground"].update(measured=[50, 9]),
        "flame.veil",
    ),
]


@pytest.mark.parametrize(("spoil", "words"), [s[1:] for s in SPOILED], ids=[s[0] for s in SPOILED])
def test_a_spoiled_file_gets_one_sentence(
    good: dict[str, Any], spoil: Callable[[dict[str, Any]], Any], words: str
) -> None:
    spoil(good)
    with pytest.raises(PlanFileError, match=words) as caught:
        parse(json.dumps(good).encode(), "flame.veil")
    sentence = str(caught.value)
    assert sentence.startswith("flame.veil")
    assert sentence.endswith(".")
    assert "\n" not in sentence


@pytest.mark.parametrize("number", ["NaN", "Infinity", "-Infinity"])
def test_what_is_no_number_is_named_with_its_line(good: dict[str, Any], number: str) -> None:
    raw = json.dumps(good, indent=1).replace('"passes": 2', f'"passes": {number}', 1).encode()
    with pytest.raises(PlanFileError, match=r"holds -?(NaN|Infinity) in line \d+"):
        parse(raw)


def test_a_number_beyond_all_bounds_is_refused(good: dict[str, Any]) -> None:
    raw = json.dumps(good).replace('"length_mm": 10.0', '"length_mm": 1e999').encode()
    with pytest.raises(PlanFileError):
        parse(raw)


def test_a_file_cut_short_says_so() -> None:
    raw = dump(small_plan())
    with pytest.raises(PlanFileError, match="cut short"):
        parse(raw[: len(raw) // 2])


@given(st.integers(0, len(dump(small_plan())) - 3))
def test_a_file_cut_anywhere_never_fails_otherwise(at: int) -> None:
    with pytest.raises(PlanFileError) as caught:
        parse(dump(small_plan())[:at])
    cut = dump(small_plan())[:at].rstrip()
    if cut and not cut.endswith(b"}"):
        assert "cut short" in str(caught.value)


@given(st.binary(max_size=200))
def test_any_bytes_get_a_sentence(raw: bytes) -> None:
    with pytest.raises(PlanFileError):
        parse(raw)


@pytest.mark.parametrize(
    "raw", [b"", b" \n", b"[]", b"3", b'"x"', b"\xff\xfe", b"[" * 100_000, b'{"a":' * 50_000]
)
def test_what_is_no_plan_at_all(raw: bytes) -> None:
    with pytest.raises(PlanFileError):
        parse(raw)


def test_reading_what_is_not_there(tmp_path: Path) -> None:
    with pytest.raises(PlanFileError, match="cannot be read: no such file"):
        load(tmp_path / "gone.veil")
    with pytest.raises(PlanFileError, match="isn't a file that can be read"):
        load(tmp_path)


def test_a_failed_save_leaves_the_old_file(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "flame.veil"
    save(small_plan(), path)
    before = path.read_bytes()

    def full(*_: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(files.os, "fsync", full)
    with pytest.raises(FileError, match="cannot be written: no space left"):
        save(Plan("another"), path)
    assert path.read_bytes() == before
    assert [p.name for p in tmp_path.iterdir()] == ["flame.veil"]


def test_saving_into_a_folder_that_is_not_there(tmp_path: Path) -> None:
    with pytest.raises(FileError, match="cannot be written"):
        save(small_plan(), tmp_path / "no" / "flame.veil")


def test_a_link_and_its_rights_are_kept(tmp_path: Path) -> None:
    real, link = tmp_path / "real.veil", tmp_path / "link.veil"
    save(small_plan(), real)
    os.chmod(real, 0o640)
    link.symlink_to(real)
    save(edits.retitle(small_plan(), "Changed"), link)
    assert link.is_symlink()
    assert load(real).title == "Changed"
    assert stat.S_IMODE(real.stat().st_mode) == 0o640


EARLIER = Path(__file__).parent / "data" / "workshop.veil"
# By schema: what fields its files have, with their types and limits.
FIELDS = {
    3: "a08ce89f2b6576cd",
    4: "63506cea1e0f7b51",
    5: "b433e54714815581",
    6: "82742bad77569561",
}


def without_words(schema: object) -> object:
    """Return a JSON Schema without what only tells about fields."""
    if isinstance(schema, dict):
        kept = {k: v for k, v in schema.items() if k not in {"title", "description"}}
        return {key: without_words(value) for key, value in kept.items()}
    return [without_words(each) for each in schema] if isinstance(schema, list) else schema


def test_the_number_of_the_schema_rises_with_its_fields() -> None:
    """Else a newer file would be refused as damaged by a program that does not know a field."""
    schema = json.dumps(without_words(msgspec.json.schema(PlanFile)), sort_keys=True)
    now = hashlib.sha256(schema.encode()).hexdigest()[:16]
    assert FIELDS[PLAN_SCHEMA] == now, "raise PLAN_SCHEMA, and write its fingerprint here"
    assert len(set(FIELDS.values())) == len(FIELDS)


def test_a_file_of_an_earlier_version_says_so(
    tmp_path: Path, capfd: pytest.CaptureFixture[str]
) -> None:
    said: list[str] = []
    plan = load(EARLIER, said.append)
    assert said == [said_of_earlier("workshop.veil")]
    save(plan, tmp_path / "again.veil")
    assert load(tmp_path / "again.veil", said.append) == plan
    assert len(said) == 1
    # The commands say it beside their answer.
    assert run(["steps", str(EARLIER)]) == 0
    out, err = capfd.readouterr()
    assert "earlier version" in err
    assert "earlier version" not in out


def test_a_file_that_no_released_version_wrote_is_refused(tmp_path: Path) -> None:
    raw = json.loads(dump(small_plan()))
    path = tmp_path / "a.veil"
    path.write_text(json.dumps({**raw, "schema": 1}))
    with pytest.raises(PlanFileError, match="schema 1, which no released version wrote"):
        load(path)
    # A field that this version does not know is of a newer one, whatever number it has.
    raw["plan"]["moon"] = "full"
    path.write_text(json.dumps(raw))
    with pytest.raises(PlanFileError, match="saved by a newer version of this program"):
        load(path)
    path.write_text(json.dumps({**raw, "schema": 2}))
    with pytest.raises(PlanFileError, match="unknown field 'moon'"):
        load(path)


def test_what_looks_otherwise_than_when_it_was_saved_is_told(tmp_path: Path) -> None:
    path = tmp_path / "a.veil"
    save_plan(small_plan(), path)
    assert moved_looks(parse_file(path.read_bytes())) == ()
    raw = json.loads(path.read_bytes())
    (look,) = raw["looks"]
    was = look["lab"][5]
    look["lab"][5] = [was[0] - 20.0, was[1], was[2]]
    (one,) = moved_looks(parse_file(json.dumps(raw).encode()))
    assert (one.passage, one.name) == (0, "flame")
    by = float(ciede2000(np.array(was), np.array(look["lab"][5])))
    assert one.worst == pytest.approx(by, abs=0.2)
    assert by > 10


def test_the_old_look_is_offered_as_targets(small: MainWindow, tmp_path: Path) -> None:
    path = tmp_path / "a.veil"
    save_plan(small_plan(), path)
    raw = json.loads(path.read_bytes())
    for lab in raw["looks"][0]["lab"]:
        lab[0] = max(lab[0] - 20.0, 0.0)
    path.write_text(json.dumps(raw))
    assert opens(small, path)
    words = small.line.words.text()
    assert words.startswith("a.veil looks different from when it was saved: flame by dE ")
    QTest.mouseClick(small.line.answers["offer"], Qt.MouseButton.LeftButton)
    targets = small.document.plan.passages[0].targets
    assert [target.place for target in targets] == [0.0, 0.2, 0.5, 0.8, 1.0]
    assert targets[2].lab == pytest.approx(raw["looks"][0]["lab"][5], abs=0.01)
    # It is a step like others; what has targets of its own keeps them.
    small.document.undo()
    assert small.document.plan.passages[0].targets == ()
    assert small.wait_until_idle()
