"""Matching from the command line, run as a user runs it."""

from __future__ import annotations

import json
import re
from pathlib import Path

import numpy as np
import pytest

from test_cli import answer, plan_file, run
from workshop import hand_laid
from zesty_veil.cli import main as cli
from zesty_veil.plan import edits
from zesty_veil.plan.fileformat import save
from zesty_veil.plan.model import Target

__all__ = ["plan_file"]


def test_a_colour_is_matched(capsys: pytest.CaptureFixture[str]) -> None:
    words = ("match", "--target", "#ff8a1e", "--ground", "black", "--rack", "demo")
    found = answer(capsys, *words, "--max-coats", "2", "--json")
    way = found["ways"][0]
    assert found["targets"][0]["colour"] == "#ff8a1e"
    assert way["mean_de00"] < 2
    assert len(way["coats"]) <= 2
    # What is found, laid as it is written, is what was said.
    laid = [word for coat in way["coats"] for word in ("--coat", coat["words"])]
    flat = answer(capsys, "stack", "--ground", "black", *laid, "--json")["sites"]["flat"]
    np.testing.assert_allclose(flat["lab"], way["lab"], atol=0.01)
    text = run(capsys, *words, "--max-coats", "2")
    assert text.startswith("1. dE ")
    assert way["coats"][0]["words"] in text


def test_why_a_colour_is_not_matched(capsys: pytest.CaptureFixture[str]) -> None:
    few = ("--only", "Kiln Yellow", "--only", "Lime White", "--max-coats", "2")
    found = answer(capsys, "match", "--target", "40,30,-60", *few, "--json")
    assert found["why_not"]["C"] < -10
    assert found["why_not"]["paint"] is not None
    assert "would help most" in run(capsys, "match", "--target", "40,30,-60", *few)


def test_a_passage_is_rescued(capsys: pytest.CaptureFixture[str], plan_file: str) -> None:
    few = ("--only", "Lime White", "--only", "Ember Orange", "--only", "Flask Blue")
    start = ("--plan", plan_file, "--place", "0.9", "--after", "1")
    words = ("match", "--target", "#f09040", *start, *few, "--rescue", "--max-coats", "2")
    found = answer(capsys, *words, "--json")
    assert found["covering"]["covers"]
    assert not found["going_on"]["covers"]
    assert "Covering first:" in run(capsys, *words)
    measured = ("match", "--target", "#f09040", "--on", "#404048", *few, "--max-coats", "3")
    assert answer(capsys, *measured, "--json")["ways"][0]["mean_de00"] < 8


def test_a_ramp_is_matched(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    path = tmp_path / "ramp.json"
    wanted = [{"place": 0, "target": "#f0e8d8"}, {"place": 1, "target": "#c03018"}]
    path.write_text(json.dumps(wanted))
    few = ("--only", "Lime White", "--only", "Ember Orange", "--only", "Furnace Red")
    words = ("match", "--ramp", str(path), "--ground", "black", *few)
    way = answer(capsys, *words, "--json")["ways"][0]
    assert way["mean_de00"] < 6
    assert [coat["span"][0] for coat in way["coats"]] == sorted(c["span"][0] for c in way["coats"])
    assert re.search(
        r"; (over all of it|from|the inner|the last|at the light)", run(capsys, *words)
    )


def test_a_primer_is_chosen_where_any_will_do(capsys: pytest.CaptureFixture[str]) -> None:
    few = (
        "--only",
        "Kiln Yellow",
        "--only",
        "Ember Orange",
        "--max-coats",
        "1",
        "--max-mixes",
        "0",
    )
    found = answer(capsys, "match", "--target", "#ffd020", "--ground", "any", *few, "--json")
    assert found["ways"][0]["ground"] == "white primer"
    assert "on white primer" in run(capsys, "match", "--target", "#ffd020", "--ground", "any", *few)


def test_a_plan_is_matched_to_its_own_targets(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    plan = hand_laid()
    for place, site, lab in ((0.1, "flat", (70, 30, 40)), (0.9, "recess", (20, 10, 5))):
        plan = edits.set_target(plan, 1, Target(place, lab, site))  # type: ignore[arg-type]
    path = tmp_path / "own.veil"
    save(plan, path)
    start = ("--plan", str(path), "--passage", plan.passages[1].name, "--after", "0")
    found = answer(capsys, "match", *start, "--max-coats", "2", "--max-mixes", "0", "--json")
    assert [t["site"] for t in found["targets"]] == ["flat", "recess"]
    assert len(found["ways"][0]["de00"]) == 2


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("--target", "#zzz"), "is no colour"),
        (("--target", "1,2"), "is no colour"),
        (("--target", "1,2,nan"), "is no colour"),
        ((), "either --target or --ramp"),
        (("--target", "#ffffff", "--ramp", "x"), "either --target or --ramp"),
        (("--ramp", "nowhere.json"), "cannot be read"),
        (("--target", "#ffffff", "--max-coats", "11"), "from 1 to 10"),
        (("--target", "#ffffff", "--tool", "trowel"), "'trowel' is no tool"),
        (("--target", "#ffffff", "--without", "Mud"), "no paint 'Mud'"),
        (("--target", "#ffffff", "--on", "mud"), "is no colour"),
        (("--target", "#ffffff", "--ground", "any", "--rescue"), "name one"),
    ],
)
def test_a_match_that_cannot_be_says_why(
    capsys: pytest.CaptureFixture[str], words: tuple[str, ...], said: str
) -> None:
    assert cli.run(["match", *words]) == 2
    out, err = capsys.readouterr()
    assert out == ""
    assert said in err
    assert err.count("\n") == 1


_NO_SITE = '[{"place": 0, "target": "#ffffff", "site": "top"}]'


@pytest.mark.parametrize(
    "content", ["", "{}", "[1]", '[{"place": "x"}]', "[" * 9000, "\xff", _NO_SITE]
)
def test_a_file_that_is_no_ramp_says_so(
    capsys: pytest.CaptureFixture[str], tmp_path: Path, content: str
) -> None:
    path = tmp_path / "ramp.json"
    path.write_bytes(content.encode("latin-1"))
    assert cli.run(["match", "--ramp", str(path)]) == 2
    assert "is no ramp" in capsys.readouterr().err


def test_places_that_are_not_on_the_axis(
    capsys: pytest.CaptureFixture[str], tmp_path: Path, plan_file: str
) -> None:
    path = tmp_path / "ramp.json"
    path.write_text('[{"place": 2, "target": "#ffffff"}]')
    assert cli.run(["match", "--ramp", str(path)]) == 2
    assert "places must be from 0" in capsys.readouterr().err
    target = ["match", "--target", "#ffffff", "--plan", plan_file]
    assert cli.run([*target, "--place", "3"]) == 2
    assert "--place is 3" in capsys.readouterr().err
    assert cli.run([*target, "--passage", "nobody"]) == 2
    assert "no passage 'nobody'" in capsys.readouterr().err
