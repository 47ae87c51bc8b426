"""A second light, from the other side: painted when the first is done, on its far end alone.

So painters do it: what the first light gave stays as it is, a dark gap is laid where there is none
yet, and the second light beyond it. Common practice.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace as changed

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.glow.painted import Painted
from zesty_veil.advise.glow.wanted import Lit
from zesty_veil.advise.match.answering import weighed
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.recipe import MatchRequest
from zesty_veil.advise.match.solve import solve
from zesty_veil.paint.kinds import CLEAR
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Passage, Plan, Target
from zesty_veil.plan.thickness import hides
from zesty_veil.predict.contribution import contribution
from zesty_veil.predict.field import predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.thresholds import DIFFER_DE00, HIDDEN_DE00, MANY_MIXES, NEARLY_HIDDEN_DE00

_FLAT = np.zeros(1)
# The second light begins so far beyond the gap, as a share of what is left.
_BEGINS = 0.45
_COATS = 4


def with_second(
    first: Painted,
    both: Lit,
    plan: Plan,
    paints: Sequence[Paint],
    limits: Limits,
    should_continue: Callable[[], bool],
) -> Iterator[Painted]:
    """Yield a surface with its second light, better and better.

    Parameters
    ----------
    first
        The surface with the coats for the first light alone.
    both
        What is wanted on it in both lights.
    plan, paints, limits
        As `painting.painted`.
    should_continue
        Asked between the steps whether it is still wanted.
    """
    assert first.answer is not None
    laid, last = _without_varnish(first.answer.coats, paints)
    below = replace(plan.passages[first.passage], coats=(*first.kept, *laid))
    look = ViewingConditions(plan.light)
    held = tuple((plan.rack() | {paint.name: paint for paint in paints}).values())
    away, gap = both.ringed.away, both.targets[-2]
    stays = predict(below, {p.name: p for p in held}, np.array([away]), _FLAT, look).lab[0, 0]
    L, a, b = (round(float(v), 2) for v in stays)
    light = both.targets[-1]
    # So many more pots are kept wet beside those of the first light.
    mixes = max(MANY_MIXES - len({m for c in below.coats if len(m := c.mixture.parts) > 1}), 0)
    begins = gap.place + (gap.place - away) + _BEGINS * (1 - 2 * gap.place + away)
    wanted = (Target(round(away, 4), (L, a, b)), gap, replace(light, place=round(begins, 4)), light)
    limits = changed(limits, coats=min(limits.coats, _COATS), mixes=min(limits.mixes, mixes))
    request = MatchRequest(
        (replace(below, targets=wanted),), held, wanted, tuple(paints), limits, look,
        towards="beyond", reasons=False, over=last, plainest_only=True,
    )  # fmt: skip
    targets = (*(t for t in first.targets if t.place < away), gap, light)
    begun = changed(first, targets=targets, lit=both)
    whole = replace(below, coats=first.kept, targets=targets)
    as_one = changed(request, bases=(whole,), targets=targets)
    for found in solve(request, should_continue):
        more = found.ways[0].coats if found.ways else last
        answer = weighed(as_one, whole, (*_seen_under(laid, more, whole, held, look), *more))
        yield changed(begun, answer=answer, share=found.share)


def _seen_under(
    laid: tuple[Coat, ...],
    more: tuple[Coat, ...],
    base: Passage,
    paints: Sequence[Paint],
    look: ViewingConditions,
) -> tuple[Coat, ...]:
    """Return coats without those of which hardly anything shows under more that lie over them."""
    named, first = {paint.name: paint for paint in paints}, len(base.coats)
    for k in reversed(range(len(laid))):
        whole = replace(base, coats=(*base.coats, *laid, *more))
        beyond = laid[k].span[0] >= more[0].span[0] if more else False
        under = NEARLY_HIDDEN_DE00 if hides(laid[k], named) else HIDDEN_DE00
        least = DIFFER_DE00 if beyond else under
        if contribution(whole, named, first + k, look).most < least:
            laid = (*laid[:k], *laid[k + 1 :])
    return laid


def _without_varnish(
    coats: tuple[Coat, ...], paints: Sequence[Paint]
) -> tuple[tuple[Coat, ...], tuple[Coat, ...]]:
    """Return coats up to a last varnish, and that, which lies over the second light too."""
    clear = {paint.name for paint in paints if paint.kind in CLEAR}
    if coats and all(part.paint in clear for part in coats[-1].mixture.parts):
        return coats[:-1], coats[-1:]
    return coats, ()
