"""What a plan must satisfy before anything is computed from it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator

from zesty_veil.errors import InputError
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.limits import limit_faults
from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.mixture import Mixture
from zesty_veil.paint.paint import Fluorescence, Paint
from zesty_veil.paint.tool import tools
from zesty_veil.plan.glow import fire_faults, glow_faults
from zesty_veil.plan.model import (
    FORM_NAMES,
    MOST_OWN,
    MOST_PASSAGES,
    Coat,
    OwnTool,
    Passage,
    Plan,
    Sculpt,
)
from zesty_veil.tr import tr

# Of all passages together: what is reckoned for a whole plan takes a second for every few hundred.
MOST_COATS_IN_PLAN = 1000


def check_plan(plan: Plan) -> None:
    """Refuse a plan that holds something impossible.

    Raises
    ------
    InputError
        With one sentence: where, what, and what it should be.
    """
    for fault in _plan_faults(plan):
        raise InputError(fault)


def check_edit(plan: Plan, before: Plan) -> None:
    """Refuse an edited plan that its file could not hold; raises like `check_plan`.

    What is the same as before the edit is not looked at again, so that a drag stays quick and a
    fault that was there already keeps nobody from mending something else.
    """
    paints = {id(paint) for paint in before.paints}
    fresh = tuple(paint for paint in plan.paints if id(paint) not in paints)
    for fault in _paints_faults(plan, fresh):
        raise InputError(fault)
    held = plan.rack().keys() >= before.rack().keys()
    passages = {id(passage) for passage in before.passages} if held else set()
    changed = tuple(passage for passage in plan.passages if id(passage) not in passages)
    for fault in (
        *_whole_faults(plan),
        *_ties_in_plan(plan),
        *_passages_faults(plan, changed),
    ):
        raise InputError(fault)


def check_hand(hand: tuple[OwnTool, ...]) -> None:
    """Refuse a hand that holds something impossible; raises like `check_plan`."""
    for fault in _hand_faults(hand):
        raise InputError(fault)


def check_coat(coat: Coat, paints: dict[str, Paint]) -> None:
    """Refuse one coat that holds something impossible; raises like `check_plan`."""
    for fault in _coat_faults(coat, paints):
        raise InputError(f"Coat: {fault}")


def _plan_faults(plan: Plan) -> Iterator[str]:
    # Counts first, so that what follows is looked at only where it is not endless.
    yield from _whole_faults(plan)
    yield from _paints_faults(plan, plan.paints)
    yield from _ties_in_plan(plan)
    yield from _passages_faults(plan, plan.passages)


def _paints_faults(plan: Plan, paints: Iterable[Paint]) -> Iterator[str]:
    for paint in paints:
        for fault in paint_faults(paint):
            yield tr("Paint '{0}': {1}").format(paint.name, fault)
    for name in _twice(paint.name for paint in plan.paints):
        yield tr("The paint '{0}' is held more than once; keep one.").format(name)


def _few(what: str, count: int, most: int) -> Iterator[str]:
    if count > most:
        yield tr("{0}: there are {1}, and at most {2} can be held; leave some out.").format(
            what, count, most
        )


def _whole_faults(plan: Plan) -> Iterator[str]:
    yield from limit_faults(plan)
    surfaces = len(plan.glow.surfaces) if plan.glow is not None else 0
    yield from _few("Surfaces of the glow", surfaces, MOST_PASSAGES)
    coats = sum(len(p.coats) + len(p.ground.coats) for p in plan.passages)
    yield from _few("Coats of all passages together", coats, MOST_COATS_IN_PLAN)
    if plan.light not in LIGHTS:
        yield tr("The light '{0}' is not known; it must be one of {1}.").format(
            plan.light, ", ".join(LIGHTS)
        )


def _ties_in_plan(plan: Plan) -> Iterator[str]:
    yield from _sculpts_faults(plan)
    for hand in (plan.own_hand, *(passage.own_hand for passage in plan.passages)):
        yield from _hand_faults(hand)
    yield from _glow_in_plan(plan)
    for name in _twice(passage.name for passage in plan.passages):
        yield tr("Two passages are called '{0}'; give each its own name.").format(name)


def _passages_faults(plan: Plan, passages: Iterable[Passage]) -> Iterator[str]:
    rack = plan.rack()
    for passage in passages:
        for fault in (*_passage_faults(passage, rack), *_ties_faults(passage, plan)):
            yield tr("Passage '{0}': {1}").format(passage.name, fault)


def _hand_faults(hand: tuple[OwnTool, ...]) -> Iterator[str]:
    yield from _few("Own hand", len(hand), MOST_OWN)
    for own in hand:
        if own.tool not in tools():
            yield tr("Own hand: the tool '{0}' is not known; use one of {1}.").format(
                own.tool, ", ".join(tools())
            )
        for fault in limit_faults(own):
            yield tr("Own hand with {0}: {1}").format(own.tool, fault)


def _glow_in_plan(plan: Plan) -> Iterator[str]:
    if plan.glow is not None:
        for fault in glow_faults(plan.glow, tuple(passage.name for passage in plan.passages)):
            yield f"Glow: {fault}"
    for fault in fire_faults(plan.fires):
        yield f"Fires: {fault}"


def _twice(names: Iterable[str]) -> list[str]:
    return [name for name, count in Counter(names).items() if count > 1]


def _ties_faults(passage: Passage, plan: Plan) -> Iterator[str]:
    """Yield what a passage names that the plan does not hold."""
    forms = (*FORM_NAMES, *(sculpt.name for sculpt in plan.sculpts))
    if passage.form not in forms:
        yield tr("the form '{0}' is not known; it must be one of {1}.").format(
            passage.form, ", ".join(forms)
        )
    names = (None, *(other.name for other in plan.passages))
    for what, name in (("surround", passage.surround), ("light", passage.lit_by)):
        if name not in names:
            yield tr(
                "its {0} '{1}' is not a passage of the plan; name one that is, or none."
            ).format(what, name)
    if passage.lit_by == passage.name:
        yield tr("it is lit by itself; name another passage, or none.")


def _sculpts_faults(plan: Plan) -> Iterator[str]:
    for sculpt in plan.sculpts:
        for fault in _sculpt_faults(sculpt):
            yield tr("Sculpt '{0}': {1}").format(sculpt.name, fault)
    for name in _twice(sculpt.name for sculpt in plan.sculpts):
        yield tr("Two sculpts are called '{0}'; give each its own name.").format(name)


def _sculpt_faults(sculpt: Sculpt) -> Iterator[str]:
    yield from limit_faults(sculpt)
    if not sculpt.name.strip() or sculpt.name in FORM_NAMES:
        yield tr("its name is empty or that of a form; give it its own.")
    # Deflated zeros take a thousandth of their room; more than this can be no view.
    if not 8 <= len(sculpt.heights) <= 3 * max(sculpt.side, 16) ** 2:
        yield tr("its heights are damaged; take its view again.")


def paint_faults(paint: Paint) -> Iterator[str]:
    """Yield what is impossible in a paint, as ends of sentences."""
    if not paint.name.strip():
        yield tr("it has no name; give it one.")
    yield from limit_faults(paint)
    if paint.glow is not None:
        yield from _glow_faults(paint.glow, paint)
    if paint.flakes is not None:
        yield from limit_faults(paint.flakes, {"mirror": "the mirror of its flakes"})


def _glow_faults(glow: Fluorescence, paint: Paint) -> Iterator[str]:
    words = {"emission": "the emission of its glow", "mu_a": "the mu_a of its glow"}
    faults = tuple(limit_faults(glow, words))
    yield from faults
    if faults:
        return
    excited = [i for i, k in enumerate(glow.mu_a) if k > 0]
    if any(not 0 <= k <= whole for k, whole in zip(glow.mu_a, paint.mu_a, strict=False)):
        yield tr("the mu_a of its glow must be from 0 to that of the paint in every band.")
    if sum(glow.emission) > 1.001:
        yield tr("the emission of its glow must have the sum 1.")
    if excited and any(e > 0 for e in glow.emission[: max(excited) + 1]):
        yield tr("its glow sends out light where it is excited; it may do so only beyond.")


def _passage_faults(passage: Passage, rack: dict[str, Paint]) -> Iterator[str]:
    if not passage.name.strip():
        yield tr("it has no name; give it one.")
    yield from limit_faults(passage)
    yield from limit_faults(passage.axis)
    for i, target in enumerate(passage.targets, 1):
        for fault in limit_faults(target):
            yield tr("target {0}: {1}").format(i, fault)
    for fault in limit_faults(passage.ground):
        yield tr("its ground: {0}").format(fault)
    for i, coat in enumerate(passage.ground.coats, 1):
        for fault in _coat_faults(coat, rack):
            yield tr("ground coat {0}: {1}").format(i, fault)
    for i, coat in enumerate(passage.coats, 1):
        for fault in _coat_faults(coat, rack):
            yield f"coat {i}: {fault}"


def _pot_faults(mixture: Mixture, rack: dict[str, Paint]) -> Iterator[str]:
    if not mixture.parts:
        yield tr("its mixture has no paint; add one.")
    yield from limit_faults(mixture)
    for name in _twice(part.paint for part in mixture.parts):
        yield tr("'{0}' stands in its mixture more than once; add up its parts.").format(name)
    for part in mixture.parts:
        if part.paint not in rack:
            yield tr("the paint '{0}' is not among the paints of the plan; add it there.").format(
                part.paint
            )
        yield from limit_faults(part, {"parts": f"parts of '{part.paint}'"})


def _coat_faults(coat: Coat, rack: dict[str, Paint]) -> Iterator[str]:
    yield from _pot_faults(coat.mixture, rack)
    yield from limit_faults(coat)
    if coat.tool not in tools():
        yield tr("the tool '{0}' is not known; it must be one of {1}.").format(
            coat.tool, ", ".join(tools())
        )
    if coat.span[0] > coat.span[1]:
        yield tr("its span ends before it starts; swap the two numbers.")
    if coat.stagger and len(coat.stagger) != coat.passes:
        yield tr("its stagger has {0} shares; it must have one a pass, or none.").format(
            len(coat.stagger)
        )
    if coat.stagger and abs(sum(coat.stagger) - 1) > 1e-6:
        yield tr("the shares of its stagger have the sum {0:g}; it must be 1.").format(
            sum(coat.stagger)
        )
    if not coat.sites or len(set(coat.sites)) != len(coat.sites):
        yield tr("its sites must be some of {0}, each once.").format(", ".join(SITES))
