"""A plan and what was learnt since it was laid: its paints, and the hand that lays it.

A plan never changes by itself. These functions tell what would change, and change it when asked.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from msgspec.structs import replace

from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import used_only
from zesty_veil.plan.model import OwnTool, Plan


def refined_since(plan: Plan, rack: Mapping[str, Paint]) -> tuple[str, ...]:
    """Return the paints a plan uses that the rack now knows otherwise, in the plan's order."""
    used = used_only(plan).paints
    return tuple(paint.name for paint in used if rack.get(paint.name, paint) != paint)


def with_paints(plan: Plan, rack: Mapping[str, Paint]) -> Plan:
    """Return a plan with its paints as a rack knows them; those not in the rack stay."""
    return replace(plan, paints=tuple(rack.get(paint.name, paint) for paint in plan.paints))


def in_hand(plan: Plan, hand: Sequence[OwnTool]) -> Plan:
    """Return a plan that is laid by a hand of which something is known, all its passages too."""
    own = tuple(hand)
    passages = tuple(replace(passage, own_hand=own) for passage in plan.passages)
    return replace(plan, passages=passages, own_hand=own)


def laid_by_own_hand(plan: Plan) -> Plan:
    """Return a plan of which every passage is laid by the plan's own hand."""
    if all(passage.own_hand == plan.own_hand for passage in plan.passages):
        return plan
    return in_hand(plan, plan.own_hand)
