"""Remarks on a plan with a light in it: what it lights, what is turned away, and its opposite.

Every border between fine and not is common practice; none is from a published source.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from functools import partial
from math import ceil

import numpy as np

from zesty_veil.advise import remedies
from zesty_veil.advise.remark import Remark
from zesty_veil.light.grid import Array
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat, Plan
from zesty_veil.predict.field import Field, axis, field_of
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.recalled import alone, flat_field, flat_stack
from zesty_veil.thresholds import (
    AWAY_FROM,
    AWAY_VALUE,
    BRIGHT_SOURCE_VALUE,
    GAP_VALUES,
    GLOW_CHROMA,
    LIGHT_MARGIN_VALUES,
    LIT_VALUE,
    OPPOSITE_CHROMA,
    OPPOSITE_WITHIN,
    TWO_CHROMA,
    TWO_HUES,
    UNDER_SOURCE_VALUES,
)
from zesty_veil.tr import tr

_PLACES = 33
# Red, orange, yellow, green, blue and violet by their CIELAB hues, and what faces each.
_WHEEL = (30.0, 60.0, 90.0, 160.0, 270.0, 310.0)
_FACING = (160.0, 270.0, 310.0, 390.0, 420.0, 450.0)


def source_of(plan: Plan, index: int) -> int | None:
    """Return which passage lights this one, if any does."""
    name = plan.passages[index].lit_by
    return next((i for i, p in enumerate(plan.passages) if p.name == name), None)


def is_source(plan: Plan, index: int) -> bool:
    """Tell whether a passage lights another one."""
    return any(p.lit_by == plan.passages[index].name for p in plan.passages)


def with_glint(state: StackOptics, u: Array, look: ViewingConditions) -> Array:
    """Return the values of a stack on the flat, (n,); metal counts as it glints."""
    value = field_of(state, u, np.zeros(1), look).value[:, 0]
    if state.mirror is None:
        return value
    glint = replace(look, angle="glint")
    return np.maximum(value, field_of(state, u, np.zeros(1), glint).value[:, 0])


def _brightest(plan: Plan, index: int, look: ViewingConditions) -> Array:
    """Return the values of a passage on the flat, (n,); metal counts as it glints."""
    state = flat_stack(plan.passages[index], plan.rack(), _PLACES)
    return with_glint(state, axis(_PLACES), look)


def flat_colours(plan: Plan, index: int, look: ViewingConditions) -> Field:
    """Return a passage's predicted colours on the flat."""
    return flat_field(plan.passages[index], plan.rack(), _PLACES, look)


def lights(
    plan: Plan, index: int, look: ViewingConditions, rack: Sequence[Paint]
) -> Iterator[Remark]:
    """Yield the remarks on a passage that is lit by another one, or lights others."""
    source = source_of(plan, index)
    if source is not None:
        seen = flat_colours(plan, index, look)
        yield from _outshines(plan, index, source, seen, look, rack)
        if _two_lights(seen) or _second_on(plan, index):
            yield from _no_gap(plan, index, seen, look, rack)
        else:
            yield from _away(plan, index, seen, look, rack)
    elif edits.is_lit(plan, index):
        seen = flat_colours(plan, index, look)
        if _second_on(plan, index):
            yield from _no_gap(plan, index, seen, look, rack)
        else:
            yield from _away(plan, index, seen, look, rack)
    if is_source(plan, index):
        yield from _complement(plan, index, look, rack)


def _outshines(
    plan: Plan,
    index: int,
    source: int,
    seen: Field,
    look: ViewingConditions,
    rack: Sequence[Paint],
) -> Iterator[Remark]:
    value = _brightest(plan, index, look)
    place = int(np.argmax(value))
    most = float(value[place])
    limit = float(_brightest(plan, source, look).max()) - UNDER_SOURCE_VALUES
    if most <= limit:
        return
    name = plan.passages[source].name
    if limit + UNDER_SOURCE_VALUES < BRIGHT_SOURCE_VALUE:
        remedy = f"white at the light of {name}"
        mend = partial(remedies.white_at_light, passage=source, rack=rack)
    else:
        remedy = "glaze it darker"
        mend = partial(
            dimmer, passage=index, limit=limit - LIGHT_MARGIN_VALUES, look=look, rack=rack
        )
    passage = plan.passages[index]
    yield Remark(
        "outshines source", index, most - limit,
        tr(
            "At {0:.1f} mm it is of value {1:.1f}, and the light itself, {2}, of "
            "{3:.1f}; what is lit must stay darker."
        ).format(seen.u[place] * passage.length_mm, most, name, limit + UNDER_SOURCE_VALUES),
        None, float(seen.u[place]), remedy, mend,
    )  # fmt: skip


