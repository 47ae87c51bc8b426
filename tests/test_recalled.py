"""What is worked out once for many who ask: the same as asked anew, and never another passage's."""

from __future__ import annotations

import numpy as np
import pytest
from msgspec.structs import replace

from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.model import Coat, Ground, Passage
from zesty_veil.predict import recalled
from zesty_veil.predict.contribution import contribution, contributions
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import ViewingConditions

RACK = {paint.name: paint for paint in demo_rack()}
FLAT = np.zeros(1)
ORANGE = Coat(Mixture((Part("Ember Orange"),), "water", 3.0), "glaze", 3, (0.2, 0.8))
WHITE = Coat(Mixture((Part("Lime White"),), "water", 0.5), "loaded", 2, (0.0, 0.5))


@pytest.mark.parametrize(
    "look",
    [
        ViewingConditions(),
        ViewingConditions("A"),
        ViewingConditions(finish="wet"),
        ViewingConditions(finish="gloss"),
    ],
)
def test_the_same_comes_as_asked_anew(look: ViewingConditions) -> None:
    passage = Passage("x", ground=Ground("grey"), coats=(WHITE, ORANGE))
    for _ in range(2):
        mine = recalled.flat_field(passage, RACK, 33, look)
        new = predict(passage, RACK, axis(33), FLAT, look)
        np.testing.assert_allclose(mine.lab, new.lab, atol=1e-9)


def test_each_passage_keeps_its_own() -> None:
    passage = Passage("x", ground=Ground("white"), coats=(ORANGE,))
    others = (
        replace(passage, ground=Ground("black")),
        replace(passage, coats=(replace(ORANGE, passes=4),)),
        replace(passage, length_mm=passage.length_mm * 2),
    )
    first = recalled.flat_field(passage, RACK, 17)
    assert recalled.flat_field(replace(passage, name="y"), RACK, 17) is first
    for other in others:
        assert recalled.flat_field(other, RACK, 17) is not first
    stronger = {**RACK, "Ember Orange": replace(RACK["Lime White"], name="Ember Orange")}
    assert recalled.flat_field(passage, stronger, 17) is not first


def test_a_coat_alone_is_seen_wherever_it_lies_on_the_figure() -> None:
    L, C, h = recalled.alone(ORANGE, RACK, "white")
    everywhere = replace(ORANGE, span=(0.0, 1.0))
    passage = Passage("x", ground=Ground("white"), coats=(everywhere,))
    np.testing.assert_allclose((L, C, h), predict(passage, RACK, axis(1), FLAT).lch[0, 0])
    assert recalled.alone(replace(ORANGE, sites=("recess",), nozzle=90.0), RACK, "white") == (
        L,
        C,
        h,
    )


def test_what_one_coat_adds_is_what_all_are_told_to_add() -> None:
    passage = Passage("x", ground=Ground("grey"), coats=(WHITE, ORANGE))
    every = contributions(passage, RACK)
    assert tuple(contribution(passage, RACK, i) for i in range(2)) == every
    assert contributions(replace(passage, name="z"), RACK) is every
