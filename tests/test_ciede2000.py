"""CIEDE2000 against the 34 pairs of its paper.

G. Sharma, W. Wu, E. N. Dalal (2005), table 1. 33 pairs stand in data/ as colour-science carries
them; pair 14, which that package leaves out, is from memory of the paper: its two hues are exactly
opposite, and rounding alone decides between 4.8045 and 4.7461 unless the code settles it.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from zesty_veil.light.ciede2000 import ciede2000

PAIRS = np.loadtxt(
    Path(__file__).parent / "data/ciede2000_sharma2005.csv", delimiter=",", skiprows=1
)


def test_the_34_published_pairs() -> None:
    assert PAIRS.shape == (34, 7)
    found = ciede2000(PAIRS[:, :3], PAIRS[:, 3:6])
    np.testing.assert_allclose(found, PAIRS[:, 6], atol=5e-5)


def test_it_does_not_matter_which_comes_first() -> None:
    there, back = (ciede2000(PAIRS[:, i : i + 3], PAIRS[:, 3 - i : 6 - i]) for i in (0, 3))
    np.testing.assert_allclose(there, back, atol=1e-12)


lab_value = st.tuples(st.floats(0, 100), st.floats(-100, 100), st.floats(-100, 100))


@given(lab_value)
def test_a_colour_does_not_differ_from_itself(colour: tuple[float, float, float]) -> None:
    assert ciede2000(np.array(colour), np.array(colour)) == 0


def test_shapes_broadcast() -> None:
    one = np.zeros((4, 1, 3))
    other = np.ones((5, 3))
    assert ciede2000(one, other).shape == (4, 5)
