"""The remark that something was learnt since a plan was laid, and what would change."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

import numpy as np

from zesty_veil.advise.remark import Remark
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import OwnTool, Plan
from zesty_veil.plan.refining import in_hand, refined_since, with_paints
from zesty_veil.predict.field import SITE_RELIEF, axis, predict
from zesty_veil.thresholds import WORDY_DE00
from zesty_veil.tr import listed, tr

_PLACES = 24
_SITES = ("in the recesses", "on the flats", "on the ridges")


def refined(
    plan: Plan, index: int, known: Sequence[Paint], hand: Sequence[OwnTool]
) -> tuple[Remark, ...]:
    """Return the remark on one passage, if paints or hand are known otherwise now.

    Parameters
    ----------
    plan, index
        The plan, and which passage.
    known
        The rack's paints as they are known now.
    hand
        The painter's hand as it is known now.
    """
    rack = {paint.name: paint for paint in known}
    passage = plan.passages[index]
    used = {part.paint for c in (*passage.ground.coats, *passage.coats) for part in c.mixture.parts}
    names = [name for name in refined_since(plan, rack) if name in used]
    films = {own.tool: own.film for own in hand}
    other_hand = any(
        abs(films.get(coat.tool, 1.0) / passage.film(coat.tool) - 1) > 0.01
        for coat in (*passage.ground.coats, *passage.coats)
    )
    if not names and not other_hand:
        return ()
    mend = partial(_taken, known=rack, hand=tuple(hand))
    now = mend(plan)
    u = axis(_PLACES)
    before = predict(passage, plan.rack(), u, SITE_RELIEF).lab
    after = predict(now.passages[index], now.rack(), u, SITE_RELIEF).lab
    de = ciede2000(before, after)
    i, j = np.unravel_index(int(np.argmax(de)), de.shape)
    most = float(de[i, j])
    if most < WORDY_DE00:
        return ()
    what = _few([*names, *(["your hand"] if other_hand else [])])
    verb = "is" if len(names) + other_hand == 1 else "are"
    where = f"{u[i] * passage.length_mm:.1f} mm from the light, {_SITES[j]}"
    return (
        Remark(
            "refined",
            index,
            most,
            tr(
                "{0} {1} known better now than when this was laid: {2} would move by dE "
                "{3:.1f} at most ({4}), {5:.1f} as a rule."
            ).format(what, verb, passage.name, most, where, float(np.median(de))),
            None,
            float(u[i]),
            tr("take what was learnt"),
            mend,
        ),
    )


def _taken(plan: Plan, known: dict[str, Paint], hand: tuple[OwnTool, ...]) -> Plan:
    return in_hand(with_paints(plan, known), hand)


def _few(names: list[str]) -> str:
    if len(names) > 3:
        names = [*names[:2], tr("{0} more").format(len(names) - 2)]
    return listed(names)
