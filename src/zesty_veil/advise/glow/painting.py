"""A painted light written into the plan: nested coats on each surface, and the fire itself.

Each school is one order of work: a bright sketch, knocked back by darker glazes outward; dark over
all, then lighter steps that reach less and less far; white under all, then saturated glazes outward
and an ink over all; spots by airbrush with edges by brush. What is there may stay, with films and
lights over it only. Nothing else of a passage changes. Common practice.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace as changed
from typing import Literal, get_args

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.glow.flame import fire_paints, flame_targets, specks, touches
from zesty_veil.advise.glow.metal import metal_of, on_metal
from zesty_veil.advise.glow.painted import Painted
from zesty_veil.advise.glow.second import with_second
from zesty_veil.advise.glow.wanted import wanted
from zesty_veil.advise.match.along import farthest_along
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.recipe import MatchRequest
from zesty_veil.advise.match.solve import hindrance, solve
from zesty_veil.advise.match.tuning import WorkOrder
from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lch
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.drying import whole
from zesty_veil.plan.glow import Glow
from zesty_veil.plan.model import Coat, Ground, Passage, Plan, Target, coat_name, ground_words
from zesty_veil.predict.contribution import contributions
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.thresholds import COVERED_VALUES, HIDDEN_DE00
from zesty_veil.tr import counted, tr

School = Literal["sketch", "inward", "white", "spot"]
SCHOOLS: tuple[School, ...] = get_args(School)
# An airbrush lays the spots of that school, and brushes their edges.
_SPOT_TOOLS = ("airbrush", "glaze")
# What painters go to for a glow: some more pots than for one colour.
USUAL_LIMITS = Limits(coats=8, mixes=3)
# The ink over a whole glow is thin, and of the glow's hue within so many degrees.
_INK_THINNINGS, _INK_WITHIN = (5.0, 8.0, 12.0, 18.0), 25.0
_INK_DIMS = 0.75 * COVERED_VALUES  # of white; what is painted is darker, and takes more
_FLAT = np.zeros(1)


def painted(
    plan: Plan,
    glow: Glow,
    school: School,
    paints: Sequence[Paint],
    limits: Limits,
    flame: str | None = None,
    should_continue: Callable[[], bool] = lambda: True,
    keep: bool = False,
) -> Iterator[tuple[Painted, ...]]:
    """Yield the passages of a glow, more and more of them with their coats.

    Parameters
    ----------
    plan, glow, school
        What is lit by what, and how painters go about it.
    paints, limits
        What may be used and done on each passage.
    flame
        The school of fire that the source is painted by, or a fire of the plan's own by its name;
        none to leave it as it is.
    should_continue
        Asked between the steps whether it is still wanted.
    keep
        Whether the coats that are there stay, with films and lights over them only.

    Raises
    ------
    InputError
        If the light does not reach a surface, or there is nothing to paint with.
    """
    done: list[Painted] = []
    look = ViewingConditions(plan.light)
    both = {lit.ringed.passage: lit for lit in wanted(plan, glow, keep)} if glow.second else {}
    # A second light is painted when the first is there, of which it changes nothing.
    for job in _jobs(plan, replace(glow, second=None), school, flame, keep, paints):
        passage = plan.passages[job.passage]
        metal = metal_of(passage, plan.rack()) if job.lit is not None else None
        if metal is not None:
            kept = changed(job, kept=passage.coats)
            now = on_metal(kept, passage, metal, glow, paints, plan.rack(), look)
            done.append(now)
            yield tuple(done)
            continue
        now = job
        for found in solve(request_for(job, plan, school, paints, limits), should_continue):
            best = found.ways[0] if found.ways else None
            now = changed(job, answer=best, share=found.share)
            yield (*done, now)
        if not should_continue():
            return
        if job.lit is None:
            now = _touched(now, plan.passages[job.passage], paints, look, flame == "cold")
            yield (*done, now)
        elif job.passage in both and now.answer is not None:
            first = now
            for lit in with_second(first, both[job.passage], plan, paints, limits, should_continue):
                now = lit
                yield (*done, now)
            if not should_continue():
                return
        if job.lit is not None and keep:
            now = changed(now, lost=_lost(now, plan, paints, look))
        now = _as_the_section_shows(now, plan, paints, look)
        yield (*done, now)
        done.append(now)


def _jobs(
    plan: Plan,
    glow: Glow,
    school: School,
    flame: str | None,
    keep: bool,
    paints: Sequence[Paint],
) -> Iterator[Painted]:
    """Yield what is to be painted: the fire itself, and then each surface that it lights."""
    if school not in SCHOOLS:
        raise InputError(
            tr("There is no school '{0}'; use one of {1}.").format(school, ", ".join(SCHOOLS))
        )
    if flame is not None:
        if not glow.source:
            raise InputError(
                tr("A light off the figure is not painted; leave the fire out, or say what shines.")
            )
        targets = flame_targets(plan, glow, flame)
        hue = None if glow.colour is None else float(lch(np.array(glow.colour))[2])
        only = fire_paints(flame if hue is None else "single", paints, hue or 0.0)
        yield Painted(_index(plan, glow.source), targets, None, None, only=only)
    for lit in wanted(plan, glow, keep):
        kept = plan.passages[lit.ringed.passage].coats if keep else None
        yield Painted(lit.ringed.passage, lit.targets, lit, None, kept=kept or (), over=keep)


def request_for(
    one: Painted, plan: Plan, school: School, paints: Sequence[Paint], limits: Limits
) -> MatchRequest:
    """Return what is asked of the search for a passage, painted as a school goes about it."""
    limits = changed(limits, again=True)
    if school == "spot":
        limits = changed(limits, tools=_SPOT_TOOLS)
    look = ViewingConditions(plan.light)
    over: tuple[Coat, ...] = ()
    if school == "white" and one.lit and not one.over:
        over = _ink_over(one.targets, paints, look)
    if one.lit is not None and one.lit.ringed.surface.finish == "gloss":
        over = (*over, *_varnish(paints))
    base = replace(plan.passages[one.passage], targets=one.targets, coats=one.kept)
    order: WorkOrder = "far" if one.lit is None else "over" if one.over else school
    return MatchRequest(
        (base,), plan.paints, one.targets, one.only or tuple(paints), limits, look, towards=order,
        reasons=False, over=over, plainest_only=True,
    )  # fmt: skip


def with_hindrances(
    plan: Plan,
    done: Sequence[Painted],
    school: School,
    paints: Sequence[Paint],
    limits: Limits,
    should_continue: Callable[[], bool] = lambda: True,
) -> Iterator[tuple[Painted, ...]]:
    """Yield passages that are painted, one after the other with what stands in their way.

    That takes longer than to paint them, and nobody need wait for it.
    """
    out = list(done)
    for k, one in enumerate(done):
        if one.answer is None or not should_continue():
            continue
        request = request_for(one, plan, school, paints, limits)
        why, where = hindrance(request, one.answer, should_continue)
        out[k] = changed(one, why=why, where=where)
        yield tuple(out)


def _as_the_section_shows(
    one: Painted, plan: Plan, paints: Sequence[Paint], look: ViewingConditions
) -> Painted:
    """Return a passage whose worst place is that of the plan that is written, rings or between."""
    if one.answer is None:
        return one
    named = plan.rack() | {paint.name: paint for paint in paints}
    worst, rises = farthest_along(one.on(plan.passages[one.passage]), named, look)
    return changed(one, answer=changed(one.answer, worst=worst, rises=rises))


def _lost(
    one: Painted, plan: Plan, paints: Sequence[Paint], look: ViewingConditions
) -> tuple[int, ...]:
    """Return which of the kept coats showed before, and will not any more."""
    before = plan.passages[one.passage]
    named = plan.rack() | {paint.name: paint for paint in paints}
    after = contributions(one.on(before), named, look)
    return tuple(
        i
        for i, adds in enumerate(contributions(before, named, look))
        if adds.most >= HIDDEN_DE00 > after[i].most
    )


def with_painting(
    plan: Plan, glow: Glow, passages: Sequence[Painted], paints: Sequence[Paint]
) -> Plan:
    """Return the plan with a glow and the coats found for it; names, sizes and grounds stay."""
    rack = {paint.name: paint for paint in paints}
    plan = edits.set_glow(plan, glow)
    for one in passages:
        if one.answer is None:
            continue
        for coat in one.answer.coats:
            for part in coat.mixture.parts:
                plan = edits.hold(plan, rack[part.paint])
        passage = one.on(plan.passages[one.passage])
        plan = edits.set_passage(plan, one.passage, passage)
        if one.lit is not None and glow.source:
            plan = edits.lit_by(plan, one.passage, glow.source)
    return plan


def changes(plan: Plan, one: Painted) -> str:
    """Return what writing a painting changes on its passage, as a sentence."""
    passage = plan.passages[one.passage]
    more = 0 if one.answer is None else len(one.answer.coats)
    laid = counted(more, "{0} coat", "{0} coats")
    if not passage.coats:
        return tr("{0}: lays {1} on its {2}.").format(
            passage.name, laid, ground_words(passage.ground)
        )
    there = counted(len(passage.coats), "{0} coat", "{0} coats")
    if not one.kept:
        return tr("{0}: takes its {1} away and lays {2} on its {3}.").format(
            passage.name, there, laid, ground_words(passage.ground)
        )
    lost = ", ".join(coat_name(one.kept[i]) for i in one.lost)
    words = tr("{0}: keeps its {1} and lays {2} over them").format(passage.name, there, laid)
    return tr("{0}; of {1} nothing will show.").format(words, lost) if lost else f"{words}."


def _ink_over(
    targets: Sequence[Target], paints: Sequence[Paint], look: ViewingConditions
) -> tuple[Coat, ...]:
    """Return an ink of the glow's own hue, over all, or what is next to an ink; or none.

    It is as thin as leaves the brightest spot bright.
    """
    strongest = max((lch(np.array(target.lab)) for target in targets), key=lambda c: float(c[1]))
    near = []
    for paint in paints:
        if paint.kind in {"ink", "transparent"}:
            for hue, coat in _ink(paint, look):
                near.append((abs((hue - float(strongest[2]) + 180) % 360 - 180), coat))
    best = min(near, key=lambda each: each[0], default=None)
    return (best[1],) if best is not None and best[0] < _INK_WITHIN else ()


def _ink(paint: Paint, look: ViewingConditions) -> Iterator[tuple[float, Coat]]:
    """Yield the hue of a paint in a thin glaze on white, and the glaze.

    None comes of a paint that covers the brightest spot however thin it is laid.
    """
    for thinning in _INK_THINNINGS:
        coat = Coat(Mixture((Part(paint.name),), "medium", thinning), "glaze")
        bare = Passage("ink", ground=Ground("white"))
        on, under = (
            predict(replace(bare, coats=coats), {paint.name: paint}, axis(1), _FLAT, look)
            for coats in ((coat,), ())
        )
        if float((under.value - on.value)[0, 0]) < _INK_DIMS:
            yield float(on.lch[0, 0, 2]), coat
            return


def _varnish(paints: Sequence[Paint]) -> tuple[Coat, ...]:
    """Return a gloss varnish, under which darks are darker; none if there is none at hand."""
    gloss = (p for p in paints if p.kind == "varnish" and p.finish == FINISHES["gloss"])
    return tuple(Coat(Mixture((Part(paint.name),)), "loaded") for paint in gloss)[:1]


def _touched(
    fire: Painted, passage: Passage, paints: Sequence[Paint], look: ViewingConditions, cold: bool
) -> Painted:
    """Return a fire with its bright recesses and dark ridges, and specks if it is a cold one."""
    answer, targets = fire.answer, fire.targets
    if answer is None:
        return fire
    on = fire.on(passage)
    more, off = touches(on, paints, look), answer.delta_e
    found = specks(replace(on, coats=(*on.coats, *more)), paints, look) if cold else None
    if found is not None:
        coat, target, far = found
        more, off, targets = (*more, coat), (*off, far), (*targets, target)
    coats = (*answer.coats, *more)
    minutes = answer.minutes + sum(whole(coat, on) for coat in more)
    pots = len({coat.mixture for coat in coats})
    answer = changed(answer, coats=coats, delta_e=off, minutes=minutes, pots=pots)
    return changed(fire, answer=answer, targets=targets)


def _index(plan: Plan, name: str) -> int:
    for i, passage in enumerate(plan.passages):
        if passage.name == name:
            return i
    raise InputError(tr("'{0}' is no passage of the plan; name one that is.").format(name))
