"""The last look at what a template has laid: nothing in it is remarked on that a press mends."""

from __future__ import annotations

from collections.abc import Sequence

from zesty_veil.advise.remark import RemarkKind
from zesty_veil.advise.remarks import remarks
from zesty_veil.errors import InputError, VeilError
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import used_only
from zesty_veil.plan.model import Plan
from zesty_veil.tr import tr

# What a press mends without asking for other paints or another picture.
_MENDED: frozenset[RemarkKind] = frozenset({
    "hidden", "nearly hidden", "wasted below", "large tips", "away too light", "piled up",
    "harsh step",
})  # fmt: skip
_ROUNDS = 4


# What spoils a passage so that nobody should lay it so.
_SPOILS: frozenset[RemarkKind] = frozenset({
    "dark below", "greyed", "mud", "sickly", "weak glow", "outshone", "away too light", "no gap",
    "hidden", "covered light",
})  # fmt: skip


def check_sound(plan: Plan, paints: Sequence[Paint]) -> None:
    """Say what spoils a plan that no opaque paint can better, because there is none.

    Raises
    ------
    InputError
        With the remark, and which paint is wanting.
    """
    if any(paint.kind == "opaque" for paint in paints):
        return
    for index, passage in enumerate(plan.passages):
        for remark in remarks(plan, index, paints):
            if remark.kind in _SPOILS:
                dark = remark.kind == "away too light"
                raise InputError(
                    tr(
                        "These paints cannot lay this on a {0} primer: {1} Add an opaque {2}."
                    ).format(
                        passage.ground.primer, remark.words, tr("black") if dark else tr("white")
                    )
                )


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
