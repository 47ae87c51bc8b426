"""Predictions against measured paint and ink, and against a finer theory of scattering.

* Adding-doubling (S. A. Prahl's iadpython; van de Hulst 1980): light in a slab, exactly; films
  under a surface stand against it in test_two_angles.py.
* FOGRA39L, measured offset inks alone and overprinted (Fogra, 2006), from the system's package of
  free ICC profiles; it is read where it is installed and not copied.
* The CxF3 sample that the package colour-cxf carries: 144 measured spectra with their own CIELAB.
"""

from __future__ import annotations

import os
import re
import warnings
from functools import cache
from pathlib import Path

import numpy as np
import pytest

import bandfit
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab, xyz
from zesty_veil.light.grid import BANDS, Array
from zesty_veil.light.illuminant import weights, white
from zesty_veil.optics import twoflux
from zesty_veil.optics.film import film
from zesty_veil.optics.stack import over
from zesty_veil.optics.streams import diffuse, lambertian
from zesty_veil.optics.surface import internal, seen

with warnings.catch_warnings():
    # It offers to compile itself with a package that is not installed.
    warnings.simplefilter("ignore")
    import iadpython

FOGRA = Path("/usr/share/color/icc/FOGRA39L.ti3")


def slab(mu_a: float, mu_s: float, g: float, X: float) -> tuple[float, float]:
    """Return diffuse R and T of an index-matched slab by adding-doubling; 1/mm and mm."""
    total = mu_a + mu_s
    sample = iadpython.Sample(a=mu_s / total, b=total * X, g=g, n=1.0, quad_pts=8)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        _, _, R, T = sample.rt()
    return float(np.ravel(R)[0]), float(np.ravel(T)[0])


@pytest.mark.parametrize("g", [0.0, 0.5, 0.8])
@pytest.mark.parametrize("albedo", [0.99, 0.997, 0.9999])
@pytest.mark.parametrize("thickness", [0.02, 0.1, 0.5])
def test_films_are_those_of_adding_doubling(albedo: float, g: float, thickness: float) -> None:
    """Index-matched and lit diffusely, where two angles have least to say: the theories' distance.

    Scattering is taken as reduced and even: a thin film that scatters forward sends light on where
    this would spread it at once, so below two reduced mean free paths the distance grows to 0.034.
    """
    total = 100.0
    mu_s, mu_a = albedo * total, (1 - albedo) * total
    one = film(np.array(mu_a), np.array(mu_s * (1 - g)), np.array(thickness))
    wanted = slab(mu_a, mu_s, g, thickness)
    bound = 0.02 if mu_s * (1 - g) * thickness >= 2 else 0.035
    assert float(diffuse(one.R)) == pytest.approx(wanted[0], abs=bound)
    assert float(diffuse(one.T)) == pytest.approx(wanted[1], abs=bound)


FINISH = 0.003  # 45/0 geometry on coated paper leaves nearly all of the gloss out


def two_angles(spectra: Array, below: Array) -> Array:
    """Return what is seen of a film of absorption and scattering (2, n) over internal grounds."""
    return seen(over(film(spectra[0], spectra[1], np.array(1.0)), below), FINISH)  # type: ignore[arg-type]


def saunderson(R: Array) -> Array:
    return np.asarray(FINISH + 0.96 * 0.404 * R / (1 - 0.596 * R))


def saunderson_inside(reflectance: Array) -> Array:
    light = reflectance - FINISH
    return np.asarray(np.clip(light / (0.96 * 0.404 + 0.596 * light), 0, 1))


def two_fluxes(spectra: Array, below: Array) -> Array:
    """Return the same in two-flux theory."""
    return saunderson(twoflux.two_flux_over(*twoflux.two_flux_film(*spectra, np.array(1.0)), below))


def fitted(on_paper: Array, on_black: Array, show, grounds) -> Array:
    """Return the spectra (2, 36) of a film that shows what was measured of it over two grounds."""

    def off(logs: Array) -> Array:
        shown = [show(np.exp(logs), ground) for ground in grounds]
        return np.array([shown[0] - on_paper, shown[1] - on_black])

    # Each band for itself: one start suits one band, another the next.
    starts = [np.repeat(np.log([[K], [S]]), BANDS, axis=1) for K in (0.3, 2.0) for S in (0.05, 0.5)]
    tries = np.array([bandfit.fitted(off, start) for start in starts])
    best = np.argmin([(off(x) ** 2).sum(axis=0) for x in tries], axis=0)
    return np.asarray(np.exp(tries[best, :, np.arange(BANDS)].T))


