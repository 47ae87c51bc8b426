"""Edits: functions from a plan to a new plan.

Numbers given by hand are held to their limits here, so that no edit can make a plan that
`check_plan` would refuse.
"""

from __future__ import annotations

from collections.abc import Sequence

from msgspec.structs import replace

from zesty_veil.errors import InputError
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.paint.kinds import KINDS, USUAL_TOOL
from zesty_veil.paint.laydown import SITES, Site
from zesty_veil.paint.mixture import MOST_PARTS, MOST_THINNING, Mixture, Part, Thinner
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.check import MOST_COATS_IN_PLAN
from zesty_veil.plan.glow import Fire, Glow, renamed, without
from zesty_veil.plan.model import (
    LEAST_COVER,
    MOST_AREA_MM2,
    MOST_COATS,
    MOST_LENGTH_MM,
    MOST_PASSAGES,
    MOST_PASSES,
    Axis,
    Coat,
    Hand,
    Passage,
    Plan,
    Primer,
    Sculpt,
    Stroke,
    Target,
)
from zesty_veil.tr import tr

# Targets closer than this to each other on the axis are the same place.
_SAME_PLACE = 0.02

# So near to an end nobody has read a place; and so far a new coat thins out, of the axis.
_READ, _THINS = 0.04, 0.2


def held(number: float, low: float, high: float) -> float:
    """Return the number nearest to `number` within limits."""
    return min(max(number, low), high)


def hold(plan: Plan, paint: Paint) -> Plan:
    """Return the plan holding a paint; a paint of that name that it holds already stays."""
    if paint.name in plan.rack():
        return plan
    return replace(plan, paints=(*plan.paints, paint))


def used_only(plan: Plan) -> Plan:
    """Return the plan without the paints that no coat uses, and without sculpts not worn."""
    coats = (c for a in plan.passages for c in (*a.ground.coats, *a.coats))
    used = {part.paint for coat in coats for part in coat.mixture.parts}
    worn = {passage.form for passage in plan.passages}
    return replace(
        plan,
        paints=tuple(p for p in plan.paints if p.name in used),
        sculpts=tuple(s for s in plan.sculpts if s.name in worn),
    )


def set_passage(plan: Plan, index: int, passage: Passage) -> Plan:
    """Return the plan with one passage replaced."""
    passages = list(plan.passages)
    passages[index] = passage
    return replace(plan, passages=tuple(passages))


def add_passage(plan: Plan, passage: Passage) -> Plan:
    """Return the plan with a passage at the end, its name made its own."""
    if len(plan.passages) >= MOST_PASSAGES:
        raise InputError(
            tr("A plan holds at most {0} passages; start another plan.").format(MOST_PASSAGES)
        )
    fresh = replace(passage, name=_own_name(plan, passage.name))
    return replace(plan, passages=(*plan.passages, fresh))


def remove_passage(plan: Plan, index: int) -> Plan:
    """Return the plan without a passage; nothing names it as its surround or light any more."""
    gone = plan.passages[index].name
    rest = [p for i, p in enumerate(plan.passages) if i != index]
    glow = None if plan.glow is None else without(plan.glow, gone)
    return replace(plan, passages=tuple(_renamed(p, gone, None) for p in rest), glow=glow)


def rename_passage(plan: Plan, index: int, name: str) -> Plan:
    """Return the plan with a passage renamed, also where it is named as a surround or light."""
    old = plan.passages[index].name
    name = " ".join(name.split())
    if not name or name == old:
        return plan
    name = _own_name(plan, name)
    plan = set_passage(plan, index, replace(plan.passages[index], name=name))
    glow = None if plan.glow is None else renamed(plan.glow, old, name)
    return replace(plan, passages=tuple(_renamed(p, old, name) for p in plan.passages), glow=glow)


def size_passage(plan: Plan, index: int, length_mm: float, area_mm2: float) -> Plan:
    """Return the plan with a passage's length along the axis and its area."""
    passage = replace(
        plan.passages[index],
        length_mm=held(length_mm, 0.1, MOST_LENGTH_MM),
        area_mm2=held(area_mm2, 0.01, MOST_AREA_MM2),
    )
    return set_passage(plan, index, passage)


def set_form(plan: Plan, index: int, form: str) -> Plan:
    """Return the plan with a passage seen on another form, or on a sculpt of the plan."""
    return set_passage(plan, index, replace(plan.passages[index], form=form))


def set_sculpt(plan: Plan, index: int, sculpt: Sculpt, axis: Axis) -> Plan:
    """Return the plan with a passage seen on a sculpt, which the plan holds from then on.

    A sculpt of that name that the plan held before is replaced.
    """
    others = tuple(s for s in plan.sculpts if s.name != sculpt.name)
    passage = replace(plan.passages[index], form=sculpt.name, axis=axis)
    return set_passage(replace(plan, sculpts=(*others, sculpt)), index, passage)


def set_axis(plan: Plan, index: int, axis: Axis) -> Plan:
    """Return the plan with a passage's axis run otherwise over its sculpt."""
    return set_passage(plan, index, replace(plan.passages[index], axis=axis))


