"""Dabs: one film for many domes, and light that goes from one to the next."""

from __future__ import annotations

import numpy as np
import pytest

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab
from zesty_veil.light.illuminant import weights
from zesty_veil.optics.dabs import beside, domed, strays
from zesty_veil.optics.film import Film, film
from zesty_veil.optics.stack import over
from zesty_veil.optics.streams import Sym, diffuse, lambertian
from zesty_veil.optics.surface import seen
from zesty_veil.paint.paint import spectra
from zesty_veil.paint.rack import demo_rack


def colour(R: Sym) -> np.ndarray:
    """Return what is seen of a stack."""
    eye = weights()
    return lab(seen(R, np.array(0.02)) @ eye, eye.sum(axis=0))


def averaged(mu_a: np.ndarray, mu_s: np.ndarray, X: float, ground: Sym, count: int) -> Sym:
    """Return the mean of domes cut into rings of alike area, each laid by itself."""
    rings = X * 2 * (np.arange(count) + 0.5)[:, None] / count
    each = over(film(mu_a, mu_s, rings), ground.each(lambda x: np.broadcast_to(x, (count, 36))))
    return each.each(lambda x: x.mean(axis=0))


@pytest.mark.parametrize("ground", [0.05, 0.3, 0.6, 0.95])
def test_one_film_stands_for_many_domes(ground: float) -> None:
    """Flat films of the same mean: 1.7 median, 8.5 at worst."""
    below = lambertian(np.full(36, ground))
    off = []
    for paint in demo_rack():
        if paint.flakes is None and paint.glow is None:
            mu_a, mu_s = spectra(paint)
            for X in (0.004, 0.01, 0.02, 0.04):
                came = colour(over(domed(mu_a, mu_s, np.array(X)), below))
                off.append(ciede2000(came, colour(averaged(mu_a, mu_s, X, below, 200))))
    assert np.median(off) < 0.3
    assert np.quantile(off, 0.9) < 0.8
    assert max(off) < 1.0


def test_domes_make_no_light_and_none_is_none() -> None:
    rng = np.random.default_rng(5)
    mu_a, mu_s = (10.0 ** rng.uniform(-6, 4, (20_000, 1)) for _ in range(2))
    mu_a[:500] = 0
    mu_s[500:1000] = 0
    X = 10.0 ** rng.uniform(-6, 1, (20_000, 1))
    X[1000:1500] = 0
    one = domed(mu_a, mu_s, X)
    for entry in (*one.R, *one.T):
        assert np.isfinite(entry).all()
        assert (entry >= -1e-8).all()
    assert (diffuse(one.R) + diffuse(one.T) <= 1 + 1e-9).all()
    assert (diffuse(over(one, lambertian(np.ones((1, 1))))) <= 1 + 1e-9).all()
    np.testing.assert_allclose(one.R.steep[1000:1500], 0, atol=1e-12)
    np.testing.assert_allclose(one.T.steep[1000:1500], 1, atol=1e-9)
    np.testing.assert_allclose(one.T.mixed[1000:1500], 0, atol=1e-9)


@pytest.mark.parametrize("c", [0.2, 0.5, 0.8])
def test_clear_ink_that_light_passes_anywhere_follows_yule_and_nielsen(c: float) -> None:
    """R = (c R1^(1/n) + (1 - c) R0^(1/n))^n with n = 2 (Yule & Nielsen 1951), for diffuse light."""
    for depth in (0.1, 0.5, 2.0):
        one = film(np.full(1, depth), np.zeros(1), np.ones(1))
        # Steep light alone, as theirs: what is shallow stays within, and has no such law.
        steep = Film(
            Sym(one.R.steep, np.zeros(1), np.zeros(1)), Sym(one.T.steep, np.zeros(1), np.zeros(1))
        )
        ground = Sym(np.full(1, 0.8), np.zeros(1), np.zeros(1))
        whole = beside(steep, np.array(c))
        bare, inked = 0.8, float(over(steep, ground).steep[0])
        wanted = (c * inked**0.5 + (1 - c) * bare**0.5) ** 2
        assert float(over(whole, ground).steep[0]) == pytest.approx(wanted, rel=1e-12)


def test_the_smaller_a_dab_the_more_light_strays() -> None:
    assert 0 < strays(1.0) < strays(0.3) < strays(0.05) < 1
    assert strays(0.01) == 1.0
