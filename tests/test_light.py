"""Colour computation against the package colour-science and the published standards.

CIE 15:2018 (XYZ, CIELAB, illuminants, observers), IEC 61966-2-1:1999 (sRGB), ASTM D1535-08
(value). colour-science is a general-purpose reference library with tables of its own.
"""

from __future__ import annotations

import warnings

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from zesty_veil.errors import InputError
from zesty_veil.light.adapt import by_day
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab, lab_from_lch, lch, xyz, xyz_from_lab
from zesty_veil.light.grid import wavelengths
from zesty_veil.light.illuminant import LIGHTS, OBSERVERS, power, weights, white
from zesty_veil.light.srgb import encode, hexadecimal, srgb
from zesty_veil.light.value import luminance, value

with warnings.catch_warnings():
    # It announces optional plotting features that are not installed.
    warnings.simplefilter("ignore")
    import colour

SDS = {"D65": "D65", "D50": "D50", "A": "A", "LED-B3": "LED-B3", "F11": "FL11"}
CMFS = {2: "CIE 1931 2 Degree Standard Observer", 10: "CIE 1964 10 Degree Standard Observer"}
D65 = white()


def test_grid_is_36_bands_from_380_to_730() -> None:
    assert wavelengths().tolist() == list(range(380, 731, 10))


@pytest.mark.parametrize("light", LIGHTS)
@pytest.mark.parametrize("observer", OBSERVERS)
def test_weights_sum_a_reflectance_as_the_reference_does_on_fine_steps(
    light: str, observer: int
) -> None:
    rng = np.random.default_rng(5)
    bands = rng.uniform(0, 1, 36)
    fine = np.arange(360, 781, 5)
    shape = colour.SpectralShape(360, 780, 5)
    outside = {"method": "Constant", "left": 0, "right": 0}
    spectrum = colour.SDS_ILLUMINANTS[SDS[light]].copy().align(shape, extrapolator_kwargs=outside)
    eye = colour.MSDS_CMFS[CMFS[observer]].copy().align(shape, extrapolator_kwargs=outside)
    reflectance = np.interp(fine, wavelengths(), bands)
    wanted = (spectrum.values[:, None] * eye.values * reflectance[:, None]).sum(axis=0)
    wanted /= (spectrum.values * eye.values[:, 1]).sum()
    np.testing.assert_allclose(xyz(bands, weights(light, observer)), wanted, atol=2e-9)


@pytest.mark.parametrize("light", ["D65", "D50", "A"])
@pytest.mark.parametrize("observer", OBSERVERS)
def test_white_points_are_the_published_ones(light: str, observer: int) -> None:
    x, y = colour.CCS_ILLUMINANTS[CMFS[observer]][light]
    X, Y, Z = white(light, observer)
    assert pytest.approx((x, y), abs=5e-5) == (X / (X + Y + Z), Y / (X + Y + Z))
    assert pytest.approx(1.0, abs=1e-9) == Y


def test_power_has_mean_one_and_the_bulb_is_redder_than_daylight() -> None:
    for light in LIGHTS:
        assert power(light).mean() == pytest.approx(1.0)
    assert power("A")[-1] / power("A")[0] > power("D65")[-1] / power("D65")[0]


def test_tables_cannot_be_written_to() -> None:
    with pytest.raises(ValueError, match="read-only"):
        weights()[0, 0] = 1.0


def test_unknown_light_and_observer_are_refused_in_a_sentence() -> None:
    with pytest.raises(InputError, match="no light 'candle'"):
        weights("candle")
    with pytest.raises(InputError, match="no observer of 7 degrees"):
        weights("D65", 7)


def test_lab_and_lch_agree_with_the_reference() -> None:
    rng = np.random.default_rng(1)
    colours = rng.uniform(0, 1.1, (500, 3)) * D65
    colours[:5] *= 1e-3  # the straight part of the curve
    xy = D65[:2] / D65.sum()
    wanted = colour.XYZ_to_Lab(colours, xy)
    np.testing.assert_allclose(lab(colours, D65), wanted, atol=1e-9)
    np.testing.assert_allclose(lch(lab(colours, D65)), colour.Lab_to_LCHab(wanted), atol=1e-9)


@given(st.floats(0, 100), st.floats(-120, 120), st.floats(-120, 120))
def test_lab_goes_there_and_back(L: float, a: float, b: float) -> None:
    colours = np.array([L, a, b])
    np.testing.assert_allclose(lab(xyz_from_lab(colours, D65), D65), colours, atol=1e-8)
    there = lch(colours)
    assert 0 <= there[2] < 360
    np.testing.assert_allclose(lab_from_lch(there), colours, atol=1e-9)


