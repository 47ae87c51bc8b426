"""Fluorescent films: against full matrices, against integrated fluxes, and the laws of energy.

R. Donaldson (1954): a stack's reflectance is a matrix over emitted and exciting wavelengths.
"""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from zesty_veil.light.grid import BANDS, Array, wavelengths
from zesty_veil.light.illuminant import power
from zesty_veil.optics.bispectral import (
    Bispectral,
    Emitter,
    average,
    cover,
    emitter,
    gathered,
    plain,
    radiance_factor,
)
from zesty_veil.optics.film import film
from zesty_veil.optics.stack import over, stack
from zesty_veil.optics.surface import K1, K2, seen, seen_bispectral
from zesty_veil.paint.mixture import Mixture, Part, blend
from zesty_veil.paint.rack import demo_rack
from zesty_veil.predict.layer import Layer

RACK = {paint.name: paint for paint in demo_rack()}
GLOWING = [paint.name for paint in demo_rack() if paint.glow is not None]
NM = wavelengths()


def matrix(R: Bispectral) -> Array:
    """Return the full matrix (..., 36, 36) of a reflectance."""
    out = np.swapaxes(R.U, -1, -2) @ R.V
    return np.asarray(out + R.d[..., None] * np.eye(BANDS))


def a_film(*names: str, X: float = 0.03) -> tuple[Array, Array, Emitter | None]:
    """Return R0, T and emitter of a film of some paints in equal parts."""
    mix = blend(Mixture(tuple(Part(name) for name in names)), RACK)
    layer = Layer.of(mix, np.array(X), np.array(X), np.array(1.0))
    return layer.R0, layer.T, layer.glow


def by_matrices(films: list[tuple[Array, Array, Emitter | None]], ground: Array) -> Array:
    """Fold the same stack with 36 x 36 matrices and nothing clever."""
    R = np.diag(ground)
    for R0, T, glow in films:
        F = np.zeros((BANDS, BANDS)) if glow is None else np.swapaxes(glow.e, -1, -2) @ glow.a
        r, t = np.diag(R0) + F, np.diag(T) + F
        R = r + t @ np.linalg.solve(np.eye(BANDS) - R @ r, R @ t)
    return R


STACKS: list[list[tuple[str, ...]]] = [
    [("Signal Orange",)],
    [("Lime White",), ("Signal Orange",), ("Kiln Yellow",)],
    [("Lure Green",), ("Buoy Pink",), ("Harbour Violet",), ("Lure Green",)],
    [("Lure Green", "Buoy Pink", "Lime White"), ("Kiln Yellow",), ("Signal Orange", "Lure Green")],
]


@pytest.mark.parametrize("names", STACKS, ids=lambda n: str(len(n)))
@pytest.mark.parametrize("level", [0.02, 0.93])
def test_a_stack_is_that_of_full_matrices(names: list[tuple[str, ...]], level: float) -> None:
    films = [a_film(*each, X=0.01 + 0.02 * i) for i, each in enumerate(names)]
    ground = np.full(BANDS, level) * np.linspace(0.8, 1, BANDS)
    R = plain(ground)
    for each in films:
        R = cover(each[0], each[1], R, each[2])
    np.testing.assert_allclose(matrix(R), by_matrices(films, ground), atol=1e-12)


@pytest.mark.parametrize("names", STACKS, ids=lambda n: str(len(n)))
def test_the_surface_is_that_of_full_matrices(names: list[tuple[str, ...]]) -> None:
    R = plain(np.full(BANDS, 0.8))
    for each in names:
        R0, T, glow = a_film(*each)
        R = cover(R0, T, R, glow)
    full = matrix(R)
    wanted = (1 - K1) * (1 - K2) * np.linalg.solve(np.eye(BANDS) - K2 * full, full)
    wanted += 0.02 * np.eye(BANDS)
    np.testing.assert_allclose(matrix(seen_bispectral(R, np.array(0.02))), wanted, atol=1e-12)


def test_without_fluorescence_it_is_the_scalar_path_to_the_last_digit() -> None:
    rng = np.random.default_rng(4)
    films = [film(rng.uniform(0, 90, 36), rng.uniform(0, 90, 36), np.array(0.02)) for _ in range(5)]
    ground = rng.uniform(0, 1, 36)
    R, dark = plain(ground), plain(ground)
    nothing = Emitter(np.zeros((1, BANDS)), np.zeros((1, BANDS)))
    for R0, T in films:
        R = cover(R0, T, R)
        dark = cover(R0, T, dark, nothing)  # a dye that sends out nothing
    assert (R.d == stack(ground, films)).all()
    np.testing.assert_allclose(matrix(dark), np.diag(R.d), atol=1e-12)
    finish = np.array(0.01)
    np.testing.assert_allclose(seen_bispectral(R, finish).d, seen(R.d, 0.01), atol=1e-15)
    np.testing.assert_allclose(
        radiance_factor(seen_bispectral(dark, finish), power("D65")), seen(R.d, 0.01), atol=1e-12
    )


