"""The Light station while nothing shines: what it does, and which passage is to be the light."""

from __future__ import annotations

from functools import partial

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QVBoxLayout

from zesty_veil.advise.glow.usual import off_figure
from zesty_veil.desktop.glow.keys import LIGHT_START
from zesty_veil.desktop.kit.emptystate import EmptyState, Start
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.session.document import Document
from zesty_veil.plan import edits
from zesty_veil.plan.model import Ground, Passage, Plan
from zesty_veil.tr import tr

_MOST_OFFERED = 6


class LightStart(Page):
    """Asks which passage shines; `lit` tells that one does."""

    keys = LIGHT_START
    lit = Signal()

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self.empty = EmptyState(
            "light",
            tr("A light that is painted"),
            tr(
                "A flame, a lamp or a glowing blade shines on what is near it. Say which passage "
                "shines; then drag the light, and see in rings what each thing beside it wants "
                "and which coats give that."
            ),
        )
        QVBoxLayout(self).addWidget(self.empty)

    def open(self) -> bool:
        """Offer the passages."""
        passages = self._document.plan.passages
        starts: list[Start] = [
            (tr("“{0}” shines on the others").format(p.name), partial(self.shine, p.name))
            for p in passages[:_MOST_OFFERED]
            if len(passages) > 1
        ]
        if any(passage.coats for passage in passages) or len(passages) > 1:
            beside: Start = (tr("A light off the figure"), self.light_from_beside)
        else:
            beside = (tr("Add a passage that shines"), self.add_light)
        self.empty.show_starts([*starts, beside])
        return True

    def shine(self, name: str) -> None:
        """Let a passage be the light that falls on all others."""
        self._light(self._document.plan, name)

    def light_from_beside(self) -> None:
        """Let a light fall on all passages from off the figure; nothing is painted as its source.

        Nothing of the passages changes by it.
        """
        plan = self._document.plan
        self._document.edit(edits.set_glow(plan, off_figure(plan)), tr("light off the figure"))
        self.lit.emit()

    def add_light(self) -> None:
        """Add a small white passage that shines on what there is."""
        plan = self._document.plan
        light = Passage(tr("light"), 8.0, area_mm2=20.0, ground=Ground("white"))
        more = edits.add_passage(plan, light)
        self._light(more, more.passages[-1].name)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Go back."""
        if self.keys.pressed(event) == "leave light start":
            self.give_up()
            event.accept()
        else:
            event.ignore()

    def _light(self, plan: Plan, name: str) -> None:
        for i, passage in enumerate(plan.passages):
            by = None if passage.name == name else name
            plan = edits.set_passage(plan, i, replace(passage, lit_by=by))
        self._document.edit(plan, tr("light of {0}").format(name))
        self.lit.emit()
