"""Prediction, its spread and the search lay the same film, whatever of a coat is changed.

Nothing outside the project says how thick a wicked wash lies at a nozzle's edge; that all three
agree is what makes the checks of the one (test_predict, test_film) hold for the others.
"""

from __future__ import annotations

from typing import Any

import msgspec
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zesty_veil.advise.match.bank import bank
from zesty_veil.light.grid import Array
from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.rack import demo_rack
from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import MEANT, STROKES, Coat, Ground, OwnTool, Passage
from zesty_veil.predict.draws import Draws, sample_colours
from zesty_veil.predict.lay import ground, laid_up
from zesty_veil.predict.look import DAYLIGHT, colours

RACK = demo_rack()
PAINTS = {paint.name: paint for paint in RACK}
# One of each kind that the optics treat in a way of its own.
_KINDS = ("opaque", "wash", "contrast", "ink", "fluorescent", "metallic", "medium")
POTS = [next(p.name for p in RACK if p.kind == kind) for kind in _KINDS]

_parts = st.lists(st.sampled_from(POTS), min_size=1, max_size=2, unique=True).flatmap(
    lambda names: st.tuples(*(st.builds(Part, st.just(n), st.integers(1, 4)) for n in names))
)
_share = st.floats(0.0, 0.4)
_FIELDS: dict[str, st.SearchStrategy[Any]] = {
    "mixture": st.builds(
        Mixture, _parts, st.sampled_from(["water", "medium", "thick medium"]), st.floats(0, 8)
    ),
    "tool": st.sampled_from(list(tools())),
    "passes": st.integers(1, 4),
    "span": st.tuples(st.floats(0.0, 0.5), st.floats(0.5, 1.0)),
    "feather": st.tuples(_share, _share),
    "sites": st.lists(st.sampled_from(SITES), min_size=1, unique=True).map(tuple),
    "stroke": st.sampled_from(STROKES),
    "wicked": st.booleans(),
    "nozzle": st.none() | st.floats(-180, 180),
    "stagger": st.just(()),
    "cover": st.none() | st.floats(0.05, 1.0),
    "meant": st.sampled_from(MEANT),
}


def _three(coat: Coat, place: float, relief: float) -> tuple[Array, Array, Array]:
    """Return CIELAB (3,) of a coat at a place as prediction, spread and search have it."""
    passage = Passage(
        "blade",
        30.0,
        coats=(coat,),
        ground=Ground("ivory"),
        tilt=(10.0, 70.0),
        own_hand=(OwnTool("glaze", 1.4),),
    )
    u, r = np.array([place]), np.array([relief])
    predicted = colours(laid_up(passage, passage.coats, PAINTS, u, r), DAYLIGHT)[0][0, 0]
    one = np.ones((1, 1))
    tints = {part.paint: (one, one) for part in coat.mixture.parts}
    draws = Draws(tints, [np.array([coat.mixture.thinning])], [np.ones((1, coat.passes))])
    spread = sample_colours(passage, PAINTS, u, r, draws, DAYLIGHT)[0, 0, 0]
    options = bank((coat,), PAINTS, relief, passage, place=place)
    ((_, found),) = options.labs_on(ground(passage, PAINTS, u, r), DAYLIGHT)
    return predicted, spread, found[0, 0]


def test_every_field_of_a_coat_is_tried_here() -> None:
    assert set(_FIELDS) == set(Coat.__struct_fields__)


@pytest.mark.parametrize("field", _FIELDS)
def test_prediction_spread_and_search_see_the_same_film(field: str) -> None:
    """One field at a time besides what makes it count, and all of them at once with it."""

    @settings(deadline=None, max_examples=15)
    @given(st.fixed_dictionaries(_FIELDS), st.floats(0, 1), st.floats(-1, 1), st.booleans())
    def check(drawn_fields: dict[str, Any], place: float, relief: float, alone: bool) -> None:
        usual = {"mixture": drawn_fields["mixture"], "tool": drawn_fields["tool"]}
        chosen = {**usual, field: drawn_fields[field]} if alone else dict(drawn_fields)
        coat = Coat(**chosen)
        if field == "stagger":
            shares = np.arange(1, coat.passes + 1, dtype=float)
            coat = msgspec.structs.replace(coat, stagger=tuple(shares / shares.sum()))
        predicted, spread, found = _three(coat, place, relief)
        assert spread == pytest.approx(predicted, abs=1e-6)
        assert found == pytest.approx(predicted, abs=1e-6)

    check()


def test_a_search_lays_in_full_what_lies_in_full_inside_its_span() -> None:
    wash = Coat(Mixture((Part(POTS[1]),)), "wash", 2, (0.3, 0.7), (0.1, 0.2), wicked=True)
    passage = Passage("blade", 30.0, coats=(wash,))
    u, r = np.array([0.5]), np.array([-0.6])
    inside = colours(laid_up(passage, (wash,), PAINTS, u, r), DAYLIGHT)[0][0]
    ((_, found),) = bank((wash,), PAINTS, -0.6, passage).labs_on(
        ground(passage, PAINTS, u, r), DAYLIGHT
    )
    np.testing.assert_allclose(found[0], inside, atol=1e-9)
    beyond = bank((wash,), PAINTS, -0.6, passage, place=0.95)
    ((_, bare),) = beyond.labs_on(ground(passage, PAINTS, u, r), DAYLIGHT)
    assert np.abs(bare - inside).max() > 1
