"""How patchy a coat looks: streaks of the brush, where what lies below is of another colour.

A first coat of white or yellow on black is patchy and greyish, and solid with the second or third;
common practice. The streaks are those that a tool's `texture` tells of, and passes even them out as
their ridges know nothing of each other.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import Coat, OwnTool, Passage
from zesty_veil.predict.folding import fold_coats
from zesty_veil.predict.lay import ground, prefixes, prepare
from zesty_veil.predict.look import DAYLIGHT, ViewingConditions, colours
from zesty_veil.thresholds import CLOSE_DE00

_FLAT = np.zeros(1)


class Streaks(NamedTuple):
    """How much the streaks of a passage stray, and which coats make them.

    apart : from the mean to where its coats lie thicker by one deviation, CIELAB (n, m, 3); where
    they lie thinner it is as far on the other side. patchy : for each coat whether its own show.
    """

    apart: Array
    patchy: tuple[bool, ...]


def may_streak(coat: Coat, paints: Mapping[str, Paint]) -> bool:
    """Tell whether streaks of a coat are a fault: a glaze is there to let show what is below."""
    parts = coat.mixture.parts
    return coat.tool == "loaded" and all(paints[part.paint].kind == "opaque" for part in parts)


def streaks(
    passage: Passage,
    paints: Mapping[str, Paint],
    u: Array,
    relief: Array,
    look: ViewingConditions = DAYLIGHT,
) -> Streaks | None:
    """Return what streaks of the brush add to a passage's colours; none if it looks even.

    The streaks of one coat know nothing of another's, so that their squares add.
    """
    coats, below = prefixes(passage, paints, u, relief)
    mean = colours(below[-1], look)[0]
    apart, patchy = np.zeros(mean.shape), [False] * len(coats)
    leading = np.zeros(mean.shape[:2])
    for k, coat in enumerate(passage.coats):
        if not may_streak(coat, paints):
            continue
        share = tools()[coat.tool].texture / np.sqrt(coat.passes)
        other = prepare((coat,), paints, _by_hand(passage, coat, 1 + share), u, relief)
        shift = colours(fold_coats(below[k], (*other, *coats[k + 1 :])), look)[0] - mean
        off = ciede2000(mean - shift, mean + shift)
        patchy[k] = bool((off > CLOSE_DE00).any())
        # The deviations add; which way lightness and colour go is said by the coat that shows most.
        sign = np.where((off > leading)[..., None], np.sign(shift), np.sign(apart))
        leading = np.maximum(leading, off)
        apart = sign * np.hypot(apart, shift)
    return Streaks(apart, tuple(patchy)) if any(patchy) else None


def patchy_passes(
    passage: Passage,
    number: int,
    paints: Mapping[str, Paint],
    look: ViewingConditions = DAYLIGHT,
) -> int:
    """Return after how many passes of a coat its streaks still show; as many as it has: to the end.

    Streaks show where thin and thick ones, a deviation of `texture` apart from the mean, differ by
    more than `CLOSE_DE00`. 0 where even the first pass looks even.

    Parameters
    ----------
    passage, number
        The passage, and which of its coats, those of the ground counted first.
    """
    coats = (*passage.ground.coats, *passage.coats)
    coat, below = coats[number], coats[:number]
    place = np.array([sum(coat.span) / 2])
    bare = replace(passage, ground=replace(passage.ground, coats=()), coats=())
    under = fold_coats(
        ground(bare, paints, place, _FLAT), prepare(below, paints, bare, place, _FLAT)
    )
    for count in range(1, coat.passes + 1):
        share = tools()[coat.tool].texture / np.sqrt(count)
        labs = []
        for film in (1 - share, 1 + share):
            tried = _everywhere(coat, count)
            hand = _by_hand(bare, coat, film)
            state = fold_coats(under, prepare((tried,), paints, hand, place, _FLAT))
            labs.append(colours(state, look)[0][0, 0])
        if float(ciede2000(*labs)) <= CLOSE_DE00:
            return count - 1
    return coat.passes


def _by_hand(passage: Passage, coat: Coat, film: float) -> Passage:
    """Return a passage painted by a hand that lays a coat so many times as thick as it does."""
    return replace(passage, own_hand=(OwnTool(coat.tool, film * passage.film(coat.tool)),))


def _everywhere(coat: Coat, passes: int) -> Coat:
    return replace(coat, span=(0.0, 1.0), feather=(0.0, 0.0), stagger=(), passes=passes)
