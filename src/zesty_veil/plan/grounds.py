"""Grounds that painters prepare, as coats that lie below all others."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec.structs import replace

from zesty_veil.errors import PaintError
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import hold, set_passage, with_nozzle
from zesty_veil.plan.model import MOST_GROUND_COATS, Coat, Plan
from zesty_veil.tr import tr

GROUNDS: dict[str, str] = {
    "bare": "Primer alone",
    "zenithal": "White sprayed from above",
    "focused": "White round the light",
    "underpaint": "Coloured: pink, blue, violet",
    "warmed": "Pink, white from above, yellow",
}


def prepared_ground(plan: Plan, index: int, kind: str, rack: Sequence[Paint]) -> Plan:
    """Return the plan with one of `GROUNDS` under a passage, from paints of a rack.

    The white is the rack's whitest paint; the underpaint goes from warm pink at the light through
    blue to violet, each the rack's first paint of such a pigment.

    Raises
    ------
    PaintError
        If the rack has no such paint.
    """
    if kind == "bare":
        return with_ground_coats(plan, index, ())
    white = _with_pigment("PW6", rack)
    if kind == "underpaint":
        colours = [_with_pigment(code, rack) for code in _UNDERPAINT]
        return underpaint(plan, index, colours, white)
    if kind == "warmed":
        return warmed(plan, index, _with_pigment("PR122", rack), white, _with_pigment("PY74", rack))
    return zenithal(plan, index, white) if kind == "zenithal" else focused(plan, index, white)


# Quinacridone magenta, phthalocyanine blue, dioxazine violet.
_UNDERPAINT = ("PR122", "PB15:3", "PV23")


def _with_pigment(code: str, rack: Sequence[Paint]) -> Paint:
    for paint in rack:
        if paint.pigments == (code,):
            return paint
    raise PaintError(
        tr("The rack has no paint of {0} alone, which this ground needs; add one.").format(code)
    )


def with_ground_coats(plan: Plan, index: int, coats: Sequence[Coat], *paints: Paint) -> Plan:
    """Return the plan with a passage's ground made of its primer and some coats.

    The paints that the coats use are held by the plan from then on.
    """
    for paint in paints:
        plan = hold(plan, paint)
    passage = plan.passages[index]
    ground = replace(passage.ground, coats=tuple(coats))
    return set_passage(plan, index, replace(passage, ground=ground))


def zenithal(plan: Plan, index: int, white: Paint, nozzle: float = 0.0) -> Plan:
    """Return the plan with white sprayed from above (or from `nozzle` degrees) on a passage."""
    # What is in a can is sprayed as it is.
    coat = Coat(Mixture((Part(white.name),)), "spray", 2, nozzle=nozzle)
    return with_ground_coats(plan, index, (coat,), white)


def with_nozzles(plan: Plan, index: int, nozzle: float) -> Plan:
    """Return the plan with the sprays of a passage's ground led from another side, in degrees."""
    passage = plan.passages[index]
    coats = (c if c.nozzle is None else with_nozzle(c, nozzle) for c in passage.ground.coats)
    return with_ground_coats(plan, index, tuple(coats))


def focused(plan: Plan, index: int, white: Paint) -> Plan:
    """Return the plan with white airbrushed round the light only, thinning out from there."""
    mixture = Mixture((Part(white.name),), "water", 1.0)
    coat = Coat(mixture, "airbrush", 12, span=(0.0, 0.15), feather=(0.0, 0.45))
    return with_ground_coats(plan, index, (coat,), white)


def underpaint(plan: Plan, index: int, paints: Sequence[Paint], white: Paint) -> Plan:
    """Return the plan with a coloured underpaint: the paints in order along the axis.

    Each has white in it, as a transparent paint alone would only darken a dark primer, and reaches
    over its neighbours, so that the borders are mixtures.
    """
    width = 1.0 / len(paints)
    coats = []
    for i, paint in enumerate(paints):
        span = (i * width + width * 0.15, (i + 1) * width - width * 0.15)
        if i == 0:
            span = (0.0, span[1])
        if i == len(paints) - 1:
            span = (span[0], 1.0)
        mixture = Mixture((Part(paint.name, 2), Part(white.name, 1)), "water", 0.5)
        feather = (0.3 * width, 0.3 * width)
        coats.append(Coat(mixture, "loaded", 2, span=span, feather=feather))
    return with_ground_coats(plan, index, coats, *paints, white)


def warmed(plan: Plan, index: int, pink: Paint, white: Paint, yellow: Paint) -> Plan:
    """Return the plan with pink under all, white from above over it, and a thin yellow over that.

    Undersides stay pink, which shades the yellow warm; common practice.
    """
    base = Coat(Mixture((Part(pink.name, 2), Part(white.name, 1)), "water", 0.5), "loaded", 2)
    light = Coat(Mixture((Part(white.name),)), "spray", 2, nozzle=0.0)
    glaze = Coat(Mixture((Part(yellow.name),), "water", 2.0), "glaze", 3)
    return with_ground_coats(plan, index, (base, light, glaze), pink, white, yellow)


def ground_in_hand(plan: Plan, index: int) -> Plan:
    """Return the plan with the coats of a passage's ground among its others, the lowest of them.

    There they are drawn, dragged and changed as coats are; nothing of the colours changes.

    Raises
    ------
    PaintError
        If the ground has no coats.
    """
    passage = plan.passages[index]
    if not passage.ground.coats:
        raise PaintError(
            tr("The ground of {0} is its primer alone; prepare one, or lay coats.").format(
                passage.name
            )
        )
    coats = (*passage.ground.coats, *passage.coats)
    ground = replace(passage.ground, coats=())
    return set_passage(plan, index, replace(passage, ground=ground, coats=coats))


def ground_shown(plan: Plan, index: int, shown: bool = True) -> Plan:
    """Return the plan as it is drawn where a ground's coats are shown below all others.

    `ground_from` is the way back.
    """
    ground = plan.passages[index].ground
    return ground_in_hand(plan, index) if shown and ground.coats else plan


def ground_from(plan: Plan, index: int, count: int) -> Plan:
    """Return the plan with the lowest `count` coats of a passage counted as its ground.

    Raises
    ------
    PaintError
        If there are more than a ground can have.
    """
    return counted_as_ground(plan, index, count - 1) if count else plan


def counted_as_ground(plan: Plan, index: int, coat: int) -> Plan:
    """Return the plan with a coat, and all below it, counted as ground: an underpaint of one's own.

    Raises
    ------
    PaintError
        If there are more than a ground can have.
    """
    passage = plan.passages[index]
    laid = (*passage.ground.coats, *passage.coats[: coat + 1])
    if len(laid) > MOST_GROUND_COATS:
        raise PaintError(
            tr("A ground has at most {0} coats; these are {1}.").format(
                MOST_GROUND_COATS, len(laid)
            )
        )
    rest = passage.coats[coat + 1 :]
    ground = replace(passage.ground, coats=laid)
    return set_passage(plan, index, replace(passage, ground=ground, coats=rest))
