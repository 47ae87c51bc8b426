"""Which plans use a paint: the open one, those opened lately, and those of the log."""

from __future__ import annotations

from collections.abc import Mapping

from zesty_veil.desktop.session.recent import recent
from zesty_veil.errors import VeilError
from zesty_veil.plan.edits import used_only
from zesty_veil.plan.fileformat import load
from zesty_veil.plan.model import Plan
from zesty_veil.tr import tr

_MOST = 6


def known_plans(logged: Mapping[str, tuple[str, ...]]) -> dict[str, tuple[str, ...]]:
    """Return by paint the titles of plans opened lately, if they can be read, and of the log."""
    plans = []
    for path in recent():
        try:
            plans.append(load(path))
        except VeilError:
            continue  # moved or damaged; opening it tells why
    out: dict[str, list[str]] = {}
    for plan in plans:
        for paint in used_only(plan).paints:
            out.setdefault(paint.name, []).append(plan.title)
    for name, titles in logged.items():
        out.setdefault(name, []).extend(titles)
    return {name: tuple(dict.fromkeys(titles)) for name, titles in out.items()}


def uses_of(name: str, plan: Plan, known: Mapping[str, tuple[str, ...]]) -> tuple[str, ...]:
    """Return in words where a paint is used, the open plan's passages first."""
    out = [
        tr("{0} (this plan)").format(passage.name)
        for passage in plan.passages
        if any(
            part.paint == name
            for coat in (*passage.ground.coats, *passage.coats)
            for part in coat.mixture.parts
        )
    ]
    out += [f"“{title}”" for title in known.get(name, ()) if title != plan.title]
    return tuple(out[:_MOST])
