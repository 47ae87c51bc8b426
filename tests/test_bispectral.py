"""Fluorescent films: against full matrices, against films cut into sheets, and the laws of energy.

R. Donaldson (1954): a stack's reflectance is a matrix over emitted and exciting wavelengths.
"""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab, xyz
from zesty_veil.light.grid import BANDS, Array, wavelengths
from zesty_veil.light.illuminant import power, weights, white
from zesty_veil.optics.bispectral import (
    Bispectral,
    Donaldson,
    Emitter,
    average,
    concatenated,
    cover,
    gathered,
    plain,
    radiance_factor,
)
from zesty_veil.optics.film import Film, film
from zesty_veil.optics.stack import stack
from zesty_veil.optics.streams import COSINES, INDEX, ROOTS, SHARES, WEIGHTS, Sym, lambertian
from zesty_veil.optics.surface import INSIDE, PASSES, seen, seen_bispectral
from zesty_veil.paint.mixture import Mixture, Part, blend
from zesty_veil.paint.rack import demo_rack
from zesty_veil.predict.layer import Layer

RACK = {paint.name: paint for paint in demo_rack()}
GLOWING = [paint.name for paint in demo_rack() if paint.glow is not None]
NM = wavelengths()
BOTH = 2 * BANDS


def whole(x: Sym) -> Array:
    """Return the full matrix (72, 72) of what stays in its band: steep bands, then shallow."""
    a, b, c = (np.diag(np.broadcast_to(v, BANDS)) for v in x)
    return np.block([[a, b], [b, c]])


def flat(x: Array) -> Array:
    return x.reshape(*x.shape[:-2], BOTH)


def matrix(R: Bispectral) -> Array:
    """Return the full matrix (72, 72) of a reflectance."""
    return np.asarray(flat(R.U).T @ flat(R.V) + whole(R.d))


def from_air(R: Donaldson) -> Array:
    """Return the full matrix (36, 36) of what is seen."""
    return np.asarray(R.U.T @ R.V + np.diag(R.d))


def on(one: tuple[Film, Emitter | None], R: Bispectral) -> Bispectral:
    return cover(one[0], R, one[1])


def a_film(*names: str, X: float = 0.03) -> tuple[Film, Emitter | None]:
    """Return a film of some paints in equal parts, and its emitter."""
    mix = blend(Mixture(tuple(Part(name) for name in names)), RACK)
    layer = Layer.of(mix, np.array(X), np.array(X), np.array(1.0))
    return layer.film, layer.glow


def by_matrices(films: list[tuple[Film, Emitter | None]], R: Array) -> Array:
    """Fold the same stack with full matrices and nothing clever."""
    for one, glow in films:
        r, t_up, t_down = whole(one.R), whole(one.T), whole(one.T)
        r_below = r
        if glow is not None:
            up, down, sees_up, sees_down = (flat(x) for x in glow)
            r, t_down = r + up.T @ sees_up, t_down + down.T @ sees_up
            r_below, t_up = r_below + down.T @ sees_down, t_up + up.T @ sees_down
        R = r + t_up @ np.linalg.solve(np.eye(BOTH) - R @ r_below, R @ t_down)
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
    ground = lambertian(np.full(BANDS, level) * np.linspace(0.8, 1, BANDS))
    R = plain(ground)
    for each in films:
        R = on(each, R)
    np.testing.assert_allclose(matrix(R), by_matrices(films, whole(ground)), atol=1e-12)


@pytest.mark.parametrize("names", STACKS, ids=lambda n: str(len(n)))
def test_the_surface_is_that_of_full_matrices(names: list[tuple[str, ...]]) -> None:
    R = plain(lambertian(np.full(BANDS, 0.8)))
    for each in names:
        R = on(a_film(*each), R)
    full = matrix(R)
    above = np.diag(np.repeat([INSIDE, 1.0], BANDS))
    up = full @ np.linalg.inv(np.eye(BOTH) - above @ full)
    wanted = PASSES / (INDEX**2 * SHARES[0]) * up[:BANDS, :BANDS] + 0.02 * np.eye(BANDS)
    found = from_air(seen_bispectral(R, np.array(0.02)))
    np.testing.assert_allclose(found, wanted, atol=1e-12)


def test_without_fluorescence_it_is_the_scalar_path_to_the_last_digit() -> None:
    rng = np.random.default_rng(4)
    films = [film(rng.uniform(0, 90, 36), rng.uniform(0, 90, 36), np.array(0.02)) for _ in range(5)]
    ground = lambertian(rng.uniform(0, 1, 36))
    R, dark = plain(ground), plain(ground)
    nothing = Emitter(*(np.zeros((1, 2, BANDS)),) * 4)
    for one in films:
        R = on((one, None), R)
        dark = on((one, nothing), dark)  # a dye that sends out nothing
    for mine, theirs in zip(R.d, stack(ground, films), strict=True):
        assert (mine == theirs).all()
    np.testing.assert_allclose(matrix(dark), whole(R.d), atol=1e-12)
    finish = np.array(0.01)
    np.testing.assert_allclose(seen_bispectral(R, finish).d, seen(R.d, 0.01), atol=1e-15)
    shown = radiance_factor(seen_bispectral(dark, finish), power("D65"))
    np.testing.assert_allclose(shown, seen(R.d, 0.01), atol=1e-12)


