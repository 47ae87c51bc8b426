"""A painted light written into the plan: nested coats on each surface, and the fire itself.

Each school is one order of work: a bright sketch on black, knocked back by darker glazes outward;
a dark glaze over all, then lighter steps that reach less and less far; white under all, then
saturated glazes outward. Common practice.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.fire import SCHOOLS as FIRE_SCHOOLS
from zesty_veil.advise.fire import fire
from zesty_veil.advise.glow.wanted import Lit, wanted
from zesty_veil.advise.match.answers import Answer, Wish, answers
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.ramp import Towards
from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lab_from_lch, lch
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.glow import Glow, Surface
from zesty_veil.plan.model import Ground, Passage, Plan, Primer, Target
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import Look

School = Literal["sketch", "inward", "white"]
SCHOOLS: tuple[School, ...] = get_args(School)
_HOW: dict[School, tuple[Primer, Towards]] = {
    "sketch": ("black", "far"),
    "inward": ("black", "light"),
    "white": ("white", "far"),
}
# A fire is painted in so many steps, white first.
FIRE_STEPS = 6


@dataclass(frozen=True)
class Painted:
    """One passage with what is wanted on it, and the coats found for that.

    lit : of a surface; none for the fire itself. answer : none until something is found.
    """

    passage: int
    ground: Ground
    targets: tuple[Target, ...]
    lit: Lit | None
    answer: Answer | None

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
    still: Callable[[], bool] = lambda: True,
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
    still
        Asked between the steps whether it is still wanted.

    Raises
    ------
    InputError
        If the light does not reach a surface, or there is nothing to paint with.
    """
    if school not in SCHOOLS:
        raise InputError(f"There is no school '{school}'; use one of {', '.join(SCHOOLS)}.")
    primer, towards = _HOW[school]
    done: list[Painted] = []
    jobs: list[tuple[int, Ground, tuple[Target, ...], Lit | None, Towards]] = []
    for lit in wanted(plan, glow):
        jobs.append((lit.ringed.passage, Ground(primer), lit.targets, lit, towards))
    if flame is not None:
        source = _index(plan, glow.source)
        jobs.insert(0, (source, Ground("white"), _flame(plan, glow, flame), None, "far"))
    for index, ground, targets, on, along in jobs:
        base = replace(_sized(plan.passages[index], on), ground=ground, coats=(), targets=targets)
        wish = Wish(
            (base,), (), targets, tuple(paints), limits, Look(plan.light), towards=along,
            reasons=False,
        )  # fmt: skip
        now = Painted(index, ground, targets, on, None)
        for found in answers(wish, still):
            best = found.ways[0] if found.ways else None
            now = Painted(index, ground, targets, on, best)
            yield (*done, now)
        if not still():
            return
        done.append(now)


def written(plan: Plan, glow: Glow, passages: Sequence[Painted], paints: Sequence[Paint]) -> Plan:
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


def _sized(passage: Passage, lit: Lit | None) -> Passage:
    """Return a passage as long as its form is from the light on."""
    if lit is None:
        return passage
    return replace(passage, length_mm=max(round(lit.ringed.length_mm, 1), 0.1))


def _flame(plan: Plan, glow: Glow, school: str) -> tuple[Target, ...]:
    """Return the targets of the fire itself, in its school and its light's colour."""
    own = next((each for each in plan.fires if each.name == school), None)
    if own is not None:
        made = np.array(own.colours)
    elif school not in FIRE_SCHOOLS:
        known = ", ".join((*FIRE_SCHOOLS, *(each.name for each in plan.fires)))
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


def _index(plan: Plan, name: str) -> int:
    for i, passage in enumerate(plan.passages):
        if passage.name == name:
            return i
    raise InputError(f"'{name}' is no passage of the plan; name one that is.")


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
        raise InputError("No passage is lit by another; choose one under Passage > Lit by.")
    lit = [p for p in plan.passages if p.lit_by == source]
    return Glow(source, tuple(_surface(p, plan) for p in lit))


def _surface(passage: Passage, plan: Plan) -> Surface:
    """Return a passage as a surface, with a colour of its own that is about its strongest."""
    field = predict(passage, plan.rack(), axis(9), np.zeros(1), Look(plan.light))
    strongest = int(np.argmax(field.lch[:, 0, 1]))
    L, C, h = (float(v) for v in field.lch[strongest, 0])
    L, a, b = (round(float(v), 1) for v in lab_from_lch(np.array([max(L, 35.0), C, h])))
    return Surface(passage.name, (L, a, b))
