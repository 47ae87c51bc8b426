"""Light on forms against geometry: the cosine and inverse square laws (Lambert 1760), shadows."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest

from zesty_veil.light.grid import Array
from zesty_veil.predict.forms.lit import Lamp, distance, irradiance, shaded
from zesty_veil.predict.forms.shapes import FORMS, form
from zesty_veil.predict.forms.surface import Form, grid, surface

SIZE = 161


def plane(size: int = SIZE) -> Form:
    x, _ = grid(size)
    return surface(np.zeros_like(x), np.ones(x.shape, dtype=bool), (x + 1) / 2)


def sphere(radius: float = 0.8, size: int = SIZE) -> Form:
    x, y = grid(size)
    height = np.sqrt(np.clip(radius**2 - x**2 - y**2, 0, None))
    made = surface(height, np.hypot(x, y) < 0.9 * radius, x * 0)
    exact = np.stack([x, y, height], axis=-1) / radius
    return Form(made.mask, made.height, exact, made.relief, made.u)


def post(height: float = 0.4, half: float = 0.05) -> Form:
    x, y = grid(SIZE)
    up = (np.abs(x) < half) & (np.abs(y) < half)
    return surface(np.where(up, height, 0.0), np.ones(x.shape, dtype=bool), x * 0)


def test_light_on_a_plane_goes_with_the_cosine_and_the_inverse_square() -> None:
    lamp = Lamp((0.2, -0.1, 0.5), 1.0, falloff="inverse square")
    x, y = grid(SIZE)
    d = np.sqrt((x - 0.2) ** 2 + (y + 0.1) ** 2 + 0.25)
    wanted = 0.5 / d * np.minimum((0.2 / d) ** 2, 1)
    np.testing.assert_allclose(irradiance(plane(), lamp), wanted, rtol=1e-9)
    np.testing.assert_allclose(distance(plane(), lamp), d, rtol=1e-12)


def test_light_on_a_sphere_ends_where_it_turns_away() -> None:
    """A point at distance D from the middle lights what is within acos(r / D) of it."""
    ball, D = sphere(), 2.0
    lamp = Lamp((D, 0, 0), 5.0, falloff="inverse square")
    got = irradiance(ball, lamp)
    x, y = grid(SIZE)
    normal = ball.normal
    towards = np.array([D, 0, 0]) - np.stack([x, y, ball.height], axis=-1)
    d = np.linalg.norm(towards, axis=-1)
    cosine = (normal * towards).sum(axis=-1) / d
    wanted = np.where(ball.mask & (cosine > 0), cosine * np.minimum((1.0 / d) ** 2, 1), 0)
    # Near the terminator the ball shades itself by a pixel.
    clear = ball.mask & (np.abs(cosine) > 0.08)
    np.testing.assert_allclose(got[clear], wanted[clear], atol=1e-9)
    lit = np.degrees(np.arccos(np.clip(normal[..., 0], -1, 1)))[(got > 0) & ball.mask]
    assert lit.max() == pytest.approx(np.degrees(np.arccos(0.8 / D)), abs=3)


def test_a_post_casts_the_shadow_that_geometry_says() -> None:
    """A post h high under a light H high: its shadow is h / (H - h) times as long as it is far."""
    made = post()
    light = np.array([-0.6, 0.0, 1.0])
    dark = shaded(made, light, np.ones(made.mask.shape, dtype=bool)).reshape(made.mask.shape)
    x, y = grid(SIZE)
    row = np.abs(y[:, 0]).argmin()
    behind = x[row][(dark[row]) & (x[row] > 0.05)]
    # From the far upper edge of the post, at x = 0.05: 0.65 / 0.6 * 0.4 beyond it.
    assert behind.max() == pytest.approx(0.05 + 0.65 * 0.4 / 0.6, abs=0.03)
    assert behind.min() < 0.08
    assert not dark[row][x[row] < -0.1].any()
    # As wide as the post's edges seen from the light, and no wider.
    across = y[:, 0][dark[:, np.abs(x[0] - 0.2).argmin()]]
    wide = 0.05 * (0.2 + 0.6) / (0.6 - 0.05)
    assert across.max() == pytest.approx(wide, abs=0.03)
    # So the light there is gone, and is there again where nothing stands in the way.
    got = irradiance(made, Lamp((-0.6, 0.0, 1.0), 3.0))
    at = lambda u, v: got[np.abs(y[:, 0] - v).argmin(), np.abs(x[0] - u).argmin()]  # noqa: E731
    assert at(0.2, 0.0) == 0
    assert at(0.2, 0.5) > 0.2


def test_even_steps_end_at_the_radius() -> None:
    got = irradiance(plane(), Lamp((0.0, 0.0, 0.3), 0.6))
    d = distance(plane(), Lamp((0.0, 0.0, 0.3), 0.6))
    assert (got[d > 0.6] == 0).all()
    assert (got[d < 0.59] > 0).all()
    line = got[SIZE // 2, SIZE // 2 :]
    assert all(b <= a for a, b in pairwise(line))


def test_a_blade_lights_evenly_along_itself() -> None:
    lamp = Lamp((-0.5, 0, 0.2), 0.8, end=(0.5, 0, 0.2))
    got = irradiance(plane(), lamp)
    x, _ = grid(SIZE)
    middle = got[SIZE // 2]
    assert np.ptp(middle[np.abs(x[0]) < 0.2]) < 0.1 * middle.max()
    np.testing.assert_allclose(got, got[:, ::-1], atol=1e-9)
    assert distance(plane(), lamp)[SIZE // 2, SIZE // 2] == pytest.approx(0.2, abs=0.01)


def test_a_line_of_no_length_is_a_point() -> None:
    point, line = Lamp((0.1, 0, 0.3), 0.9), Lamp((0.1, 0, 0.3), 0.9, end=(0.1, 0, 0.3))
    np.testing.assert_allclose(irradiance(post(), point), irradiance(post(), line), atol=1e-12)


def test_light_from_within_reaches_what_is_turned_away() -> None:
    ball = sphere()
    within = irradiance(ball, Lamp((0, 0, 0.1), 2.0, inside=True))
    without = irradiance(ball, Lamp((0, 0, 0.1), 2.0))
    assert (within[ball.mask] > 0.3).all()
    assert without[ball.mask].max() < 0.05


@pytest.mark.parametrize("name", FORMS)
def test_every_form_is_lit_within_bounds(name: str) -> None:
    made = form(name, 96)
    got: Array = irradiance(made, Lamp((0.3, 0.4, 0.9), 1.5))
    assert got.shape == (96, 96)
    assert (got >= 0).all()
    assert (got <= 1).all()
    assert got[made.mask].max() > 0.2
    assert (got[~made.mask] == 0).all()
