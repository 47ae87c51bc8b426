"""The command line's cards, racks and log."""

from __future__ import annotations

import json
from pathlib import Path

import msgspec
import numpy as np
import pytest
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QApplication

import cardphoto as camera
from simulated import card_of, true_paint
from zesty_veil.cli import main as cli
from zesty_veil.desktop.shell.start import start
from zesty_veil.exchange.cgats import write_cgats
from zesty_veil.exchange.spectra import of_spectrum
from zesty_veil.log.card import Card, Patch, dump_card, load_card
from zesty_veil.paint.paint import Paint
from zesty_veil.paths import log_path

Capture = pytest.CaptureFixture[str]


def run(capsys: Capture, *words: str) -> str:
    assert cli.run(words, start) == 0, capsys.readouterr().err
    return capsys.readouterr().out


def refused(capsys: Capture, *words: str) -> str:
    assert cli.run(words, start) == 2
    told = capsys.readouterr()
    assert not told.out
    assert told.err.startswith("zesty-veil: ")
    assert told.err.count("\n") == 1
    return told.err


@pytest.fixture(scope="module")
def photo(tmp_path_factory: pytest.TempPathFactory, qapp: QApplication) -> Path:
    rng = np.random.default_rng(4)
    pot = true_paint(rng, "transparent", {"PO73": 1.0}, 1.0)
    painted = {(b, n): R for b, n, R in card_of(rng, pot, 1.0, "loaded")}
    pixels = camera.photograph(painted, camera.Shot(size=(1000, 750), fill=0.7))
    h, w = pixels.shape[:2]
    path = tmp_path_factory.mktemp("photo") / "card.jpg"
    image = QImage(pixels.tobytes(), w, h, 3 * w, QImage.Format.Format_RGB888)
    assert image.save(str(path), "JPG", 85)  # type: ignore[call-overload]
    return path


def test_a_photograph_becomes_a_paint_of_the_rack(
    capsys: Capture, photo: Path, tmp_path: Path
) -> None:
    found = json.loads(run(capsys, "read-card", str(photo), "--json"))
    assert [(p["backing"], p["passes"]) for p in found["patches"]][:2] == [
        ("white", 0),
        ("white", 1),
    ]
    assert np.array(found["corners"]).shape == (4, 2)
    card = tmp_path / "card.json"
    said = run(capsys, "read-card", str(photo), "--paint", "My orange", "--pigments", "PO73",
               "--thinned", "1", "-o", str(card))  # fmt: skip
    assert f"Wrote {card}" in said
    assert load_card(card).paint == "My orange"
    out = tmp_path / "paint.json"
    said = run(capsys, "fit", str(card), "-o", str(out), "--rack")
    assert "sure within dE" in said
    assert "Kept in the rack Brackwater" in said
    paint = msgspec.json.decode(out.read_bytes(), type=Paint)
    assert paint.name == "My orange"
    assert len(paint.spread) > 2
    assert "My orange" in run(capsys, "rack")
    # The new paint is at hand for every other job.
    assert "L" in run(capsys, "stack", "--coat", "My orange; water 2; passes 2; tool glaze")
    told = json.loads(run(capsys, "fit", str(card), "--json"))
    assert set(told) == {"paint", "de00", "sure_de00", "unknown"}


def test_a_fit_takes_an_instruments_file(capsys: Capture, tmp_path: Path) -> None:
    (tmp_path / "card.json").write_bytes(
        dump_card(Card("Mine", "ink", (Patch("white", 1, (50.0, 0.0, 0.0)),), ("PR101", "PBk7")))
    )
    samples = [
        of_spectrum("white 1", np.linspace(0.3, 0.8, 36)),
        of_spectrum("black 1", np.full(36, 0.02)),
    ]
    (tmp_path / "x.cgats").write_text(write_cgats("x", "D65", samples))
    told = json.loads(run(capsys, "fit", str(tmp_path / "card.json"), "--measurements",
                          str(tmp_path / "x.cgats"), "--json"))  # fmt: skip
    assert len(told["de00"]) == 2


def test_what_cannot_be_read_or_fitted_gets_a_sentence(
    capsys: Capture, photo: Path, tmp_path: Path
) -> None:
    assert "cannot be read" in refused(capsys, "fit", str(tmp_path / "none.json"))
    (tmp_path / "bad.json").write_text("[]")
    assert "bad.json" in refused(capsys, "fit", str(tmp_path / "bad.json"))
    assert "no picture" in refused(capsys, "read-card", str(tmp_path / "bad.json"))
    corners = [str(v) for v in (1, 1, 2, 2, 3, 3, 4, 4)]
    assert "corners" in refused(capsys, "read-card", str(photo), "--corners", *corners)
    out = tmp_path / "nowhere" / "card.json"
    assert "cannot be written" in refused(capsys, "read-card", str(photo), "-o", str(out))


