"""Strokes are uneven, finer than the eye parts: against paint laid place by place.

That brushed films are thicker in some places than in others, and that their colour is that of all
places seen together, is common practice; how much (a fifth to a third per pass) is from memory.
"""

from __future__ import annotations

import numpy as np
import pytest
from msgspec.structs import replace
from scipy.stats import gamma

from zesty_veil.advise.match.bank import bank
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab
from zesty_veil.light.illuminant import weights
from zesty_veil.optics.dabs import uneven
from zesty_veil.optics.film import film
from zesty_veil.optics.stack import over
from zesty_veil.optics.streams import Sym, diffuse, lambertian
from zesty_veil.optics.surface import seen
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import spectra
from zesty_veil.paint.rack import demo_rack
from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import Coat, Ground, Passage
from zesty_veil.predict.drawdown import over_primers
from zesty_veil.predict.field import predict
from zesty_veil.predict.lay import ground
from zesty_veil.predict.look import DAYLIGHT, colours
from zesty_veil.predict.pour import evened

PLACES = 400
HERE, FLAT = np.array([0.5]), np.zeros(1)


def colour(R: Sym) -> np.ndarray:
    eye = weights()
    return lab(seen(R, np.array(0.02)) @ eye, eye.sum(axis=0))


def plain_paints() -> list:
    return [p for p in demo_rack() if p.flakes is None and p.glow is None]


def thicknesses(rng: np.random.Generator, cv: float) -> np.ndarray:
    """Return what lies at many places, (PLACES, 1), of mean 1: gamma, never less than nothing."""
    shape = cv**-2
    x = gamma.ppf((np.arange(PLACES) + 0.5) / PLACES, shape) / shape
    return rng.permutation(x / x.mean())[:, None]


@pytest.mark.parametrize("cv", [0.2, 0.3])
def test_stacks_come_out_as_all_their_places_seen_together(cv: float) -> None:
    """Flat films of the same mean are off by 0.18 / 0.45 at 0.2 and 0.41 / 1.00 at 0.3."""
    rng = np.random.default_rng(3)
    paints = plain_paints()
    off, flat_off = [], []
    for _ in range(120):
        paper = lambertian(np.full(36, rng.choice([0.06, 0.3, 0.85])))
        true = paper.each(lambda x: np.broadcast_to(x, (PLACES, 36)))
        ours = flat = paper
        for _ in range(int(rng.integers(1, 5))):
            mu_a, mu_s = spectra(paints[int(rng.integers(len(paints)))])
            X = float(rng.choice([0.004, 0.008, 0.015]))
            true = over(film(mu_a, mu_s, X * thicknesses(rng, cv)), true)
            ours = over(uneven(mu_a, mu_s, np.array(X), np.array(cv)), ours)
            flat = over(film(mu_a, mu_s, np.array(X)), flat)
        came = colour(true.each(lambda x: x.mean(axis=0)))
        off.append(float(ciede2000(colour(ours), came)))
        flat_off.append(float(ciede2000(colour(flat), came)))
    assert np.median(off) < 0.25 * np.median(flat_off)
    assert np.quantile(off, 0.9) < 0.3 * np.quantile(flat_off, 0.9)
    assert np.quantile(off, 0.9) < 0.2


def test_uneven_films_make_no_light_and_none_is_flat() -> None:
    rng = np.random.default_rng(5)
    mu_a, mu_s = (10.0 ** rng.uniform(-6, 4, (20_000, 1)) for _ in range(2))
    X, cv = 10.0 ** rng.uniform(-6, 1, (20_000, 1)), rng.uniform(0, 1, (20_000, 1))
    one = uneven(mu_a, mu_s, X, cv)
    assert all(np.isfinite(entry).all() for entry in (*one.R, *one.T))
    assert (diffuse(one.R) + diffuse(one.T) <= 1 + 1e-9).all()
    assert (diffuse(over(one, lambertian(np.ones((1, 1))))) <= 1 + 1e-9).all()
    for mine, flat in zip(uneven(mu_a, mu_s, X, np.zeros(1)).T, film(mu_a, mu_s, X).T, strict=True):
        np.testing.assert_allclose(mine, flat, atol=1e-6)


def test_ridges_of_many_passes_even_out() -> None:
    assert float(evened(0.3, np.ones((1, 1)))[0]) == pytest.approx(0.3)
    assert float(evened(0.3, np.ones((9, 1)))[0]) == pytest.approx(0.1)
    assert float(evened(0.3, np.zeros((3, 1)))[0]) == 0.0


def test_one_coat_of_four_passes_is_four_coats_of_one() -> None:
    """But for what an average of films leaves out: less than anybody sees."""
    rack = {paint.name: paint for paint in plain_paints()}
    for name in rack:
        coat = Coat(Mixture((Part(name),), "water", 3.0), "glaze", 1)
        many = Passage("a", ground=Ground("white"), coats=(coat,) * 4)
        one = replace(many, coats=(replace(coat, passes=4),))
        a, b = (predict(p, rack, HERE, FLAT).lab[0, 0] for p in (many, one))
        assert float(ciede2000(a, b)) < 0.5, name


def test_brushes_lay_less_deep_than_an_airbrush_of_the_same_film() -> None:
    """Valleys let more through than ridges hold back, so brushed glazes are the weaker ones."""
    rough, smooth = tools()["glaze"], tools()["airbrush"]
    assert smooth.texture == 0 < tools()["wash"].texture < rough.texture
    mu_a, mu_s = spectra(next(p for p in plain_paints() if p.name == "Ember Orange"))
    white = lambertian(np.full(36, 0.85))
    X = np.array(0.006)
    brushed = colour(over(uneven(mu_a, mu_s, X, np.array(rough.texture)), white))
    sprayed = colour(over(film(mu_a, mu_s, X), white))
    assert np.hypot(*brushed[1:]) < np.hypot(*sprayed[1:])
    assert brushed[0] > sprayed[0]


def test_section_search_and_drawdown_lay_the_same_film() -> None:
    rack = {paint.name: paint for paint in plain_paints()}
    for tool in ("loaded", "glaze", "airbrush"):
        coat = Coat(Mixture((Part("Ember Orange"),), "water", 2.0), tool, 3)
        passage = Passage("x", ground=Ground("white"), coats=(coat,))
        said = predict(passage, rack, HERE, FLAT).lab[0, 0]
        drawn = over_primers(coat, rack, ["white"], [0, 3], FLAT)
        assert drawn is not None
        np.testing.assert_allclose(drawn[0, 1], said, atol=1e-6)
        start = ground(passage, rack, np.zeros(1), FLAT)
        state = bank([coat], rack, 0.0, passage).one_on(start, 0)
        np.testing.assert_allclose(colours(state, DAYLIGHT)[0][0, 0], said, atol=1e-6)
