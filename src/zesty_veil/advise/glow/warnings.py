"""What would go wrong about a painted light, before and after its coats are found.

Every border between fine and not is common practice; none is from a published source.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import ceil

from zesty_veil.advise.glow.painted import Painted
from zesty_veil.advise.glow.wanted import Lit
from zesty_veil.advise.remarks import remarks
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Plan
from zesty_veil.thresholds import (
    AWAY_VALUE,
    FAINT_VALUES,
    GAP_VALUES,
    HELD_BACK,
    UNDER_SOURCE_VALUES,
)
from zesty_veil.tr import listed, tr

# A smaller share of a ring is not worth a word.
_LEAST_SHADOW = 0.02


@dataclass(frozen=True)
class Warned:
    """A warning about one passage, by its number in the plan."""

    passage: int
    words: str


def before_coats(lits: Sequence[Lit], source: int | None, source_value: float) -> Iterator[Warned]:
    """Yield what is wrong about what a light wants, by numbers alone.

    `source_value` is the greatest value on the source, passage `source`, as it is painted now; a
    light off the figure has none.
    """
    most = max((max(lit.values) for lit in lits), default=0.0)
    if source is not None and most > source_value - UNDER_SOURCE_VALUES:
        yield Warned(
            source,
            tr(
                "It is value {0:.1f}, yet lights others to {1:.1f}. What a light falls on has to "
                "stay darker than the light. Paint the light itself too, or make it weaker."
            ).format(source_value, most),
        )
    if lits and lits[0].exposure < HELD_BACK:
        yield Warned(
            lits[0].ringed.passage if source is None else source,
            tr(
                "At this strength it would outshine all paint, so only {0:.0f} % of it is shown. "
                "A weaker light keeps the unlit parts apart from black."
            ).format(100 * lits[0].exposure),
        )
    for lit in lits:
        yield from _shadow(lit)
        at, away = lit.ringed.passage, lit.values[-1]
        if lit.gap is not None:
            if lit.gap < GAP_VALUES:
                yield Warned(
                    at,
                    tr(
                        "The gap is only {0:.1f} values darker than what lies beside it. It takes "
                        "{1:g} or more to keep two lights apart."
                    ).format(lit.gap, GAP_VALUES),
                )
        elif away > AWAY_VALUE:
            yield Warned(
                at,
                tr(
                    "The far end is value {0:.1f}. At {1:g} or darker a glow reads: choose less "
                    "ambient light, or a darker surface colour."
                ).format(ceil(10 * away) / 10, AWAY_VALUE),
            )
        dark = lit.values[0] - (away if lit.gap is None else lit.values[-2])
        if dark < FAINT_VALUES:
            yield Warned(
                at,
                tr(
                    "The light makes a difference of only {0:.1f} values. Bring it nearer, or make "
                    "it stronger."
                ).format(dark),
            )


def _shadow(lit: Lit) -> Iterator[Warned]:
    """Yield how much of each ring lies in the shadow of another passage."""
    shadow, rings = lit.ringed.surface.shadow, lit.ringed.rings
    if shadow is None:
        return
    at = lit.ringed.passage
    some = [ring for ring in rings if ring.shadowed >= _LEAST_SHADOW]
    if not some:
        words = tr("The shadow of {0} doesn't reach it. Move {0} between it and the light.")
        yield Warned(at, words.format(shadow.of))
        return
    shares = [tr("{0:.0f} % of ring {1}").format(100 * ring.shadowed, ring.number) for ring in some]
    words = tr("The shadow of {0} covers {1}. Leave it as dark as the far end.")
    yield Warned(at, words.format(shadow.of, listed(shares)))


def after_coats(plan: Plan, passages: Sequence[Painted], rack: Sequence[Paint]) -> Iterator[Warned]:
    """Yield why a ring stays far off, and the remarks on a plan into which a glow is written."""
    for one in passages:
        if one.why is not None and one.where is not None:
            words = tr("At {0:.0f} %: {1}")
            words = words.format(100 * one.where.place, " ".join(one.why.reasons))
            if one.why.paint is not None:
                helps = tr("{0} would bring it within dE {1:.1f}.")
                words += " " + helps.format(one.why.paint.name, one.why.with_paint)
            yield Warned(one.passage, words)
    for one in passages:
        for remark in remarks(plan, one.passage, rack):
            yield Warned(one.passage, remark.words)
