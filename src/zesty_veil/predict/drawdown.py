"""One coat over primers at several numbers of passes, all at once: what a drawdown shows.

Films of one plain paint add up exactly, so so many passes are one film so many times as thick, and
all of them over all primers go through the optics side by side.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from msgspec.structs import replace

from zesty_veil.light.grid import BANDS, Array
from zesty_veil.optics.bispectral import plain
from zesty_veil.optics.streams import lambertian
from zesty_veil.paint.mixture import blend
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.primer import PRIMER_FINISH, primer
from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import Coat, Passage, Primer
from zesty_veil.predict.layer import StackOptics, apply_layer
from zesty_veil.predict.look import DAYLIGHT, ViewingConditions, colours
from zesty_veil.predict.pour import laid, layers, poured


def over_primers(
    coat: Coat,
    paints: Mapping[str, Paint],
    primers: Sequence[Primer],
    passes: Sequence[int],
    relief: Array,
    look: ViewingConditions = DAYLIGHT,
) -> Array | None:
    """Return the colours of a coat after some passes, each laid as a coat of its own.

    Parameters
    ----------
    coat
        As one pass of it is laid; its own number of passes does not count.
    primers, passes
        Over which, and how many; 0 is the bare primer.
    relief : (1,) float64
        Where.

    Returns
    -------
    (primers, passes, 3) float64
        CIELAB; none where the passes must be followed one by one: fluorescent paint, metal flakes,
        and tools that touch a part of the area.
    """
    mix = blend(coat.mixture, paints)
    if mix.dyes is not None or mix.flakes:
        return None
    down = laid(replace(coat, passes=1, stagger=()), Passage("drawdown"), np.zeros(1), relief)
    if tools()[coat.tool].dab_mm:
        return None
    # Each number of passes is a place of its own, at which so many of them are laid.
    counts = np.array(passes)
    along = down.along[0] * (np.arange(counts.max(initial=1))[:, None] < counts)
    pour = poured(coat, mix, down._replace(along=along))
    (film,) = layers(pour, straight=False)
    R = np.repeat([primer(name) for name in primers], len(passes), axis=0)[:, None, :]
    finish = np.full((R.shape[0], 1), PRIMER_FINISH)
    state = apply_layer(
        StackOptics(plain(lambertian(R)), finish, None),
        film,
        np.tile(np.arange(len(passes)), len(primers)),
    )
    assert state.R.d.shape == (len(primers) * len(passes), 1, BANDS)
    return colours(state, look)[0].reshape(len(primers), len(passes), 3)
