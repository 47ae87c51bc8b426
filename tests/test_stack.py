"""Films on each other (Kubelka 1954) and the surface above them (Saunderson 1942)."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from zesty_veil.optics.film import film
from zesty_veil.optics.stack import join, over, slab, stack
from zesty_veil.optics.surface import FINISHES, K1, K2, internal, seen

share = st.floats(0, 1)


def test_many_thin_films_add_up_to_a_thick_one() -> None:
    K, S = np.linspace(0, 80, 36), np.linspace(120, 0, 36)
    ground = np.full(36, 0.4)
    thick = stack(ground, [film(K, S, np.array(0.04))])
    for count in (2, 7, 50):
        thin = stack(ground, [film(K, S, np.array(0.04 / count))] * count)
        np.testing.assert_allclose(thin, thick, atol=1e-12)


def test_the_order_of_different_films_matters() -> None:
    white = film(np.array(0.1), np.array(200.0), np.array(0.03))
    black = film(np.array(200.0), np.array(4.0), np.array(0.03))
    ground = np.array(0.5)
    assert stack(ground, [black, white]) > stack(ground, [white, black]) + 0.3


def test_folding_upward_is_joining_slabs() -> None:
    rng = np.random.default_rng(3)
    films = [film(rng.uniform(0, 90, 36), rng.uniform(0, 90, 36), np.array(0.02)) for _ in range(6)]
    ground = rng.uniform(0, 1, 36)
    pile = slab(*films[0])
    for each in films[1:]:
        pile = join(slab(*each), pile)
    np.testing.assert_allclose(
        over(pile.above, pile.through, ground * 0) + 0,
        pile.above,
    )
    between = pile.through**2 * ground / (1 - pile.below * ground)
    np.testing.assert_allclose(stack(ground, films), pile.above + between, atol=1e-12)


@given(st.floats(0, 1e4), st.floats(0, 1e4), st.floats(0, 1e4), share)
def test_a_stack_never_sends_back_more_than_came(K: float, S: float, X: float, R: float) -> None:
    out = stack(np.array(R), [film(np.array(K), np.array(S), np.array(X))] * 3)
    assert 0 <= out <= 1 + 1e-12


def test_film_and_ground_that_both_send_all_back() -> None:
    assert over(np.array(1.0), np.array(0.0), np.array(1.0)) == 1.0
    assert over(np.array(0.0), np.array(1.0), np.array(1.0)) == 1.0


def test_an_absorbing_film_that_does_not_scatter_only_darkens() -> None:
    ground = np.linspace(0, 1, 36)
    once = stack(ground, [film(np.full(36, 30.0), np.zeros(36), np.array(0.02))])
    np.testing.assert_allclose(once, ground * np.exp(-2 * 30 * 0.02), atol=1e-14)


@given(share, st.sampled_from(sorted(FINISHES.values())))
def test_surface_there_and_back(R: float, finish: float) -> None:
    outside = seen(np.array(R), finish)
    assert finish <= outside <= finish + 0.96 + 1e-12
    assert internal(outside, finish) == pytest.approx(R, abs=1e-9)


def test_what_no_such_surface_can_show_is_held_to_its_ends() -> None:
    assert internal(np.array([0.0, 1.2]), 0.04).tolist() == [0, 1]


def fresnel(cosine: float, n: float) -> float:
    """Return the reflectance of unpolarised light meeting a medium n times denser; Fresnel."""
    sine = np.sqrt(1 - cosine**2) / n
    if sine >= 1:
        return 1.0
    inner = np.sqrt(1 - sine**2)
    s = (cosine - n * inner) / (cosine + n * inner)
    p = (n * cosine - inner) / (n * cosine + inner)
    return float(s**2 + p**2) / 2


def test_surface_constants_are_fresnels_for_index_one_and_a_half() -> None:
    # Integrals of Fresnel's equations, as in Saunderson (1942): k1 at normal incidence from air,
    # k2 for perfectly diffuse light from within, which total reflection dominates.
    assert fresnel(1.0, 1.5) == pytest.approx(K1, abs=1e-3)
    critical = np.sqrt(1 - 1 / 1.5**2)
    diffuse, _ = quad(lambda c: 2 * c * fresnel(c, 1 / 1.5), 0, 1, points=[critical], limit=200)
    assert diffuse == pytest.approx(K2, abs=1e-3)
