"""Undo: whole plans, kept in order, each with the words for what was done."""

from __future__ import annotations

import msgspec
from msgspec.structs import replace

from zesty_veil.plan.model import Plan

MOST_STEPS = 500


class Step(msgspec.Struct, frozen=True):
    """A plan, and the words for the edit that led away from it (past) or back to it (future)."""

    plan: Plan
    words: str


class History(msgspec.Struct, frozen=True):
    """The plan as it is, what it was, and what was undone. Frozen: every act returns a new one."""

    plan: Plan
    past: tuple[Step, ...] = ()
    future: tuple[Step, ...] = ()

    def did(self, plan: Plan, words: str) -> History:
        """Return the history after one edit; an edit that changed nothing leaves no step."""
        if plan == self.plan:
            return self
        return History(plan, (*self.past, Step(self.plan, words))[-MOST_STEPS:])

    def undone(self) -> History:
        """Return the history one step back, or the same if there is none."""
        if not self.past:
            return self
        step = self.past[-1]
        future = (Step(self.plan, step.words), *self.future)
        return replace(self, plan=step.plan, past=self.past[:-1], future=future)

    def redone(self) -> History:
        """Return the history one step forward again, or the same if there is none."""
        if not self.future:
            return self
        step = self.future[0]
        past = (*self.past, Step(self.plan, step.words))
        return replace(self, plan=step.plan, past=past, future=self.future[1:])
