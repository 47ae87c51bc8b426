"""Films on each other (van de Hulst 1980) and the surface above them (Fresnel, Saunderson 1942)."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from zesty_veil.optics.film import film
from zesty_veil.optics.stack import over, stack
from zesty_veil.optics.streams import INDEX, ROOTS, Sym, diffuse, lambertian
from zesty_veil.optics.surface import FINISHES, INSIDE, K2, PASSES, internal, seen

share = st.floats(0, 1)


def full(x: Sym) -> np.ndarray:
    a, b, c = x
    return np.stack([np.stack([a, b], -1), np.stack([b, c], -1)], -2)


def some_film(rng: np.random.Generator):
    return film(rng.uniform(0, 90, 36), rng.uniform(0, 90, 36), np.array(0.02))


def test_many_thin_films_add_up_to_a_thick_one() -> None:
    a, s = np.linspace(0, 80, 36), np.linspace(120, 0, 36)
    ground = lambertian(np.full(36, 0.4))
    thick = stack(ground, [film(a, s, np.array(0.04))])
    for count in (2, 7, 50):
        thin = stack(ground, [film(a, s, np.array(0.04 / count))] * count)
        np.testing.assert_allclose(full(thin), full(thick), atol=1e-12)


def test_the_order_of_different_films_matters() -> None:
    white = film(np.array(0.1), np.array(200.0), np.array(0.03))
    black = film(np.array(200.0), np.array(4.0), np.array(0.03))
    ground = lambertian(np.array(0.5))
    lighter, darker = (stack(ground, films) for films in ([black, white], [white, black]))
    assert diffuse(lighter) > diffuse(darker) + 0.3


def test_a_film_over_something_is_what_matrices_say() -> None:
    """R <- R0 + T (1 - R R0)^-1 R T by numpy's own solver."""
    rng = np.random.default_rng(3)
    R = lambertian(rng.uniform(0, 1, 36))
    for _ in range(6):
        one = some_film(rng)
        R0, T, below = full(one.R), full(one.T), full(R)
        wanted = R0 + T @ np.linalg.solve(np.eye(2) - below @ R0, below @ T)
        R = over(one, R)
        np.testing.assert_allclose(full(R), wanted, atol=1e-13)


@given(st.floats(0, 1e4), st.floats(0, 1e4), st.floats(0, 1e2), share)
def test_a_stack_never_sends_back_more_than_came(a: float, s: float, X: float, R: float) -> None:
    one = film(np.array(a), np.array(s), np.array(X))
    out = stack(lambertian(np.array(R)), [one] * 3)
    for i, own in enumerate((out.steep, out.shallow)):
        sent = float(own + out.mixed * ROOTS[1 - i] / ROOTS[i])
        assert -1e-9 <= sent <= 1 + 1e-9


def test_film_and_ground_that_both_send_all_back() -> None:
    all_back = Sym(np.array(1.0), np.array(0.0), np.array(1.0))
    white = film(np.array(0.0), np.array(1e4), np.array(10.0))
    assert float(diffuse(over(white, all_back))) == pytest.approx(1.0, abs=1e-9)
    clear = film(np.array(0.0), np.array(0.0), np.array(10.0))
    assert float(diffuse(over(clear, all_back))) == 1.0


@given(share, st.sampled_from(sorted(FINISHES.values())))
def test_surface_there_and_back(R: float, finish: float) -> None:
    outside = seen(lambertian(np.array(R)), finish)
    assert finish <= outside <= finish + PASSES / (1 - INSIDE) + 1e-12
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


def test_the_surface_is_fresnels_for_index_one_and_a_half() -> None:
    """Integrals of Fresnel's equations, and what is known of them (Saunderson 1942; Judd 1942).

    Of diffuse light 59.6 % is thrown back from within and 9.2 % from without.
    """
    assert pytest.approx(1.5) == INDEX
    critical = np.sqrt(1 - 1 / 1.5**2)
    inside, _ = quad(lambda c: 2 * c * fresnel(c, 1 / 1.5), 0, 1, points=[critical], limit=200)
    assert pytest.approx(inside, abs=1e-5) == K2
    assert pytest.approx(0.596, abs=1e-3) == K2
    outside, _ = quad(lambda c: 2 * c * fresnel(c, 1.5), 0, 1)
    assert outside == pytest.approx(0.092, abs=1e-3)
    # By reciprocity the escape cone sends back what diffuse light from without is denied.
    assert pytest.approx(outside, abs=1e-5) == INSIDE
    passes = (1 - fresnel(np.sqrt(0.5), 1.5)) * (1 - fresnel(1.0, 1.5))
    assert pytest.approx(passes, abs=1e-12) == PASSES
