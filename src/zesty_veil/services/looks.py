"""How a plan looked when it was saved, beside how it looks now: predictions get better. No Qt."""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple

import numpy as np

from zesty_veil.errors import VeilError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.plan import edits
from zesty_veil.plan.fileformat import PlanFile, SavedLook, save
from zesty_veil.plan.model import Passage, Plan, Target
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.tr import tr

_PLACES, _TARGETS = 11, 5
_FLAT = np.zeros(1)
_SEEN = 2.0  # dE00 from which a change is seen side by side; common practice
_NAMED = 3  # passages that a sentence names


class Moved(NamedTuple):
    """A passage that looks otherwise than when it was saved: its number, its name, dE00 at most."""

    passage: int
    name: str
    worst: float


def looks_of(plan: Plan) -> tuple[SavedLook, ...]:
    """Return how the passages of a plan look, on the flat, dry, in the plan's light.

    A passage that cannot be predicted has no look: its plan is saved all the same.
    """
    out = []
    for passage in plan.passages:
        try:
            lab = _lab(plan, passage)
        except VeilError:
            continue
        out.append(SavedLook(passage.name, tuple((L, a, b) for L, a, b in lab.tolist())))
    return tuple(out)


def save_plan(plan: Plan, path: Path) -> None:
    """Write a plan to its file, with how it looks; raises as `save`."""
    save(plan, path, looks_of(plan))


def moved_looks(file: PlanFile) -> tuple[Moved, ...]:
    """Return which passages of a file look otherwise now, the most changed first."""
    now = {look.passage: np.array(look.lab) for look in looks_of(file.plan)}
    names = [passage.name for passage in file.plan.passages]
    out = []
    for look in file.looks:
        lab = now.get(look.passage)
        if lab is None or lab.shape != np.shape(look.lab):
            continue
        worst = float(ciede2000(lab, np.array(look.lab)).max())
        if worst >= _SEEN:
            out.append(Moved(names.index(look.passage), look.passage, worst))
    return tuple(sorted(out, key=lambda each: -each.worst))


def moved_words(name: str, some: tuple[Moved, ...]) -> str:
    """Return what is said of passages that look otherwise than when their file was saved."""
    told = [tr("{0} by dE {1:.0f}").format(each.name, each.worst) for each in some[:_NAMED]]
    if len(some) > _NAMED:
        told.append(tr("{0} more by less").format(len(some) - _NAMED))
    return tr("{0} looks different from when it was saved: {1}.").format(name, ", ".join(told))


def with_old_look(plan: Plan, looks: tuple[SavedLook, ...], some: tuple[Moved, ...]) -> Plan:
    """Return a plan with the look that it had as targets of the passages that have moved.

    Passages that have targets keep those.
    """
    labs = {look.passage: look.lab for look in looks}
    for each in some:
        passage = plan.passages[each.passage]
        if passage.targets or passage.name not in labs:
            continue
        lab = labs[passage.name]
        places = sorted({round(x) for x in np.linspace(0, len(lab) - 1, _TARGETS)})
        along = [Target(round(k / max(len(lab) - 1, 1), 4), lab[k]) for k in places]
        plan = edits.aim_at(plan, each.passage, along)
    return plan


def _lab(plan: Plan, passage: Passage) -> np.ndarray:
    field = predict(passage, plan.rack(), axis(_PLACES), _FLAT, ViewingConditions(plan.light))
    return np.round(field.lab[:, 0], 2)
