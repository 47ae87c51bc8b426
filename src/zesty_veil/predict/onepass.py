"""One pass more, one pass less: what it would change in the end."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from msgspec.structs import replace

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.field import SITE_RELIEF, axis, fold
from zesty_veil.predict.look import DAYLIGHT, Look, colours

_PLACES = 21


class OnePass(NamedTuple):
    """The greatest change of the finished passage, dE00; none where no pass can be taken."""

    more: float
    less: float | None


def one_pass(
    passage: Passage, index: int, paints: Mapping[str, Paint], look: Look = DAYLIGHT
) -> OnePass:
    """Return what one pass more or less of a coat would change; shapes as `predict`."""
    u = axis(_PLACES)

    def seen(passes: int) -> float:
        coat: Coat = replace(passage.coats[index], passes=passes)
        coats = (*passage.coats[:index], coat, *passage.coats[index + 1 :])
        other, _ = colours(fold(passage, coats, paints, u, SITE_RELIEF), look)
        return float(ciede2000(whole, other).max())

    whole, _ = colours(fold(passage, passage.coats, paints, u, SITE_RELIEF), look)
    passes = passage.coats[index].passes
    return OnePass(seen(passes + 1), seen(passes - 1) if passes > 1 else None)
