"""The command line, run as a user runs it."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest
from msgspec.structs import replace

from conftest import small_plan
from workshop import hand_laid
from zesty_veil.bench.steps import steps
from zesty_veil.cli import main as cli
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.drying import drying_minutes, painting_minutes, whole
from zesty_veil.plan.edits import with_feather, with_sites, with_span
from zesty_veil.plan.fileformat import save
from zesty_veil.plan.model import Passage, Plan


@pytest.fixture
def plan_file(tmp_path: Path) -> str:
    path = tmp_path / "small.veil"
    save(small_plan(), path)
    return str(path)


def run(capsys: pytest.CaptureFixture[str], *words: str) -> str:
    """Return what a job prints; it must succeed without a word of complaint."""
    assert cli.run(words) == 0
    out, err = capsys.readouterr()
    assert err == ""
    return out


def answer(capsys: pytest.CaptureFixture[str], *words: str) -> Any:
    return json.loads(run(capsys, *words))


def test_the_rack(capsys: pytest.CaptureFixture[str]) -> None:
    rack = answer(capsys, "rack", "--json")
    assert len(rack) >= 16
    assert all({"name", "kind", "pigments"} <= set(paint) for paint in rack)
    assert {"PY74"} in [set(paint["pigments"]) for paint in rack]
    assert len(run(capsys, "rack").splitlines()) == len(rack)


def test_a_stack(capsys: pytest.CaptureFixture[str]) -> None:
    words = ("--ground", "black", "--coat", "Lime White; passes 2", "--coat", "Kiln Yellow")
    sites = answer(capsys, "stack", *words, "--json")["sites"]
    assert set(sites) == {"recess", "flat", "ridge"}
    for colour in sites.values():
        assert set(colour) == {"lab", "lch", "srgb", "in_gamut", "value"}
        assert re.fullmatch("#[0-9a-f]{6}", colour["srgb"])
        assert colour["lch"][0] == colour["lab"][0]
    assert "yellow" in run(capsys, "stack", *words)


def test_a_bare_ground_and_another_light(capsys: pytest.CaptureFixture[str]) -> None:
    grounds = [
        answer(capsys, "stack", "--ground", g, "--json")["sites"]["flat"]["value"]
        for g in ("white", "grey", "black")
    ]
    assert grounds[0] > grounds[1] > grounds[2]
    orange = ("stack", "--coat", "Ember Orange", "--json", "--light")
    day, bulb = (answer(capsys, *orange, light)["sites"]["flat"]["lab"] for light in ("D65", "A"))
    assert bulb[0] > day[0]  # a warm lamp flatters orange


def test_everything_that_can_be_asked_of_a_stack(capsys: pytest.CaptureFixture[str]) -> None:
    words = ("stack", "--ground", "black", "--coat", "Pipe Copper", "--coat", "Soot Wash")
    asked = (
        "--surround",
        "black",
        "--sure",
        "--hand",
        "loose",
        "--finish",
        "gloss",
        "--observer",
        "10",
    )
    found = answer(capsys, *words, *asked, "--json")
    assert found["uncertainty"]["main"] in {"film", "ratio", "paint"}
    for colour in found["sites"].values():
        assert colour["glint"]["value"] > colour["value"]
        assert colour["appears"]["seems_value"] > colour["value"]  # a black surround lifts it
        low, high = colour["sure"]["lch_10"], colour["sure"]["lch_90"]
        assert low[0] < colour["lch"][0] < high[0]
        assert colour["sure"]["median_de00"] > 0
    text = run(capsys, *words, *asked)
    for word in ("glint", "seems value", "likely L", "uncertain mostly by"):
        assert word in text
    without = answer(capsys, "stack", "--coat", "Ember Orange", "--json")
    assert set(without) == {"sites"}
    assert set(without["sites"]["flat"]) == {"lab", "lch", "srgb", "in_gamut", "value"}


def test_the_finish_can_be_chosen(capsys: pytest.CaptureFixture[str]) -> None:
    words = ("stack", "--coat", "Harbour Violet", "--json", "--finish")
    chroma = [
        answer(capsys, *words, finish)["sites"]["flat"]["lch"][1]
        for finish in ("wet", "gloss", "satin", "matt")
    ]
    assert chroma[1] > chroma[2] > chroma[3]
    assert chroma[1] > chroma[0]  # wet paint shines like gloss, and is milky


def test_coats_to_a_colour_or_to_hiding(capsys: pytest.CaptureFixture[str]) -> None:
    told = answer(capsys, "coats-to", "--ground", "black", "--using", "Lime White", "--json")
    rows = told["thinnings"]
    assert [row["thinning"] for row in rows] == [1, 2, 3, 5, 7]
    assert rows[0]["passes"] < rows[-1]["passes"]
    assert rows[0]["minutes"] < rows[-1]["minutes"]
    yellow = ("coats-to", "--ground", "black", "--using", "Flask Blue", "--lab", "86", "0", "90")
    assert "after 3, 6, 12 passes still dE" in run(capsys, *yellow)
    rows = answer(capsys, *yellow, "--json")["thinnings"]
    assert all(row["passes"] is None for row in rows)
    assert all(set(row["after"]) == {"3", "6", "12"} for row in rows)


def test_two_stacks_under_every_light(capsys: pytest.CaptureFixture[str]) -> None:
    words = ("compare", "--coat", "Ember Orange", "--other", "Kiln Yellow 3 + Furnace Red")
    found = answer(capsys, *words, "--json")
    assert set(found["de00"]) == {"D65", "D50", "A", "LED-B3", "F11"}
    assert found["breaks_under"] == []
    assert "shop tube (F11): dE" in run(capsys, *words)
    same = answer(capsys, "compare", "--coat", "Ember", "--other", "Ember", "--json")
    assert set(same["de00"].values()) == {0}


def test_remarks_on_a_plan(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    hard = small_plan()
    coat = edits.with_passes(hard.passages[0].coats[0], 4)
    coat = with_feather(with_span(coat, 0.5, 1), 0, 0)
    hard = edits.set_passage(hard, 0, replace(hard.passages[0], coats=(coat,)))
    save(hard, tmp_path / "g.veil")
    rows = answer(capsys, "remarks", str(tmp_path / "g.veil"), "--json")
    harsh = next(row for row in rows if row["kind"] == "harsh step")
    assert harsh["passage"] == "flame"
    assert harsh["number"] > 12
    assert "Remedy: longer feather" in run(capsys, "remarks", str(tmp_path / "g.veil"))
    # What is known better now is told as it is in the window.
    weak = [replace(p, mu_a=tuple(0.5 * k for k in p.mu_a)) for p in small_plan().paints]
    save(replace(small_plan(), paints=tuple(weak)), tmp_path / "before.veil")
    assert "known better now" in run(capsys, "remarks", str(tmp_path / "before.veil"))
    save(Plan("calm", (Passage("p"),)), tmp_path / "calm.veil")
    assert run(capsys, "remarks", str(tmp_path / "calm.veil")) == "No remarks.\n"


def test_how_sure_a_plan_is(capsys: pytest.CaptureFixture[str], plan_file: str) -> None:
    found = answer(capsys, "predict", plan_file, "--sure", "--light", "A", "--json")
    assert found["light"] == "A"
    assert "uncertainty" in found["passages"][0]
    assert "uncertain mostly" in run(capsys, "predict", plan_file, "--hand", "loose")


def test_a_plan_at_eleven_places(capsys: pytest.CaptureFixture[str], plan_file: str) -> None:
    found = answer(capsys, "predict", plan_file, "--json")
    (passage,) = found["passages"]
    assert passage["name"] == "flame"
    assert [place["u"] for place in passage["field"]] == [round(i / 10, 1) for i in range(11)]
    assert all(set(place["sites"]) == {"recess", "flat", "ridge"} for place in passage["field"])
    assert "0.0 mm from the light" in run(capsys, "predict", plan_file)


def test_a_demo_plan_is_written_out(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    run(capsys, "sample", "diver", str(tmp_path / "d.veil"))
    assert "bell diver" in run(capsys, "steps", str(tmp_path / "d.veil"))


BAD = [
    (["stack", "--coat", "moon"], "no paint 'moon'"),
    (["stack", "--ground", "pink"], "invalid choice: 'pink'"),
    (["stack", "--light", "moon"], "invalid choice: 'moon'"),
    (["stack", "--coat"], "expected one argument"),
    (["stack", "--finish", "sticky"], "invalid choice: 'sticky'"),
    (["stack", "--hand", "third"], "invalid choice: 'third'"),
    (["stack", "--observer", "5"], "invalid choice: 5"),
    (["coats-to", "--using", "kiln", "--lab", "nan", "0", "0"], "must be three numbers"),
    (["coats-to"], "arguments are required: --using"),
    (["predict", "gone.veil"], "gone.veil cannot be read: no such file"),
    (["steps", "/"], "isn't a file that can be read"),
    (["dance"], "invalid choice: 'dance'"),
    ([], "arguments are required: JOB"),
    (["sample", "diver", "/no/such/folder/x.veil"], "cannot be written"),
    (["open"], "no window here"),
]


@pytest.mark.parametrize(("words", "sentence"), BAD, ids=[" ".join(b[0]) or "-" for b in BAD])
def test_bad_input_ends_with_two_and_one_sentence(
    words: list[str], sentence: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert cli.run(words) == 2
    out, err = capsys.readouterr()
    assert out == ""
    assert sentence in err
    assert err.count("\n") == 1


def program(*words: str, **environment: str) -> subprocess.CompletedProcess[str]:
    """Run the program in a process of its own."""
    env = {**os.environ, **environment}
    command = [sys.executable, "-m", "zesty_veil", *words]
    return subprocess.run(command, env=env, capture_output=True, text=True, check=False)


def test_the_program_itself(plan_file: str) -> None:
    done = program("steps", plan_file)
    assert (done.returncode, done.stderr) == (0, "")
    assert done.stdout.startswith("# A small plan")
    failed = program("predict", "gone.veil")
    assert (failed.returncode, failed.stdout) == (2, "")
    assert "Traceback" not in failed.stderr


def test_no_display_is_said_in_a_sentence() -> None:
    env = {"DISPLAY": "", "WAYLAND_DISPLAY": "", "QT_QPA_PLATFORM": ""}
    done = program("demo", **env)
    assert done.returncode == 2
    assert "no display here; add --shot FILE.png" in done.stderr
    assert done.stderr.count("\n") == 1


def test_the_demo_is_drawn_into_a_picture(tmp_path: Path) -> None:
    from PySide6.QtGui import QImage  # noqa: PLC0415

    done = program("demo", "--shot", str(tmp_path / "out.png"), "--size", "1200x720")
    assert (done.returncode, done.stderr) == (0, "")
    image = QImage(str(tmp_path / "out.png"))
    assert (image.width(), image.height()) == (1200, 720)
    vivid = sum(
        image.pixelColor(x, y).hslSaturation() > 150
        for x in range(0, 1200, 10)
        for y in range(0, 720, 10)
    )
    assert vivid > 100


def test_nothing_is_said_of_the_screen_in_a_picture(tmp_path: Path) -> None:
    asked = f"""
