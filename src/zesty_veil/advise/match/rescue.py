"""Rescue: from what is on the figure now to what is wanted, by going on or by covering first.

Going on is cheaper, but films only ever take light away; covering with white or ivory costs a
coat or two, and starts from a clean ground. Both are searched, so that a painter can choose.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace

import numpy as np

from zesty_veil.advise.match.bank import Bank
from zesty_veil.advise.match.context import ANYWHERE, MatchContext
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.spots import Spot
from zesty_veil.advise.match.starts import SearchStart
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.optics.bispectral import plain
from zesty_veil.optics.streams import lambertian
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.folding import fold_coats
from zesty_veil.predict.lay import ground, prepare
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.thresholds import CLOSE_DE00, WHITE_COVER_L

# Whites that cover: opaque paints at least this light; so many of them are tried.
MOST_COVERS = 2


def now_on(
    passage: Passage,
    paints: Mapping[str, Paint],
    place: float,
    relief: float = 0.0,
    coats: int | None = None,
) -> StackOptics:
    """Return what is on a place of a passage after some of its coats, of leading shape (1, 1)."""
    u, r = np.array([place]), np.array([relief])
    laid = passage.coats if coats is None else passage.coats[:coats]
    return fold_coats(ground(passage, paints, u, r), prepare(laid, paints, passage, u, r))


def covered_starts(
    spots: Sequence[Spot],
    paints: Sequence[Paint],
    limits: Limits,
    look: ViewingConditions,
    passage: Passage = ANYWHERE,
) -> Iterator[SearchStart]:
    """Yield starts whose first coat covers everything that is there now."""
    contexts = {
        s.relief: MatchContext(s.ground, paints, limits, look, s.relief, passage) for s in spots
    }
    context = contexts[spots[0].relief]
    for cover, rest in covering(context):
        over = [replace(s, ground=contexts[s.relief].on((cover,), s.ground)) for s in spots]
        yield SearchStart(over, rest, 0, (cover,), context.minutes((cover,)))


def covers(context: MatchContext, coats: tuple[Coat, ...]) -> bool:
    """Tell whether coats hide what lies below them: over black and over white they look alike."""
    labs = [
        colours(context.on(coats, below), context.look)[0][0, 0]
        for below in _black_and_white(context)
    ]
    return float(ciede2000(*labs)) < CLOSE_DE00


def _hiding(context: MatchContext, bank: Bank) -> list[Coat]:
    """Return the coats of a bank that hide what lies below them."""
    out = []
    black, white = (bank.all_on(below) for below in _black_and_white(context))
    for (numbers, one), (_, other) in zip(black, white, strict=True):
        off = ciede2000(*(colours(state, context.look)[0][0] for state in (one, other)))
        out += [bank.coats[n] for n in numbers[off < CLOSE_DE00]]
    return out


def _black_and_white(context: MatchContext) -> tuple[StackOptics, StackOptics]:
    shape, finish = context.ground.R.d.shape, context.ground.finish
    black, white = (
        StackOptics(plain(lambertian(np.full(shape, R))), finish, None) for R in (0.0, 0.9)
    )
    return black, white


def covering(context: MatchContext) -> Iterator[tuple[Coat, Limits]]:
    """Yield coats that hide everything with white or ivory, and the limits that they leave."""
    limits = context.limits
    if limits.coats < 2 or "loaded" not in limits.tools:
        return
    found = 0
    for paint in context.paints.values():
        if paint.kind != "opaque" or "PW6" not in paint.pigments or found == MOST_COVERS:
            continue
        hiding = _hiding(context, context.tuned(Coat(Mixture((Part(paint.name),)), "loaded")))
        cover = min(hiding, key=lambda coat: context.minutes((coat,)), default=None)
        if cover is None or not context.fits((cover,)):
            continue
        lab = colours(context.on((cover,), context.ground), context.look)[0][0, 0]
        left = limits.passes - cover.passes
        minutes = None if limits.minutes is None else limits.minutes - context.minutes((cover,))
        if lab[0] >= WHITE_COVER_L and left >= 1 and (minutes is None or minutes > 0):
            found += 1
            yield cover, replace(limits, coats=limits.coats - 1, passes=left, minutes=minutes)