def set_target(plan: Plan, index: int, target: Target) -> Plan:
    """Return the plan with a wanted colour on a passage, in place of one just there."""
    passage = plan.passages[index]
    kept = [t for t in passage.targets if abs(t.place - target.place) > _SAME_PLACE]
    targets = tuple(sorted((*kept, target), key=lambda t: t.place))
    return set_passage(plan, index, replace(passage, targets=targets))


def aim_at(plan: Plan, index: int, targets: Sequence[Target]) -> Plan:
    """Return the plan with just these targets on a passage."""
    passage = plan.passages[index]
    return set_passage(plan, index, replace(passage, targets=tuple(targets)))


def drop_target(plan: Plan, index: int, place: float) -> Plan:
    """Return the plan without the wanted colour nearest to a place of a passage."""
    passage = plan.passages[index]
    if not passage.targets:
        return plan
    gone = min(passage.targets, key=lambda t: abs(t.place - place))
    kept = tuple(t for t in passage.targets if t is not gone)
    return set_passage(plan, index, replace(passage, targets=kept))


def _room_for(plan: Plan, more: int) -> None:
    count = sum(len(p.coats) + len(p.ground.coats) for p in plan.passages)
    if count + more > MOST_COATS_IN_PLAN:
        raise InputError(
            tr("A plan holds at most {0} coats; take some away, or begin another.").format(
                MOST_COATS_IN_PLAN
            )
        )


def copy_passage(plan: Plan, index: int) -> Plan:
    """Return the plan with a copy of a passage at its end, under a name of its own."""
    passage = plan.passages[index]
    _room_for(plan, len(passage.coats) + len(passage.ground.coats))
    return add_passage(plan, passage)


def surround(plan: Plan, index: int, name: str | None) -> Plan:
    """Return the plan with a passage surrounded by another one, by its name, or by none."""
    return set_passage(plan, index, replace(plan.passages[index], surround=name))


def lit_by(plan: Plan, index: int, name: str | None) -> Plan:
    """Return the plan with a passage lit by the painted light of another one, or by none."""
    return set_passage(plan, index, replace(plan.passages[index], lit_by=name))


def keep_fire(plan: Plan, colours: Sequence[tuple[float, float, float]]) -> Plan:
    """Return the plan with a fire of the painter's own, under a name that is free."""
    taken = {fire.name for fire in plan.fires}
    names = (f"own fire {n}" for n in range(1, len(taken) + 2))
    name = next(name for name in names if name not in taken)
    return replace(plan, fires=(*plan.fires, Fire(name, tuple(colours))))


def is_lit(plan: Plan, index: int) -> bool:
    """Tell whether a painted light falls on a passage: another one's, or one off the figure."""
    passage = plan.passages[index]
    if passage.lit_by is not None:
        return True
    glow = plan.glow
    return glow is not None and not glow.source and passage.name in _lit(glow)


def _lit(glow: Glow) -> set[str]:
    return {surface.passage for surface in glow.surfaces}


def set_glow(plan: Plan, glow: Glow | None) -> Plan:
    """Return the plan with a painted light, or without one."""
    return replace(plan, glow=glow)


def prime(plan: Plan, index: int, primer: Primer) -> Plan:
    """Return the plan with a passage's primer, in place of a measured colour too."""
    passage = plan.passages[index]
    ground = replace(passage.ground, primer=primer, measured=None)
    return set_passage(plan, index, replace(passage, ground=ground))


def set_light(plan: Plan, light: str) -> Plan:
    """Return the plan seen under another light; raises InputError if there is no such light."""
    if light not in LIGHTS:
        raise InputError(
            tr("There is no light '{0}'; use one of {1}.").format(light, ", ".join(LIGHTS))
        )
    return replace(plan, light=light)


def set_hand(plan: Plan, hand: Hand) -> Plan:
    """Return the plan as painted by another hand."""
    return replace(plan, hand=hand)


def retitle(plan: Plan, title: str) -> Plan:
    """Return the plan under another title; an empty one leaves the old."""
    title = " ".join(title.split())
    return replace(plan, title=title) if title else plan


def with_coats(passage: Passage, coats: tuple[Coat, ...]) -> Passage:
    """Return a passage with other coats."""
    return replace(passage, coats=coats)


def set_coat(plan: Plan, passage: int, index: int, coat: Coat) -> Plan:
    """Return the plan with one coat replaced."""
    coats = list(plan.passages[passage].coats)
    coats[index] = coat
    return _coats(plan, passage, tuple(coats))


def usual_coat(paint: Paint, span: tuple[float, float] = (0.0, 1.0)) -> Coat:
    """Return a coat of a paint as a painter would lay it when nothing is said."""
    mixture = Mixture((Part(paint.name),), "water", KINDS[paint.kind].thinning)
    return Coat(mixture, USUAL_TOOL[paint.kind], span=span)


