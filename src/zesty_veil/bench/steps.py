"""The plan as numbered steps to take to the bench, in Markdown."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator

from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.mixture import Mixture
from zesty_veil.paint.tool import tools
from zesty_veil.plan.drying import Minutes, drying_minutes, whole
from zesty_veil.plan.model import Coat, Passage, Plan, ground_words
from zesty_veil.plan.placewords import place_mm, place_words
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.streaks import may_streak, patchy_passes
from zesty_veil.predict.words import describe
from zesty_veil.tr import tr

_SPRAY_CAUTION = (
    "Work in a ventilated place away from flames, with the respirator that the product's safety "
    "data sheet names; its label and local rules come first."
)
_BRUSH_CAUTION = (
    "Do not point a brush with the lips: some pigments are harmful if swallowed. "
    "Each product's label and safety data sheet come first."
)
_FIRST, _LAST = 0, -1
# What begins something within a line, and what does at its start.
_MARKS = re.compile(r"([\\`*_\[\]<>~|&]|(?<!\S)[#+-](?=\s|$)|!(?=\[))")


def steps(plan: Plan) -> str:
    """Return all passages of a plan as numbered steps, as Markdown.

    Raises
    ------
    PaintError, InputError
        If the plan cannot be predicted; see `predict.field.predict`.
    """
    return "\n".join(_lines(plan)) + "\n"


def plain_text(words: str) -> str:
    """Return words on one line so that Markdown shows them as they are (CommonMark, 2.4).

    Names come from files, and might be headings, pictures or links.
    """
    return _MARKS.sub(r"\\\1", " ".join(words.split()))


def drops_words(mixture: Mixture) -> str:
    """Return a mixture in parts: '3 parts Ash, 1 part Coal, thinned 3:1 with water'."""
    several = len(mixture.parts) > 1
    paints = ", ".join(
        f"{_parts(p.parts)} {p.paint}" if several else p.paint for p in mixture.parts
    )
    if not mixture.thinning:
        return f"{paints}, neat"
    thinned = f"thinned {mixture.thinning:g}:1 with {mixture.thinner}"
    total = sum(p.parts for p in mixture.parts)
    drops = f" ({_parts(total * mixture.thinning)} {mixture.thinner} to {_parts(total)} paint)"
    return f"{paints}, {thinned}{drops}"


def span_words(coat: Coat, passage: Passage) -> str:
    """Return where a coat goes, as painters say it, with millimetres from the light behind."""
    return f"{place_words(coat)} ({place_mm(coat, passage.length_mm)})"


def _lines(plan: Plan) -> Iterator[str]:
    yield f"# {plain_text(plan.title)}"
    yield ""
    yield tr("Seen under {0}; {1} figure{2}.").format(
        plan.light, plan.figures, "s" if plan.figures != 1 else ""
    )
    yield _BRUSH_CAUTION
    number = 0
    for passage in plan.passages:
        yield ""
        yield f"## {plain_text(passage.name)}"
        yield ""
        yield (
            tr("{0} mm from the light (0 mm) to the far end, over {1}.").format(
                _mm(passage.length_mm), plain_text(ground_words(passage.ground))
            )
        )
        yield ""
        for k, coat in enumerate((*passage.ground.coats, *passage.coats)):
            number += 1
            yield from _step(number, coat, passage)
            yield from _streaks(plan, passage, k, coat)
        yield from _outcome(plan, passage)


def _step(number: int, coat: Coat, passage: Passage) -> Iterator[str]:
    several = coat.passes != 1
    yield f"{number}. **{plain_text(drops_words(coat.mixture))}**"
    yield (
        tr("   - {0}, {1} pass{2}, {3}.").format(
            _capital(tools()[coat.tool].label),
            coat.passes,
            "es" if several else "",
            span_words(coat, passage),
        )
    )
    if several and any(coat.feather):
        yield tr(
            "   - Stop each pass a little earlier than the one before, so that the end thins out."
        )
    after = "after each pass" if several else "before the next coat"
    yield (
        tr("   - Wait {0} {1}; about {2} min in all.").format(
            _minutes(drying_minutes(coat)), after, _round_up(whole(coat, passage))
        )
    )
    if coat.stroke != "across":
        end = "light" if coat.stroke == "to light" else "far end"
        yield tr(
            "   - End each stroke towards the {0}: the drop left at the lift is there."
        ).format(end)
    if coat.wicked:
        yield tr("   - Take up puddles at once with a damp brush.")
    if coat.nozzle is not None:
        yield tr("   - Hold the nozzle {0}.").format(_from(coat.nozzle))
    tool = tools()[coat.tool]
    if tool.dab_mm:
        share = 100 * (tool.cover if coat.cover is None else coat.cover)
        yield tr("   - Touch about {0:.0f} % of the area with each pass, ridges first.").format(
            share
        )
    if coat.tool in {"airbrush", "spray"}:
        yield f"   - {tr(_SPRAY_CAUTION)}"


def _streaks(plan: Plan, passage: Passage, number: int, coat: Coat) -> Iterator[str]:
    """Yield a sentence where the first passes look patchy, so that nobody takes it for a fault."""
    rack = plan.rack()
    if not may_streak(coat, rack):
        return
    patchy = patchy_passes(passage, number, rack, ViewingConditions(plan.light))
    if patchy and patchy < coat.passes:
        yield tr("   - It looks patchy at first; it is even after {0} passes.").format(patchy + 1)
    elif patchy:
        yield tr("   - It may look patchy over what lies below.")


def _from(nozzle: float) -> str:
    return (
        tr("straight above")
        if abs(nozzle) < 1
        else tr("{0:g} degrees from straight above").format(abs(nozzle))
    )


def _outcome(plan: Plan, passage: Passage) -> Iterator[str]:
    field = predict(passage, plan.rack(), axis(2), look=ViewingConditions(plan.light))
    flat = SITES.index("flat")
    ends = []
    for i in (_FIRST, _LAST):
        value = float(field.value[i, flat])
        ends.append(f"{describe(field.lch[i, flat], value)}, value {value:.1f}")
    total = _round_up(sum(whole(c, passage) for c in (*passage.ground.coats, *passage.coats)))
    yield ""
    yield (
        tr("Expect {0} at the light and {1} at the far end; about {2} min with drying.").format(
            ends[0], ends[1], total
        )
    )


def _parts(number: float) -> str:
    return f"{number:g} part{'' if number == 1 else 's'}"


def _mm(number: float) -> str:
    return f"{number:.1f}".removesuffix(".0")


def _minutes(time: Minutes) -> str:
    return f"{_round_up(time.least)}-{_round_up(time.most)} min"


def _round_up(number: float) -> int:
    return math.ceil(number - 1e-9)


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]