def test_a_thin_fluorescent_layer_against_integrated_fluxes() -> None:
    """One exciting and one emitted band, two fluxes each, with the source inside the film.

    The model sends out half of what the film converts on each side, as if from its middle, and
    lets the film filter nothing of its own emission. Integrating the fluxes band by band, with the
    source where the light is absorbed, shows how good that is: what leaves in all agrees to 1e-6,
    and what leaves on the lit side within 12 %, because more is absorbed near that side.
    """
    K, S, eta, X = 60.0, 12.0, 0.8, 0.008
    ex, em = 12, 23  # 500 and 610 nm
    R0, T = film(np.array(K), np.array(S), np.array(X))

    # Exciting light: down i, up j from a black back; x runs upward from the back.
    def exciting(_: float, f: Array) -> list[float]:
        i, j = f
        return [(K + S) * i - S * j, -(K + S) * j + S * i]

    path = np.linspace(0, X, 2001)
    there = solve_ivp(exciting, (0, X), [1.0, 0.0], t_eval=path, rtol=1e-11, atol=1e-13)
    i, j = there.y / there.y[0, -1]  # one unit of light comes in on top
    converted = eta * K * (i + j) * NM[ex] / NM[em]  # energy per mm at the longer wave
    assert float(np.trapezoid(K * (i + j), path)) == pytest.approx(1 - R0 - T, rel=1e-6)

    # Emitted light: half up and half down everywhere, scattered but not absorbed on its way out.
    def sent(x: float, f: Array) -> list[float]:
        down, up = f
        source = float(np.interp(x, path, converted)) / 2
        return [S * down - S * up - source, -S * up + S * down + source]

    # No light comes in from above: the flux that leaves below is found by shooting.
    ends = [
        solve_ivp(sent, (0, X), [guess, 0.0], rtol=1e-10, atol=1e-13).y[:, -1] for guess in (0, 1)
    ]
    guess = -ends[0][0] / (ends[1][0] - ends[0][0])
    up = ends[0][1] + guess * (ends[1][1] - ends[0][1])

    spectrum = np.zeros(BANDS)
    spectrum[em] = 1.0
    absorbed = np.zeros((1, BANDS))
    absorbed[0, ex] = 1 - R0 - T
    glow = emitter(absorbed, spectrum[None], np.array([eta]))
    wanted = float((glow.e[0] * glow.a[0, ex])[em])
    assert up + guess == pytest.approx(2 * wanted, rel=1e-6)  # all of it leaves, up or down
    assert up == pytest.approx(wanted, rel=0.12)  # a little more on the lit side


@pytest.mark.parametrize("light", ["D65", "A", "LED-B3"])
@given(
    st.lists(st.sampled_from([*GLOWING, "Kiln Yellow", "Lime White"]), min_size=1, max_size=5),
    st.floats(0, 0.2),
    st.floats(0, 1),
)
def test_no_more_energy_leaves_than_comes(
    light: str, names: list[str], X: float, level: float
) -> None:
    R = plain(np.full(BANDS, level))
    for name in names:
        R0, T, glow = a_film(name, X=X)
        R = cover(R0, T, R, glow)
    full = matrix(R)
    assert (full >= -1e-12).all()
    assert (full.sum(axis=0) <= 1 + 1e-9).all()  # of each exciting band
    came = power(light)
    assert (radiance_factor(R, came) * came).sum() <= came.sum() * (1 + 1e-9)


def test_light_goes_to_longer_wavelengths_only() -> None:
    for name in GLOWING:
        R0, T, glow = a_film(name)
        full = matrix(cover(R0, T, plain(np.full(BANDS, 0.9)), glow))
        assert (np.abs(np.triu(full, 1)) < 1e-15).all(), name


def test_partial_cover_is_the_mean_of_the_matrices() -> None:
    R0, T, glow = a_film("Signal Orange")
    below = plain(np.full(BANDS, 0.5))
    for _ in range(6):
        above = cover(R0, T, below, glow)
        wanted = 0.35 * matrix(above) + 0.65 * matrix(below)
        below = average(np.array(0.35), above, below)
        np.testing.assert_allclose(matrix(below), wanted, atol=1e-9)


def test_gathering_keeps_what_it_can() -> None:
    rng = np.random.default_rng(6)
    U, V = rng.uniform(0, 0.1, (2, 4, 36)), rng.uniform(0, 0.1, (2, 4, 36))
    many = Bispectral(np.zeros((2, 36)), np.tile(U, (1, 3, 1)), np.tile(V, (1, 3, 1)))
    few = gathered(many)
    assert few.sources < many.sources
    np.testing.assert_allclose(matrix(few), matrix(many), atol=1e-13)


def test_a_film_above_dims_light_on_both_ways() -> None:
    R0, T, glow = a_film("Signal Orange")
    lit = cover(R0, T, plain(np.full(BANDS, 0.9)), glow)
    clear = film(np.full(BANDS, 40.0), np.zeros(BANDS), np.array(0.01))
    dimmed = cover(*clear, lit)
    # A film that only absorbs: every pair of bands loses both transmittances.
    np.testing.assert_allclose(
        matrix(dimmed), clear[1][:, None] * matrix(lit) * clear[1][None, :], atol=1e-14
    )
    assert over(*clear, np.ones(BANDS))[0] < 1
