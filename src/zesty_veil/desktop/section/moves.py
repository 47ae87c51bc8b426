"""What is done to a passage or coat as a whole: moves, targets, remedies, copies.

All of it acts on what the station has in view and in hand.
"""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtGui import QGuiApplication

from zesty_veil.advise.moves import push_ends, smooth_here
from zesty_veil.advise.remark import Remark
from zesty_veil.desktop.kit.passageeditor import PassageEditor
from zesty_veil.desktop.section.view import SectionView
from zesty_veil.desktop.session.clipboard import ClipboardText
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.errors import VeilError
from zesty_veil.plan import edits
from zesty_veil.plan.clipboard import coat_text, paste_coat
from zesty_veil.plan.model import Plan, Target, coat_name
from zesty_veil.predict.evenfeather import even_feather
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.services.forecast import FLAT
from zesty_veil.tr import tr


class Moves:
    """Acts on the passage in view and the coat in hand.

    Parameters
    ----------
    document, editor, rack, view
        The station's own.
    look, in_hand
        Return how the colours are looked at now, and which coat is in hand.
    complain
        Told the sentence of anything that cannot be done.
    """

    def __init__(
        self,
        document: Document,
        editor: PassageEditor,
        rack: RackView,
        view: SectionView,
        look: Callable[[], ViewingConditions],
        in_hand: Callable[[], int | None],
        complain: Callable[[str], None],
    ) -> None:
        self._document, self.editor, self.rack, self.view = document, editor, rack, view
        self._look, self._in_hand, self._complain = look, in_hand, complain
        self.clipboard = ClipboardText(complain)

    def change_passage(self, change: Callable[[Plan, int], Plan], words: str) -> None:
        """Change the passage in view by a function; say why if that cannot be done."""
        if self.editor.passage_index >= 0:
            try:
                plan = change(self._document.plan, self.editor.passage_index)
            except VeilError as error:
                self._complain(str(error))
                return
            self._document.edit(plan, words)

    def _change_drawn(self, change: Callable[[Plan, int], Plan], words: str) -> None:
        """Change the passage in view as it is drawn; what comes upon a coat is of its kind."""
        editor, index = self.editor, self._in_hand()
        before = editor.drawn
        if before is None:
            return
        try:
            plan = change(editor.drawn_plan, editor.passage_index)
        except VeilError as error:
            self._complain(str(error))
            return
        more = len(plan.passages[editor.passage_index].coats) - len(before.coats)
        in_ground = index is not None and index < editor.ground_coats
        editor.take(plan, words, ground=more if in_ground else 0)

    def aim(self) -> None:
        """Make the colour that is read now a target of its place."""
        scene = self.view.scene
        if scene is not None and scene.forecast.field is not None:
            L, a, b = (float(v) for v in scene.forecast.field.lab[scene.nearest, FLAT])
            lab = (round(L, 2), round(a, 2), round(b, 2))
            target = Target(round(scene.place, 4), lab)
            self.change_passage(lambda plan, i: edits.set_target(plan, i, target), tr("target"))

    def light_by(self, name: str | None) -> None:
        """Let the painted light of another passage fall on the one in view, or none."""
        self.change_passage(lambda plan, i: edits.lit_by(plan, i, name), tr("light of the passage"))

    def drop_target(self) -> None:
        """Forget the target nearest to the place that is read."""
        place = self.view.place
        self.change_passage(lambda plan, i: edits.drop_target(plan, i, place), tr("target"))

    def copy_passage(self) -> None:
        """Add a copy of the passage in view."""
        self.change_passage(edits.copy_passage, tr("copy of the passage"))

    def push_ends(self) -> None:
        """Push both ends of the passage in view."""
        self.change_passage(
            lambda plan, i: push_ends(plan, i, self.rack.paints()), tr("push of ends")
        )

    def smooth_here(self) -> None:
        """Glaze the mid mix over the border of the coat in hand."""
        coat = self._in_hand()
        if coat is not None:
            self._change_drawn(lambda plan, i: smooth_here(plan, i, coat), tr("smoothing"))

    def even_feather(self) -> None:
        """Space the passes of the coat in hand by how much each changes the colour."""
        passage, index = self.editor.drawn, self._in_hand()
        if passage is not None and index is not None:
            look, paints = self._look(), self._document.plan.rack()
            coat = even_feather(passage, index, paints, look)
            self.editor.change(index, coat, tr("even feather of {0}").format(coat_name(coat)))

    def copy_coat(self) -> None:
        """Copy the coat in hand as text."""
        coat = self._in_hand()
        if coat is not None:
            text = coat_text(self.editor.drawn_plan, self.editor.passage_index, coat)
            QGuiApplication.clipboard().setText(text)

    def paste_coat(self) -> None:
        """Put a copied coat above the one in hand."""
        self.clipboard.read(self._paste)

    def _paste(self, text: str) -> None:
        coat = self._in_hand()
        at = None if coat is None else coat + 1
        self._change_drawn(lambda plan, i: paste_coat(plan, i, text, at), tr("pasted coat"))

    def preview_remedy(self, remark: Remark | None) -> None:
        """Show the plan with the remedy of a remark, or as it is; change nothing."""
        if remark is None:
            # Remarks that came meanwhile were not taken: what holds is asked again.
            self._document.show_again()
        elif remark.after is not None:
            self._document.preview(remark.after)

    def mend(self, remark: Remark) -> None:
        """Apply the remedy of a remark."""
        if remark.mend is not None:
            try:
                self._document.edit(remark.mend(self._document.plan), remark.remedy)
            except VeilError as error:
                self._complain(str(error))
