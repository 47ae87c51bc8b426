"""Whole drops of two pots, and steps of them that are evenly spaced to the eye."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from itertools import pairwise

import numpy as np

from zesty_veil.advise.match.bank import bank
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.lay import ground
from zesty_veil.predict.look import ViewingConditions

# Nobody counts more drops than this into one mixture.
MOST_DROPS = 24
SOLID = (0.5, 2)  # water to one of paint, and passes
_DROP = 0.006  # of a step, for each drop more


def solid_on(
    mixtures: Sequence[tuple[Part, ...]],
    pots: Sequence[Paint],
    passage: Passage,
    paints: Sequence[Paint],
    look: ViewingConditions,
) -> Array:
    """Return CIELAB of mixtures laid solid on what is there in the middle of a passage."""
    named = {paint.name: paint for paint in (*paints, *pots)}
    thinning, passes = SOLID
    coats = [Coat(Mixture(parts, "water", thinning), "loaded", passes) for parts in mixtures]
    below = ground(passage, named, np.array([0.5]), np.zeros(1))
    out = np.empty((len(coats), 3))
    every = bank(coats, named, 0.0, passage, below.mirror is not None)
    for numbers, labs in every.labs_on(below, look):
        out[numbers] = labs[0]
    return out


def distances(
    pair: tuple[Paint, Paint], passage: Passage, paints: Sequence[Paint], look: ViewingConditions
) -> Array:
    """Return how far all whole drops of two pots are from the first, in dE00 all the way.

    In the order of `_whole_drops`, the second pot itself last.
    """
    one, other = pair
    drops = _whole_drops()
    order = sorted(range(len(drops)), key=lambda k: drops[k][1] / sum(drops[k]))
    mixed = [(Part(one.name, drops[k][0]), Part(other.name, drops[k][1])) for k in order]
    every = [(Part(one.name),), *mixed, (Part(other.name),)]
    labs = solid_on(every, pair, passage, paints, look)
    far = np.cumsum(ciede2000(labs[:-1], labs[1:]))
    out = np.empty(len(drops) + 1)
    out[[*order, len(drops)]] = far
    return out


def even_steps(pots: Sequence[Paint], count: int, ways: Sequence[Array]) -> list[tuple[Part, ...]]:
    """Return the pots, and between them mixtures of whole drops as evenly spaced as can be.

    `ways` are the `distances` of each two neighbours.
    """
    drops = _whole_drops()
    shares = np.array([b / (a + b) for a, b in drops])
    long = [float(way[-1]) for way in ways]
    between = [0] * len(long)
    for _ in range(count - len(pots)):
        widest = [each / (k + 1) for each, k in zip(long, between, strict=True)]
        between[int(np.argmax(widest))] += 1
    out: list[tuple[Part, ...]] = [(Part(pots[0].name),)]
    for i, (one, other) in enumerate(pairwise(pots)):
        # Few drops first: of mixtures that stand about as near, the simpler is taken.
        many = np.array([a + b for a, b in drops])
        last, gone = 0.0, 0.0
        for left in range(between[i], 0, -1):
            # Where even the fewest drops of a strong pot go too far, the others share the rest.
            step = (long[i] - gone) / (left + 1)
            off = np.abs(ways[i][:-1] - gone - step) + _DROP * step * many
            best = int(np.argmin(np.where(shares > last, off, np.inf)))
            a, b = drops[best]
            last, gone = b / (a + b), float(ways[i][best])
            out.append((Part(one.name, a), Part(other.name, b)))
        out.append((Part(other.name),))
    return out


@cache
def _whole_drops() -> tuple[tuple[int, int], ...]:
    """Return how many drops of one and of another may be mixed, the fewest first."""
    every = [
        (a, b)
        for a in range(1, MOST_DROPS)
        for b in range(1, MOST_DROPS + 1 - a)
        if np.gcd(a, b) == 1
    ]
    return tuple(sorted(every, key=lambda each: (sum(each), each)))