def test_racks_in_and_out(capsys: Capture, tmp_path: Path) -> None:
    for ending in ("json", "csv", "gpl"):
        run(capsys, "rack", "export", str(tmp_path / f"r.{ending}"))
        assert (tmp_path / f"r.{ending}").stat().st_size > 500
    assert "Took 67 paints" in run(capsys, "rack", "import", str(tmp_path / "r.json"))
    assert "The rack Brackwater is in use" in run(capsys, "rack", "use", "Brackwater")
    assert "no rack 'x'" in refused(capsys, "rack", "use", "x")
    assert "needs the name of a file" in refused(capsys, "rack", "import")
    assert "cannot be read" in refused(capsys, "rack", "import", str(tmp_path / "none.json"))
    assert "must end in" in refused(capsys, "rack", "export", str(tmp_path / "r.xyz"))


def test_the_log_is_written_listed_and_given_out(capsys: Capture, tmp_path: Path) -> None:
    plan = tmp_path / "g.veil"
    run(capsys, "sample", "glasswright", str(plan))
    seen = "gather of molten glass; 5; flat; "
    said = run(capsys, "log", "add", str(plan), "--seen", seen + "#ff9a40", "--seen",
               seen + "60 40 60", "--words", "came out hot", "--minutes", "200",
               "--celsius", "21", "--humidity", "45")  # fmt: skip
    assert said == "Wrote record 1.\n"
    listed = run(capsys, "log", "list")
    assert "The glasswright" in listed
    assert listed.count("gather of molten glass: dE") == 2
    assert run(capsys, "log", "list", "violet sea") == "No records.\n"
    (row,) = json.loads(run(capsys, "log", "list", "hot", "--json"))
    assert row["counts"]
    assert row["de00"] > 1
    assert "counts no more" in run(capsys, "log", "ignore", "1")
    assert "not learnt from" in run(capsys, "log", "list")
    assert "Record 1 counts" in run(capsys, "log", "count", "1")
    run(capsys, "log", "export", str(tmp_path / "l.csv"))
    assert (tmp_path / "l.csv").read_text().count("gather") == 2
    assert "out of the log" in run(capsys, "log", "remove", "1")
    assert run(capsys, "log", "list") == "No records.\n"


def test_a_colour_may_be_noted_in_words_which_say_little(capsys: Capture, tmp_path: Path) -> None:
    plan = tmp_path / "g.veil"
    run(capsys, "sample", "glasswright", str(plan))
    words = [
        "gather of molten glass; 1; flat; yellow",
        "gather of molten glass; 1; flat; dark blue",
    ]
    run(capsys, "log", "add", str(plan), "--seen", words[0])
    run(capsys, "log", "add", str(plan), "--seen", words[1])
    other, same = json.loads(run(capsys, "log", "list", "--json"))
    # What is so called as it was predicted came out as predicted.
    assert same["de00"] < 6
    assert other["de00"] > 30
    run(capsys, "log", "export", str(tmp_path / "l.csv"))
    _, *rows = (tmp_path / "l.csv").read_text().splitlines()
    assert all(",words," in row for row in rows)


@pytest.mark.parametrize(
    ("seen", "words"),
    [
        ("gather", "write"),
        ("cloak; 5; flat; #ffffff", "no passage 'cloak'"),
        ("gather of molten glass; 99; flat; #ffffff", "from 0 to 18"),
        ("gather of molten glass; far; flat; #ffffff", "from 0 to 18"),
        ("gather of molten glass; 5; top; #ffffff", "one of recess, flat, ridge"),
        ("gather of molten glass; 5; flat; plaid", "no colour"),
    ],
)
def test_a_colour_that_is_written_wrong_gets_a_sentence(
    capsys: Capture, tmp_path: Path, seen: str, words: str
) -> None:
    plan = tmp_path / "g.veil"
    run(capsys, "sample", "glasswright", str(plan))
    assert words in refused(capsys, "log", "add", str(plan), "--seen", seen)
    assert run(capsys, "log", "list") == "No records.\n"


def test_other_log_jobs_say_what_they_need(capsys: Capture, tmp_path: Path) -> None:
    assert "needs a plan" in refused(capsys, "log", "add")
    assert "no record's number" in refused(capsys, "log", "remove", "first")
    assert "no record 7" in refused(capsys, "log", "ignore", "7")
    log_path().write_bytes(b"no log " * 400)
    assert "damaged" in refused(capsys, "log", "list")
    assert "damaged" in refused(capsys, "stack", "--coat", "Kiln Yellow")


def test_the_hand_is_learnt_from_strips_of_a_measured_paint(
    capsys: Capture, photo: Path, tmp_path: Path
) -> None:
    card = tmp_path / "card.json"
    run(capsys, "read-card", str(photo), "--paint", "My orange", "--pigments", "PO73",
        "--thinned", "1", "-o", str(card))  # fmt: skip
    assert "no paint 'My orange'" in refused(capsys, "fit", str(card), "--hand")
    run(capsys, "fit", str(card), "--rack")
    assert "times the usual film" in run(capsys, "fit", str(card), "--hand")
    told = json.loads(run(capsys, "fit", str(card), "--hand", "--json"))
    assert told["tool"] == "loaded"
