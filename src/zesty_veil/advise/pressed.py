"""Remedies pressed for a trial: one that raises a worse remark than its own is not offered."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import replace

from zesty_veil.advise.remark import Remark
from zesty_veil.errors import VeilError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.plan.drying import whole
from zesty_veil.plan.model import Plan
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.recalled import flat_field
from zesty_veil.tr import tr

# What costs so much more than the remark that was mended is worse; and what is left of that is
# still there if it is this much of it.
_WORSE, _LEFT = 1.15, 0.98
_PLACES = 33

Judge = Callable[[Plan], Sequence[Remark]]


def sure_remedies(
    plan: Plan,
    found: Sequence[Remark],
    judge: Judge,
    should_continue: Callable[[], bool] = lambda: True,
) -> tuple[Remark, ...]:
    """Return remarks on a plan, those whose remedy is not sure to help without one.

    Parameters
    ----------
    plan, found
        The plan, and what was remarked on it.
    judge
        Remarks on a plan, each with its cost.
    should_continue
        Asked between the remedies; when it says no, the rest stay as they are.
    """
    out = []
    for remark in found:
        tried = remark.mend is not None and should_continue()
        if tried and not _helps(plan, remark, found, judge):
            remark = replace(remark, mend=None, remedy="")  # noqa: PLW2901
        elif tried:
            remark = _with_effect(plan, remark)  # noqa: PLW2901
        out.append(remark)
    return tuple(out)


def _with_effect(plan: Plan, remark: Remark) -> Remark:
    """Return a remark with the plan that its remedy leads to, and what that changes."""
    assert remark.mend is not None
    try:
        after = remark.mend(plan)
    except VeilError:
        return remark  # pressed, it says what it lacks
    passes, minutes, labs = [], [], []
    for each in (plan, after):
        passage, look = each.passages[remark.passage], ViewingConditions(each.light)
        passes.append(sum(coat.passes for coat in passage.coats))
        minutes.append(sum(whole(coat, passage) for coat in passage.coats))
        labs.append(flat_field(passage, each.rack(), _PLACES, look).lab)
    words = tr(
        "{0} → {1} passes, about {2:.0f} → {3:.0f} min, changes the colour by dE {4:.0f}"
    ).format(*passes, *minutes, float(ciede2000(*labs).max()))
    return replace(remark, effect=words, after=after)


def _helps(plan: Plan, remark: Remark, found: Sequence[Remark], judge: Judge) -> bool:
    """Tell whether a remedy makes its remark go away or less, and raises no worse one."""
    assert remark.mend is not None
    # What nobody sees changes nothing that is seen: what is told then was there before.
    if remark.kind == "hidden":
        return True
    try:
        mended = remark.mend(plan)
        after = judge(mended)
    except VeilError:
        return True  # pressed, it says what it lacks
    coats, there = (p.passages[remark.passage].coats for p in (plan, mended))
    about = None if remark.coat is None else coats[remark.coat].mixture
    for left in after:
        same = left.kind == remark.kind and left.number >= _LEFT * remark.number
        if same and (None if left.coat is None else there[left.coat].mixture) == about:
            return False
    known = Counter(each.kind for each in found)
    count = Counter(each.kind for each in after)
    return not any(
        count[each.kind] > known[each.kind]
        and each.kind != remark.kind
        and each.cost > _WORSE * remark.cost
        for each in after
    )
