"""How patchy a coat looks: streaks of the brush, where what lies below is of another colour.

A first coat of white or yellow on black is patchy and greyish, and solid with the second or third;
common practice. The streaks are those that a tool's `texture` tells of, and passes even them out as
their ridges know nothing of each other.
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from msgspec.structs import replace

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import Coat, OwnTool, Passage
from zesty_veil.predict.folding import fold_coats
from zesty_veil.predict.lay import ground, prepare
from zesty_veil.predict.look import DAYLIGHT, ViewingConditions, colours
from zesty_veil.thresholds import CLOSE_DE00

_FLAT = np.zeros(1)


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
            hand = replace(bare, own_hand=(OwnTool(coat.tool, film * bare.film(coat.tool)),))
            state = fold_coats(under, prepare((tried,), paints, hand, place, _FLAT))
            labs.append(colours(state, look)[0][0, 0])
        if float(ciede2000(*labs)) <= CLOSE_DE00:
            return count - 1
    return coat.passes


def _everywhere(coat: Coat, passes: int) -> Coat:
    return replace(coat, span=(0.0, 1.0), feather=(0.0, 0.0), stagger=(), passes=passes)
