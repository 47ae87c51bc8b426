"""The Sitting station while there is nothing to lay: what it does, and how a coat gets there."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QVBoxLayout

from zesty_veil.desktop.kit.emptystate import EmptyState
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.sitting.keys import SITTING_START
from zesty_veil.tr import tr


class SittingStart(Page):
    """Leads to the first coat, or to a plan that has some."""

    keys = SITTING_START
    coat_wanted = Signal()
    plans_wanted = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.empty = EmptyState(
            "sitting",
            tr("Painting by the clock"),
            tr(
                "A sitting puts all passes of all figures in the order that is done soonest, tells "
                "drops and thinning for each, and how long every film still dries. It needs a "
                "plan with a coat or more."
            ),
        )
        self.empty.show_starts(
            [
                (tr("Add a coat …"), self.coat_wanted.emit),
                (tr("Open a plan that has some …"), self.plans_wanted.emit),
            ]
        )
        QVBoxLayout(self).addWidget(self.empty)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Go back."""
        if self.keys.pressed(event) == "leave sitting start":
            self.give_up()
            event.accept()
        else:
            event.ignore()
