"""What the hand does to the coats of the passage in view, as edits of the document."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from msgspec.structs import replace

from zesty_veil.desktop.kit.geometry import Grip
from zesty_veil.desktop.session.document import Document
from zesty_veil.errors import VeilError
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.grounds import ground_from, ground_shown
from zesty_veil.plan.model import MOST_GROUND_COATS, Coat, Meant, Passage, Plan, coat_name
from zesty_veil.tr import tr


class _Grasp(NamedTuple):
    """A grip in the hand, and the plan as it was, and as it was drawn, when it was taken."""

    passage: int
    number: int
    grip: Grip
    before: Plan
    drawn: Plan

    @property
    def coat(self) -> Coat:
        """The coat as it was."""
        return self.drawn.passages[self.passage].coats[self.number]


class PassageEditor:
    """Edits of one passage.

    While its ground is open, the ground's coats are drawn and edited as the lowest of its coats,
    and coats are counted from there. The plan keeps them in the ground all the while.

    Parameters
    ----------
    document
        The open plan.
    complain
        Told the sentence of anything that cannot be done.
    """

    def __init__(self, document: Document, complain: Callable[[str], None]) -> None:
        self._document = document
        self._complain = complain
        self._grasped: _Grasp | None = None
        self.passage_index = 0 if document.plan.passages else -1
        self.ground_open = False

    @property
    def ground_coats(self) -> int:
        """How many of the coats that are drawn belong to the ground."""
        passage = self.passage
        return len(passage.ground.coats) if passage is not None and self.ground_open else 0

    @property
    def drawn_plan(self) -> Plan:
        """The plan as it is drawn."""
        return self._drawn(self._document.plan)

    @property
    def settled_plan(self) -> Plan:
        """The plan as it is drawn, without what a gesture under way makes of it."""
        return self._drawn(self._document.history.plan)

    @property
    def drawn(self) -> Passage | None:
        """The passage in view as it is drawn."""
        return None if self.passage is None else self.drawn_plan.passages[self.passage_index]

    def _drawn(self, plan: Plan) -> Plan:
        if not 0 <= self.passage_index < len(plan.passages):
            return plan
        return ground_shown(plan, self.passage_index, self.ground_open)

    def take(self, drawn: Plan, words: str, gesture: str = "", ground: int = 0) -> bool:
        """Take a plan that was edited as it is drawn, unless its ground would have too many coats.

        ground : how many coats more its ground has.
        """
        if self.passage is None:
            return False
        try:
            plan = ground_from(drawn, self.passage_index, self.ground_coats + ground)
        except VeilError as error:
            self._complain(str(error))
            return False
        self._document.edit(plan, words, gesture)
        return True

    def _show(self, drawn: Plan, ground: int = 0) -> None:
        """Show a plan that was edited as it is drawn, without a step of undo."""
        count = min(self.ground_coats + ground, MOST_GROUND_COATS)
        self._document.preview(ground_from(drawn, self.passage_index, count))

    @property
    def passage(self) -> Passage | None:
        """The passage in view."""
        passages = self._document.plan.passages
        if 0 <= self.passage_index < len(passages):
            return passages[self.passage_index]
        return None

    @property
    def dragging(self) -> bool:
        """Whether a grip is held."""
        return self._grasped is not None

    def coat(self, index: int) -> Coat | None:
        """Return a coat of the passage in view, if there is one of that number."""
        passage = self.drawn
        return passage.coats[index] if passage and 0 <= index < len(passage.coats) else None

    def change(self, index: int, coat: Coat, words: str, gesture: str = "") -> None:
        """Put a changed coat in place of one."""
        plan = edits.set_coat(self.drawn_plan, self.passage_index, index, coat)
        key = f"{gesture} {self.passage_index} {index}" if gesture else ""
        self.take(plan, words, key)

    def change_with(self, index: int, coat: Coat, paint: Paint, words: str) -> None:
        """Put a changed coat in place of one, with a paint that it has come to use."""
        plan = edits.hold(self.drawn_plan, paint)
        self.take(edits.set_coat(plan, self.passage_index, index, coat), words)

    def passes(self, index: int, more: int) -> None:
        """Add passes to a coat, or take them."""
        coat = self.coat(index)
        if coat is not None:
            changed = edits.with_passes(coat, coat.passes + more)
            self.change(index, changed, tr("passes of {0}").format(coat_name(coat)), "passes")

    def thin(self, index: int, parts: float) -> None:
        """Put more thinner into a coat's mixture, or less."""
        coat = self.coat(index)
        if coat is not None:
            changed = edits.with_thinning(coat, coat.mixture.thinning + parts)
            self.change(index, changed, tr("thinning of {0}").format(coat_name(coat)), "thinning")

    def mean(self, index: int, meant: Meant) -> None:
        """Say what a coat is meant for."""
        coat = self.coat(index)
        if coat is not None:
            self.change(
                index,
                replace(coat, meant=meant),
                tr("what {0} is meant for").format(coat_name(coat)),
            )

    def nudge(self, index: int, grip: Grip, mm: float) -> None:
        """Move one end or feather of a coat by some millimetres."""
        coat, passage = self.coat(index), self.passage
        if coat is not None and passage is not None:
            changed = moved(coat, grip, mm / passage.length_mm)
            self.change(index, changed, tr("reach of {0}").format(coat_name(coat)), f"nudge {grip}")

    def preview(self, paint: Paint | None, after: int | None, place: float = 0.0) -> None:
        """Show the passage with a coat of a paint as `add` lays it, or as it is; change nothing."""
        self._document.abort()
        passage = self.drawn
        if paint is None or passage is None:
            return
        at = len(passage.coats) if after is None else after + 1
        try:
            plan = edits.hold(self.drawn_plan, paint)
            plan = edits.add_coat(
                plan, self.passage_index, edits.placed_coat(paint, passage, place), at
            )
        except VeilError:
            return  # whoever chooses it is told why
        self._show(plan, self._joins(after))

    def add(self, paint: Paint, after: int | None, place: float = 0.0) -> int | None:
        """Add a coat of a paint above a coat, or on top, where it makes sense; return its number.

        `place` is the one that is read.
        """
        passage = self.drawn
        if passage is None:
            self._complain(tr("There is no passage to paint; add one on the left first."))
            return None
        at = len(passage.coats) if after is None else after + 1
        try:
            plan = edits.hold(self.drawn_plan, paint)
            coat = edits.placed_coat(paint, passage, place)
            plan = edits.add_coat(plan, self.passage_index, coat, at)
        except VeilError as error:
            self._complain(str(error))
            return None
        words = tr("coat of {0}").format(paint.name)
        return at if self.take(plan, words, ground=self._joins(after)) else None

    def _joins(self, after: int | None) -> int:
        """Return 1 where a coat over another would lie between coats of the ground.

        Over the highest of them paint begins: a coat is counted as ground only if that is asked.
        """
        return 0 if after is None else self._belongs(after + 1)

    def _belongs(self, index: int | None) -> int:
        """Return 1 for a coat that belongs to the ground, and 0 for others or none."""
        return int(index is not None and index < self.ground_coats)

    def end_preview(self) -> None:
        """Show the plan as it is again."""
        self._document.abort()

    def preview_within(self, index: int, coat: Coat, paint: Paint) -> None:
        """Show a coat changed by a paint, without changing the plan."""
        try:
            plan = edits.hold(self.drawn_plan, paint)
            plan = edits.set_coat(plan, self.passage_index, index, coat)
        except VeilError:
            return  # whoever chooses it is told why
        self._show(plan)

    def remove(self, index: int) -> None:
        """Take a coat away."""
        coat = self.coat(index)
        if coat is not None:
            plan = edits.remove_coat(self.drawn_plan, self.passage_index, index)
            words = tr("taking away {0}").format(coat_name(coat))
            self.take(plan, words, ground=-self._belongs(index))

    def move(self, index: int, to: int) -> None:
        """Move a coat to another place in the order; among the ground's it counts as ground."""
        coat = self.coat(index)
        if coat is not None:
            plan = edits.move_coat(self.drawn_plan, self.passage_index, index, to)
            words = tr("order of {0}").format(coat_name(coat))
            self.take(plan, words, ground=self._belongs(to) - self._belongs(index))

    def step(self, index: int, up: int) -> int:
        """Lay a coat one step later (+1) or sooner (-1); return its number then.

        The border between the ground's coats and the others is a step by itself.
        """
        passage, ground = self.drawn, self.ground_coats
        coat, to = self.coat(index), index + up
        if passage is None or coat is None:
            return index
        if ground and {index, to} == {ground - 1, ground}:
            self.take(self.drawn_plan, tr("order of {0}").format(coat_name(coat)), ground=-up)
            return index
        if not 0 <= to < len(passage.coats):
            return index
        self.move(index, to)
        return to

    def grasp(self, index: int, grip: Grip) -> None:
        """Begin to drag a grip of a coat, if that coat is still there.

        What is drawn may be a moment older than the plan, so the coat may be gone.
        """
        if self.coat(index) is not None:
            plan = self._document.history.plan
            self._grasped = _Grasp(self.passage_index, index, grip, plan, self._drawn(plan))

    def drag(self, along: float) -> None:
        """Show the grip moved along the axis by a share of it from where it was grasped."""
        held = self._still_held()
        if held is not None:
            changed = moved(held.coat, held.grip, along)
            self._show(edits.set_coat(held.drawn, held.passage, held.number, changed))

    def release(self) -> None:
        """Keep what was dragged as one step of undo."""
        held = self._still_held()
        self._grasped = None
        if held is not None:
            self._document.commit(tr("reach of {0}").format(coat_name(held.coat)))

    def _still_held(self) -> _Grasp | None:
        """Return what is held, unless the plan has been changed otherwise in the meantime."""
        held = self._grasped
        if held is not None and self._document.history.plan is not held.before:
            self.abort()
            return None
        return held

    def abort(self) -> None:
        """Take back what was dragged."""
        self._grasped = None
        self._document.abort()


def moved(coat: Coat, grip: Grip, along: float) -> Coat:
    """Return a coat with a grip moved along the axis by a share of it.

    An end takes its feather with it; the body keeps its length and stops at the passage's ends.
    """
    start, end = coat.span
    light, far = coat.feather
    if grip == "start":
        return edits.with_span(coat, min(start + along, end), end)
    if grip == "end":
        return edits.with_span(coat, start, max(end + along, start))
    if grip == "feather start":
        return edits.with_feather(coat, min(light - along, 1.0), far)
    if grip == "feather end":
        return edits.with_feather(coat, light, min(far + along, 1.0))
    along = edits.held(along, -start, 1 - end)
    return edits.with_span(coat, start + along, end + along)