def _two_lights(seen: Field) -> bool:
    """Tell whether the two ends are lit by lights of two hues."""
    count = max(_PLACES // 8, 1)
    ends = [seen.lch[:count, 0], seen.lch[-count:, 0]]
    values = [seen.value[:count, 0], seen.value[-count:, 0]]
    hues = [_mean_hue(end) for end in ends]
    return (
        all(float(end[:, 1].mean()) > TWO_CHROMA for end in ends)
        and all(float(value.max()) > LIT_VALUE for value in values)
        and _apart(*hues) > TWO_HUES
    )


def _second_on(plan: Plan, index: int) -> bool:
    """Tell whether the plan's second light falls on a passage."""
    glow = plan.glow
    return (
        glow is not None
        and glow.second is not None
        and any(surface.passage == plan.passages[index].name for surface in glow.surfaces)
    )


def _no_gap(
    plan: Plan, index: int, seen: Field, look: ViewingConditions, rack: Sequence[Paint]
) -> Iterator[Remark]:
    dip = gap(seen)
    # What is no lighter than a side turned away is lit by none of the two.
    if dip < GAP_VALUES and _darker_end(seen) > LIT_VALUE:
        yield Remark(
            "no gap", index, max(dip, 0.0),
            tr(
                "Two lights meet on it with no dark between them ({0:.1f} values); a "
                "dark gap of {1:g} or more keeps them apart."
            ).format(max(dip, 0.0), GAP_VALUES),
            None, gap_at(seen.value[:, 0], seen.u), tr("a dark gap between them"),
            partial(_with_gap, passage=index, look=look, rack=rack),
        )  # fmt: skip


def gap(seen: Field) -> float:
    """Return by how many values the middle is darker than the darker of the two ends."""
    value, u = seen.value[:, 0], seen.u
    return _darker_end(seen) - float(value[(u > 0.2) & (u < 0.8)].min())


def _darker_end(seen: Field) -> float:
    value, u = seen.value[:, 0], seen.u
    return float(min(value[u <= 0.2].max(), value[u >= 0.8].max()))


def gap_at(value: Array, u: Array) -> float:
    """Return where it is darkest between two lights; values and places (n,)."""
    inside = (u > 0.3) & (u < 0.9)
    return float(u[inside][int(np.argmin(value[inside]))])


def _away(
    plan: Plan, index: int, seen: Field, look: ViewingConditions, rack: Sequence[Paint]
) -> Iterator[Remark]:
    value = _away_value(seen)
    if value > AWAY_VALUE:
        yield Remark(
            "away too light", index, value - AWAY_VALUE,
            tr(
                "The side turned away is of value {0:.1f}; for the glow to read it "
                "must be {1:g} or darker."
            ).format(ceil(10 * value) / 10, AWAY_VALUE),
            None, (1 + AWAY_FROM) / 2, tr("glaze the far side darker"),
            partial(_darker_away, passage=index, look=look, rack=rack),
        )  # fmt: skip


def _away_value(seen: Field) -> float:
    return float(seen.value[seen.u >= AWAY_FROM].mean())


def _complement(
    plan: Plan, index: int, look: ViewingConditions, rack: Sequence[Paint]
) -> Iterator[Remark]:
    own = flat_colours(plan, index, look)
    if float(own.lch[:, 0, 1].max()) < GLOW_CHROMA:
        return
    wanted = opposite(_mean_hue(own.lch[:, 0]))
    others = (i for i in range(len(plan.passages)) if i != index)
    if any(_has_hue(flat_colours(plan, i, look), wanted) for i in others):
        return
    words = hue_words(wanted)
    mend = partial(_with_complement, hue=wanted, source=index, look=look, rack=rack)
    helps = mend(plan) != plan
    yield Remark(
        "no complement", index, wanted,
        tr(
            "Nothing in the plan is {0}, the complement of this glow; if you like, a "
            "little of it beside makes it glow more."
        ).format(words),
        None, None, tr("some {0} at the far end of what it lights").format(words) if helps else "",
        mend if helps else None,
    )  # fmt: skip


def opposite(hue: float) -> float:
    """Return the complement of a CIELAB hue on the painters' wheel, in degrees.

    There red faces green, orange blue, and yellow violet; a light's complement is elsewhere.
    """
    # The wheel is closed: once round, the facing hue has gone once round as well.
    wheel, facing = (*_WHEEL, _WHEEL[0] + 360), (*_FACING, _FACING[0] + 360)
    return float(np.interp((hue - _WHEEL[0]) % 360 + _WHEEL[0], wheel, facing) % 360)


def _has_hue(seen: Field, hue: float) -> bool:
    apart = np.abs((seen.lch[:, 0, 2] - hue + 180) % 360 - 180)
    return bool(((apart < OPPOSITE_WITHIN) & (seen.lch[:, 0, 1] > OPPOSITE_CHROMA)).any())


def _mean_hue(lch: Array) -> float:
    """Return the hue of colours (n, 3) together, the strong ones counting more, in degrees."""
    angle = np.radians(lch[:, 2])
    a, b = (float((lch[:, 1] ** 2 * f(angle)).sum()) for f in (np.cos, np.sin))
    return float(np.degrees(np.arctan2(b, a)) % 360)


def _apart(one: float, other: float) -> float:
    return abs((one - other + 180) % 360 - 180)


def hue_words(hue: float) -> str:
    """Return what painters call a CIELAB hue, in degrees."""
    borders = (
        (15, "pink"), (45, "red"), (75, "orange"), (110, "yellow"), (175, "green"),
        (230, "turquoise"), (290, "blue"), (330, "violet"), (361, "pink"),
    )  # fmt: skip
    return next(words for border, words in borders if hue % 360 < border)


def dimmer(
    plan: Plan, passage: int, limit: float, look: ViewingConditions, rack: Sequence[Paint]
) -> Plan:
    """Return the plan with a passage glazed with black until nothing on it is above a value."""
    return _glazed(
        plan, passage, (0.0, 1.0), (0.0, 0.0), rack,
        lambda now: float(flat_colours(now, passage, look).value.max()) <= limit,
    )  # fmt: skip


def _darker_away(plan: Plan, passage: int, look: ViewingConditions, rack: Sequence[Paint]) -> Plan:
    return _glazed(
        plan, passage, (AWAY_FROM, 1.0), (0.3, 0.0), rack,
        lambda now: (
            _away_value(flat_colours(now, passage, look))
            <= AWAY_VALUE - LIGHT_MARGIN_VALUES / 2
        ),
    )  # fmt: skip


def _with_gap(plan: Plan, passage: int, look: ViewingConditions, rack: Sequence[Paint]) -> Plan:
    seen = flat_colours(plan, passage, look)
    place = gap_at(seen.value[:, 0], seen.u)
    return _glazed(
        plan, passage, (place - 0.06, place + 0.06), (0.2, 0.2), rack,
        lambda now: gap(flat_colours(now, passage, look)) >= GAP_VALUES + LIGHT_MARGIN_VALUES / 2,
    )  # fmt: skip


def _glazed(
    plan: Plan,
    passage: int,
    span: tuple[float, float],
    feather: tuple[float, float],
    rack: Sequence[Paint],
    good: remedies.Good,
) -> Plan:
    black = remedies.with_pigment("PBk7", rack)
    coat = Coat(Mixture((Part(black.name),), "water", 2.0), "glaze")
    coat = edits.with_feather(edits.with_span(coat, *span), *feather)
    return remedies.until(edits.hold(plan, black), passage, coat, good)


def _with_complement(
    plan: Plan, hue: float, source: int, look: ViewingConditions, rack: Sequence[Paint]
) -> Plan:
    """Return the plan with some of a hue at the far end of what a source lights, if any will do.

    Of the rack's pure paints that of the nearest hue is tried, then with white in it.
    """
    lit = [i for i, p in enumerate(plan.passages) if p.lit_by == plan.passages[source].name]
    pure = [p for p in rack if p.kind in {"transparent", "opaque"} and len(p.pigments) == 1]
    white = [p for p in rack if p.pigments == ("PW6",) and p.kind == "opaque"]
    near = sorted(pure, key=lambda paint: _apart(_own_hue(paint), hue))
    for paint in near[:2]:
        for parts in ((Part(paint.name),), *((Part(paint.name, 2), Part(w.name)) for w in white)):
            coat = Coat(Mixture(parts, "water", 1.0), "loaded", 1, (0.9, 1.0), (0.1, 0.0))
            held = edits.hold(plan, paint)
            for each in white if len(parts) > 1 else []:
                held = edits.hold(held, each)
            found = remedies.until(
                held,
                lit[0],
                coat,
                lambda now: _has_hue(flat_colours(now, lit[0], look), hue),
                most=6,
            )
            seen = flat_colours(found, lit[0], look)
            if _has_hue(seen, hue) and (_two_lights(seen) or _away_value(seen) <= AWAY_VALUE):
                return found
    return plan


def _own_hue(paint: Paint) -> float:
    coat = Coat(Mixture((Part(paint.name),), "water", 1.0), "loaded", 2)
    return alone(coat, {paint.name: paint}, "white")[2]
