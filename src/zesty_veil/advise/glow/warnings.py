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
            f"It is of value {source_value:.1f}, and lights others to {most:.1f}; what is lit must "
            "stay darker. Paint the light itself too, or make it weaker.",
        )
    if lits and lits[0].exposure < HELD_BACK:
        yield Warned(
            lits[0].ringed.passage if source is None else source,
            f"As strong as this it would outshine all paint; {100 * lits[0].exposure:.0f} % of it "
            "is shown. A weaker one keeps the ambient apart from black.",
        )
    for lit in lits:
        yield from _shadow(lit)
        at, away = lit.ringed.passage, lit.values[-1]
        if lit.gap is not None:
            if lit.gap < GAP_VALUES:
                yield Warned(
                    at,
                    f"The gap is {lit.gap:.1f} values darker than what is beside it; "
                    f"{GAP_VALUES:g} or more keeps two lights apart.",
                )
        elif away > AWAY_VALUE:
            yield Warned(
                at,
                f"The side away is of value {ceil(10 * away) / 10:.1f}; {AWAY_VALUE:g} or darker "
                "lets a glow read. Take less ambient, or a darker colour of its own.",
            )
        dark = lit.values[0] - (away if lit.gap is None else lit.values[-2])
        if dark < FAINT_VALUES:
            yield Warned(
                at,
                f"The light makes only {dark:.1f} values of difference; bring it "
                "nearer, or make it stronger.",
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
    words = tr("The shadow of {0} covers {1}. Leave it as dark as the side away.")
    yield Warned(at, words.format(shadow.of, listed(shares)))


def after_coats(plan: Plan, passages: Sequence[Painted], rack: Sequence[Paint]) -> Iterator[Warned]:
    """Yield why a ring stays far off, and the remarks on a plan into which a glow is written."""
    for one in passages:
        if one.why is not None and one.where is not None:
            place = f"At {100 * one.where.place:.0f} %"
            helps = ""
            if one.why.paint is not None:
                helps = f" {one.why.paint.name} would bring it within dE {one.why.with_paint:.1f}."
            yield Warned(one.passage, f"{place}: {' '.join(one.why.reasons)}{helps}")
    for one in passages:
        for remark in remarks(plan, one.passage, rack):
            yield Warned(one.passage, remark.words)