def smooth_spectrum(tristimulus: Array, eye: Array) -> Array:
    """Return the smoothest reflectance with given XYZ: S. A. Burns (2020), "Numerical methods for
    smoothest reflectance reconstruction", Color Res. Appl. 45, 8-21, in its tanh form."""
    n = eye.shape[0]
    D = (
        np.diag(np.full(n, 4.0))
        - np.diag(np.full(n - 1, 2.0), 1)
        - np.diag(np.full(n - 1, 2.0), -1)
    )
    D[0, 0] = D[-1, -1] = 2.0
    z, multipliers = np.zeros(n), np.zeros(3)
    for _ in range(60):
        R = (np.tanh(z) + 1) / 2
        slope = (1 / np.cosh(z)) ** 2 / 2
        bend = -2 * slope * np.tanh(z)
        F = np.concatenate([D @ z + slope * (eye @ multipliers), eye.T @ R - tristimulus])
        J = np.block(
            [[D + np.diag(bend * (eye @ multipliers)), slope[:, None] * eye],
             [(slope[:, None] * eye).T, np.zeros((3, 3))]]
        )  # fmt: skip
        step = np.linalg.solve(J, -F)
        z += step[:n]
        multipliers += step[n:]
        if np.abs(F).max() < 1e-10:
            return (np.tanh(z) + 1) / 2
    raise AssertionError("no spectrum found")


@cache
def solids() -> dict[str, Array]:
    """Return XYZ (Y = 1 for white) of paper and solid overprints by their inks, as 'CM'."""
    out = {}
    for line in FOGRA.read_text(encoding="latin-1").splitlines():
        cells = line.split()
        if len(cells) == 11 and re.fullmatch(r"\d+", cells[0]):
            inks = [float(cell) for cell in cells[1:5]]
            if all(ink in (0, 100) for ink in inks):
                name = "".join(letter for letter, ink in zip("CMYK", inks, strict=True) if ink)
                out[name] = np.array([float(cell) for cell in cells[5:8]]) / 100
    return out


@pytest.fixture(scope="module")
def overprints() -> dict[str, list[float]]:
    """Predict the overprints of two and more inks in three ways; dE00 of each."""
    if not FOGRA.is_file():
        if os.environ.get("CI"):
            pytest.fail(f"{FOGRA} is missing: install the package icc-profiles-free")
        pytest.skip(f"{FOGRA} is missing; the package icc-profiles-free has it")
    eye = weights("D50")
    patches = solids()
    assert len(patches) == 16
    spectra = {
        name: smooth_spectrum(patches[name], eye)
        for name in ("", "C", "M", "Y", "K", "CK", "MK", "YK")
    }
    inside = {name: internal(R, FINISH) for name, R in spectra.items()}
    flat = {name: saunderson_inside(R) for name, R in spectra.items()}
    paper, black = (lambertian(inside[name]) for name in ("", "K"))
    angles = {
        ink: fitted(spectra[ink], spectra[f"{ink}K"], two_angles, (paper, black)) for ink in "CMY"
    }
    fluxes = {
        ink: fitted(spectra[ink], spectra[f"{ink}K"], two_fluxes, (flat[""], flat["K"]))
        for ink in "CMY"
    }
    wanted = {
        name: lab(patches[name], white("D50"))
        for name in ("CM", "CY", "MY", "CMY", "CMK", "CYK", "MYK", "CMYK")
    }
    ways = ("multiplied", "saunderson", "two-flux", "two angles")
    out: dict[str, list[float]] = {way: [] for way in ways}
    for name, target in wanted.items():
        multiplied, clear = spectra[""].copy(), flat[""].copy()
        first = "K" if "K" in name else ""  # black is printed first
        R, below = lambertian(inside[first]), flat[first]
        for ink in name:
            multiplied = multiplied * spectra[ink] / spectra[""]
            clear = clear * flat[ink] / flat[""]
        for ink in name.replace("K", ""):
            below = twoflux.two_flux_over(
                *twoflux.two_flux_film(*fluxes[ink], np.array(1.0)), below
            )
            R = over(film(angles[ink][0], angles[ink][1], np.array(1.0)), R)
        looks = (multiplied, saunderson(clear), saunderson(below), seen(R, FINISH))
        for way, look in zip(ways, looks, strict=True):
            out[way].append(float(ciede2000(lab(xyz(look, eye), white("D50")), target)))
    return out


def test_measured_overprints_are_predicted_better_than_by_multiplying(
    overprints: dict[str, list[float]],
) -> None:
    """Ink trapping and recovered spectra limit this: a ranking and a bound, not precision."""
    median = {way: float(np.median(values)) for way, values in overprints.items()}
    assert median["two angles"] < 4
    assert median["two angles"] <= median["two-flux"] + 0.05
    assert median["multiplied"] >= 2 * median["two angles"]
    assert median["saunderson"] < median["multiplied"]


def test_measured_spectra_give_their_own_lab() -> None:
    import colour_cxf  # noqa: PLC0415

    sample = Path(colour_cxf.__file__).parent / "tests/resources/sample.cxf"
    file = colour_cxf.read_cxf_from_file(str(sample))
    eye = weights("D50")
    differences = []
    for entry in file.resources.object_collection.object_value:
        values = entry.color_values.choice
        spectrum = next(v for v in values if type(v).__name__ == "ReflectanceSpectrum")
        own = next(v for v in values if type(v).__name__ == "ColorCielab")
        measured = np.array([float(v) for v in spectrum.value])
        # Measured to 680 nm; the little that follows is taken as going on level.
        R = np.concatenate([measured, np.full(BANDS - measured.size, measured[-1])])
        ours = lab(xyz(R, eye), white("D50"))
        differences.append(float(ciede2000(ours, np.array([own.l, own.a, own.b]))))
    assert len(differences) == 144
    assert float(np.median(differences)) < 0.1