import sys
from zesty_veil.__main__ import main
from zesty_veil.desktop.shell.window import MainWindow
MainWindow.say = lambda self, words: print("said:", words)
sys.argv[1:] = ["demo", "--shot", {str(tmp_path / "out.png")!r}]
main()
"""
    done = subprocess.run(
        [sys.executable, "-c", asked], capture_output=True, text=True, check=False, timeout=120
    )
    assert (done.returncode, done.stderr) == (0, "")
    assert "larger than this screen" not in done.stdout
    assert (tmp_path / "out.png").stat().st_size > 10_000


@pytest.mark.parametrize(
    "words", [["demo", "--size", "big"], ["demo", "--shot", "/no/such/folder/out.png"]]
)
def test_a_picture_that_cannot_be_drawn(words: list[str]) -> None:
    done = program(*words, QT_QPA_PLATFORM="offscreen")
    assert done.returncode == 2
    assert done.stderr.startswith("zesty-veil: ")
    assert done.stderr.count("\n") == 1


def test_the_core_runs_where_qt_cannot(plan_file: str) -> None:
    code = (
        "import sys\n"
        "for name in ('PySide6', 'shiboken6', 'colour', 'scipy'): sys.modules[name] = None\n"
        "from zesty_veil.cli import main as cli\n"
        "import zesty_veil.services.forecast, zesty_veil.desktop.kit.geometry\n"
        "import zesty_veil.desktop.section.scene, zesty_veil.desktop.session.recent\n"
        f"sys.exit(cli.run(['predict', {plan_file!r}]))"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=False)
    assert (done.returncode, done.stderr) == (0, "")


def test_steps_say_what_the_bench_needs() -> None:
    text = steps(hand_laid())
    numbers = [int(n) for n in re.findall(r"^(\d+)\. ", text, re.M)]
    assert numbers == list(range(1, len(numbers) + 1))
    assert "thinned 2:1 with water (2 parts water to 1 part paint)" in text
    assert "2 parts Lamp Black, 1 part Furnace Red" in text
    assert re.search(
        r"passes, [^(]*, fading in from [^(]* \(\d+(\.\d)? to \d+(\.\d)? mm, in full", text
    )
    assert "Wait 2-5 min after each pass" in text
    assert "Wait 45-60 min" in text
    assert "ridges only" in text
    assert "Do not point a brush with the lips" in text
    assert "Hold the nozzle straight above" in text
    assert "End each stroke towards the far end" in text
    assert "black primer, Lime White sprayed from above" in text
    assert "respirator" in text
    assert "respirator" not in steps(small_plan())


def test_steps_of_a_spray_carry_its_caution(rack: dict[str, Paint]) -> None:
    coat = with_span(parse_coat("Lime White; tool spray", rack), 0.25, 0.75)
    coat = with_feather(coat, 0.125, 0.5)
    plan = Plan("p", (Passage("a", 16.0, coats=(coat,)),), tuple(rack.values()), figures=3)
    text = steps(plan)
    assert "respirator that the product's safety data sheet names" in text
    assert "3 figures" in text
    assert (
        "from a quarter to three quarters, soft at both ends (2 to 16 mm, in full 4 to 12)" in text
    )


def test_drying_follows_the_craft(rack: dict[str, Paint]) -> None:
    """Waiting times are common practice."""
    glaze = parse_coat("Furnace Red; water 3; tool glaze", rack)
    assert drying_minutes(glaze) == (2, 5)
    assert drying_minutes(parse_coat("Furnace Red", rack)) == (5, 10)
    assert drying_minutes(parse_coat("Soot Wash", rack)) == (45, 60)
    assert drying_minutes(parse_coat("Furnace Red; medium 4; tool glaze", rack)) == (4, 10)
    passage = Passage("p", area_mm2=200.0)
    half = with_span(glaze, 0, 0.5)
    assert painting_minutes(half, passage) < painting_minutes(glaze, passage)
    assert whole(glaze, passage) == painting_minutes(glaze, passage) + 3.5
    assert with_sites(glaze, ("ridge",)).sites == ("ridge",)
