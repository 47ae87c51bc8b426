"""The ground of the passage in view: prepared, shown coat by coat, counted."""

from __future__ import annotations

from collections.abc import Callable

from zesty_veil.desktop.kit.passageeditor import PassageEditor
from zesty_veil.desktop.section.moves import Moves
from zesty_veil.plan import grounds
from zesty_veil.services.formedits import faced
from zesty_veil.tr import tr

# Whose places and borders are a matter of taste: shown at once, to be dragged.
_DRAGGED = ("underpaint", "warmed")


class GroundInView:
    """Shows the ground's coats as the lowest of its passage, to be dragged, or folds them in.

    Parameters
    ----------
    editor, moves
        The station's own.
    in_hand
        Returns which coat is in hand, counted as they are drawn.
    hold
        Takes a coat in hand, or none, and shows everything anew.
    complain
        Told the sentence of anything that cannot be done.
    """

    def __init__(
        self,
        editor: PassageEditor,
        moves: Moves,
        in_hand: Callable[[], int | None],
        hold: Callable[[int | None], None],
        complain: Callable[[str], None],
    ) -> None:
        self._editor, self._moves = editor, moves
        self._in_hand, self._hold, self._complain = in_hand, hold, complain

    @property
    def coat(self) -> int | None:
        """The coat in hand, by its place in the passage; none if it is of the ground."""
        coat = self._in_hand()
        drawn = -1 if coat is None else coat - self._editor.ground_coats
        return drawn if drawn >= 0 else None

    def show(self, shown: bool) -> None:
        """Draw the ground's coats and take the highest in hand, or fold them in."""
        if shown == self._editor.ground_open:
            return
        coat, passage = self.coat, self._editor.passage
        if shown and (passage is None or not passage.ground.coats):
            self._complain(tr("The ground has no coats yet: prepare it, or count coats as ground."))
            return
        self._editor.ground_open = shown
        self._hold(self._editor.ground_coats - 1 if shown else coat)

    def toggle(self) -> None:
        """Draw the ground's coats, or fold them in."""
        self.show(not self._editor.ground_open)

    def prepare(self, kind: str) -> None:
        """Prepare the ground as one of `grounds.GROUNDS`."""
        self.show(False)
        rack = self._moves.rack.paints()
        self._moves.change_passage(
            lambda plan, i: faced(grounds.prepared_ground(plan, i, kind, rack), i),
            tr("{0} ground").format(kind),
        )
        passage = self._editor.passage
        if kind in _DRAGGED and passage is not None and passage.ground.coats:
            self.show(True)

    def count_coats(self) -> None:
        """Count the coat in hand, and all below it, as ground, and none above it."""
        editor, coat = self._editor, self._in_hand()
        if coat is None:
            return
        if not editor.ground_open:
            editor.ground_open = True
            coat += editor.ground_coats
        words = tr("counted as ground")
        editor.take(editor.drawn_plan, words, ground=coat + 1 - editor.ground_coats)
        self._hold(coat)

    def count_none(self) -> None:
        """Count the ground's coats as coats like all others."""
        editor, coat = self._editor, self._in_hand()
        passage = editor.passage
        if coat is not None and not editor.ground_open and passage is not None:
            coat += len(passage.ground.coats)
        self._moves.change_passage(grounds.ground_in_hand, tr("ground counted as coats"))
        self._hold(coat)
