"""Moves that painters make by habit: the mid mix over a border, and the push of both ends."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from zesty_veil.advise.drops import MOST_DROPS
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
_BESIDE = 0.02  # so far beyond a feather it is looked at what is seen there
# Ratios are met within this share, or in so many drops as near as can be.
_NEAR = 0.05


def smooth_here(plan: Plan, passage: int, coat: int) -> Plan:
    """Return the plan with the mid mix of what meets at a coat's border glazed over it.

    What meets there is the coat itself and what is seen beside it, whichever coat that is.

    Raises
    ------
    InputError
        If nothing else is seen beside it.
    """
    coats = plan.passages[passage].coats
    for border, beside in _borders(coats[coat]):
        other = _seen_at(coats, coat, beside)
        if other is not None:
            mixture = Mixture(_mid_mix(other, coats[coat]), "medium", _SMOOTH_THINNING)
            start, end = border - _SMOOTH_REACH, border + _SMOOTH_REACH
            laid = edits.with_span(Coat(mixture, "glaze", _SMOOTH_PASSES), start, end)
            laid = edits.with_feather(laid, 2 * _SMOOTH_REACH, 2 * _SMOOTH_REACH)
            return edits.add_coat(plan, passage, laid, coat + 1)
    raise InputError(tr("This coat has no border with another one; take another in hand."))


def _borders(coat: Coat) -> Iterator[tuple[float, float]]:
    """Yield the middle of each feather of a coat, and a place beyond it."""
    (start, end), (light, far) = coat.span, coat.feather
    if start > 0:
        yield start - light / 2, max(start - light - _BESIDE, 0.0)
    if end < 1:
        yield end + far / 2, min(end + far + _BESIDE, 1.0)


def _seen_at(coats: Sequence[Coat], coat: int, place: float) -> Coat | None:
    """Return what is seen at a place beside a coat: the last laid there that is not on it too."""
    own = coats[coat]
    for k in reversed(range(len(coats))):
        each = coats[k]
        there = each.span[0] <= place <= each.span[1]
        over_both = k > coat and each.span[0] <= own.span[0] and each.span[1] >= own.span[1]
        if k != coat and there and not over_both and _parts(each) != _parts(own):
            return each
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
    for total in range(2, MOST_DROPS + 1):
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
