"""One passage of a painted light: what is wanted on it, and the coats found for that."""

from __future__ import annotations

from dataclasses import dataclass

from msgspec.structs import replace

from zesty_veil.advise.glow.wanted import Lit
from zesty_veil.advise.match.obstacle import WhyNot
from zesty_veil.advise.match.recipe import Recipe
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Passage, Target


@dataclass(frozen=True)
class Painted:
    """One passage with what is wanted on it, and the coats found for that.

    lit : of a surface; none for the fire itself. answer : none until something is found. share :
    how much of the search is done, 0-1. over : whether it is laid over what is there. kept : the
    coats that were there and stay. only : what it is painted with, where that is not all there is.
    lost : which of those kept will not show any more. why : what stands in the way at `where`,
    where it is still far off and that was looked for.
    """

    passage: int
    targets: tuple[Target, ...]
    lit: Lit | None
    answer: Recipe | None
    share: float = 0.0
    why: WhyNot | None = None
    where: Target | None = None
    kept: tuple[Coat, ...] = ()
    lost: tuple[int, ...] = ()
    over: bool = False
    only: tuple[Paint, ...] = ()

    def on(self, passage: Passage) -> Passage:
        """Return the passage with what is wanted, and the coats found for that on those kept."""
        coats = self.answer.coats if self.answer is not None else ()
        return replace(passage, coats=(*self.kept, *coats), targets=self.targets)
