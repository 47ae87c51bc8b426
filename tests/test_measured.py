"""Predictions against measured paint and ink, and against a finer theory of scattering.

* Adding-doubling (S. A. Prahl's iadpython; van de Hulst 1980): light in a slab, exactly.
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
from scipy.optimize import least_squares

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab, xyz
from zesty_veil.light.grid import BANDS, Array, wavelengths
from zesty_veil.light.illuminant import weights, white
from zesty_veil.optics.film import film
from zesty_veil.optics.stack import over
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
    """K = 2 mu_a and S = 3/4 mu_s (1 - g) - mu_a / 4: within 0.02, the theories' own distance.

    A thin film that scatters forward sends light on where two fluxes would spread it at once; below
    two reduced mean free paths the distance grows to 0.034, which is the model's, not the code's.
    """
    total = 100.0
    mu_s, mu_a = albedo * total, (1 - albedo) * total
    S = 0.75 * mu_s * (1 - g) - 0.25 * mu_a
    R0, T = film(np.array(2 * mu_a), np.array(S), np.array(thickness))
    wanted = slab(mu_a, mu_s, g, thickness)
    bound = 0.02 if mu_s * (1 - g) * thickness >= 2 else 0.035
    assert pytest.approx(wanted[0], abs=bound) == R0
    assert pytest.approx(wanted[1], abs=bound) == T


# Five synthetic paints, by absorption (1/mm) over wavelength and reduced scattering (1/mm).
NM = wavelengths()
PAINTS: dict[str, tuple[Array, float]] = {
    "yellow": (60 / (1 + np.exp((NM - 495) / 9)) + 0.3, 45.0),
    "red": (70 / (1 + np.exp((NM - 585) / 9)) + 0.3, 30.0),
    "blue": (50 * np.exp(-0.5 * ((NM - 620) / 40) ** 2) + 0.5, 25.0),
    "violet": (55 * np.exp(-0.5 * ((NM - 560) / 38) ** 2) + 0.5, 12.0),
    "white": (1.5 / (1 + np.exp((NM - 400) / 8)) + 0.05, 180.0),
}
BACKINGS = {"white": 0.85, "grey": 0.3, "black": 0.03}


@cache
def doubled(name: str, X: float) -> tuple[Array, Array]:
    """Return R and T of a synthetic paint by adding-doubling, (36,) each."""
    mu_a, mu_s = PAINTS[name]
    pairs = [slab(float(a), mu_s / 0.3, 0.7, X) for a in mu_a]
    return np.array([p[0] for p in pairs]), np.array([p[1] for p in pairs])


def over_backing(name: str, X: float, backing: float) -> Array:
    """Return the reflectance of a synthetic paint over a matt backing, exactly."""
    R, T = doubled(name, X)
    return np.asarray(R + T**2 * backing / (1 - R * backing))


def fitted(on_white: Array, on_black: Array, backings: tuple[Array, Array], X: float) -> Array:
    """Return K and S, (2, 36), of a film from its reflectance over two backings."""
    out = np.zeros((2, on_white.size))
    for i in range(on_white.size):

        def residual(log_ks: Array, i: int = i) -> Array:
            K, S = np.exp(log_ks)
            R0, T = film(np.array(K), np.array(S), np.array(X))
            pair = (on_white[i], on_black[i])
            return np.array(
                [
                    float(over(R0, T, backing[i])) - wanted
                    for wanted, backing in zip(pair, backings, strict=True)
                ]
            )

        starts = [(np.log(K), np.log(S)) for K in (1.0, 60.0) for S in (3.0, 60.0)]
        tries = [least_squares(residual, start, bounds=(-12, 9)) for start in starts]
        out[:, i] = np.exp(min(tries, key=lambda t: float(t.cost)).x)
    return out


@pytest.fixture(scope="module")
def predicted_differences() -> list[float]:
    """Fit each synthetic paint over white and black; predict it over grey and at 2 and 4 films."""
    X, eye = 0.03, weights()
    out = []
    for name in PAINTS:
        on_white, on_black = (over_backing(name, X, BACKINGS[b]) for b in ("white", "black"))
        both = (np.full(BANDS, BACKINGS["white"]), np.full(BANDS, BACKINGS["black"]))
        K, S = fitted(on_white, on_black, both, X)
        for times, backing in ((1, "grey"), (2, "white"), (2, "black"), (4, "white"), (4, "black")):
            R0, T = film(K, S, np.array(X * times))
            ours = over(R0, T, np.full(BANDS, BACKINGS[backing]))
            theirs = over_backing(name, X * times, BACKINGS[backing])
            pair = [lab(xyz(seen(R, 0.02), eye), white()) for R in (ours, theirs)]
            out.append(float(ciede2000(pair[0], pair[1])))
    return out


def test_paint_fitted_over_two_backings_is_predicted_elsewhere(
    predicted_differences: list[float],
) -> None:
    assert len(PAINTS) >= 5
    assert float(np.median(predicted_differences)) < 0.5
    assert max(predicted_differences) < 1.5


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
    finish = 0.003  # 45/0 geometry on coated paper leaves nearly all of the gloss out
    inside = {name: internal(R, finish) for name, R in spectra.items()}
    paper, black = inside[""], inside["K"]
    films = {
        ink: film(*fitted(inside[ink], inside[f"{ink}K"], (paper, black), 1.0), np.array(1.0))
        for ink in "CMY"
    }
    wanted = {
        name: lab(patches[name], white("D50"))
        for name in ("CM", "CY", "MY", "CMY", "CMK", "CYK", "MYK", "CMYK")
    }
    out: dict[str, list[float]] = {"multiplied": [], "saunderson": [], "two-flux": []}
    for name, target in wanted.items():
        multiplied, clear = spectra[""].copy(), paper.copy()
        stacked = black if "K" in name else paper  # black is printed first
        for ink in name:
            multiplied = multiplied * spectra[ink] / spectra[""]
            clear = clear * inside[ink] / paper
        for ink in name.replace("K", ""):
            stacked = over(*films[ink], stacked)
        for way, R in (
            ("multiplied", multiplied),
            ("saunderson", seen(clear, finish)),
            ("two-flux", seen(stacked, finish)),
        ):
            out[way].append(float(ciede2000(lab(xyz(R, eye), white("D50")), target)))
    return out


def test_measured_overprints_are_predicted_better_than_by_multiplying(
    overprints: dict[str, list[float]],
) -> None:
    """Ink trapping and recovered spectra limit this: a ranking and a bound, not precision."""
    median = {way: float(np.median(values)) for way, values in overprints.items()}
    assert median["two-flux"] < 4
    assert median["multiplied"] >= 2 * median["two-flux"]
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
