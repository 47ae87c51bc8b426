"""Planck's law against the package colour-science and CIE 15:2018."""

from __future__ import annotations

import warnings

import numpy as np
import pytest

from zesty_veil.errors import InputError
from zesty_veil.light.cielab import xyz
from zesty_veil.light.grid import wavelengths
from zesty_veil.light.illuminant import power, weights
from zesty_veil.light.planck import lamp_weights, lamp_white, planckian

with warnings.catch_warnings():
    # It announces optional plotting features that are not installed.
    warnings.simplefilter("ignore")
    import colour


@pytest.mark.parametrize("kelvin", [900, 1200, 1500, 1900, 2200, 2856, 6500])
def test_a_glowing_body_has_the_colour_of_the_reference(kelvin: float) -> None:
    eye = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"]
    body = colour.sd_blackbody(kelvin, eye.shape)
    X, Y, Z = body.values @ eye.values
    wanted = np.array([X, Y]) / (X + Y + Z)
    X, Y, Z = lamp_white(planckian(kelvin))
    # The coldest lose a little beyond 730 nm, where the eye hardly sees.
    np.testing.assert_allclose(np.array([X, Y]) / (X + Y + Z), wanted, atol=2e-3)


def test_the_published_chromaticity_of_a_planckian_radiator() -> None:
    """CIE 15:2018: illuminant A is a Planckian radiator at 2855.5 K, x 0.44758 y 0.40745."""
    X, Y, Z = lamp_white(planckian(2855.5))
    assert pytest.approx((0.44758, 0.40745), abs=2e-4) == (X / (X + Y + Z), Y / (X + Y + Z))


@pytest.mark.parametrize("kelvin", [900, 1500, 2856, 6500])
def test_the_spectrum_is_that_of_the_reference(kelvin: float) -> None:
    wanted = np.array([colour.colorimetry.planck_law(nm * 1e-9, kelvin) for nm in wavelengths()])
    np.testing.assert_allclose(planckian(kelvin), wanted / wanted.mean(), rtol=2e-3)


def test_a_lamp_of_a_known_light_weighs_as_that_light() -> None:
    np.testing.assert_allclose(lamp_weights(power("A")), weights("A"), atol=1e-9)
    bands = np.linspace(0.1, 0.9, 36)
    # Daylight is not smooth, yet comes close.
    np.testing.assert_allclose(
        xyz(bands, lamp_weights(power("D65"))), xyz(bands, weights("D65")), rtol=0.02
    )


def test_hotter_is_bluer_and_what_does_not_glow_is_refused() -> None:
    x = [lamp_white(planckian(k))[0] / lamp_white(planckian(k)).sum() for k in range(800, 3000, 50)]
    assert x == sorted(x, reverse=True)
    for kelvin in (0.0, -5.0, 500.0, 1e9, float("nan")):
        with pytest.raises(InputError, match="temperature of a fire"):
            planckian(kelvin)