def in_depth(name: str, X: float, ground: float, sheets: int = 400) -> Array:
    """Return what is seen of a fluorescent film cut into sheets, by full matrices, (36, 36).

    Each sheet takes up and sends out light evenly in all directions where it is, which in the
    limit of many sheets is the film itself (R. Donaldson 1954 for the matrices).
    """
    mix = blend(Mixture((Part(name),)), RACK)
    assert mix.dyes is not None
    thin = X / sheets
    one = film(mix.mu_a, mix.mu_s, np.array(thin))
    r, t = whole(one.R), whole(one.T)
    taken = np.sqrt(2 * np.array(WEIGHTS) / np.array(COSINES))
    for share, emission, efficiency in zip(*mix.dyes, strict=True):
        sees = np.concatenate([mix.mu_a * share * NM * f for f in taken]) * thin
        sends = np.concatenate([emission / NM * efficiency * f / 4 for f in taken])
        glow = np.outer(sends, sees)
        r, t = r + glow, t + glow
    R = whole(lambertian(np.full(BANDS, ground)))
    for _ in range(sheets):
        R = r + t @ np.linalg.solve(np.eye(BOTH) - R @ r, R @ t)
    above = np.diag(np.repeat([INSIDE, 1.0], BANDS))
    up = R @ np.linalg.inv(np.eye(BOTH) - above @ R)
    return np.asarray(PASSES * up[:BANDS, :BANDS])


def coloured(factor: Array) -> Array:
    return lab(xyz(factor, weights()), white())


@pytest.mark.parametrize("name", GLOWING)
@pytest.mark.parametrize("ground", [0.9, 0.02])
def test_a_film_glows_as_one_cut_into_sheets_does(name: str, ground: float) -> None:
    light = power("D65")
    for X in (0.005, 0.03, 0.1):
        deep = in_depth(name, X, ground) @ light / light
        R = on(a_film(name, X=X), plain(lambertian(np.full(BANDS, ground))))
        once = radiance_factor(seen_bispectral(R, np.array(0.0)), light)
        assert float(ciede2000(coloured(once), coloured(deep))) < 0.3


@pytest.mark.parametrize("name", GLOWING)
@pytest.mark.parametrize("ground", [0.9, 0.02])
def test_four_coats_are_one_of_four_times_the_film(name: str, ground: float) -> None:
    four = one = plain(lambertian(np.full(BANDS, ground)))
    for _ in range(4):
        four = on(a_film(name, X=0.015), four)
    one = on(a_film(name, X=0.06), one)
    looks = [
        coloured(radiance_factor(seen_bispectral(R, np.array(0.0)), power("D65")))
        for R in (four, one)
    ]
    assert float(ciede2000(*looks)) < 0.2


@given(
    st.lists(st.sampled_from([*GLOWING, "Kiln Yellow", "Lime White"]), min_size=1, max_size=5),
    st.floats(0, 0.2),
    st.floats(0, 1),
)
def test_no_more_energy_leaves_than_comes(names: list[str], X: float, level: float) -> None:
    R = plain(lambertian(np.full(BANDS, level)))
    for name in names:
        R = on(a_film(name, X=X), R)
    full = matrix(R) * np.repeat(ROOTS, BANDS)[:, None] / np.repeat(ROOTS, BANDS)  # on fluxes
    assert (full >= -1e-12).all()
    assert (full.sum(axis=0) <= 1 + 1e-9).all()  # of each exciting band and stream


def test_light_goes_to_longer_wavelengths_only() -> None:
    for name in GLOWING:
        R = on(a_film(name), plain(lambertian(np.full(BANDS, 0.9))))
        full = from_air(seen_bispectral(R, np.array(0.0)))
        assert (np.abs(np.triu(full, 1)) < 1e-15).all(), name


def test_partial_cover_is_the_mean_of_the_matrices() -> None:
    one = a_film("Signal Orange")
    below = plain(lambertian(np.full(BANDS, 0.5)))
    for _ in range(6):
        above = on(one, below)
        wanted = 0.35 * matrix(above) + 0.65 * matrix(below)
        below = average(np.array(0.35), above, below)
        np.testing.assert_allclose(matrix(below), wanted, atol=1e-9)


def test_gathering_keeps_what_it_can() -> None:
    rng = np.random.default_rng(6)
    U, V = rng.uniform(0, 0.1, (2, 4, 2, 36)), rng.uniform(0, 0.1, (2, 4, 2, 36))
    none = lambertian(np.zeros((2, 36)))
    many = Bispectral(none, np.tile(U, (1, 3, 1, 1)), np.tile(V, (1, 3, 1, 1)))
    few = gathered(many)
    assert few.sources < many.sources
    for i in range(2):
        np.testing.assert_allclose(matrix(few.some(i)), matrix(many.some(i)), atol=1e-13)


def test_parts_are_joined_whatever_glows_in_them() -> None:
    dark = plain(lambertian(np.full((2, BANDS), 0.5)))
    lit = on(a_film("Signal Orange"), dark)
    both = concatenated([dark, lit])
    assert both.sources == lit.sources
    np.testing.assert_allclose(matrix(both.some(3)), matrix(lit.some(1)), atol=1e-15)
    np.testing.assert_allclose(matrix(both.some(0)), matrix(dark.some(0)), atol=1e-15)


def test_a_film_above_dims_light_on_both_ways() -> None:
    lit = on(a_film("Signal Orange"), plain(lambertian(np.full(BANDS, 0.9))))
    clear = film(np.full(BANDS, 40.0), np.zeros(BANDS), np.array(0.01))
    dimmed = on((clear, None), lit)
    # A film that only absorbs: every pair of bands loses both transmittances.
    T = whole(clear.T)
    np.testing.assert_allclose(matrix(dimmed), T @ matrix(lit) @ T, atol=1e-14)
