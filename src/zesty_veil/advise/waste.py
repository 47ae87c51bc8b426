"""Remarks on work that could be less, and on colours that agree under one light only.

Every border between fine and not is common practice; none is from a published source.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from functools import partial

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.remark import Remark
from zesty_veil.advise.remedies import take_away
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat, Passage, Plan, coat_name, mixture_words
from zesty_veil.plan.thickness import hides
from zesty_veil.predict.contribution import Contribution, contribution, contributions
from zesty_veil.predict.field import axis
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.predict.recalled import flat_field, flat_stack
from zesty_veil.thresholds import (
    CLOSE_DE00,
    DIFFER_DE00,
    HIDDEN_DE00,
    MANY_MIXES,
    NEARLY_HIDDEN_DE00,
    UNDER_OPAQUE_SHARE,
    WASTED_SHARE,
)
from zesty_veil.tr import tr

_PLACES = 9


def wasted_below(
    passage: Passage, index: int, paints: Mapping[str, Paint], look: ViewingConditions
) -> Iterator[Remark]:
    """Yield a remark for each clear coat under an opaque one that would show more on top."""
    whole = None
    for i, coat in enumerate(passage.coats):
        above = _hides(passage, i, paints)
        if above is None or coat.passes < 2:
            continue
        whole = whole or contributions(passage, paints, look)
        now = whole[i].most
        moved = _moved(passage, i, above)
        there = contribution(moved, paints, above, look).most
        if now < HIDDEN_DE00 or now >= WASTED_SHARE * there or there < DIFFER_DE00:
            continue
        passes = _as_much(moved, above, now, paints, look)
        if passes < coat.passes and not _costs_another(moved, above, passes, whole, paints, look):
            over = passage.coats[above]
            yield Remark(
                "wasted below", index, now / there,
                tr(
                    "{0} lies under {1}, which leaves {2:.0f} of the dE {3:.0f} that "
                    "it would add on top; there {4} pass{5} do as much."
                ).format(
                    coat_name(coat), coat_name(over), now, there, passes, "es" * (passes != 1)
                ),
                i, whole[i].where, tr("lay it over {0}").format(mixture_words(over.mixture)),
                partial(_lay_over, passage=index, coat=i, above=above, passes=passes),
            )  # fmt: skip


def nearly_hidden(
    passage: Passage, index: int, paints: Mapping[str, Paint], look: ViewingConditions
) -> Iterator[Remark]:
    """Yield a remark for each opaque coat of which opaque coats over it leave hardly anything."""
    whole = None
    for i, coat in enumerate(passage.coats):
        over = [k for k in range(i + 1, len(passage.coats)) if _covers(passage, k, i, paints)]
        if not over or not hides(coat, paints):
            continue
        whole = whole or contributions(passage, paints, look)
        if HIDDEN_DE00 <= whole[i].most < NEARLY_HIDDEN_DE00:
            yield Remark(
                "nearly hidden", index, whole[i].most,
                tr(
                    "{0} is almost hidden by {1} over it (dE {2:.1f}). You could leave it out."
                ).format(coat_name(coat), mixture_words(passage.coats[over[-1]].mixture),
                         whole[i].most),
                i, whole[i].where, tr("take it away"),
                partial(take_away, passage=index, coat=i),
            )  # fmt: skip


def _covers(passage: Passage, over: int, coat: int, paints: Mapping[str, Paint]) -> bool:
    """Tell whether a coat hides most of one below it."""
    (start, end), (low, high) = passage.coats[coat].span, passage.coats[over].span
    shared = min(end, high) - max(start, low)
    return hides(passage.coats[over], paints) and shared >= UNDER_OPAQUE_SHARE * (end - start)


def _hides(passage: Passage, coat: int, paints: Mapping[str, Paint]) -> int | None:
    """Return the last opaque coat over a clear one, or none if it is opaque itself."""

    def opaque(which: Coat) -> bool:
        kinds = {paints[part.paint].kind for part in which.mixture.parts}
        return bool(kinds & {"opaque", "metallic"})

    start, end = passage.coats[coat].span
    if opaque(passage.coats[coat]):
        return None
    over = [
        k for k, other in enumerate(passage.coats)
        if k > coat and opaque(other) and set(other.sites) >= set(passage.coats[coat].sites)
        and min(end, other.span[1]) - max(start, other.span[0])
        >= UNDER_OPAQUE_SHARE * (end - start)
    ]  # fmt: skip
    if not over:
        return None
    parts = {part.paint for part in passage.coats[over[-1]].mixture.parts}
    # White with more over it begins anew: what follows was meant to lie on that.
    anew = parts <= _whites(paints) and over[-1] < len(passage.coats) - 1
    return None if anew else over[-1]


def _whites(paints: Mapping[str, Paint]) -> set[str]:
    return {name for name, paint in paints.items() if paint.pigments == ("PW6",)}


def _moved(passage: Passage, coat: int, above: int) -> Passage:
    coats = [*passage.coats]
    coats.insert(above, coats.pop(coat))
    return replace(passage, coats=tuple(coats))


def _as_much(
    passage: Passage, coat: int, most: float, paints: Mapping[str, Paint], look: ViewingConditions
) -> int:
    """Return how few passes of a coat add a difference."""
    whole = passage.coats[coat].passes
    for passes in range(1, whole):
        coats = [*passage.coats]
        coats[coat] = edits.with_passes(coats[coat], passes)
        fewer = edits.with_coats(passage, tuple(coats))
        if contribution(fewer, paints, coat, look).most >= most:
            return passes
    return whole


def _costs_another(
    moved: Passage,
    coat: int,
    passes: int,
    before: Sequence[Contribution],
    paints: Mapping[str, Paint],
    look: ViewingConditions,
) -> bool:
    """Tell whether a coat laid higher hides another, or dims what glows below it."""
    coats = [*moved.coats]
    coats[coat] = edits.with_passes(coats[coat], passes)
    after = contributions(edits.with_coats(moved, tuple(coats)), paints, look)
    hides = sum(adds.most < HIDDEN_DE00 for adds in after)
    if hides > sum(adds.most < HIDDEN_DE00 for adds in before):
        return True
    return any(
        paints[part.paint].glow is not None for each in coats[:coat] for part in each.mixture.parts
    )


def _lay_over(plan: Plan, passage: int, coat: int, above: int, passes: int) -> Plan:
    fewer = edits.with_passes(plan.passages[passage].coats[coat], passes)
    return edits.move_coat(edits.set_coat(plan, passage, coat, fewer), passage, coat, above)


def many_mixes(
    passage: Passage, index: int, paints: Mapping[str, Paint], look: ViewingConditions
) -> Iterator[Remark]:
    """Yield a remark if a passage wants more mixed pots than are kept wet at once."""
    pots = list(dict.fromkeys(c.mixture.parts for c in passage.coats if len(c.mixture.parts) > 1))
    if len(pots) <= MANY_MIXES:
        return
    before = flat_field(passage, paints, _PLACES, look).lab
    best: tuple[float, int, Mixture] | None = None
    for i, coat in enumerate(passage.coats):
        for parts in pots:
            if len(coat.mixture.parts) < 2 or parts == coat.mixture.parts:
                continue
            mixture = replace(coat.mixture, parts=parts)
            coats = list(passage.coats)
            coats[i] = replace(coat, mixture=mixture)
            shown = flat_field(replace(passage, coats=tuple(coats)), paints, _PLACES, look)
            off = float(ciede2000(before, shown.lab).mean())
            if best is None or off < best[0]:
                best = off, i, mixture
    assert best is not None
    off, at, mixture = best
    old = passage.coats[at].mixture.parts
    yield Remark(
        "many mixes", index, float(len(pots)),
        tr(
            "{0} mixed pots have to be kept wet at once; {1} are plenty."
        ).format(len(pots), MANY_MIXES),
        at, None, tr(
            "one pot fewer: {0} (dE {1:.1f} on average)"
        ).format(mixture_words(mixture), off),
        partial(_use_pot, passage=index, old=old, mixture=mixture),
    )  # fmt: skip


def _use_pot(plan: Plan, passage: int, old: tuple[Part, ...], mixture: Mixture) -> Plan:
    """Return the plan with every coat of one pot taken from another."""
    for i, coat in enumerate(plan.passages[passage].coats):
        if coat.mixture.parts == old:
            changed = replace(coat, mixture=replace(coat.mixture, parts=mixture.parts))
            plan = edits.set_coat(plan, passage, i, changed)
    return plan


def metameric(plan: Plan, index: int, look: ViewingConditions) -> Iterator[Remark]:
    """Yield a remark for each other passage whose colour agrees under this light only."""
    u = axis(_PLACES)
    here = flat_stack(plan.passages[index], plan.rack(), _PLACES)
    for other, passage in enumerate(plan.passages):
        if other == index or not passage.coats:
            continue
        there = flat_stack(passage, plan.rack(), _PLACES)
        worst: tuple[float, str, float] | None = None
        agree = _between(here, there, look) < CLOSE_DE00
        for light in LIGHTS:
            if light == look.light or not agree.any():
                continue
            apart = np.where(
                agree, _between(here, there, ViewingConditions(light, look.observer)), 0.0
            )
            most = float(apart.max())
            if most > DIFFER_DE00 and (worst is None or most > worst[0]):
                place = float(u[int(apart.max(axis=1).argmax())])
                worst = most, light, place
        if worst is not None:
            most, light, place = worst
            yield Remark(
                "metameric", index, most,
                tr(
                    "At {0:.1f} mm it agrees with {1} under {2}, but under a {3} the "
                    "two are dE {4:.0f} apart."
                ).format(
                    place * plan.passages[index].length_mm, passage.name,
                    LIGHTS[look.light], LIGHTS[light], most,
                ),
                None, place, tr("plan for the {0}").format(LIGHTS[light]),
                partial(edits.set_light, light=light),
            )  # fmt: skip


def _between(here: StackOptics, there: StackOptics, look: ViewingConditions) -> Array:
    """Return dE00 of every place of one passage to every place of another, (n, n)."""
    one, other = (colours(state, look)[0][:, 0] for state in (here, there))
    return np.asarray(ciede2000(one[:, None], other[None, :]))