def test_srgb_agrees_with_the_reference_inside_the_gamut() -> None:
    rng = np.random.default_rng(2)
    rgb = rng.uniform(0.02, 0.98, (400, 3))
    tristimulus = colour.sRGB_to_XYZ(rgb)
    reference_white = np.array([0.9505, 1.0, 1.0890])
    out, inside = srgb(lab(tristimulus, reference_white))
    assert inside.all()
    # IEC's matrix has four decimals and its inverse is not exact: half a step of eight bits.
    np.testing.assert_allclose(out, rgb, atol=0.002)


def test_transfer_curve_is_the_standards() -> None:
    linear = np.linspace(0, 1, 201)
    np.testing.assert_allclose(encode(linear), colour.cctf_encoding(linear, "sRGB"), atol=1e-12)


def test_white_and_black_are_the_ends_of_the_screen() -> None:
    out, inside = srgb(np.array([[100.0, 0, 0], [0.0, 0, 0]]))
    assert inside.all()
    assert [hexadecimal(rgb) for rgb in out] == ["#ffffff", "#000000"]


@given(st.floats(5, 92), st.floats(0, 359), st.floats(60, 200))
def test_a_colour_beyond_the_screen_keeps_its_hue(L: float, h: float, C: float) -> None:
    wanted = lab_from_lch(np.array([L, C, h]))
    out, inside = srgb(wanted[None])
    if inside[0]:
        return
    tristimulus = colour.sRGB_to_XYZ(out[0])
    shown = lch(lab(tristimulus, np.array([0.9505, 1.0, 1.0890])))
    # Chroma that the screen lacks is worth half as much lightness downward, less upward.
    assert abs(shown[0] - L) <= 0.5 * C
    assert shown[1] < C
    if shown[1] > 8:
        assert abs((shown[2] - h + 180) % 360 - 180) < 2.5


def test_what_outshines_white_is_shown_in_its_hue() -> None:
    glowing = lab_from_lch(np.array([[107.0, 120.0, 126.0], [101.0, 110.0, 50.0]]))
    out, inside = srgb(glowing)
    assert not inside.any()
    shown = lch(lab(colour.sRGB_to_XYZ(out), np.array([0.9505, 1.0, 1.0890])))
    assert (shown[:, 1] > 30).all()
    np.testing.assert_allclose(shown[:, 2], [126, 50], atol=3)
    # No jump on the way there.
    steps = lab_from_lch(
        np.stack([np.linspace(90, 106, 161), np.full(161, 100.0), np.full(161, 120.0)], -1)
    )
    rgb, _ = srgb(steps)
    assert np.abs(np.diff(rgb, axis=0)).max() < 0.05


def test_value_is_the_polynomial_of_astm_d1535() -> None:
    values = np.linspace(0, 10, 101)
    wanted = colour.colorimetry.luminance_ASTMD1535(values) / 100
    np.testing.assert_allclose(luminance(values), wanted, atol=1e-12)
    np.testing.assert_allclose(value(luminance(values)), values, atol=1e-9)
    assert value(np.array([-0.1, 0.0])).tolist() == [0, 0]
    assert value(np.array(1.3)) > 10  # fluorescent paint may be brighter than white


@pytest.mark.parametrize("light", LIGHTS)
def test_what_a_screen_shows_of_a_light_is_adapted_as_the_reference_does(light: str) -> None:
    """Bradford's adaptation by colour-science, from the white of the light to daylight."""
    rng = np.random.default_rng(4)
    seen = rng.uniform(0.02, 0.9, (60, 3)) * white(light)
    theirs = colour.adaptation.chromatic_adaptation_VonKries(
        seen, white(light), white(), transform="Bradford"
    )
    ours = by_day(lab(seen, white(light)), light)
    np.testing.assert_allclose(ours, lab(theirs, white()), atol=0.1)


def test_a_deep_blue_under_a_warm_bulb_is_not_what_cielab_makes_of_it() -> None:
    blue = 0.05 + 0.6 * np.exp(-0.5 * ((wavelengths() - 450) / 35) ** 2)
    told = lab(xyz(blue, weights("A")), white("A"))
    assert float(ciede2000(told, by_day(told, "A"))) > 5
    # By day nothing changes, and greys stay grey under every light.
    day = lab(xyz(blue, weights()), white())
    assert (by_day(day, "D65") == day).all()
    np.testing.assert_allclose(by_day(np.array([50.0, 0, 0]), "A"), [50, 0, 0], atol=1e-9)
