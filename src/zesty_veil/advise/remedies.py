"""Remedies: functions from a plan to a plan in which something is mended."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.match.blending import harsh_at, in_more_passes
from zesty_veil.errors import PaintError
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat, Passage, Plan
from zesty_veil.predict.contribution import contribution, contributions
from zesty_veil.predict.evenfeather import even_feather
from zesty_veil.predict.field import Field, axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.thresholds import (
    BLACK_CHROMA,
    BLACK_VALUE,
    HIDDEN_DE00,
    MOST_GLAZE_PASSES,
    MOST_WHITE_PASSES,
    TIPS_SHARE,
)
from zesty_veil.tr import tr

_FLAT = np.zeros(1)
_SOFT = 6  # passes that blend softly

Good = Callable[[Plan], bool]


def until(plan: Plan, passage: int, coat: Coat, good: Good, most: int = MOST_GLAZE_PASSES) -> Plan:
    """Return the plan with a film over a passage, in as few passes as make it good.

    The most that is tried, if none does. Edges and the brightest spots stay above it: they are
    laid last.
    """
    now, top = plan, _below_highlights(plan.passages[passage])
    for passes in range(1, most + 1):
        now = edits.add_coat(plan, passage, edits.with_passes(coat, passes), top)
        if good(now):
            break
    return now


def _below_highlights(passage: Passage) -> int:
    """Return how many coats lie below what is laid last: edges and spots that are kept clear."""
    top = len(passage.coats)
    while top and passage.coats[top - 1].meant in ("edge", "glow spot"):
        top -= 1
    return top


def take_away(plan: Plan, passage: int, coat: int) -> Plan:
    """Return the plan without a coat."""
    return edits.remove_coat(plan, passage, coat)


def white_below(plan: Plan, passage: int, coat: int, passes: int, rack: Sequence[Paint]) -> Plan:
    """Return the plan with some passes of white below a coat, as far as it reaches.

    What the white then hides is taken away: nobody lays it for nothing.
    """
    above = plan.passages[passage].coats[coat]
    white = with_pigment("PW6", rack)
    laid = _white(white, passes, above)
    look = ViewingConditions(plan.light)
    seen = contributions(plan.passages[passage], plan.rack(), look)
    plan = edits.add_coat(edits.hold(plan, white), passage, laid, coat)
    for below in reversed(range(coat)):
        now = contribution(plan.passages[passage], plan.rack(), below, look)
        if now.most < HIDDEN_DE00 <= seen[below].most:
            plan = edits.remove_coat(plan, passage, below)
    return plan


def white_needed(
    passage: Passage,
    coat: int,
    value: float,
    paints: Mapping[str, Paint],
    rack: Sequence[Paint],
    look: ViewingConditions,
) -> int:
    """Return how many passes of white below a coat bring what it lies on to a value.

    The most that is tried, if none does or the rack has no white.
    """
    whites = [paint for paint in rack if paint.pigments == ("PW6",) and paint.kind == "opaque"]
    above = passage.coats[coat]
    for passes in range(1, MOST_WHITE_PASSES):
        if not whites:
            break
        coats = (*passage.coats[:coat], _white(whites[0], passes, above))
        places = np.linspace(*above.span, 16)
        some = {**paints, whites[0].name: whites[0]}
        now = predict(edits.with_coats(passage, coats), some, places, _FLAT, look)
        if float(np.quantile(now.value, 0.1)) >= value:
            return passes
    return MOST_WHITE_PASSES


def _white(white: Paint, passes: int, above: Coat) -> Coat:
    mixture = Mixture((Part(white.name),), "water", 0.5)
    return Coat(mixture, "loaded", passes, above.span, above.feather)


def white_at_light(plan: Plan, passage: int, rack: Sequence[Paint]) -> Plan:
    """Return the plan with a small touch of white at the light, on top of all, without an edge."""
    white = with_pigment("PW6", rack)
    mixture = Mixture((Part(white.name),), "water", 0.5)
    laid = Coat(mixture, "loaded", 3, (0.0, 0.05), (0.0, 0.08))
    plan = edits.add_coat(edits.hold(plan, white), passage, laid)
    top = len(plan.passages[passage].coats) - 1
    return smooth(plan, passage, top, ViewingConditions(plan.light))


def smooth(plan: Plan, passage: int, coat: int, look: ViewingConditions) -> Plan:
    """Return the plan with a coat feathered until none of its steps is harsh, if that can be.

    The same paint in more, thinner passes, spaced by how much each changes the colour, over a
    feather that grows until it is enough.
    """
    before = plan.passages[passage]
    changed = before.coats[coat]
    if changed.passes < _SOFT:
        changed = in_more_passes(changed, changed.passes * -(-_SOFT // changed.passes))
    best = plan
    for longer in (1.0, 1.4, 2.0, 2.8, 4.0):
        light, far = (
            max(feather, 0.06) * longer if inner else 0.0
            for feather, inner in zip(
                before.coats[coat].feather,
                (changed.span[0] > 0, changed.span[1] < 1),
                strict=True,
            )
        )
        tried = edits.set_coat(plan, passage, coat, edits.with_feather(changed, light, far))
        spaced = even_feather(tried.passages[passage], coat, tried.rack(), look)
        best = edits.set_coat(tried, passage, coat, spaced)
        if not harsh_at(best.passages[passage], coat, plan.rack(), look):
            return best
    return best


def black(field: Field) -> npt.NDArray[np.bool_]:
    """Return where the flat of a field is black: dark, and of no hue to speak of; (n,) bool."""
    return np.asarray((field.value[:, 0] < BLACK_VALUE) & (field.lch[:, 0, 1] < BLACK_CHROMA))


def last_tip(passage: Passage) -> int | None:
    """Return the last coat that lies at the far end alone, or none."""
    tips = [i for i, coat in enumerate(passage.coats) if coat.span[1] == 1 and coat.span[0] > 0]
    return tips[-1] if tips else None


# From here on tips are made shorter by their feather.
_TIPS_FROM = 0.94


def shorter_tips(plan: Plan, passage: int, look: ViewingConditions) -> Plan:
    """Return the plan with its darkest coats drawn back until black is under 15 % of the length."""
    for _ in range(48):
        now = plan.passages[passage]
        field = predict(now, plan.rack(), axis(128), _FLAT, look)
        if float(black(field).mean()) <= TIPS_SHARE:
            break
        tip = last_tip(now)
        if tip is None:
            break
        last = now.coats[tip]
        # Its feather stays as long as can be, or what was soft would end in an edge.
        moved = edits.with_span(last, min(last.span[0] + 0.02, 1.0), 1.0)
        shrinks = 0.9 if last.span[0] > _TIPS_FROM else 1.0
        moved = edits.with_feather(moved, last.feather[0] * shrinks, 0.0)
        plan = edits.set_coat(plan, passage, tip, moved)
    return plan


def add_part(plan: Plan, passage: int, coat: int, pigment: str, rack: Sequence[Paint]) -> Plan:
    """Return the plan with a part of a paint in a coat's mixture."""
    paint = with_pigment(pigment, rack)
    changed = edits.with_parts(plan.passages[passage].coats[coat], paint.name, 1)
    return edits.set_coat(edits.hold(plan, paint), passage, coat, changed)


