"""Which plans use a paint: the open one, those opened lately, and those of the log."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from zesty_veil.desktop.recent import recent
from zesty_veil.errors import VeilError
from zesty_veil.log.record import Record
from zesty_veil.plan.edits import used_only
from zesty_veil.plan.fileformat import load
from zesty_veil.plan.model import Plan

_MOST = 6


def known_plans(records: Iterable[Record]) -> dict[str, tuple[str, ...]]:
    """Return by paint the titles of plans opened lately and of the log, if they can be read."""
    plans = []
    for path in recent():
        try:
            plans.append(load(path))
        except VeilError:
            continue  # moved or damaged; opening it tells why
    out: dict[str, list[str]] = {}
    for plan in (*plans, *(record.plan for record in records)):
        for paint in used_only(plan).paints:
            titles = out.setdefault(paint.name, [])
            if plan.title not in titles:
                titles.append(plan.title)
    return {name: tuple(titles) for name, titles in out.items()}


def uses_of(name: str, plan: Plan, known: Mapping[str, tuple[str, ...]]) -> tuple[str, ...]:
    """Return in words where a paint is used, the open plan's passages first."""
    out = [
        f"{passage.name} (this plan)"
        for passage in plan.passages
        if any(
            part.paint == name
            for coat in (*passage.ground.coats, *passage.coats)
            for part in coat.mixture.parts
        )
    ]
    out += [f"“{title}”" for title in known.get(name, ()) if title != plan.title]
    return tuple(out[:_MOST])
