"""Films as matrices: the same as folding them one by one (optics.stack)."""

from __future__ import annotations

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from zesty_veil.optics.film import film
from zesty_veil.optics.projective import looks, matrix, vector
from zesty_veil.optics.stack import stack
from zesty_veil.optics.streams import lambertian
from zesty_veil.optics.surface import seen

some = st.floats(0, 300)


@given(st.lists(st.tuples(some, some, st.floats(0, 0.1)), min_size=1, max_size=6), st.floats(0, 1))
def test_a_pile_of_films_is_the_product_of_their_matrices(
    films: list[tuple[float, float, float]], ground: float
) -> None:
    made = [film(np.full(3, a), np.full(3, s), np.array(X)) for a, s, X in films]
    below = lambertian(np.full(3, ground))
    x = vector(below)[..., None]
    for one in made:
        x = matrix(one) @ x
    folded = stack(below, made)
    w = x[..., 0, 0]
    for entry, own in zip((*folded, folded.det()), np.moveaxis(x[..., 1:, 0], -1, 0), strict=True):
        np.testing.assert_allclose(own / w, entry, atol=1e-9)
    lit, lost = (looks() @ x)[..., 0].T
    np.testing.assert_allclose(lit / lost, seen(folded, 0.0), atol=1e-9)
