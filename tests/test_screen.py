"""What the screen shows of colours that it does not have."""

from __future__ import annotations

import numpy as np
import pytest

from zesty_veil.light.cielab import lch
from zesty_veil.light.gamut import most_chroma
from zesty_veil.light.srgb import encode, lab_of, srgb
from zesty_veil.predict.named import _called, named


def colours(L: np.ndarray, C: np.ndarray, h: np.ndarray) -> np.ndarray:
    """Return CIELAB of lightness, chroma and hue in degrees."""
    return np.stack([L, C * np.cos(np.radians(h)), C * np.sin(np.radians(h))], axis=-1)


def test_chroma_shown_never_falls_while_the_true_one_rises() -> None:
    rng = np.random.default_rng(1996)
    L, h = rng.uniform(5, 110, 10_000), rng.uniform(0, 360, 10_000)
    C = rng.uniform(0, 150, 10_000)
    above = C + rng.uniform(0, 40, 10_000)
    less, more = (lch(lab_of(srgb(colours(L, one, h))[0]))[:, 1] for one in (C, above))
    assert (more - less).min() > -0.4  # eight bits on the screen part colours by more


def test_hue_is_kept() -> None:
    rng = np.random.default_rng(2)
    L, h = rng.uniform(20, 105, 5000), rng.uniform(0, 360, 5000)
    rgb, inside = srgb(colours(L, np.full(5000, 130.0), h))
    shown = lch(lab_of(rgb))
    turned = np.abs((shown[:, 2] - h + 180) % 360 - 180)
    assert not inside.all()
    assert turned[shown[:, 1] > 20].max() < 2.0


def test_what_the_screen_has_is_shown_as_it_is() -> None:
    rng = np.random.default_rng(3)
    rgb = encode(rng.uniform(0.01, 0.99, (5000, 3)))
    back, inside = srgb(lab_of(rgb))
    assert inside.all()
    np.testing.assert_allclose(back, rgb, atol=2e-4)


def test_no_neighbour_is_nearer() -> None:
    """Of all colours of the hue that the screen has, none is nearer by the stated distance."""
    for L, C, h in ((75.0, 108.0, 48.0), (88.0, 120.0, 130.0), (30.0, 110.0, 300.0), (60, 95, 0)):
        colour = colours(np.array([L]), np.array([C]), np.array([h]))
        shown = lab_of(srgb(colour)[0])[0]
        level, chroma = np.meshgrid(np.linspace(0, 100, 400), np.linspace(0, 130, 500))
        tried = colours(level.ravel(), chroma.ravel(), np.full(level.size, h))
        has = srgb(tried)[1]

        def cost(l_: np.ndarray, c: np.ndarray, L: float = L, C: float = C) -> np.ndarray:
            return np.hypot((L - l_) / np.where(l_ < L, 0.5, 0.15), C - c)

        best = cost(level.ravel()[has], chroma.ravel()[has]).min()
        assert cost(shown[0], np.hypot(*shown[1:])) < best + 1.5


def test_what_outshines_white_keeps_its_hue() -> None:
    """Fluorescent orange came out as pale pink."""
    for L, least in ((88.0, 60), (105.0, 35)):
        asked = colours(np.array([L]), np.array([90.0]), np.array([50.0]))
        shown = lch(lab_of(srgb(asked)[0]))[0]
        assert shown[1] > least
        assert abs(shown[2] - 50) < 3


def test_whether_the_screen_has_a_colour_is_told_without_looking_for_another(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """The first colour that was written in words let the window stand for 0.3 s."""
    monkeypatch.setattr("zesty_veil.light.srgb.gamut", None)
    _called.cache_clear()
    assert named("strong orange").shape == (3,)
    assert most_chroma(np.array([60.0]), np.array([40.0])) > 50
