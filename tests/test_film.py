"""Films for two angles: against the equations of the streams themselves, and any film's laws.

The equations are solved here another way, by the matrix exponential of all four fluxes (scipy) or
by their eigenvectors; A. Schuster (1905) for what the streams exchange.
"""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.linalg import expm

from zesty_veil.optics.film import Film, Leaves, film
from zesty_veil.optics.stack import over
from zesty_veil.optics.streams import (
    COSINES,
    ONWARD,
    ROOTS,
    SHARES,
    WEIGHTS,
    Sym,
    diffuse,
    lambertian,
)

MU, W, C = (np.array(x) for x in (COSINES, WEIGHTS, SHARES))


def full(x: Sym) -> np.ndarray:
    """Return matrices (..., 2, 2) that act on fluxes."""
    a, b, c = x
    sym = np.stack([np.stack([a, b], -1), np.stack([b, c], -1)], -2)
    return sym * ROOTS[:, None] / ROOTS


def equations(a: float, s: float, q: float = 0.0, spread: float = 0.0):
    """Return what is lost along the way and what is turned back, as matrices on fluxes.

    Of what scatters, more goes onward than back by a slope in the cosines (Joseph et al. 1976),
    scaled so that the slope keeps just that share of a flow over these two cosines.
    """
    s = s / (1 - ONWARD)
    even = s * W[:, None] / (2 * MU)
    slope = ONWARD * s * W[:, None] * MU[:, None] / (2 * (W * MU * MU).sum())
    turned = even - slope + q * spread * C[:, None]
    kept = even + slope
    lost = np.diag((a + s) / MU + q) - kept
    return lost, turned


def by_exponential(a: float, s: float, X: float, q: float = 0.0, spread: float = 0.0):
    """Return R and T by carrying all four fluxes through the film."""
    A, B = equations(a, s, q, spread)
    M = expm(np.block([[-A, B], [-B, A]]) * X)
    # At the back nothing comes up: what goes up at the front follows from what goes down.
    R = -np.linalg.solve(M[2:, 2:], M[2:, :2])
    return R, M[:2, :2] + M[:2, 2:] @ R


def test_films_against_the_exponential_of_all_fluxes() -> None:
    rng = np.random.default_rng(1)
    for _ in range(300):
        a, s = 10 ** rng.uniform(-3, 2.5, 2) * (rng.uniform(size=2) > 0.1)
        X = min(10 ** rng.uniform(-4, -1), 4 / (a + s + 1e-9))
        q, m = (rng.uniform(0, 60), rng.uniform(0, 1)) if rng.uniform() < 0.3 else (0.0, 0.0)
        leaves = Leaves(np.array(q), np.array(m)) if q else None
        one = film(np.array(a), np.array(s), np.array(X), leaves)
        R, T = by_exponential(a, s, X, q, m)
        np.testing.assert_allclose(full(one.R), R, atol=1e-8)
        np.testing.assert_allclose(full(one.T), T, atol=1e-8)


def test_a_million_films_obey_the_laws() -> None:
    rng = np.random.default_rng(2)
    n = 1_000_000
    a, s = 10 ** rng.uniform(-6, 4, (2, n)) * (rng.uniform(size=(2, n)) > 0.02)
    X, part = 10 ** rng.uniform(-6, 1, n), rng.uniform(0, 1, n)
    whole = film(a, s, X)
    for entry in (*whole.R, *whole.T):
        assert np.isfinite(entry).all()
        assert entry.min() >= -1e-12
        assert entry.max() <= 1 + 1e-12
    # No more light leaves than comes, in either stream; without absorption all of it does.
    for i, (own, other) in enumerate((("steep", "mixed"), ("shallow", "mixed"))):
        out = sum(getattr(x, own) + getattr(x, other) * ROOTS[1 - i] / ROOTS[i] for x in whole)
        assert out.max() <= 1 + 1e-9
        clear = (a == 0) & (s * X < 1e4)
        np.testing.assert_allclose(out[clear], 1, atol=1e-10)
    # Two parts are the whole, over any ground.
    R = ground = lambertian(rng.uniform(0, 1, n))
    for share in (part, 1 - part):
        R = over(film(a, s, X * share), R)
    for mine, theirs in zip(R, over(whole, ground), strict=True):
        np.testing.assert_allclose(mine, theirs, atol=1e-9)


def test_no_film_is_nothing_and_clear_films_only_darken() -> None:
    none = film(np.array([0.0, 3.0]), np.array([0.0, 2.0]), np.array(0.0))
    assert full(none.R).tolist() == np.zeros((2, 2, 2)).tolist()
    assert full(none.T).tolist() == [np.eye(2).tolist()] * 2
    X = np.linspace(0, 3, 31)
    clear = film(np.array(2.0), np.array(0.0), X)  # Beer's law along each angle
    np.testing.assert_allclose(full(clear.R), 0, atol=1e-15)
    for i, part in enumerate((clear.T.steep, clear.T.shallow)):
        np.testing.assert_allclose(part, np.exp(-2 * X / COSINES[i]), atol=1e-14)


@given(st.floats(1e-3, 1e3), st.floats(1e-3, 1e3))
def test_a_thick_film_is_one_without_end(a: float, s: float) -> None:
    thick, endless = (
        film(np.array(a), np.array(s), np.array(1e5)),
        film(np.array(a), np.array(s), 1e7 / (np.array(a) + np.array(s))).R,
    )
    for mine, theirs in zip(thick.R, endless, strict=True):
        assert mine == pytest.approx(float(theirs), abs=1e-9)
    # Nothing below a film without end matters.
    for ground in (0.0, 1.0):
        under = over(thick, lambertian(np.array(ground)))
        assert float(under.steep) == pytest.approx(float(endless.steep), abs=1e-9)


def test_leaves_that_mirror_all_let_nothing_through_and_lose_nothing() -> None:
    some = film(np.array(0.0), np.array(0.0), np.array(0.01), Leaves(np.array(80.0), np.array(1.0)))
    one = diffuse(some.R) + diffuse(some.T)
    assert float(one) == pytest.approx(1.0, abs=1e-12)
    dull = film(np.array(0.0), np.array(0.0), np.array(0.01), Leaves(np.array(80.0), np.array(0.0)))
    assert float(diffuse(dull.T)) == pytest.approx(np.exp(-0.8), abs=1e-12)


def test_any_leading_shape() -> None:
    one = film(np.ones(36), np.ones(36), np.ones((4, 3, 1)))
    assert isinstance(one, Film)
    assert one.R.shape == one.T.shape == (4, 3, 36)
    assert over(one, lambertian(np.ones(36))).shape == (4, 3, 36)
