"""Stacks side by side in a search: the same as each laid by itself, film by film."""

from __future__ import annotations

from itertools import product

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from zesty_veil.advise.match.context import MatchContext
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.stacks import Stacks, joined
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.model import Coat, Ground, Passage
from zesty_veil.predict.lay import ground
from zesty_veil.predict.look import ViewingConditions, colours

# Plain films, dabs with gaps between them, a dye that glows, and metal.
_PLAIN = (("Kiln Yellow", "glaze"), ("Lime White", "loaded"), ("Soot Wash", "wash"))
_ODD = (("Furnace Red", "sponge"), ("Signal Orange", "loaded"), ("Pipe Copper", "loaded"))
_COATS = [Coat(Mixture((Part(name),), "water", 1.0), tool, 2) for name, tool in _PLAIN + _ODD]
_GROUNDS = ("white", "black", "grey", "white", "black", "grey", "white")
_piles = st.lists(st.sampled_from(_COATS), max_size=2).map(tuple)


@settings(max_examples=25, deadline=None)
@given(st.lists(st.tuples(_piles, _piles), min_size=1, max_size=7), st.sampled_from(_COATS))
def test_stacks_side_by_side_are_those_laid_one_by_one(
    piles: list[tuple[tuple[Coat, ...], tuple[Coat, ...]]], next_coat: Coat
) -> None:
    named = {paint.name: paint for paint in demo_rack()}
    grounds = [
        ground(Passage("p", ground=Ground(primer)), named, np.zeros(1), np.zeros(1))
        for primer in _GROUNDS[: len(piles)]
    ]
    look = ViewingConditions(finish="satin" if len(piles) % 2 else "as painted")
    bench = MatchContext(grounds[0], demo_rack(), Limits(), look)
    options = bench.bank(_COATS)
    states = [bench.on(below, g) for g, (below, _) in zip(grounds, piles, strict=True)]
    stacks = joined(
        [Stacks.of(states[:1]), Stacks.of(states[1:])] if states[1:] else [Stacks.of(states)]
    )
    at = list(range(0, len(piles), 2))
    laid = stacks.under(bench.alone(next_coat), at)
    seen = laid.labs(look, bench.each(piles[0][1]), range(len(piles)))
    for i, state in enumerate(states):
        alone = bench.on((next_coat,), state) if i in at else state
        expected = colours(bench.on(piles[0][1], alone), look)[0][0, 0]
        np.testing.assert_allclose(seen[i], expected, atol=1e-6)
    overs = ([above for _, above in piles], [piles[0][1]] * len(piles))
    for over, rough in product(overs, (False, True)):
        found = np.full((len(piles), len(_COATS), 3), np.nan)
        above = [bench.each(each) for each in over]
        for rows, numbers, labs in stacks.every(options, look, above, rough):
            found[np.ix_(rows, numbers)] = labs
        for i, state in enumerate(states):
            for m, coat in enumerate(_COATS):
                expected = colours(bench.on((coat, *over[i]), state), look)[0][0, 0]
                np.testing.assert_allclose(found[i, m], expected, atol=0.01 if rough else 1e-6)
