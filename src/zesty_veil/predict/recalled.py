"""What many ask of one passage, worked out once: its flat colours, and coats laid alone.

Remarks, figures and remedies ask the same of a passage again and again, and while one passage is
painted the others stay as they are.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache

import numpy as np

from zesty_veil.kept import kept_within
from zesty_veil.paint.mixture import Mixture
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Ground, Passage, Primer
from zesty_veil.predict.field import Field, axis, field_of, fold, predict
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import DAYLIGHT, ViewingConditions
from zesty_veil.predict.turned import each_way

_KEPT_MB = 12.0
_FLAT = np.zeros(1)


def as_laid(passage: Passage) -> Passage:
    """Return a passage with only what decides its colours: two that are alike in that are equal."""
    return Passage(
        "", passage.length_mm, ground=passage.ground, coats=passage.coats, tilt=passage.tilt,
        turns=passage.turns, own_hand=passage.own_hand,
    )  # fmt: skip


def paints_of(passage: Passage, paints: Mapping[str, Paint]) -> tuple[Paint, ...]:
    """Return the paints that a passage is of, by name; what is not there is left out."""
    coats = (*passage.ground.coats, *passage.coats)
    names = {part.paint for coat in coats for part in coat.mixture.parts}
    return tuple(paints[name] for name in sorted(names & paints.keys()))


def flat_stack(passage: Passage, paints: Mapping[str, Paint], places: int) -> StackOptics:
    """Return the stack of a passage on the flat, dry, at so many places of its axis."""
    return _stack(as_laid(passage), paints_of(passage, paints), places, False)


def flat_field(
    passage: Passage, paints: Mapping[str, Paint], places: int, look: ViewingConditions = DAYLIGHT
) -> Field:
    """Return the colours of a passage on the flat, at so many places of its axis."""
    return _field(as_laid(passage), paints_of(passage, paints), places, look)


def alone(coat: Coat, paints: Mapping[str, Paint], primer: Primer) -> tuple[float, float, float]:
    """Return lightness, chroma and hue of a coat all over a primer, on the flat by day."""
    own = tuple(paints[p.paint] for p in coat.mixture.parts if p.paint in paints)
    return _alone(coat.mixture, coat.tool, coat.passes, coat.cover, own, primer)


@kept_within(_KEPT_MB)
def _stack(passage: Passage, paints: tuple[Paint, ...], places: int, wet: bool) -> StackOptics:
    look = ViewingConditions(finish="wet") if wet else DAYLIGHT
    named = {paint.name: paint for paint in paints}
    return fold(passage, passage.coats, named, axis(places), _FLAT, look)


@kept_within(_KEPT_MB)
def _field(
    passage: Passage, paints: tuple[Paint, ...], places: int, look: ViewingConditions
) -> Field:
    if len(each_way(passage)) > 1:
        named = {paint.name: paint for paint in paints}
        return predict(passage, named, axis(places), _FLAT, look)
    state = _stack(passage, paints, places, look.finish == "wet")
    return field_of(state, axis(places), _FLAT, look)


@lru_cache(maxsize=1000)
def _alone(
    mixture: Mixture,
    tool: str,
    passes: int,
    cover: float | None,
    paints: tuple[Paint, ...],
    primer: Primer,
) -> tuple[float, float, float]:
    coat = Coat(mixture, tool, passes, cover=cover)
    passage = Passage("alone", ground=Ground(primer), coats=(coat,))
    L, C, h = _field(as_laid(passage), paints, 1, DAYLIGHT).lch[0, 0]
    return float(L), float(C), float(h)
