"""Fires: each school in the order of values and hues that painters give it (common practice)."""

from __future__ import annotations

import json
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from test_cli import answer
from zesty_veil.advise.fire import (
    FIRE_SCHOOLS,
    LEAST_FIRE_STEPS,
    MOST_FIRE_STEPS,
    FireSchool,
    fire,
    planckian_hue,
)
from zesty_veil.cli import main as cli
from zesty_veil.errors import InputError
from zesty_veil.light.adapt import adapted
from zesty_veil.light.cielab import lch
from zesty_veil.light.gamut import most_chroma
from zesty_veil.light.illuminant import white
from zesty_veil.light.srgb import srgb

schools = st.sampled_from(FIRE_SCHOOLS)
step_counts = st.integers(LEAST_FIRE_STEPS, MOST_FIRE_STEPS)


@given(schools, step_counts, st.floats(1300, 2400), st.floats(800, 1200), st.floats(0, 359))
def test_every_fire_is_brightest_at_its_light(
    school: FireSchool, steps: int, hot: float, cold: float, hue: float
) -> None:
    made = fire(school, steps, hot, cold, hue)
    assert made.shape == (steps, 3)
    L = made[:, 0]
    assert L[0] == pytest.approx(97)
    assert L.max() == L[0]
    # Brown soot, and smoke that is no lighter.
    assert all(b < a for a, b in pairwise(L))
    smoke = 1 if school == "sooty" and steps > LEAST_FIRE_STEPS else 0
    fire_only = L[: steps - smoke]
    assert all(b < a for a, b in pairwise(fire_only))
    assert fire_only[-1] < (38 if school == "sooty" else 20)
    # All of it can be shown, and so about painted.
    assert srgb(made)[1].all()


@pytest.mark.common_practice
def test_the_schools_are_told_apart_by_their_hues() -> None:
    hues = {school: lch(fire(school, 7))[:, 2] for school in FIRE_SCHOOLS}
    chroma = {school: lch(fire(school, 7))[:, 1] for school in FIRE_SCHOOLS}
    # Deep: yellow, orange, red, dark red.
    assert all(b <= a for a, b in pairwise(hues["deep"]))
    # A clear yellow comes before the orange.
    assert 87 < hues["deep"][1] < 93
    assert chroma["deep"][1] > 60
    assert hues["deep"][1] > 75
    assert 52 < hues["deep"][2] < 72
    assert 40 < hues["deep"][3] < 50
    assert hues["deep"][5] < 42
    # Sooty: no red; orange, then the brown of soot, and smoke without colour.
    assert hues["sooty"][:5].min() > 55
    assert chroma["sooty"][5] < 12
    assert chroma["sooty"][6] < 5
    # Cold: through magenta to violet and dark blue.
    assert 320 < hues["cold"][4] < 360
    assert 270 < hues["cold"][6] < 300
    # Of one hue, whose tints keep some yellow.
    assert np.ptp(hues["single"]) < 40
    assert hues["single"][0] < hues["single"][3] == pytest.approx(140)


def test_hotter_is_yellower_as_planck_has_it() -> None:
    kelvin = np.linspace(900, 2100, 9)
    hue = planckian_hue(kelvin, 2200.0, np.full(9, 50.0))
    assert all(b > a for a, b in pairwise(hue))
    # To an eye for which it is white, the hottest has no hue to speak of.
    D65 = white()
    np.testing.assert_allclose(adapted(D65 * 0.3, D65, D65), D65 * 0.3, atol=1e-12)
    other = np.array([1.1, 1.0, 0.3])
    np.testing.assert_allclose(adapted(other, other, D65), D65, atol=1e-12)


def test_no_colour_on_the_screen_is_stronger_than_the_strongest() -> None:
    L, hue = np.meshgrid(np.linspace(5, 95, 10), np.arange(0, 360, 15.0))
    most = most_chroma(L, hue)
    a = np.stack([L, most * np.cos(np.radians(hue)), most * np.sin(np.radians(hue))], axis=-1)
    assert srgb(a)[1].all()
    a[..., 1:] *= 1.01
    assert not srgb(a)[1].any()


@pytest.mark.parametrize(
    ("how", "words"),
    [
        ({"school": "wild"}, "no school 'wild'"),
        ({"school": "deep", "steps": 2}, "must have from 3 to 9"),
        ({"school": "deep", "hot": 900.0, "cold": 1200.0}, "hottest at the light"),
        ({"school": "deep", "hot": 1e9}, "temperature of a fire"),
    ],
)
def test_a_fire_that_cannot_be(how: dict[str, object], words: str) -> None:
    with pytest.raises(InputError, match=words):
        fire(**how)  # type: ignore[arg-type]


def test_a_fire_from_the_command_line(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    found = answer(capsys, "fire", "--school", "deep", "--steps", "6", "--json")
    np.testing.assert_allclose([step["lab"] for step in found], fire("deep", 6), atol=0.01)
    assert [step["place"] for step in found] == [0, 0.2, 0.4, 0.6, 0.8, 1]
    # What it prints is what match reads.
    assert set(found[0]) >= {"place", "target", "lab"}
    assert cli.run(["fire", "--school", "deep", "--steps", "40"]) == 2
    assert "must have from 3 to 9" in capsys.readouterr().err
    assert cli.run(["fire", "--school", "cold"]) == 0
    assert len(capsys.readouterr().out.splitlines()) == 6
    path = tmp_path / "fire.json"
    path.write_text(json.dumps(found))
    few = ("--only", "Lime White", "--only", "Kiln Yellow", "--only", "Furnace Red")
    ways = answer(capsys, "match", "--ramp", str(path), *few, "--max-mixes", "0", "--json")
    assert [t["lab"] for t in ways["targets"]] == [step["lab"] for step in found]
