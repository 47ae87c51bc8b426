"""The fire itself: what is wanted along it, and the specks of a cold one."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.fire import SCHOOLS, fire
from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.glow import Glow
from zesty_veil.plan.model import Coat, Passage, Plan, Target
from zesty_veil.predict.field import predict
from zesty_veil.predict.look import Look

# A fire is painted in so many steps, white first.
FIRE_STEPS = 6
# The specks of a cold fire: light blue, on the edges of the outermost tips; common practice.
_SPECK: tuple[float, float, float] = (76.0, -8.0, -26.0)
_SPECKS_FROM = 0.88
_PARTS, _PASSES = (2.0, 4.0, 6.0), (2, 4, 6)


def flame_targets(plan: Plan, glow: Glow, school: str) -> tuple[Target, ...]:
    """Return what is wanted along a fire, in its school and its light's colour.

    `school` may be a fire of the plan's own, by its name.

    Raises
    ------
    InputError
        If there is no such fire.
    """
    own = next((each for each in plan.fires if each.name == school), None)
    if own is not None:
        made = np.array(own.colours)
    elif school not in SCHOOLS:
        known = ", ".join((*SCHOOLS, *(each.name for each in plan.fires)))
        raise InputError(f"There is no fire '{school}'; use one of {known}.")
    elif glow.colour is not None:
        made = fire("single", FIRE_STEPS, hue=float(lch(np.array(glow.colour))[2]))
    else:
        made = fire(school, FIRE_STEPS)
    out = []
    for k, lab in enumerate(made):
        L, a, b = (round(float(v), 2) for v in lab)
        out.append(Target(round(k / (len(made) - 1), 4), (L, a, b)))
    return tuple(out)


def specks(fire: Passage, paints: Sequence[Paint], look: Look) -> tuple[Coat, Target, float] | None:
    """Return light-blue specks for a painted fire, what is wanted of them, and how far off, dE00.

    They are stippled in white with a little of one paint; of all paints, parts and passes those
    are taken that come nearest. None if there is no white, or nothing to put in it.
    """
    white = next((p for p in paints if p.kind == "opaque" and p.pigments == ("PW6",)), None)
    if white is None:
        return None
    rack, tip, ridge = {paint.name: paint for paint in paints}, np.ones(1), np.ones(1)
    best: tuple[float, Coat] | None = None
    for paint in paints:
        if paint.kind not in {"transparent", "opaque"} or paint is white:
            continue
        for parts, passes in product(_PARTS, _PASSES):
            mixture = Mixture((Part(white.name, parts), Part(paint.name)), "water", 0.5)
            coat = Coat(mixture, "stipple", passes, (_SPECKS_FROM, 1.0), sites=("ridge",))
            with_it = replace(fire, coats=(*fire.coats, coat))
            seen = predict(with_it, rack, tip, ridge, look).lab[0, 0]
            off = float(ciede2000(seen, np.array(_SPECK)))
            if best is None or off < best[0]:
                best = off, coat
    return None if best is None else (best[1], Target(1.0, _SPECK, "ridge"), best[0])
