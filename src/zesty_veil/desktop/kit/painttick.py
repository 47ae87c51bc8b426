"""A menu of the rack in which paints are ticked: those that may be used."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtWidgets import QHBoxLayout, QToolButton, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.paintmenu import PaintMenu
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.paint.paint import Paint
from zesty_veil.services.picking import Picking
from zesty_veil.tr import tr


class PaintTicks(PaintMenu):
    """The paint picker with a tick before each paint; it stays open while paints are ticked.

    Parameters
    ----------
    rack, here
        The paints at hand, and where they would lie; see `PaintMenu`.
    ticked
        Tells by a paint's name whether it is ticked.
    tick
        Told the names of paints, and whether they are to be ticked.
    """

    def __init__(
        self,
        rack: RackView,
        parent: QWidget,
        here: Callable[[], Picking | None],
        ticked: Callable[[str], bool],
        tick: Callable[[Sequence[str], bool], None],
    ) -> None:
        super().__init__(rack, lambda _: None, parent, here)
        self._ticked, self._tick = ticked, tick
        self.picker.show_ticks(ticked)
        self.every, self.none = QToolButton(), QToolButton()
        row = QHBoxLayout()
        for button, words, on in (
            (self.every, tr("All of these"), True),
            (self.none, tr("None of these"), False),
        ):
            button.setText(words)
            button.setObjectName("link")
            button.setToolTip(tr("All paints of the list below"))
            button.clicked.connect(lambda _=False, on=on: self._tick_shown(on))
            row.addWidget(button)
        row.addStretch(1)
        column = self.picker.layout()
        assert isinstance(column, QVBoxLayout)
        column.insertLayout(1, row)

    def _tick_shown(self, on: bool) -> None:
        self._tick([paint.name for paint in self.picker.shown()], on)
        self.picker.list.viewport().update()

    def _take(self, paint: Paint) -> None:
        self._tick([paint.name], not self._ticked(paint.name))
        self.picker.list.viewport().update()
