"""What a plan comes to, in a line: passages, passes, time."""

from __future__ import annotations

from zesty_veil.bench.tasks import laid_on
from zesty_veil.plan.drying import whole
from zesty_veil.plan.model import Plan
from zesty_veil.tr import counted, tr


def plan_minutes(plan: Plan) -> float:
    """Return the minutes of one figure if every film is waited for; a sitting takes less."""
    return sum(whole(coat, passage) for passage in plan.passages for coat in laid_on(passage))


def plan_words(plan: Plan) -> str:
    """Return what a plan comes to: '5 passages, 267 passes, about 5 h 30'."""
    passes = sum(coat.passes for passage in plan.passages for coat in laid_on(passage))
    told = counted(len(plan.passages), "{0} passage", "{0} passages")
    if not passes:
        return told
    return tr("{0}, {1}, about {2}").format(
        told, counted(passes, "{0} pass", "{0} passes"), hours_words(plan_minutes(plan))
    )


def hours_words(minutes: float) -> str:
    """Return minutes as a painter says them: '40 min', '5 h 30'.

    >>> hours_words(38.0), hours_words(331.0)
    ('40 min', '5 h 30')
    """
    whole_minutes = 5 * max(round(minutes / 5), 1)
    if whole_minutes < 60:
        return tr("{0} min").format(whole_minutes)
    hours, left = divmod(10 * round(whole_minutes / 10), 60)
    return tr("{0} h {1:02d}").format(hours, left) if left else tr("{0} h").format(hours)
