"""Passages of a plan by their names, as the command line has them."""

from __future__ import annotations

from zesty_veil.errors import InputError
from zesty_veil.plan.model import Plan


def passage_number(plan: Plan, name: str | None) -> int:
    """Return which passage of a plan is meant; the first if none is named.

    Raises
    ------
    InputError
        If the plan has no such passage, or none at all.
    """
    if not plan.passages:
        raise InputError("The plan has no passage yet; add one to it first.")
    if name is None:
        return 0
    for i, passage in enumerate(plan.passages):
        if passage.name.casefold() == name.casefold():
            return i
    names = ", ".join(f"'{passage.name}'" for passage in plan.passages)
    raise InputError(f"There is no passage '{name}' in the plan; it has {names}.")
