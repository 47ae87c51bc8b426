"""Where things stand on the Section: strata, labels, grips."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from conftest import small_plan
from zesty_veil.desktop.kit.frame import LEAST_GUTTER, MOST_GUTTER, frame
from zesty_veil.desktop.kit.geometry import (
    LEAST_PX,
    Box,
    corners,
    grip_at,
    grips,
    label_rows,
    strata,
)
from zesty_veil.plan.edits import with_feather, with_span

U = np.linspace(0, 1, 101)
BOX = Box(50, 100, 400, 300)


def test_strata_stand_on_each_other_within_their_room() -> None:
    films = [np.full(101, 40.0), np.where(U > 0.5, 9.0, 0.0), np.full(101, 1.0)]
    layout = strata(films, U, BOX)
    below = np.full(101, BOX.bottom)
    for stratum in layout.strata:
        np.testing.assert_allclose(stratum.lower, below)
        below = stratum.upper
    assert below.min() >= BOX.y - 1e-6


def test_thick_coats_do_not_dwarf_thin_ones() -> None:
    layout = strata([np.full(101, 100.0), np.full(101, 1.0)], U, BOX)
    thick, thin = ((s.lower - s.upper).max() for s in layout.strata)
    assert thick / thin <= 10 + 1e-6  # the square root of a hundred
    assert thin >= LEAST_PX - 1e-6


def test_a_film_that_is_nowhere_and_no_films_at_all() -> None:
    assert strata([], U, BOX).strata == ()
    (nothing,) = strata([np.zeros(101)], U, BOX).strata
    np.testing.assert_allclose(nothing.upper, nothing.lower)


@given(st.integers(1, 60))
def test_any_number_of_coats_fits(count: int) -> None:
    layout = strata([np.full(101, 5.0)] * count, U, BOX)
    assert layout.strata[-1].upper.min() >= BOX.y - 1e-6


@given(st.lists(st.floats(0, 500), max_size=30))
def test_labels_keep_their_order_and_never_overlap(anchors: list[float]) -> None:
    rows = label_rows(anchors, 40, 100, 400)
    height = min(40, 300 / max(len(anchors), 1))
    assert all(low - high >= height - 1e-6 for low, high in pairwise(rows))
    assert all(100 + height / 2 - 1e-6 <= y <= 400 - height / 2 + 1e-6 for y in rows)


def test_grips_are_found_where_they_are_drawn() -> None:
    coats = list(small_plan().passages[0].coats)
    coats[1] = with_feather(with_span(coats[1], 0.3, 0.6), 0.1, 0.2)
    layout = strata([np.full(101, 40.0), np.full(101, 8.0)], U, BOX)
    for grip, (x, y) in grips(layout, 1, coats[1]).items():
        assert grip_at(layout, coats, 1, x, y) == (1, grip)
        assert grip_at(layout, coats, 1, x + 3, y) == (1, grip)
    x, y = layout.x(0.45), layout.middle(1, 0.45)
    assert grip_at(layout, coats, 1, x, y) == (1, "body")
    assert grip_at(layout, coats, 1, x, BOX.y - 50) is None
    # A coat that is not in hand offers its ends but not its feathers.
    toe = grips(layout, 1, coats[1])["feather end"]
    assert grip_at(layout, coats, 0, *toe) != (1, "feather end")


def test_the_frame_shares_one_axis() -> None:
    parts = frame(760, 640)
    for box in (*parts.ribbons, parts.value, parts.steps, parts.ruler, parts.strata, parts.ground):
        assert (box.x, box.width) == (parts.axis.x, parts.axis.width)
    assert parts.gutter.right == pytest.approx(760 - 12)
    assert LEAST_GUTTER <= parts.gutter.width <= MOST_GUTTER
    assert parts.strata.bottom == parts.ground.y
    assert parts.place(parts.value.x - 99) == 0
    assert parts.place(parts.value.right + 99) == 1


@given(
    st.lists(st.floats(0, 60), min_size=257, max_size=257),
    st.integers(2, 257),
    st.integers(1, 30),
)
def test_an_outline_keeps_to_what_it_leaves_out(heights: list[float], n: int, soft: int) -> None:
    u = np.linspace(0, 1, n)
    rough = np.convolve(heights, np.full(soft, 1 / soft), mode="same")[:n]
    edges = np.array([(rough, rough + 5.0), (40 * u, 3 + 20 * u)])
    kept = corners(u, edges, 0.1)
    assert kept[:, [0, -1]].all()
    for shape, at in zip(edges, kept, strict=True):
        for edge in shape:
            assert np.abs(np.interp(u, u[at], edge[at]) - edge).max() <= 0.1 + 1e-9
    # What is straight needs few corners, whatever stands beside it.
    assert kept[1].sum() <= 6


def test_a_coat_that_lies_nowhere_has_no_outline() -> None:
    layout = strata([np.zeros(101), np.where(U > 0.5, 9.0, 0.0)], U, BOX)
    assert layout.outline(0) == []
    xs = [x for x, _ in layout.outline(1)]
    assert BOX.x + 0.4 * BOX.width < min(xs)
    assert max(xs) == BOX.right
