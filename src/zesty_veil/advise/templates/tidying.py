"""The last look at what a template has laid: nothing in it is remarked on that a press mends."""

from __future__ import annotations

from collections.abc import Sequence

from zesty_veil.advise.remark import RemarkKind
from zesty_veil.advise.remarks import remarks
from zesty_veil.errors import VeilError
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import used_only
from zesty_veil.plan.model import Plan

# What a press mends without asking for other paints or another picture.
_MENDED: frozenset[RemarkKind] = frozenset({
    "hidden", "nearly hidden", "wasted below", "large tips", "away too light", "piled up",
    "harsh step",
})  # fmt: skip
_ROUNDS = 4


def tidied(plan: Plan, paints: Sequence[Paint]) -> Plan:
    """Return a plan with the remedies pressed that help, passage by passage."""
    for index in range(len(plan.passages)):
        for _ in range(_ROUNDS):
            found = remarks(plan, index, paints)
            mends = [r.mend for r in found if r.kind in _MENDED and r.mend is not None]
            if not mends:
                break
            try:
                plan = mends[0](plan)
            except VeilError:
                break  # it needs a paint that is not there
    return used_only(plan)
