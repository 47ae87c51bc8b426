"""A painted light written into the plan: nested coats on each surface, and the fire itself.

Each school is one order of work: a bright sketch on black, knocked back by darker glazes outward;
a dark glaze over all, then lighter steps that reach less and less far; white under all, then
saturated glazes outward and an ink over all. One mixture is laid again further in or out wherever
that comes near. Common practice.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from dataclasses import replace as changed
from typing import Literal, get_args

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.glow.flame import flame_targets, specks, touches
from zesty_veil.advise.glow.wanted import Lit, wanted
from zesty_veil.advise.match.laying import Towards
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.solve import MatchAnswer, MatchRequest, solve
from zesty_veil.advise.match.whynot import WhyNot
from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lab_from_lch, lch
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.drying import whole
from zesty_veil.plan.glow import Glow, Surface
from zesty_veil.plan.model import Coat, Ground, Passage, Plan, Primer, Target
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.tr import tr

School = Literal["sketch", "inward", "white"]
SCHOOLS: tuple[School, ...] = get_args(School)
_HOW: dict[School, tuple[Primer, Towards]] = {
    "sketch": ("black", "far"),
    "inward": ("black", "light"),
    "white": ("white", "far"),
}
# What painters go to for a glow: some more pots than for one colour.
USUAL_LIMITS = Limits(coats=6, mixes=3)
# The ink over a whole glow is thin, and of the glow's hue within so many degrees.
_INK_THINNING, _INK_WITHIN = 5.0, 25.0
_FLAT = np.zeros(1)


@dataclass(frozen=True)
class Painted:
    """One passage with what is wanted on it, and the coats found for that.

    lit : of a surface; none for the fire itself. answer : none until something is found. share :
    how much of the search is done, 0-1. why : what stands in the way at `where`, if all is found
    and it is still far off.
    """

    passage: int
    ground: Ground
    targets: tuple[Target, ...]
    lit: Lit | None
    answer: MatchAnswer | None
    share: float = 0.0
    why: WhyNot | None = None
    where: Target | None = None

    def on(self, passage: Passage) -> Passage:
        """Return the passage with its ground, what is wanted, and the coats found for that."""
        coats = self.answer.coats if self.answer is not None else ()
        return replace(
            _sized(passage, self.lit), ground=self.ground, coats=coats, targets=self.targets
        )


def painted(
    plan: Plan,
    glow: Glow,
    school: School,
    paints: Sequence[Paint],
    limits: Limits,
    flame: str | None = None,
    should_continue: Callable[[], bool] = lambda: True,
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

    Raises
    ------
    InputError
        If the light does not reach a surface, or there is nothing to paint with.
    """
    if school not in SCHOOLS:
        raise InputError(
            tr("There is no school '{0}'; use one of {1}.").format(school, ", ".join(SCHOOLS))
        )
    primer, towards = _HOW[school]
    limits = changed(limits, again=True)
    done: list[Painted] = []
    jobs: list[tuple[Painted, Towards]] = []
    for lit in wanted(plan, glow):
        jobs.append((Painted(lit.ringed.passage, Ground(primer), lit.targets, lit, None), towards))
    if flame is not None:
        source = _index(plan, glow.source)
        targets = flame_targets(plan, glow, flame)
        jobs.insert(0, (Painted(source, Ground("white"), targets, None, None), "far"))
    look = ViewingConditions(plan.light)
    for job, along in jobs:
        base = replace(job.on(plan.passages[job.passage]), coats=())
        over = _ink_over(job.targets, paints, look) if school == "white" and job.lit else ()
        if job.lit is not None and job.lit.ringed.surface.finish == "gloss":
            over = (*over, *_varnish(paints))
        wish = MatchRequest(
            (base,), (), job.targets, tuple(paints), limits, look, towards=along, over=over
        )  # fmt: skip
        now = job
        for found in solve(wish, should_continue):
            best = found.ways[0] if found.ways else None
            now = changed(job, answer=best, share=found.share, why=found.why, where=found.where)
            yield (*done, now)
        if not should_continue():
            return
        if job.lit is None:
            now = _touched(now, plan.passages[job.passage], paints, look, flame == "cold")
            yield (*done, now)
        done.append(now)


def with_painting(
    plan: Plan, glow: Glow, passages: Sequence[Painted], paints: Sequence[Paint]
) -> Plan:
    """Return the plan with a glow and the coats found for it, on grounds of their own."""
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
        if one.lit is not None:
            plan = edits.lit_by(plan, one.passage, glow.source)
    return plan


def _ink_over(
    targets: Sequence[Target], paints: Sequence[Paint], look: ViewingConditions
) -> tuple[Coat, ...]:
    """Return an ink of the glow's own hue, thin over all, or what is next to an ink; or none."""
    strongest = max((lch(np.array(target.lab)) for target in targets), key=lambda c: float(c[1]))
    near = []
    for paint in paints:
        if paint.kind in {"ink", "transparent"}:
            coat = Coat(Mixture((Part(paint.name),), "medium", _INK_THINNING), "glaze")
            alone = Passage("ink", ground=Ground("white"), coats=(coat,))
            hue = float(predict(alone, {paint.name: paint}, axis(1), _FLAT, look).lch[0, 0, 2])
            near.append((abs((hue - float(strongest[2]) + 180) % 360 - 180), coat))
    best = min(near, key=lambda each: each[0], default=None)
    return (best[1],) if best is not None and best[0] < _INK_WITHIN else ()


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


def _sized(passage: Passage, lit: Lit | None) -> Passage:
    """Return a passage as long as its form is from the light on."""
    if lit is None:
        return passage
    return replace(passage, length_mm=max(round(lit.ringed.length_mm, 1), 0.1))


def _index(plan: Plan, name: str) -> int:
    for i, passage in enumerate(plan.passages):
        if passage.name == name:
            return i
    raise InputError(tr("'{0}' is no passage of the plan; name one that is.").format(name))


def glow_now(plan: Plan) -> Glow:
    """Return the plan's glow with every passage that its source lights, or one to begin with.

    Raises
    ------
    InputError
        If no passage is lit by another one.
    """
    if plan.glow is None:
        return usual_glow(plan)
    known = {surface.passage for surface in plan.glow.surfaces}
    more = [p for p in plan.passages if p.lit_by == plan.glow.source and p.name not in known]
    surfaces = (*plan.glow.surfaces, *(_surface(p, plan) for p in more))
    return replace(plan.glow, surfaces=surfaces)


def usual_glow(plan: Plan) -> Glow:
    """Return a glow to begin with, from which passage lights which.

    Raises
    ------
    InputError
        If no passage is lit by another one.
    """
    source = next((p.lit_by for p in plan.passages if p.lit_by is not None), None)
    if source is None:
        raise InputError(tr("No passage is lit by another; choose one under Passage > Lit by."))
    lit = [p for p in plan.passages if p.lit_by == source]
    return Glow(source, tuple(_surface(p, plan) for p in lit))


def _surface(passage: Passage, plan: Plan) -> Surface:
    """Return a passage as a surface, with a colour of its own that is about its strongest."""
    field = predict(passage, plan.rack(), axis(9), np.zeros(1), ViewingConditions(plan.light))
    strongest = int(np.argmax(field.lch[:, 0, 1]))
    L, C, h = (float(v) for v in field.lch[strongest, 0])
    L, a, b = (round(float(v), 1) for v in lab_from_lch(np.array([max(L, 35.0), C, h])))
    return Surface(passage.name, (L, a, b))
