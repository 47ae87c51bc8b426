"""The plan as a file: there and back, and every way in which a file can be wrong."""

from __future__ import annotations

import json
import os
import stat
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from conftest import small_plan
from zesty_veil import files
from zesty_veil.cli.main import run
from zesty_veil.errors import FileError, PlanFileError
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.fileformat import PLAN_SCHEMA, carried_over, dump, load, parse, save
from zesty_veil.plan.model import Plan
from zesty_veil.plan.samples import SAMPLES, sample
from zesty_veil.predict.field import axis, predict


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
    ("unknown field", lambda c: coat(c).update(colour="red"), "unknown field 'colour'"),
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
    ("older short spectrum", lambda c: c["plan"]["paints"][0].update(K=[1.0]), "'K' has 1 numbers"),
    ("negative spectrum", lambda c: c["plan"]["paints"][0]["mu_s"].__setitem__(3, -1), "at 410 nm"),
    (
        "a paint twice",
        lambda c: c["plan"]["paints"].append(c["plan"]["paints"][0]),
        "held more than once",
    ),
    ("newer schema", lambda c: c.update(schema=PLAN_SCHEMA + 1), "newer version"),
    ("schema 0", lambda c: c.update(schema=0), "schema 0, which does not exist"),
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
    with pytest.raises(PlanFileError, match="cannot be read: is a directory"):
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


OLDER = Path(__file__).parent / "data" / "older.veil"


def test_an_older_plan_is_carried_over_with_a_sentence(tmp_path: Path) -> None:
    """Its paints have the K and S of two-flux theory, one of them a dye that fluoresces."""
    said: list[str] = []
    plan = load(OLDER, said.append)
    assert said == [carried_over("older.veil")]
    for paint in plan.paints:
        assert len(paint.mu_a) == len(paint.mu_s) == 36
        raw = next(p for p in json.loads(OLDER.read_bytes())["plan"]["paints"]
                   if p["name"] == paint.name)  # fmt: skip
        # K of a clear band has up to half of it from the surface.
        ratio = np.array(raw["K"])[10:30] / np.array(paint.mu_a)[10:30]
        assert 1.0 < np.median(ratio) < 2.1
        if paint.glow is not None:
            assert (np.array(paint.glow.mu_a) <= np.array(paint.mu_a) * (1 + 1e-9)).all()
    saved = tmp_path / "again.veil"
    save(plan, saved)
    assert b'"K"' not in saved.read_bytes()
    again = load(saved, said.append)
    assert len(said) == 1
    assert again == plan
    assert np.isfinite(predict(plan.passages[0], plan.rack(), axis(3)).lab).all()


def test_the_commands_say_so_beside_their_answer(capfd: pytest.CaptureFixture[str]) -> None:
    assert run(["steps", str(OLDER)]) == 0
    out, err = capfd.readouterr()
    assert "carried over" in err
    assert "carried over" not in out
