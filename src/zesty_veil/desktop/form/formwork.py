"""What is done to the passage in view on its form, at large, or on the painter's own sculpt."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QObject
from PySide6.QtWidgets import QFileDialog, QWidget

from zesty_veil.desktop.form.formstage import FormStage
from zesty_veil.desktop.form.handles import handles
from zesty_veil.desktop.form.keys import AXIS, FORM, NOZZLE
from zesty_veil.desktop.form.sculptview import SculptView
from zesty_veil.desktop.kit.passageeditor import PassageEditor
from zesty_veil.desktop.session.document import Document
from zesty_veil.plan import edits
from zesty_veil.plan.grounds import with_nozzles
from zesty_veil.plan.model import FORM_NAMES, Axis, Sculpt
from zesty_veil.predict.forms.sculpted import usual_axis
from zesty_veil.services.formedits import faced, lengthened, with_usual_axis
from zesty_veil.tr import tr

_FILTER = "Sculpts (*.stl *.obj *.STL *.OBJ)"


class FormWork(QObject):
    """Chooses the form, opens sculpts, turns the nozzle, and keeps what was dragged.

    Parameters
    ----------
    document, editor
        The open plan, and the passage in view.
    say
        Told what cannot be done, and what to do next.
    show
        Puts the form or the sculpt in place of the section.
    """

    def __init__(
        self,
        document: Document,
        editor: PassageEditor,
        say: Callable[[str], None],
        show: Callable[[QWidget], None],
    ) -> None:
        super().__init__()
        self._document, self._editor, self._say, self._show = document, editor, say, show
        self.form = FormStage(document, editor)
        self.form.dragged.connect(self._settle)
        self.sculpt = SculptView(self._free_name)
        self.sculpt.taken.connect(self._wear)

    def hint(self) -> str:
        """Return what can be done on the form at large."""
        now = self.form.handles
        more = AXIS if now.axis is not None else NOZZLE if now.nozzle is not None else None
        return FORM.hint() + "  " + (more.hint() if more is not None else "")

    def choose_sculpt(self) -> None:
        """Let a sculpt's file be chosen and open it."""
        path = self._document.path
        folder = str(path.parent if path else Path.home())
        name, _ = QFileDialog.getOpenFileName(self.form, tr("Open a sculpt"), folder, _FILTER)
        if name:
            self.open_sculpt(Path(name))

    def open_sculpt(self, path: Path) -> None:
        """Open a sculpt, to see the passage in view on it."""
        if self._editor.passage is None:
            self._say(tr("There is no passage to see on a sculpt; add one on the left first."))
            return
        self._show(self.sculpt)
        self.sculpt.open_file(path)

    def choose_form(self, name: str) -> None:
        """See the passage in view on another form, or on a sculpt that the plan has."""
        if self._editor.passage is not None:
            index = self._editor.passage_index
            plan = edits.set_form(self._document.plan, index, name)
            if self._editor.passage.axis == Axis():
                plan = with_usual_axis(plan, index)
            self._document.edit(faced(plan, index), tr("form of the passage"))

    def turn_nozzle(self, more: float) -> None:
        """Lead the spray of the ground from further round."""
        passage = self._editor.passage
        now = handles(self._document.plan, passage).nozzle if passage else None
        if now is None:
            self._say(tr("This ground is not sprayed from a side; choose one under Ground."))
            return
        turned = (now + more + 180) % 360 - 180
        plan = with_nozzles(self._document.plan, self._editor.passage_index, turned)
        self._document.edit(faced(plan, self._editor.passage_index), tr("nozzle"), "nozzle")

    def ring_axis(self) -> None:
        """Let the axis over a sculpt run in rings round the light, or straight again."""
        passage, plan = self._editor.passage, self._document.plan
        if passage is None or handles(plan, passage).axis is None:
            self._say(
                tr("The axis is the form's own here; on a sculpt of yours you lay it yourself.")
            )
            return
        axis = replace(passage.axis, rings=not passage.axis.rings)
        words = tr("axis in rings") if axis.rings else tr("straight axis")
        self._document.edit(edits.set_axis(plan, self._editor.passage_index, axis), words)

    def _settle(self, words: str) -> None:
        """Keep what was dragged on the form, and let the section follow."""
        self._document.preview(faced(self._document.plan, self._editor.passage_index))
        self._document.commit(words)

    def _wear(self, sculpt: Sculpt) -> None:
        index = self._editor.passage_index
        if self._editor.passage is None:
            return
        plan = edits.set_sculpt(self._document.plan, index, sculpt, usual_axis(sculpt))
        self._document.edit(
            faced(lengthened(plan, index), index), tr("view of {0}").format(sculpt.name)
        )
        self._show(self.form)
        self._say(
            tr(
                "Drag on the sculpt from where the light is to the far end; the passage is "
                "then as long as that."
            )
        )

    def _free_name(self, stem: str) -> str:
        """Return what to call a view: the file's name, unless another passage has one so called."""
        wanted = " ".join(stem.split())[:60] or "sculpt"
        index = self._editor.passage_index
        others = {p.form for i, p in enumerate(self._document.plan.passages) if i != index}
        taken = {*FORM_NAMES, *others}
        names = (wanted if n == 1 else f"{wanted} {n}" for n in range(1, len(taken) + 3))
        return next(name for name in names if name not in taken)
