"""More remarks: work that a stronger mix saves, opposites that dull, light that is painted over.

Every border between fine and not is common practice; none is from a published source.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from functools import partial

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise import remedies
from zesty_veil.advise.remark import Remark
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat, Passage, Plan, coat_name
from zesty_veil.plan.thickness import neat_um
from zesty_veil.predict.coatsto import coats_to_solid
from zesty_veil.predict.field import axis
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.predict.recalled import alone, flat_field
from zesty_veil.thresholds import (
    ALIKE_VALUES,
    APART_VALUES,
    CLOSE_DE00,
    DIMMED_SHARE,
    FEW_PASSES,
    MANY_PASSES,
    MUDDY_SHARE,
    OPPOSITE_HUES,
    STRONG_CHROMA,
    THICK_UM,
)
from zesty_veil.tr import tr

_PLACES = 128


def many_passes(
    passage: Passage, index: int, paints: Mapping[str, Paint], look: ViewingConditions
) -> Iterator[Remark]:
    """Yield a remark for each coat of very many passes; it says when the eye has had enough."""
    for i, coat in enumerate(passage.coats):
        mend = stronger(coat)
        if coat.passes > MANY_PASSES and mend is not None:
            words = f"{mend.mixture.thinning:g}:1" if mend.mixture.thinning else "neat"
            below = edits.with_coats(passage, passage.coats[:i])
            (eye,) = coats_to_solid(
                coat, below, paints, float(np.mean(coat.span)), 0.0, look, (coat.mixture.thinning,)
            )
            enough = (
                ""
                if eye is None or eye >= coat.passes
                else (f" To the eye it is solid after {eye}.")
            )
            yield Remark(
                "many passes", index, float(coat.passes),
                tr(
                    "{0} passes of {1} tire the hand; {2} passes {3} lay as much "
                    "paint.{4}"
                ).format(coat.passes, coat_name(coat), mend.passes, words, enough),
                i, None, tr("{0} passes of a stronger mix").format(mend.passes),
                partial(_put, passage=index, coat=i, changed=mend),
            )  # fmt: skip


def stronger(coat: Coat) -> Coat | None:
    """Return a coat that lays as much paint in few passes, or none if it is too strong already."""
    paint = coat.passes / (1 + coat.mixture.thinning)
    passes = max(min(FEW_PASSES, math.floor(coat.passes / (1 + coat.mixture.thinning) + 1)), 2)
    passes = max(passes, math.ceil(paint - 1e-9))
    if passes >= coat.passes:
        return None
    thinning = round(2 * (passes / paint - 1)) / 2
    return edits.with_passes(edits.with_thinning(coat, max(thinning, 0.0)), passes)


def piled_up(
    passage: Passage, index: int, paints: Mapping[str, Paint], look: ViewingConditions
) -> Iterator[Remark]:
    """Yield a remark where paint lies so thick that it hides the detail below it."""
    u = axis(_PLACES)
    each = [neat_um(coat, paints) for coat in passage.coats]
    lies = [(u >= coat.span[0]) & (u <= coat.span[1]) for coat in passage.coats]
    thick = np.sum([um * on for um, on in zip(each, lies, strict=True)], axis=0)
    place = int(np.argmax(thick))
    if float(thick[place]) <= THICK_UM:
        return
    here = [um * bool(on[place]) for um, on in zip(each, lies, strict=True)]
    most = int(np.argmax(here))
    coat = passage.coats[most]
    thinner = edits.with_thinning(coat, max(2 * coat.mixture.thinning + 1, 1.0))
    mend = partial(_put, passage=index, coat=most, changed=thinner)
    now = edits.with_coats(passage, (*passage.coats[:most], thinner, *passage.coats[most + 1 :]))
    before, after = (flat_field(p, paints, 33, look).lab for p in (passage, now))
    same = float(ciede2000(before, after).max()) < CLOSE_DE00
    remedy = tr("thin it {0:g}:1, which covers as well").format(thinner.mixture.thinning)
    yield Remark(
        "piled up", index, float(thick[place]),
        tr(
            "About {0:.0f} µm of paint lies at {1:.1f} mm, most of it {2}: so much hides detail. "
            "Thin it, and let each pass dry."
        ).format(thick[place], u[place] * passage.length_mm, coat_name(coat)),
        most, float(u[place]),
        remedy if same else "", mend if same else None,
    )  # fmt: skip


def mud(
    passage: Passage,
    index: int,
    paints: Mapping[str, Paint],
    below: Sequence[StackOptics],
    look: ViewingConditions,
) -> Iterator[Remark]:
    """Yield a remark for each coat that dulls what it lies on, being its opposite.

    `below` is the stack under each coat and over the last, along 128 places.
    """
    for i, coat in enumerate(passage.coats):
        # By its own colour over white: over anything darker a clear film has none.
        own = alone(coat, paints, "white")
        if own[1] < STRONG_CHROMA:
            continue
        before, after = (lch(colours(state, look)[0])[:, 0] for state in (below[i], below[i + 1]))
        u = axis(_PLACES)
        there = (u >= coat.span[0]) & (u <= coat.span[1]) & (before[:, 1] > STRONG_CHROMA)
        apart = np.abs((before[:, 2] - own[2] + 180) % 360 - 180)
        lost = np.where(
            there & (apart > OPPOSITE_HUES), 1 - after[:, 1] / np.maximum(before[:, 1], 1), 0
        )
        place = int(np.argmax(lost))
        if lost[place] > MUDDY_SHARE:
            yield Remark(
                "mud", index, float(lost[place]),
                tr(
                    "{0} is a complementary glaze on what lies below it at {1:.1f} mm: it "
                    "takes {2:.0f} % of the chroma. Where it is not meant to dull, it leaves mud."
                ).format(coat_name(coat), u[place] * passage.length_mm, 100 * lost[place]),
                i, float(u[place]), tr("take it away"),
                partial(remedies.take_away, passage=index, coat=i),
            )  # fmt: skip


def dimmed(
    passage: Passage,
    index: int,
    paints: Mapping[str, Paint],
    below: Sequence[StackOptics],
    look: ViewingConditions,
) -> Iterator[Remark]:
    """Yield a remark for each fluorescent coat that later coats dim."""
    last = len(passage.coats) - 1
    for i, coat in enumerate(passage.coats):
        if i == last or all(paints[part.paint].glow is None for part in coat.mixture.parts):
            continue
        u = axis(_PLACES)
        there = (u >= coat.span[0]) & (u <= coat.span[1])
        fresh, end = (colours(state, look)[1][:, 0] for state in (below[i + 1], below[-1]))
        lost = float((1 - end / np.maximum(fresh, 1e-6))[there].mean()) if there.any() else 0.0
        if lost > DIMMED_SHARE:
            yield Remark(
                "dimmed", index, lost,
                tr(
                    "Later coats take {0:.0f} % of the light of {1}; keep films off "
                    "what is to glow."
                ).format(100 * lost, coat_name(coat)),
                i, float(np.mean(coat.span)), tr("lay it last"),
                partial(edits.move_coat, passage=index, index=i, to=last),
            )  # fmt: skip


def alike(
    plan: Plan, index: int, value: float, look: ViewingConditions, rack: Sequence[Paint]
) -> Iterator[Remark]:
    """Yield a remark if a passage, of some mean value, is as light as what surrounds it."""
    passage = plan.passages[index]
    for other, around in enumerate(plan.passages):
        if around.name != passage.surround or other == index:
            continue
        apart = value - _mean_value(plan, other, look)
        if abs(apart) < ALIKE_VALUES:
            yield Remark(
                "alike", index, abs(apart),
                tr(
                    "It is as light as {0} round it ({1:.1f} values apart); squinted "
                    "at, the two are one."
                ).format(around.name, abs(apart)),
                None, None, tr("glaze {0} darker").format(around.name),
                partial(darker, passage=other, than=value, look=look, rack=rack),
            )  # fmt: skip


def darker(
    plan: Plan, passage: int, than: float, look: ViewingConditions, rack: Sequence[Paint]
) -> Plan:
    """Return the plan with a passage glazed with black until it is clearly darker than a value."""
    black = remedies.with_pigment("PBk7", rack)
    plan = edits.hold(plan, black)
    glaze = edits.with_thinning(replace(edits.usual_coat(black), tool="glaze"), 2.0)
    return remedies.until(
        plan, passage, glaze, lambda now: than - _mean_value(now, passage, look) >= APART_VALUES
    )


def _mean_value(plan: Plan, index: int, look: ViewingConditions) -> float:
    return float(flat_field(plan.passages[index], plan.rack(), 33, look).value.mean())


def _put(plan: Plan, passage: int, coat: int, changed: Coat) -> Plan:
    return edits.set_coat(plan, passage, coat, changed)
