"""Moves that painters make by habit: the mid mix over a border, and the push of both ends."""

from __future__ import annotations

from collections.abc import Sequence

from zesty_veil.advise.remedies import with_pigment
from zesty_veil.errors import InputError
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat, Plan
from zesty_veil.tr import tr

# A smoothing glaze: three parts of medium, three passes, half over each neighbour; common practice.
_SMOOTH_THINNING = 3.0
_SMOOTH_PASSES = 3
_SMOOTH_REACH = 0.06
# Ratios are met within this share, or in so many drops as near as can be.
_NEAR, _MOST_DROPS = 0.05, 24


def smooth_here(plan: Plan, passage: int, coat: int) -> Plan:
    """Return the plan with the mid mix of a coat and its neighbour glazed over their border.

    The neighbour is the coat next below that begins or ends apart from it; the border is the end
    of the upper coat that lies on the lower one.

    Raises
    ------
    InputError
        If no coat below has a border with it.
    """
    coats = plan.passages[passage].coats
    upper = coats[coat]
    for lower in reversed(coats[:coat]):
        border = _border(lower, upper)
        if border is not None and _parts(lower) != _parts(upper):
            break
    else:
        raise InputError(tr("This coat has no border with one below it; take another in hand."))
    mixture = Mixture(_mid_mix(lower, upper), "medium", _SMOOTH_THINNING)
    start, end = border - _SMOOTH_REACH, border + _SMOOTH_REACH
    laid = edits.with_span(Coat(mixture, "glaze", _SMOOTH_PASSES), start, end)
    laid = edits.with_feather(laid, 2 * _SMOOTH_REACH, 2 * _SMOOTH_REACH)
    return edits.add_coat(plan, passage, laid, coat + 1)


def _border(lower: Coat, upper: Coat) -> float | None:
    """Return the middle of the feather with which a coat begins or ends on another."""
    if upper.span[0] > 0 and lower.span[0] < upper.span[0]:
        return upper.span[0] - upper.feather[0] / 2
    if upper.span[1] < 1 and lower.span[1] > upper.span[1]:
        return upper.span[1] + upper.feather[1] / 2
    return None


def _parts(coat: Coat) -> set[str]:
    return {part.paint for part in coat.mixture.parts}


def _mid_mix(lower: Coat, upper: Coat) -> tuple[Part, ...]:
    """Return both mixtures in equal parts, in the fewest whole drops that come near it."""
    shares: dict[str, float] = {}
    for coat in (lower, upper):
        total = sum(p.parts for p in coat.mixture.parts)
        for part in coat.mixture.parts:
            shares[part.paint] = shares.get(part.paint, 0.0) + part.parts / total / 2
    best: tuple[float, list[int]] | None = None
    for total in range(2, _MOST_DROPS + 1):
        drops = [max(round(total * share), 1) for share in shares.values()]
        whole = sum(drops)
        error = max(abs(n / whole / s - 1) for n, s in zip(drops, shares.values(), strict=True))
        if best is None or error < best[0] - 1e-9:
            best = error, drops
        if best[0] <= _NEAR:
            break
    assert best is not None
    return tuple(Part(paint, float(n)) for paint, n in zip(shares, best[1], strict=True))


def push_ends(plan: Plan, passage: int, rack: Sequence[Paint]) -> Plan:
    """Return the plan with both ends pushed: a touch of white and thin yellow at the light, and a
    small amount of black mixed into the last colour at the far end.

    Both touches work because they are small.

    Raises
    ------
    PaintError
        If the rack lacks white, yellow or black alone.
    """
    white, yellow, black = (with_pigment(code, rack) for code in ("PW6", "PY74", "PBk7"))
    for paint in (white, yellow, black):
        plan = edits.hold(plan, paint)
    coats = plan.passages[passage].coats
    far = [coat for coat in coats if coat.span[1] == 1 and _parts(coat) != {black.name}]
    last = far[-1].mixture.parts[0].paint if far else black.name
    dark = (Part(black.name, 2), Part(last, 1)) if last != black.name else (Part(black.name),)
    touches = (
        Coat(Mixture((Part(white.name),), "water", 0.5), "loaded", 2, (0.0, 0.03), (0.0, 0.05)),
        Coat(Mixture((Part(yellow.name),), "water", 4.0), "glaze", 2, (0.0, 0.05), (0.0, 0.06)),
        Coat(Mixture(dark, "water", 3.0), "glaze", 3, (0.97, 1.0), (0.07, 0.0)),
    )
    for touch in touches:
        plan = edits.add_coat(plan, passage, touch)
    return plan
