"""Colours in words: which are known, what lies between two, and from where to where each means.

The hues and their limits are common practice.
"""

from __future__ import annotations

import numpy as np
import pytest

from test_cli import answer
from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lab_from_lch, lch
from zesty_veil.light.region import Region
from zesty_veil.plan.model import Target
from zesty_veil.predict.named import region_of
from zesty_veil.predict.targets import off_target
from zesty_veil.services.colours import parse_colour, target_of

PAINTERS_WORDS = (
    "lime", "emerald", "mint", "sea green", "slate", "steel", "cyan", "royal blue", "sky",
    "periwinkle", "navy", "indigo", "plum", "burgundy", "blood red", "brick", "salmon", "coral",
    "peach", "sand", "khaki", "olive drab", "rust", "chestnut", "chocolate", "cream", "buff",
    "charcoal", "acid green", "brownish purple", "golden yellow", "dark orange", "dark brown",
)  # fmt: skip


def hue(words: str) -> tuple[float, float, float]:
    L, C, h = (float(v) for v in lch(np.array(parse_colour(words))))
    return L, C, h


@pytest.mark.common_practice
@pytest.mark.parametrize("words", PAINTERS_WORDS)
def test_words_that_painters_use_are_known(words: str) -> None:
    region = region_of(words)
    assert region is not None
    # What stands for a word is so called itself.
    np.testing.assert_allclose(region.nearest(np.array(parse_colour(words))), parse_colour(words))


@pytest.mark.common_practice
def test_words_are_of_the_hue_and_lightness_that_painters_mean() -> None:
    hues = {"lime": (100, 130), "emerald": (140, 175), "salmon": (25, 55), "royal blue": (270, 305),
            "plum": (320, 350), "golden yellow": (78, 95), "rust": (35, 65)}  # fmt: skip
    for words, (low, high) in hues.items():
        assert low < hue(words)[2] < high, words
    assert hue("navy")[0] < hue("royal blue")[0] < hue("sky")[0]
    assert hue("chocolate")[0] < hue("chestnut")[0] < hue("sand")[0] < hue("cream")[0]


def test_two_hues_and_a_modifier_are_read_in_either_order() -> None:
    assert parse_colour("brownish purple") == parse_colour("purple brownish")
    assert parse_colour("dark orange") == parse_colour("orange dark")
    brown, between, purple = (hue(words)[2] for words in ("brown", "brownish purple", "purple"))
    assert purple < between < brown + 360
    # Nearer to the one that it names.
    assert abs(hue("bluish green")[2] - hue("green")[2]) < abs(
        hue("bluish green")[2] - hue("blue")[2]
    )
    for none in ("brownish", "very", "red green blue", "dark"):
        with pytest.raises(InputError, match="is no colour"):
            parse_colour(none)


@pytest.mark.common_practice
def test_a_bare_hue_is_any_clear_colour_of_that_hue() -> None:
    yellow = region_of("yellow")
    assert yellow is not None
    assert yellow.h == (82.0, 100.0)
    assert (yellow.C[0], yellow.L[0]) == (60.0, 72.0)
    target = target_of("yellow", 0.5)
    assert target.words == "yellow"
    for L, C, h in ((75.0, 62.0, 84.0), (90.0, 95.0, 99.0)):
        assert off_target(target, lab_from_lch(np.array([L, C, h]))) == pytest.approx(0, abs=1e-9)
    for L, C, h in ((75.0, 62.0, 70.0), (60.0, 70.0, 90.0), (80.0, 30.0, 90.0)):
        assert off_target(target, lab_from_lch(np.array([L, C, h]))) > 2
    # A colour in numbers is that colour, and no other.
    exact = target_of("#ffd040", 0.5)
    assert (exact.words, region_of("#ffd040"), region_of("80, 0, 70")) == ("", None, None)
    assert off_target(Target(0.5, (80.0, 0.0, 70.0)), np.array([80.0, 0.0, 60.0])) > 2


def test_the_nearest_of_a_region_runs_through_hue_nought() -> None:
    pink = Region((50.0, 80.0), (20.0, 60.0), (-20.0, 20.0))
    for h in (350.0, 10.0):
        inside = lab_from_lch(np.array([60.0, 40.0, h]))
        np.testing.assert_allclose(pink.nearest(inside), inside)
    far = lch(pink.nearest(lab_from_lch(np.array([60.0, 40.0, 300.0]))))
    assert far[2] == pytest.approx(340.0)


@pytest.mark.common_practice
@pytest.mark.parametrize(
    ("words", "ground", "kinds"),
    [
        ("yellow", "white", {"Saffron Buoy", "Kiln Yellow"}),
        ("strong orange", "white", {"Slipway Orange", "Lantern Amber", "Ember Orange"}),
        ("bone", "black", {"Driftbone Ivory", "Cuttlebone", "Lime White"}),
        ("blue", "white", {"Breakwater Blue", "Deepwell Blue", "Midwater Ultramarine"}),
    ],
)
def test_a_colour_in_words_is_one_pot_in_one_or_two_coats(
    words: str, ground: str, kinds: set[str], capsys: pytest.CaptureFixture[str]
) -> None:
    best = answer(capsys, "match", "--target", words, "--ground", ground, "--json")["ways"][0]
    assert best["mean_de00"] == 0
    pots = {
        part.split(";")[0].strip() for coat in best["coats"] for part in coat["words"].split("+")
    }
    assert len(best["coats"]) <= 2
    assert pots <= kinds
