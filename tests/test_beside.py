"""What lies beside a colour: blue makes an orange look more orange, grey changes its hue nothing.

The reference white for simultaneous contrast is that of Hunt (1991), cited in `light.ciecam16`; its
strength is from memory. That a thin cold film beside an orange makes it look hotter is common
practice.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from pytestqt.qtbot import QtBot

from driving import opened
from test_cli import answer, run
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.light.ciecam16 import Viewing, ciecam16, induced_white
from zesty_veil.light.cielab import xyz_from_lab
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import white
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Ground, Passage, Plan
from zesty_veil.predict.appearance import colour_gain_words, complement_of, livelier
from zesty_veil.predict.field import axis, fold
from zesty_veil.predict.look import DAYLIGHT

RACK = {paint.name: paint for paint in demo_rack()}
ORANGE, BLUE = np.array([65.0, 45.0, 65.0]), np.array([50.0, -5.0, -45.0])


def seen(colour: Array, beside: Array | None) -> Array:
    near = None if beside is None else xyz_from_lab(beside, white())
    return ciecam16(xyz_from_lab(colour, white()), white(), Viewing(0.2), near)


@given(st.floats(5, 95))
def test_a_grey_beside_leaves_every_hue_as_it_is(lightness: float) -> None:
    grey = np.array([lightness, 0.0, 0.0])
    np.testing.assert_allclose(induced_white(xyz_from_lab(grey, white()), white()), white(), 1e-9)
    np.testing.assert_allclose(seen(ORANGE, grey), seen(ORANGE, None), rtol=1e-9)


@pytest.mark.common_practice
def test_the_opposite_beside_makes_a_colour_stronger_and_its_own_hue_weaker() -> None:
    alone, by_blue, by_orange = (float(seen(ORANGE, b)[1]) for b in (None, BLUE, ORANGE))
    assert by_blue > 1.04 * alone
    assert by_orange < 0.96 * alone
    # A grey beside orange leans to blue, away from it.
    grey = seen(np.array([60.0, 0.0, 0.0]), ORANGE)
    assert grey[1] > 3
    assert 200 < grey[2] < 290


def stack(words: str):  # type: ignore[no-untyped-def]
    passage = Passage("p", ground=Ground("white"), coats=(parse_coat(words, RACK),))
    return fold(passage, passage.coats, RACK, axis(1), np.zeros(1))


def test_how_much_stronger_a_colour_seems_is_told_in_words() -> None:
    orange = stack("Ember Orange; passes 2")
    gain = float(livelier(orange, DAYLIGHT, BLUE)[0, 0])
    assert gain > 0.04
    assert colour_gain_words(gain) == f"its colour seems stronger ({100 * gain:+.0f} %)"
    assert colour_gain_words(-gain).startswith("its colour seems weaker (-")
    assert colour_gain_words(0.01) == ""
    # A grey has no colour that could seem stronger.
    assert float(livelier(stack("Pewter Grey; passes 3"), DAYLIGHT, BLUE)[0, 0]) == 0
    L, a, b = complement_of(np.array([[60.0, 30.0, 40.0], [60.0, 10.0, 20.0]]))
    assert (L, a, b) == (60.0, -20.0, -30.0)


def test_the_complement_beside_on_the_command_line(capsys: pytest.CaptureFixture[str]) -> None:
    words = ("stack", "--ground", "white", "--coat", "Ember Orange; passes 2")
    told = answer(capsys, *words, "--surround", "complementary", "--json")["sites"]["flat"]
    assert told["appears"]["stronger"] > 0.04
    grey = answer(capsys, *words, "--surround", "grey", "--json")["sites"]["flat"]
    assert "stronger" not in grey["appears"]
    assert "its colour seems stronger" in run(capsys, *words, "--surround", "complementary")


def plan() -> Plan:
    orange = Passage("glow", coats=(parse_coat("Ember Orange; passes 2", RACK),),
                     ground=Ground("white"))  # fmt: skip
    blue = Passage("cloak", coats=(parse_coat("Breakwater Blue; passes 3", RACK),))
    return edits.surround(Plan("p", (orange, blue), demo_rack()), 0, "cloak")


@pytest.fixture
def window(qtbot: QtBot) -> Iterator[MainWindow]:
    yield from opened(qtbot, plan())


def test_the_window_says_what_the_passage_beside_does(window: MainWindow) -> None:
    assert window.wait_until_idle()
    scene = window.section.view.scene
    assert "its colour seems stronger" in scene.surround_words()
    grey = replace(plan().passages[1], coats=(parse_coat("Pewter Grey; passes 3", RACK),))
    window.document.edit(edits.set_passage(plan(), 1, grey), "grey")
    assert window.wait_until_idle()
    assert "its colour" not in window.section.view.scene.surround_words()
