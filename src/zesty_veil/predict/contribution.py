"""What each coat adds: the difference it makes to what is seen at the end."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from zesty_veil.kept import kept_within
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Passage
from zesty_veil.predict.field import SITE_RELIEF, axis
from zesty_veil.predict.folding import Prepared, fold_coats
from zesty_veil.predict.lay import prefixes
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import DAYLIGHT, ViewingConditions, colours
from zesty_veil.predict.recalled import as_laid, paints_of

_PLACES = 41
_KEPT_MB = 2.0


class Contribution(NamedTuple):
    """What one coat adds, in dE00 between the plan with and without it."""

    most: float  # at the place and site where it shows most
    where: float  # that place on the axis, 0-1
    mean: float  # over the axis and the sites


def contributions(
    passage: Passage, paints: Mapping[str, Paint], look: ViewingConditions = DAYLIGHT
) -> tuple[Contribution, ...]:
    """Return what each coat of a passage adds to the finished stack, in the order of the coats.

    Coats are worked out once, and the stack below each one is folded once and shared.
    """
    return _all(as_laid(passage), paints_of(passage, paints), look)


def contribution(
    passage: Passage, paints: Mapping[str, Paint], coat: int, look: ViewingConditions = DAYLIGHT
) -> Contribution:
    """Return what one coat of a passage adds to the finished stack."""
    return _one(as_laid(passage), paints_of(passage, paints), coat, look)


@kept_within(_KEPT_MB)
def _all(
    passage: Passage, paints: tuple[Paint, ...], look: ViewingConditions
) -> tuple[Contribution, ...]:
    coats, below, whole = _folded(passage, paints, look)
    return tuple(
        _without(coats, below, whole, number, look) for number in range(len(passage.coats))
    )


@kept_within(_KEPT_MB)
def _one(
    passage: Passage, paints: tuple[Paint, ...], coat: int, look: ViewingConditions
) -> Contribution:
    return _without(*_folded(passage, paints, look), coat, look)


def _folded(
    passage: Passage, paints: tuple[Paint, ...], look: ViewingConditions
) -> tuple[tuple[Prepared, ...], list[StackOptics], Array]:
    """Return the coats worked out, the stacks below each and above the last, and its colours."""
    named = {paint.name: paint for paint in paints}
    coats, below = prefixes(passage, named, axis(_PLACES), SITE_RELIEF)
    return coats, below, colours(below[-1], look)[0]


def _without(
    coats: tuple[Prepared, ...],
    below: list[StackOptics],
    whole: Array,
    number: int,
    look: ViewingConditions,
) -> Contribution:
    state = fold_coats(below[number], coats[number + 1 :])
    return _summary(ciede2000(whole, colours(state, look)[0]), axis(_PLACES))


def _summary(difference: Array, u: Array) -> Contribution:
    place = int(np.argmax(difference.max(axis=1)))
    return Contribution(float(difference.max()), float(u[place]), float(difference.mean()))
