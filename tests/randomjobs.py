"""Random colours out of the gamut of random racks, for tests of what Match lays."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np

from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.recipe import MatchRequest
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.model import Coat, Ground, Passage, Primer, Target
from zesty_veil.predict.field import predict
from zesty_veil.predict.look import ViewingConditions

# Pots that make a colour by themselves; the others are laid on one.
_OWN = ("opaque", "transparent", "ink", "contrast")


class RandomJob(NamedTuple):
    """A request, and the paints that it may be met with."""

    request: MatchRequest
    paints: dict[str, Paint]


def random_jobs(count: int, seed: int = 11) -> Iterator[RandomJob]:
    """Yield wishes for one colour, of what two pots come to over white, from 5 to 55 pots."""
    rng = np.random.default_rng(seed)
    whole = demo_rack()
    for _ in range(count):
        rack = [whole[i] for i in rng.permutation(len(whole))[: rng.integers(5, 56)]]
        own = [paint for paint in rack if paint.kind in _OWN] or [
            paint for paint in whole if paint.kind in _OWN
        ]
        one, other = (own[rng.integers(len(own))].name for _ in range(2))
        parts = (Part(one, float(rng.integers(1, 4))), Part(other))
        mixture = Mixture(parts if one != other else parts[:1], "water", 0.5)
        laid = (Coat(mixture, "loaded", int(rng.integers(1, 4))),)
        named = {paint.name: paint for paint in whole}
        there = Passage("there", ground=Ground("white"), coats=laid)
        lab = predict(there, named, np.array([0.5]), np.zeros(1)).lab[0, 0]
        L, a, b = (round(float(v), 1) for v in lab)
        primers: tuple[Primer, ...] = ("white", "grey", "black")
        ground = Ground(primers[rng.integers(3)])
        target = Target(0.5, (L, a, b))
        passage = Passage("job", ground=ground, targets=(target,))
        request = MatchRequest(
            (passage,), (), (target,), tuple(rack), Limits(), ViewingConditions(), reasons=False
        )
        yield RandomJob(request, {paint.name: paint for paint in rack})