def placed_coat(paint: Paint, passage: Passage, place: float) -> Coat:
    """Return a usual coat where it makes sense on a passage.

    The first coat lies all over, and so does what is clear. Others lie from the place that is read
    to the far end; with nothing read but an end, over the outer half. They thin out towards the
    light.
    """
    coat = usual_coat(paint)
    if not passage.coats or KINDS[paint.kind].clear:
        return coat
    start = place if _READ <= place <= 1 - _READ else 0.5
    return replace(coat, span=(round(start, 4), 1.0), feather=(round(min(_THINS, start), 4), 0.0))


def add_coat(plan: Plan, passage: int, coat: Coat, at: int | None = None) -> Plan:
    """Return the plan with a coat put in at a place, by default on top."""
    coats = list(plan.passages[passage].coats)
    if len(coats) >= MOST_COATS:
        raise InputError(
            tr("A passage holds at most {0} coats; take one away first.").format(MOST_COATS)
        )
    _room_for(plan, 1)
    coats.insert(len(coats) if at is None else at, coat)
    return _coats(plan, passage, tuple(coats))


def remove_coat(plan: Plan, passage: int, index: int) -> Plan:
    """Return the plan without a coat."""
    coats = plan.passages[passage].coats
    return _coats(plan, passage, coats[:index] + coats[index + 1 :])


def move_coat(plan: Plan, passage: int, index: int, to: int) -> Plan:
    """Return the plan with a coat moved to another place in the order."""
    coats = list(plan.passages[passage].coats)
    coat = coats.pop(index)
    coats.insert(int(held(to, 0, len(coats))), coat)
    return _coats(plan, passage, tuple(coats))


def with_passes(coat: Coat, passes: int) -> Coat:
    """Return the coat with another number of passes."""
    passes = int(held(passes, 1, MOST_PASSES))
    # A stagger is made for its number of passes; another number shares the feather evenly again.
    return replace(coat, passes=passes, stagger=coat.stagger if passes == coat.passes else ())


def with_thinning(coat: Coat, thinning: float, thinner: Thinner | None = None) -> Coat:
    """Return the coat thinned otherwise."""
    mixture = replace(
        coat.mixture,
        thinning=round(held(thinning, 0, MOST_THINNING), 2),
        thinner=thinner or coat.mixture.thinner,
    )
    return replace(coat, mixture=mixture)


def with_span(coat: Coat, start: float, end: float) -> Coat:
    """Return the coat over another span; ends that cross are swapped."""
    start, end = sorted((held(start, 0, 1), held(end, 0, 1)))
    return replace(coat, span=(round(start, 4), round(end, 4)))


def with_feather(coat: Coat, light: float, far: float) -> Coat:
    """Return the coat with other feathers."""
    return replace(coat, feather=(round(held(light, 0, 1), 4), round(held(far, 0, 1), 4)))


def with_parts(coat: Coat, paint: str, parts: float) -> Coat:
    """Return the coat with some parts of a paint; 0 takes it out, but the last one stays."""
    old = {p.paint: p.parts for p in coat.mixture.parts}
    old[paint] = held(parts, 0, MOST_PARTS)
    kept = tuple(Part(name, n) for name, n in old.items() if n >= 0.01)
    if not kept:
        return coat
    return replace(coat, mixture=replace(coat.mixture, parts=kept))


def swap_paint(coat: Coat, old: str, new: str) -> Coat:
    """Return the coat with one paint in place of another, keeping its parts."""
    parts: dict[str, float] = {}
    for part in coat.mixture.parts:
        name = new if part.paint == old else part.paint
        parts[name] = parts.get(name, 0.0) + part.parts
    kept = tuple(Part(n, min(p, MOST_PARTS)) for n, p in parts.items())
    return replace(coat, mixture=replace(coat.mixture, parts=kept))


def with_stroke(coat: Coat, stroke: Stroke) -> Coat:
    """Return the coat with its strokes ending elsewhere."""
    return replace(coat, stroke=stroke)


def with_cover(coat: Coat, cover: float | None) -> Coat:
    """Return a coat whose passes touch another share of the area; none is the tool's own."""
    return replace(coat, cover=None if cover is None else held(cover, LEAST_COVER, 1))


def with_nozzle(coat: Coat, nozzle: float | None) -> Coat:
    """Return the coat sprayed from another angle, or square on everywhere (none)."""
    return replace(coat, nozzle=None if nozzle is None else held(nozzle, -180, 180))


def with_sites(coat: Coat, sites: tuple[Site, ...]) -> Coat:
    """Return the coat reaching other sites; it always keeps at least one."""
    kept = tuple(site for site in SITES if site in sites)
    return replace(coat, sites=kept) if kept else coat


def _coats(plan: Plan, passage: int, coats: tuple[Coat, ...]) -> Plan:
    return set_passage(plan, passage, replace(plan.passages[passage], coats=coats))


def _renamed(passage: Passage, old: str, name: str | None) -> Passage:
    """Return a passage with another name for one that it names."""
    surround = name if passage.surround == old else passage.surround
    light = name if passage.lit_by == old else passage.lit_by
    return replace(passage, surround=surround, lit_by=light)


def _own_name(plan: Plan, name: str) -> str:
    taken = {p.name for p in plan.passages}
    fresh, number = name, 2
    while fresh in taken:
        fresh, number = f"{name} {number}", number + 1
    return fresh
