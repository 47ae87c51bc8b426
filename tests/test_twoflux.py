"""Two-flux theory against its own equations, and what older files had in it turned into films.

P. Kubelka, F. Munk (1931): di/dx = -(K + S) i + S j, dj/dx = (K + S) j - S i, integrated here by
scipy; K/S = (1 - R)^2 / 2R. P. Kubelka (1948): films of the same paint add up.
"""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from zesty_veil.optics.twoflux import two_flux_film, two_flux_over

wide = st.one_of(st.just(0.0), st.floats(1e-12, 1e4), st.floats(0, 5), st.floats(0, 1e4))


def integrated(K: float, S: float, X: float) -> tuple[float, float]:
    """Return R0 and T by integrating the fluxes from the back of a film over black.

    At the back no light comes up: j = 0, and i = 1 leaves downward. Going up to the front gives
    how much must have gone in (i) and how much came back (j).
    """

    def fluxes(_: float, ij: np.ndarray) -> list[float]:
        i, j = ij
        return [(K + S) * i - S * j, -(K + S) * j + S * i]

    there = solve_ivp(fluxes, (0, X), [1.0, 0.0], method="DOP853", rtol=1e-12, atol=1e-14)
    i, j = there.y[:, -1]
    return j / i, 1 / i


def test_200_films_against_the_integrated_equations() -> None:
    rng = np.random.default_rng(8)
    K = np.exp(rng.uniform(np.log(0.01), np.log(200), 200))
    S = np.exp(rng.uniform(np.log(0.01), np.log(300), 200))
    K[:10], S[10:20] = 0, 0  # clear films, and films that do not scatter
    X = rng.uniform(0.001, 0.05, 200)
    R0, T = two_flux_film(K, S, X)
    wanted = np.array([integrated(*each) for each in zip(K, S, X, strict=True)])
    np.testing.assert_allclose(R0, wanted[:, 0], atol=1e-8)
    np.testing.assert_allclose(T, wanted[:, 1], atol=1e-8)


def test_the_edges_named_by_the_theory() -> None:
    X = np.linspace(0, 3, 31)
    R0, T = two_flux_film(np.array(2.0), np.array(0.0), X)  # no scattering: Beer's law
    assert (R0 == 0).all()
    np.testing.assert_allclose(T, np.exp(-2 * X), atol=1e-15)
    R0, T = two_flux_film(np.array(0.0), np.array(4.0), X)  # no absorption
    np.testing.assert_allclose(R0, 4 * X / (1 + 4 * X), rtol=1e-14)
    np.testing.assert_allclose(R0 + T, 1, atol=1e-15)
    R0, T = two_flux_film(np.array([0.0, 3.0]), np.array([0.0, 2.0]), np.array(0.0))  # no film
    assert R0.tolist() == [0, 0]
    assert T.tolist() == [1, 1]


@given(wide, wide, wide)
def test_no_film_makes_light_or_fails(K: float, S: float, X: float) -> None:
    R0, T = two_flux_film(np.array(K), np.array(S), np.array(X))
    assert np.isfinite(R0)
    assert np.isfinite(T)
    assert R0 >= 0
    assert T >= 0
    assert R0 + T <= 1


@given(wide, wide, st.floats(0, 100), st.floats(0, 1), st.floats(0, 1))
def test_a_split_film_is_the_whole_film(
    K: float, S: float, X: float, part: float, ground: float
) -> None:
    R = np.array(ground)
    whole = two_flux_over(*two_flux_film(np.array(K), np.array(S), np.array(X)), R)
    for share in (1 - part, part):
        R = two_flux_over(*two_flux_film(np.array(K), np.array(S), np.array(X * share)), R)
    np.testing.assert_allclose(R, whole, atol=1e-9)


@given(st.floats(1e-3, 1e3), st.floats(1e-3, 1e3))
def test_reflectance_at_infinite_thickness(K: float, S: float) -> None:
    R = S / (K + S + np.sqrt(K * (K + 2 * S)))  # a film without an end
    assert pytest.approx(K / S, rel=1e-6) == (1 - R) ** 2 / (2 * R)
    R0, T = two_flux_film(np.array(K), np.array(S), np.array(1e4))
    assert pytest.approx(float(R), rel=1e-6, abs=1e-12) == R0
    assert pytest.approx(0, abs=1e-3) == T


def test_nearly_clear_and_nearly_nothing_join_their_limits() -> None:
    X = np.array(0.5)
    clear, hardly = (two_flux_film(np.array(K), np.array(3.0), X) for K in (0.0, 1e-13))
    np.testing.assert_allclose(hardly, clear, atol=1e-12)
    thin = two_flux_film(np.array(3.0), np.array(2.0), np.array(1e-12))
    np.testing.assert_allclose(thin, (2e-12, 1 - 5e-12), rtol=1e-4, atol=1e-16)


def test_any_leading_shape() -> None:
    K, S = np.ones(36), np.ones(36)
    R0, T = two_flux_film(K, S, np.ones((4, 3, 1)))
    assert R0.shape == T.shape == (4, 3, 36)
    assert two_flux_over(R0, T, np.ones(36)).shape == (4, 3, 36)
