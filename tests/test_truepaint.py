"""The adding-doubling of the simulated painter against an independent one.

Reference: the package iadpython (S. A. Prahl), index-matched slabs.
"""

from __future__ import annotations

import iadpython
import numpy as np
import pytest

import photons
import truepaint as true


@pytest.mark.parametrize(
    ("mu_a", "mu_s", "g", "mm"),
    [(1, 10, 0.6, 0.5), (30, 100, 0.6, 0.03), (0.1, 500, 0.6, 0.1), (50, 2, 0.3, 0.03)],
)
def test_slabs_agree_with_another_program(mu_a: float, mu_s: float, g: float, mm: float) -> None:
    R, T, *_ = true.layer(np.full(36, float(mu_a)), np.full(36, float(mu_s)), g, mm)
    slab = iadpython.Sample(
        a=mu_s / (mu_a + mu_s), b=(mu_a + mu_s) * mm, g=g, n=1.0, n_above=1.0, n_below=1.0,
        quad_pts=16,
    )  # fmt: skip
    _, _, reflected, through = slab.rt()
    np.testing.assert_allclose(true.diffuse(R), reflected, atol=1e-5)
    np.testing.assert_allclose(true.diffuse(T), through, atol=1e-5)


def test_two_films_of_one_paint_are_one_thick_film() -> None:
    mu_a, mu_s = np.linspace(1, 40, 36), np.linspace(300, 50, 36)
    ground = true.lambertian(np.full(36, 0.6))
    thick = true.over(true.layer(mu_a, mu_s, 0.5, 0.06), ground)
    thin = true.layer(mu_a, mu_s, 0.5, 0.03)
    twice = true.over(thin, true.over(thin, ground))
    np.testing.assert_allclose(true.diffuse(twice), true.diffuse(thick), atol=2e-5)


@pytest.mark.parametrize(
    ("mu_a", "mu_s", "g", "mm", "n", "ground"),
    [
        (5, 100, 0.7, 0.03, 1.5, 0.8),
        (20, 50, 0.9, 0.03, 1.5, 0.9),
        (1, 200, 0.3, 0.05, 1.4, 0.1),
        (30, 2, 0.5, 0.03, 1.55, 0.9),
    ],
)
def test_what_is_read_at_45_0_agrees_with_photons_followed_one_by_one(
    mu_a: float, mu_s: float, g: float, mm: float, n: float, ground: float
) -> None:
    one = np.ones(1)
    R = true.over(true.layer(mu_a * one, mu_s * one, g, mm, n), true.lambertian(ground * one, n))
    counted, error = photons.seen(mu_a, mu_s, g, mm, n, ground, 60_000)
    assert float(true.seen(R, 0.0, n)[0]) == pytest.approx(counted, abs=3.5 * error)
