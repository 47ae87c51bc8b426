"""Ladders between pots: whole drops, evenly spaced, and the middle seen before pots are chosen.

Ratios such as 70:30 and 40:60, A, A+B, B, B+C, C, and light edges at both ends of a panel are
common practice.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from driving import go, opened
from test_cli import answer, run
from zesty_veil.advise.drops import MOST_DROPS
from zesty_veil.advise.ladder import (
    MOST_RUNGS,
    PotLadder,
    ladder,
    ladder_coats,
    pairs_from,
)
from zesty_veil.cli import main as cli
from zesty_veil.desktop.match.ladderpage import LadderPage
from zesty_veil.desktop.match.station import MatchStation
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab_from_lch, lch
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.fileformat import load, parse, save
from zesty_veil.plan.model import Coat, Ground, Passage, Plan
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import DAYLIGHT

RACK = {paint.name: paint for paint in demo_rack()}
WHITE = Passage("p", ground=Ground("white"))
LEFT = Qt.MouseButton.LeftButton


def made(*names: str, count: int = 5, style: str = "even") -> PotLadder:
    pots = [RACK[name] for name in names]
    return ladder(pots, count, WHITE, demo_rack(), DAYLIGHT, style)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    "names",
    [
        ("Kiln Yellow", "Furnace Red"),
        ("Lime White", "Breakwater Blue"),
        ("Saffron Buoy", "Pilot Red", "Lamp Black"),
        ("Lime White", "Brash Ice Blue", "Deepwell Blue", "Lamp Black"),
    ],
)
@pytest.mark.parametrize("count", [5, 7])
def test_steps_are_whole_drops_evenly_spaced_and_hold_the_pots(
    names: tuple[str, ...], count: int
) -> None:
    found = made(*names, count=count)
    assert len(found.rungs) == count
    pure = [rung.parts[0].paint for rung in found.rungs if len(rung.parts) == 1]
    assert pure == list(names)
    for rung in found.rungs:
        drops = [part.parts for part in rung.parts]
        assert all(float(n).is_integer() for n in drops)
        assert sum(drops) <= MOST_DROPS
        # What is told of a step is what is predicted for it.
        coat = parse_coat(" + ".join(f"{p.paint} {p.parts:g}" for p in rung.parts), RACK)
        laid = Coat(coat.mixture.__class__(rung.parts, "water", 0.5), "loaded", 2)
        whole = Passage("p", ground=Ground("white"), coats=(laid,))
        seen = predict(whole, RACK, axis(1), np.zeros(1)).lab[0, 0]
        np.testing.assert_allclose(rung.lab, seen, atol=1e-6)
    steps = [rung.step for rung in found.rungs[1:]]
    if len(names) == 2:
        # One drop in 24 of a strong blue goes far at once; what is left is shared evenly.
        assert max(steps[1:]) < 1.5 * min(steps[1:])
        assert steps[0] < 2.5 * max(steps[1:])
    shares = [rung.share for rung in found.rungs]
    assert shares[0] == 0
    assert shares[-1] == pytest.approx(1)
    assert shares == sorted(shares)


@pytest.mark.common_practice
def test_a_strong_paint_takes_over_at_one_part_in_ten() -> None:
    found = made("Lime White", "Breakwater Blue", count=3)
    white, blue = (part.parts for part in found.rungs[1].parts)
    assert white / blue > 2  # the middle to the eye is far from half of each


def test_pots_and_their_halves() -> None:
    found = made("Saffron Buoy", "Pilot Red", "Lamp Black", style="pairs")
    assert [tuple(part.paint for part in rung.parts) for rung in found.rungs] == [
        ("Saffron Buoy",), ("Saffron Buoy", "Pilot Red"), ("Pilot Red",),
        ("Pilot Red", "Lamp Black"), ("Lamp Black",),
    ]  # fmt: skip
    assert {part.parts for rung in found.rungs for part in rung.parts} == {1.0}


@pytest.mark.common_practice
def test_the_mud_between_opposites_is_seen_before_they_are_chosen() -> None:
    """Orange into blue passes through brown or grey; yellow into red stays clean."""
    pairs = {
        other.name: (labs, mud)
        for other, labs, mud in pairs_from(
            RACK["Slipway Orange"], demo_rack(), WHITE, demo_rack(), DAYLIGHT
        )
    }
    assert "Slipway Orange" not in pairs
    assert "Clear Medium" not in pairs
    labs, mud = pairs["Breakwater Blue"]
    assert mud
    chroma = lch(labs)[:, 1]
    assert chroma.min() < 0.4 * min(chroma[0], chroma[-1])
    assert pairs["Pilot Red"][1] == ""
    assert pairs["Saffron Buoy"][1] == ""
    assert made("Slipway Orange", "Breakwater Blue").mud
    assert made("Saffron Buoy", "Pilot Red").mud == ""


def test_spans_shrink_towards_an_end_or_both() -> None:
    rungs = made("Lime White", "Breakwater Blue").rungs
    for end, at in (("far", 0), ("light", 1)):
        coats = ladder_coats(rungs, end)  # type: ignore[arg-type]
        assert coats[0].span == (0.0, 1.0)
        edges = [coat.span[at] for coat in coats[1:]]
        wide = [coat.span[1] - coat.span[0] for coat in coats]
        assert all(b < a for a, b in pairwise(wide))
        assert len(set(edges)) == len(edges)
    both = ladder_coats(rungs, "both")
    assert len(both) == 1 + 2 * (len(rungs) - 1)
    passage = Passage("panel", ground=Ground("black"), coats=both)
    seen = predict(passage, RACK, axis(101), np.zeros(1)).lab[:, 0]
    np.testing.assert_allclose(seen, seen[::-1], atol=0.5)  # light edges at both ends
    assert ciede2000(seen[0], seen[50]) > 20
    ridge = ladder_coats(rungs, "far", ("ridge",))
    assert ridge[0].sites == ("recess", "flat", "ridge")
    assert {coat.sites for coat in ridge[1:]} == {("ridge",)}


def test_each_step_lies_at_its_share_of_the_axis() -> None:
    rungs = made("Lime White", "Breakwater Blue").rungs
    passage = Passage("p", ground=Ground("white"), coats=ladder_coats(rungs))
    middles = (np.arange(5) + 0.2) / 5
    seen = predict(passage, RACK, middles, np.zeros(1)).lab[:, 0]
    # One layer over the step below is not quite as full as two coats on the ground.
    for k, rung in enumerate(rungs):
        off = ciede2000(seen, rung.lab)
        assert int(np.argmin(off)) == k
        assert off[k] < 8


def test_a_clear_yellow_is_laid_until_the_red_below_it_hardly_shows() -> None:
    rungs = made("Furnace Red", "Kiln Yellow").rungs
    assert max(rung.passes for rung in rungs[1:]) > 1
    whole = Passage("p", ground=Ground("white"), coats=ladder_coats(rungs))
    once = replace(whole, coats=tuple(replace(coat, passes=1) for coat in whole.coats))
    off = [
        float(ciede2000(predict(each, RACK, np.ones(1), np.zeros(1)).lab[0, 0], rungs[-1].lab))
        for each in (whole, once)
    ]
    assert off[0] < off[1] - 3


@pytest.mark.parametrize(
    ("names", "count", "style", "words"),
    [
        (("Lime White",), 5, "even", "2 to 4 pots; these are 1"),
        (("Lime White", "Lime White"), 5, "even", "beside itself"),
        (("Lime White", "Clear Medium"), 5, "even", "no colour of its own"),
        (("Lime White", "Lamp Black"), MOST_RUNGS + 1, "even", "must have from 2 to"),
        (("Lime White", "Pewter Grey", "Lamp Black"), 2, "even", "between 3 pots"),
        (("Lime White", "Lamp Black"), 5, "steep", "no ladder 'steep'"),
    ],
)
def test_ladders_that_cannot_be_are_refused(
    names: tuple[str, ...], count: int, style: str, words: str
) -> None:
    with pytest.raises(InputError, match=words):
        made(*names, count=count, style=style)


def test_a_ladder_from_the_command_line(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    two = ("--pot", "Kiln Yellow", "--pot", "Furnace Red")
    told = answer(capsys, "ladder", *two, "--steps", "4", "--towards", "light", "--json")
    assert told["steps"][0]["share"] == 0.0
    assert len(told["steps"]) == 4
    assert told["coats"][-1]["span"][0] == 0.0
    assert told["mud"] is None
    every = answer(capsys, "ladder", "--pot", "Kiln Yellow", "--json")
    assert {"pot", "between", "mud"} == set(every[0])
    path, out = tmp_path / "p.veil", tmp_path / "out.veil"
    save(Plan("p", (WHITE,)), path)
    answer(capsys, "ladder", *two, "--plan", str(path), "--site", "ridge", "-o", str(out), "--json")
    laid = parse(out.read_bytes()).passages[0].coats
    assert len(laid) == 5
    assert laid[-1].sites == ("ridge",)
    for words, sentence in (
        (["--pot", "Moonshine"], "Moonshine"),
        ([], "Name the pots"),
        ([*two, "-o", str(out)], "say which with --plan"),
        ([*two, "--plan", str(path), "--passage", "moon"], "no passage 'moon'"),
    ):
        assert cli.run(["ladder", *words]) == 2
        assert sentence in capsys.readouterr().err
    save(Plan("empty"), path)
    for job in (["ladder", *two], ["match", "--target", "red"]):
        assert cli.run([*job, "--plan", str(path)]) == 2
        assert "The plan has no passage yet" in capsys.readouterr().err


@pytest.fixture
def window(qtbot: QtBot) -> Iterator[MainWindow]:
    yield from opened(qtbot, Plan("p", (WHITE,)))


def ladder_page(window: MainWindow) -> LadderPage:
    go(window, "match")
    station = window.router.at(MatchStation)
    QTest.mouseClick(station.view.bar.ladder, LEFT)
    page = station.ladder
    assert window.router.page is page
    assert page.wait_until_idle()
    return page


def row_of(page: LadderPage, name: str) -> int:
    return next(i for i, pair in enumerate(page.pairs.rows) if pair.name == name)


def press(page: LadderPage, name: str) -> None:
    page.pairs.scrollTo(page.pairs.model().index(row_of(page, name), 0))
    row = page.pairs.box(row_of(page, name))
    QTest.mouseClick(page.pairs.viewport(), LEFT, pos=row.center().toPoint())
    assert page.wait_until_idle()


def test_pots_are_taken_by_a_press_and_the_ladder_is_laid(window: MainWindow) -> None:
    before = window.document.plan
    page = ladder_page(window)
    assert not page.lay.isEnabled()
    press(page, "Saffron Buoy")
    assert page.pots == ("Saffron Buoy",)
    # Now each row shows what lies between, before the second is chosen.
    page.pairs.hold(row_of(page, "Pilot Red"))
    orange = page.pairs.box(row_of(page, "Pilot Red"))
    drawn = page.pairs.viewport().grab().toImage()
    ratio = drawn.devicePixelRatio()
    y = round((orange.bottom() - 8) * ratio)
    left = drawn.pixelColor(round((orange.x() + 20) * ratio), y)
    right = drawn.pixelColor(round((orange.right() - 20) * ratio), y)
    assert left.green() > right.green() + 80
    press(page, "Pilot Red")
    assert page.lay.isEnabled()
    assert page.shown is not None
    assert page.shown.found is not None
    cell = page.strip._rung(0).center().toPoint()
    colour = page.strip.grab().toImage().pixelColor(cell)
    assert colour.red() > 200
    assert colour.blue() < 100
    page.count.setValue(7)
    assert page.wait_until_idle()
    assert len(page.shown.found.rungs) == 7
    QTest.mouseClick(page.lay, LEFT)
    assert window.router.station == "section"
    assert len(window.document.plan.passages[0].coats) == 7
    window.document.undo()
    assert window.document.plan == before


def test_the_ladder_by_keys_alone(window: MainWindow) -> None:
    page = ladder_page(window)
    page.take_focus()
    QTest.keyClick(page.pairs, Qt.Key.Key_Space)
    assert page.wait_until_idle()
    first = page.pots[0]
    QTest.keyClick(page.pairs, Qt.Key.Key_Down)
    QTest.keyClick(page.pairs, Qt.Key.Key_Space)
    assert page.wait_until_idle()
    assert len(page.pots) == 2
    QTest.keyClick(page.pairs, Qt.Key.Key_Backspace)
    assert page.wait_until_idle()
    assert page.pots == (first,)
    for name in ("Pilot Red", "Lamp Black", "Lime White", "Kiln Yellow"):
        page.take(name)
    assert len(page.pots) == 4
    assert "Four pots are the most" in page.words.text()
    assert page.wait_until_idle()
    assert len(page.strip.items()) >= 4
    assert page.pairs.rows
    page.pots = ("Lime White", "Lime White")
    page.ask()
    assert page.wait_until_idle()
    assert "beside itself" in page.words.text()
    QTest.keyClick(page.pairs, Qt.Key.Key_Escape)
    assert window.router.station == "section"
    # Match comes back to the pots, until colours are wanted again.
    go(window, "match")
    assert window.router.page is page
    assert page.wait_until_idle()
    QTest.mouseClick(page.colours, LEFT)
    assert window.router.page is window.router.at(MatchStation).view
    assert window.wait_until_idle()


@pytest.mark.common_practice
def test_two_ladders_share_one_base_and_neither_buries_the_other(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    """Blue armour: green one way, pale blue the other."""
    bare, one, both = (tmp_path / f"{name}.veil" for name in ("bare", "one", "both"))
    save(Plan("armour", (Passage("plate", 30.0, ground=Ground("black")),), demo_rack()), bare)
    for plan, out, pot, end in (
        (bare, one, "Seawall Green", "far"), (one, both, "Brash Ice Blue", "light"),
    ):  # fmt: skip
        words = ["--pot", "Deepwell Blue", "--pot", pot, "--steps", "3", "--towards", end]
        run(capsys, "ladder", *words, "--share", "50", "--plan", str(plan), "-o", str(out))
    (passage,) = load(both).passages
    base = [c for c in passage.coats if c.span == (0.0, 1.0)]
    assert len(base) == 1  # laid once
    rack = load(both).rack()
    light, middle, far = predict(passage, rack, np.array([0.0, 0.5, 1.0]), np.zeros(1)).lch[:, 0]
    alone = {
        name: predict(
            replace(passage, coats=(parse_coat(f"{name}; water 0.5; passes 3", rack),)), rack,
            axis(1), np.zeros(1),
        ).lab[0, 0]
        for name in ("Deepwell Blue", "Seawall Green", "Brash Ice Blue")
    }  # fmt: skip
    for seen, name in (
        (light, "Brash Ice Blue"), (middle, "Deepwell Blue"), (far, "Seawall Green"),
    ):  # fmt: skip
        assert float(ciede2000(lab_from_lch(seen), alone[name])) < 6, name
    for coat in passage.coats:
        assert coat in base or coat.span[0] >= 0.5 or coat.span[1] <= 0.5
    assert cli.run(["ladder", "--pot", "Lime White", "--pot", "Lamp Black", "--share", "5"]) == 2
    assert "choose 20 to 100" in capsys.readouterr().err
