"""Warnings about a painted light, each with the passage that it is about."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QAbstractItemView, QListWidget, QListWidgetItem

from zesty_veil.advise.glow.warnings import Warned
from zesty_veil.desktop.kit.plain import tip
from zesty_veil.plan.model import Plan
from zesty_veil.tr import tr

_HEIGHT, _LINE = 66, 26


class Notes(QListWidget):
    """Lists warnings; one chosen takes its passage in view."""

    chosen = Signal(int)  # a passage

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("clear")
        self.setWordWrap(True)
        self.setAccessibleName(tr("warnings about the light"))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.itemClicked.connect(self._clicked)

    def show_warned(self, plan: Plan, warned: Sequence[Warned]) -> None:
        """Show warnings, or that there are none."""
        self.clear()
        for each in warned:
            item = QListWidgetItem(f"{plan.passages[each.passage].name}: {each.words}")
            item.setData(Qt.ItemDataRole.UserRole, each.passage)
            item.setToolTip(tip(each.words))
            self.addItem(item)
        if not warned:
            self.addItem(tr("Nothing to warn of."))
        self.setFixedHeight(_HEIGHT if warned else _LINE)

    def _clicked(self, item: QListWidgetItem) -> None:
        passage = item.data(Qt.ItemDataRole.UserRole)
        if passage is not None:
            self.chosen.emit(passage)
