"""A colour laid straight on what is there, against white first: what each comes to, and its cost.

Painters do both: a yellow straight on a dark ground takes many passes and stays dull; white first
takes two or three more, and then one or two of the yellow do. Common practice.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.obstacle import Obstacle, Reason
from zesty_veil.advise.match.whynot import obstacles
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import Array
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.drying import whole
from zesty_veil.plan.edits import with_passes
from zesty_veil.plan.model import Coat, Ground, Passage
from zesty_veil.predict.coatsto import LOOKED_AT
from zesty_veil.predict.field import fold
from zesty_veil.predict.folding import fold_coats
from zesty_veil.predict.lay import prepare
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.thresholds import CLOSE_DE00, MOST_WHITE_PASSES, STRONG_CHROMA

_MOST = LOOKED_AT[-1]
# A pass more must bring it so much nearer to be worth it.
_WORTH_DE00 = 0.7
_ANOTHER_PAINT = (Reason.NOT_PURE, Reason.NO_SUCH_HUE)


class Route(NamedTuple):
    """Coats to a colour, where they lead, how far off that is, and what they cost."""

    coats: tuple[Coat, ...]
    lab: Array
    off: float  # dE00
    minutes: float

    @property
    def passes(self) -> int:
        """All passes together."""
        return sum(coat.passes for coat in self.coats)


class BothRoutes(NamedTuple):
    """A colour straight on what is there, and over white; none where there is no white.

    wanted : (3,) CIELAB. obstacles : what stands in the way of the first.
    """

    wanted: Array
    direct: Route
    white: Route | None
    obstacles: tuple[Obstacle, ...]

    @property
    def white_pays(self) -> bool:
        """Whether white first comes clearly nearer, or as near in fewer passes."""
        if self.white is None:
            return False
        nearer = self.white.off < self.direct.off - CLOSE_DE00
        as_near = self.white.off < self.direct.off + CLOSE_DE00 / 2
        return nearer or (as_near and self.white.passes < self.direct.passes)


def both_routes(
    coat: Coat,
    passage: Passage,
    paints: Mapping[str, Paint],
    rack: Sequence[Paint],
    look: ViewingConditions,
    place: float = 0.5,
    wanted: Array | None = None,
) -> BothRoutes:
    """Return a coat laid straight on a passage, and over white.

    Parameters
    ----------
    coat
        What is laid; its own passes do not count.
    passage, paints
        What is there, with its paints and those of the coat.
    rack
        In which the white is looked for.
    place
        On the axis.
    wanted
        (3,) CIELAB; none for the coat as it looks solid over white.
    """
    everywhere = replace(coat, span=(0.0, 1.0), feather=(0.0, 0.0))
    if wanted is None:
        white_ground = Passage("white", passage.length_mm, ground=Ground("white"))
        wanted = _best(everywhere, white_ground, paints, look, place, None)[1].lab
    direct = _best(everywhere, passage, paints, look, place, wanted)[1]
    found = None
    whites = [p for p in rack if p.pigments == ("PW6",) and p.kind == "opaque"]
    for white in whites[:1]:
        named = {**paints, white.name: white}
        mixture = Mixture((Part(white.name),), "water", 0.5)
        for count in range(1, MOST_WHITE_PASSES):
            below = Coat(mixture, "loaded", count)
            on = replace(passage, coats=(*passage.coats, below))
            minutes, route = _best(everywhere, on, named, look, place, wanted)
            whole_route = Route(
                (below, *route.coats), route.lab, route.off, minutes + whole(below, passage)
            )
            if found is None or whole_route.off < found.off - _WORTH_DE00:
                found = whole_route
    return BothRoutes(wanted, direct, found, _obstacles(direct, wanted))


def _best(
    coat: Coat,
    passage: Passage,
    paints: Mapping[str, Paint],
    look: ViewingConditions,
    place: float,
    wanted: Array | None,
) -> tuple[float, Route]:
    """Return the fewest passes after which more of them bring it hardly nearer, and their minutes.

    Without a colour wanted, those after which one more hardly shows.
    """
    u, r = np.array([place]), np.zeros(1)
    state = fold(passage, passage.coats, paints, u, r)
    one = prepare([with_passes(coat, 1)], paints, passage, u, r)
    labs = [colours(state, look)[0][0, 0]]
    for _ in range(_MOST):
        state = fold_coats(state, one)
        labs.append(colours(state, look)[0][0, 0])
    every = np.array(labs)
    if wanted is None:
        changes = ciede2000(every[:-1], every[1:])
        passes = int(np.argmax(changes < CLOSE_DE00)) if (changes < CLOSE_DE00).any() else _MOST
        passes = max(passes, 1)
        off = np.zeros(len(every))
    else:
        off = ciede2000(every, np.broadcast_to(wanted, every.shape))
        passes = _few(off)
    laid = with_passes(coat, max(passes, 1))
    minutes = whole(laid, passage)
    return minutes, Route((laid,), every[laid.passes], float(off[laid.passes]), minutes)


def _few(off: Array) -> int:
    """Return after how many passes those that follow bring it hardly nearer."""
    best = 1
    for n in range(2, len(off)):
        if off[n] < off[best] - _WORTH_DE00 * (n - best):
            best = n
    return best


def _obstacles(direct: Route, wanted: Array) -> tuple[Obstacle, ...]:
    if direct.off <= CLOSE_DE00:
        return ()
    have, want = lch(direct.lab), lch(wanted)
    turn = float((have[2] - want[2] + 180) % 360 - 180)
    found = obstacles((float(have[0] - want[0]), float(have[1] - want[1]), turn), want)
    dull = want[1] > STRONG_CHROMA and have[1] < want[1] - 3
    through = [Obstacle(Reason.SHOWS_THROUGH)] if dull or have[0] < want[0] - 2 else []
    # Of its own colour over white no paint of another kind is wanting.
    return (*through, *(each for each in found if each.kind not in _ANOTHER_PAINT))
