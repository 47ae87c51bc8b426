"""Thresholds of judgement: numbers with a meaning, which are plain numbers wherever they go."""

from __future__ import annotations

import pickle

import msgspec
import pytest

from zesty_veil import thresholds
from zesty_veil.advise.films import stronger
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.plan.model import Coat
from zesty_veil.thresholds import all_thresholds

_ALL = all_thresholds()


def test_each_says_its_unit_its_meaning_and_where_it_is_from() -> None:
    assert len(_ALL) > 40
    for name, threshold in _ALL.items():
        assert threshold.unit, name
        assert threshold.says, name
        assert threshold.source, name


@pytest.mark.parametrize("name", sorted(_ALL))
def test_it_is_a_plain_number_where_it_is_used(name: str) -> None:
    """Remedies go to the window from a helper process, and into plans that are saved."""
    number = getattr(thresholds, name)
    assert type(number) in {int, float}
    assert number == _ALL[name].value
    assert pickle.loads(pickle.dumps(number)) == number
    assert msgspec.json.decode(msgspec.json.encode(number)) == number


def test_a_remedy_leaves_none_in_a_plan() -> None:
    thin = Coat(Mixture((Part("x"),), "water", 5.0), "glaze", 12)
    coat = stronger(thin)
    assert coat is not None
    assert type(coat.passes) is int
    assert msgspec.json.decode(msgspec.json.encode(coat), type=Coat) == coat
