"""Even feather: passes spaced so that the colour changes evenly over a coat's feathers.

A film that thins evenly looks abrupt, because its first few micrometres change most of the colour.
So the passes that reach furthest get the most room: as much of the feather as of the change.
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from msgspec.structs import replace

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import with_passes
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.folding import fold_coats
from zesty_veil.predict.lay import ground, prepare
from zesty_veil.predict.look import DAYLIGHT, ViewingConditions, colours


def even_feather(
    passage: Passage, index: int, paints: Mapping[str, Paint], look: ViewingConditions = DAYLIGHT
) -> Coat:
    """Return a coat of a passage with its passes spaced by how much each changes the colour.

    The change is that of one pass after the other over what lies below, where the feather begins;
    at its far end if it has one, else at the light.
    """
    coat = passage.coats[index]
    if coat.passes < 2:
        return coat
    place = coat.span[1] + coat.feather[1] / 2 if coat.feather[1] else coat.span[0]
    u, relief = np.array([min(max(place, 0.0), 1.0)]), np.zeros(1)
    prepared = prepare(passage.coats[:index], paints, passage, u, relief)
    below = fold_coats(ground(passage, paints, u, relief), prepared)
    full = replace(coat, span=(0.0, 1.0), feather=(0.0, 0.0), stagger=(), stroke="across")
    seen = [colours(below, look)[0][0, 0]]
    for passes in range(1, coat.passes + 1):
        some = prepare([with_passes(full, passes)], paints, passage, u, relief)
        seen.append(colours(fold_coats(below, some), look)[0][0, 0])
    steps = ciede2000(np.array(seen[:-1]), np.array(seen[1:]))
    # No pass is squeezed to nothing, or its own edge would become the harsh one.
    shares = np.maximum(steps, 0.02 * max(float(steps.max()), 1e-9))
    shares = np.round(shares / shares.sum(), 6)
    shares[0] += 1 - shares.sum()
    return replace(coat, stagger=tuple(float(share) for share in shares))