def pink_for_white(plan: Plan, passage: int, coat: int, rack: Sequence[Paint]) -> Plan:
    """Return the plan with magenta in place of half the white of a coat."""
    pink = with_pigment("PR122", rack)
    changed = plan.passages[passage].coats[coat]
    held = plan.rack()
    for part in changed.mixture.parts:
        if held[part.paint].pigments == ("PW6",):
            changed = edits.with_parts(changed, part.paint, part.parts / 2)
            changed = edits.with_parts(changed, pink.name, part.parts / 2)
    return edits.set_coat(edits.hold(plan, pink), passage, coat, changed)


def medium_for_water(plan: Plan, passage: int, coat: int) -> Plan:
    """Return the plan with a coat thinned as much, but with medium."""
    old = plan.passages[passage].coats[coat]
    changed = edits.with_thinning(old, old.mixture.thinning, "medium")
    return edits.set_coat(plan, passage, coat, changed)


def satin_varnish(plan: Plan, passage: int, rack: Sequence[Paint]) -> Plan:
    """Return the plan with satin varnish over a whole passage."""
    varnishes = [paint for paint in rack if paint.kind == "varnish"]
    if not varnishes:
        raise PaintError(tr("The rack has no varnish; add one."))
    satin = min(varnishes, key=lambda paint: abs(paint.finish - 0.02))
    laid = edits.usual_coat(satin)
    return edits.add_coat(edits.hold(plan, satin), passage, laid)


def with_pigment(code: str, rack: Sequence[Paint]) -> Paint:
    """Return the rack's first paint of one pigment alone; raises PaintError if it has none."""
    for paint in rack:
        if paint.pigments == (code,) and paint.kind in {"opaque", "transparent"}:
            return paint
    raise PaintError(
        tr("The rack has no paint of {0} alone, which the remedy needs; add one.").format(code)
    )
