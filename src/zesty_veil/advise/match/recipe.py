"""What is asked of the search, and the recipes with which it answers.

Match, Light, templates and the way back from the bench all answer with the same kind of recipe.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from zesty_veil.advise.match.judge import Breach, total_cost
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.obstacle import WhyNot
from zesty_veil.advise.match.pareto import Objectives, objectives
from zesty_veil.advise.match.tuning import WorkOrder
from zesty_veil.light.grid import Array
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Lab, Passage, Target
from zesty_veil.predict.look import ViewingConditions


@dataclass(frozen=True)
class MatchRequest:
    """What is wanted, where, from what, with what.

    bases : what may be started from; each a passage with only those coats that stay. held : the
    paints of those coats. targets : of one place or more, up to `MOST_TARGETS` places.
    rescue : whether covering first is compared with going on; for one base. catalogue : paints
    that might be bought, where nothing comes near. towards : the end of a ramp that later coats
    draw back to, if only one will do. reasons : whether to find out why nothing comes nearer.
    over : coats that lie over all of a ramp in the end; they are part of every answer. now : the
    colour that is there at each target, in their order, where that is all that is known of it.
    plainest_only : whether only the way that stands first is asked for in the end.
    """

    bases: tuple[Passage, ...]
    held: tuple[Paint, ...]
    targets: tuple[Target, ...]
    paints: tuple[Paint, ...]
    limits: Limits
    look: ViewingConditions
    rescue: bool = False
    catalogue: tuple[Paint, ...] = ()
    towards: WorkOrder | None = None
    reasons: bool = True
    over: tuple[Coat, ...] = ()
    now: tuple[Lab, ...] = ()
    plainest_only: bool = False


@dataclass(frozen=True)
class Recipe:
    """Coats on one of the bases, from what stays upward, and what they cost.

    delta_e : dE00 at each target, by place and then from recess to ridge. sensitivity : by how
    much an ordinary hand strays on average, dE00. effort : as `Problem.effort`. rough : what
    painters would rather not do. beside : how far it is from the middle of what was said in words,
    dE00. base : which of the grounds it starts from, where there were several to choose from.
    weighed : as `delta_e`, and more where a clear colour has come dull; empty where that is the
    same. covers : whether nothing of what was there shows through. lab : where it leads, (3,), if
    only one colour is wanted. words : what it does, as a sentence. worst : dE00 where it is
    farthest off, at a target or between two, along the whole axis. rises : by how many values it
    gets lighter again where it is to get darker all along.
    """

    coats: tuple[Coat, ...]
    delta_e: tuple[float, ...]
    minutes: float
    pots: int
    sensitivity: float
    effort: float = 0.0
    rough: tuple[Breach, ...] = ()
    beside: float = 0.0
    base: int = 0
    weighed: tuple[float, ...] = field(default=(), compare=False, repr=False)
    covers: bool = False
    lab: Array | None = field(default=None, compare=False)
    words: str = ""
    worst: float = 0.0
    rises: float = 0.0

    @property
    def mean(self) -> float:
        """Mean dE00 over the targets."""
        return float(np.mean(self.delta_e))

    @property
    def off(self) -> float:
        """Root of the mean square of dE00, or half of the worst: no place may stay far off."""
        by = self.weighed or self.delta_e
        return max(float(np.sqrt(np.mean(np.square(by)))), max(by) / 2)

    @property
    def aims(self) -> Objectives:
        """What is made small."""
        return objectives(
            self.off, self.pots, self.minutes, self.sensitivity, total_cost(self.rough)
        )


@dataclass(frozen=True)
class Answers:
    """The recipes so far, the nearest first, and how much of the search is done, 0-1.

    why : in the end, why nothing comes nearer, and at which target.
    """

    ways: tuple[Recipe, ...]
    share: float
    why: WhyNot | None = None
    where: Target | None = None
