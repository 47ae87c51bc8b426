"""One pass more, one pass less: what it would change in the end."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import with_passes
from zesty_veil.plan.model import Passage
from zesty_veil.predict.field import SITE_RELIEF, axis
from zesty_veil.predict.folding import fold_coats
from zesty_veil.predict.lay import prefixes, prepare
from zesty_veil.predict.look import DAYLIGHT, ViewingConditions, colours

_PLACES = 21


class OnePass(NamedTuple):
    """The greatest change of the finished passage, dE00; none where no pass can be taken."""

    more: float
    less: float | None


def one_passes(
    passage: Passage, paints: Mapping[str, Paint], look: ViewingConditions = DAYLIGHT
) -> tuple[OnePass, ...]:
    """Return what one pass more or less of each coat would change, in the order of the coats."""
    u, relief = axis(_PLACES), SITE_RELIEF
    coats, below = prefixes(passage, paints, u, relief)
    whole, _ = colours(below[-1], look)

    def change(index: int, passes: int) -> float:
        other = prepare([with_passes(passage.coats[index], passes)], paints, passage, u, relief)
        state = fold_coats(below[index], (*other, *coats[index + 1 :]))
        return float(ciede2000(whole, colours(state, look)[0]).max())

    return tuple(
        OnePass(change(i, coat.passes + 1), change(i, coat.passes - 1) if coat.passes > 1 else None)
        for i, coat in enumerate(passage.coats)
    )
