"""Warnings about a painted light, each with the passage that it is about."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QListWidget, QListWidgetItem

from zesty_veil.advise.glow.warnings import Warned
from zesty_veil.desktop.kit.plain import tip
from zesty_veil.plan.model import Plan
from zesty_veil.tr import tr

_SPARE = 4


class Notes(QListWidget):
    """Lists warnings; one chosen takes its passage in view."""

    chosen = Signal(str)  # the name of a passage

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("clear")
        self.setWordWrap(True)
        self.setAccessibleName(tr("warnings about the light"))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.itemClicked.connect(self._clicked)
        # A scroll bar beside the page may come or go for its height: then it is fitted once more.
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(0)
        self._soon.timeout.connect(self._fit)

    def show_warned(self, plan: Plan, warned: Sequence[Warned]) -> None:
        """Show warnings, or that there are none."""
        self.clear()
        for each in warned:
            name = plan.passages[each.passage].name
            item = QListWidgetItem(f"{name}: {each.words}")
            item.setData(Qt.ItemDataRole.UserRole, name)
            item.setToolTip(tip(each.words))
            self.addItem(item)
        if not warned:
            self.addItem(tr("Nothing to warn of."))
        self._fit()
        self._soon.start()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Be as high as all that is said needs in this width."""
        super().resizeEvent(event)
        if event.size().width() != event.oldSize().width():
            self._fit()
            self._soon.start()

    def _fit(self) -> None:
        # The height that is asked for by row is of one line; wrapped they are laid out first.
        self.doItemsLayout()
        rows = sum(self.visualItemRect(self.item(row)).height() for row in range(self.count()))
        self.setFixedHeight(rows + 2 * self.frameWidth() + _SPARE)

    def _clicked(self, item: QListWidgetItem) -> None:
        name = item.data(Qt.ItemDataRole.UserRole)
        if name is not None:
            self.chosen.emit(name)
