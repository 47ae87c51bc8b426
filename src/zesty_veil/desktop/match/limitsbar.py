"""What a painter can and will do: coats, pots, minutes and passes at most; tools; paints."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import Signal
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QHBoxLayout, QMenu, QToolButton, QWidget

from zesty_veil.advise.match.limits import MOST_COATS_IN_WAY, USUAL_TOOLS, Limits
from zesty_veil.desktop.kit.numberbox import CountBox
from zesty_veil.desktop.kit.painttick import PaintTicks
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import MOST_PASSES
from zesty_veil.services.picking import Picking
from zesty_veil.tr import tr

_ANY_TIME = 0
_MOST_MINUTES = 999
_MOST_MIXES = 4
_TOOLS = ("loaded", "glaze", "wash", "contrast", "airbrush", "sponge", "stipple")


class _Staying(QMenu):
    """A menu that stays open while things in it are ticked."""

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        action = self.activeAction()
        if action is not None and action.isCheckable():
            action.trigger()
            event.accept()
        else:
            super().mouseReleaseEvent(event)


class LimitsBar(QWidget):
    """The limits of a search; says when they change.

    Parameters
    ----------
    rack
        The paints at hand.
    start, measured
        What the ways start from, which stands before the limits.
    here
        Returns where paints would lie, to show them as they would come out there.
    """

    changed = Signal()

    def __init__(
        self,
        rack: RackView,
        start: QWidget,
        measured: QWidget,
        here: Callable[[], Picking | None],
    ) -> None:
        super().__init__()
        self._rack = rack
        self._left_out: set[str] = set()
        self.coats = self._box(tr("coats at most"), 1, MOST_COATS_IN_WAY, 4)
        self.mixes = self._box(tr("mixed pots at most"), 0, _MOST_MIXES, 2)
        self.passes = self._box(tr("passes at most, of all coats together"), 1, MOST_PASSES, 24)
        self.minutes = self._box(tr("minutes at most"), _ANY_TIME, _MOST_MINUTES, _ANY_TIME)
        self.minutes.setSpecialValueText(tr("any"))
        self.tools = _button(tr("Tools"), tr("Tools at hand"))
        self.tools.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = _Staying(self)
        self.tools.setMenu(menu)
        for name in _TOOLS:
            action = menu.addAction(tools()[name].label)
            action.setCheckable(True)
            action.setChecked(name in USUAL_TOOLS)
            action.setData(name)
            action.toggled.connect(lambda _: self.changed.emit())
        self.ticks = PaintTicks(rack, self, here, self._usable, self.use)
        self.paints = _button(tr("Paints"), tr("Paints that may be used"))
        self.paints.clicked.connect(lambda: self.ticks.open_below(self.paints))
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        label = Label(tr("Start"))
        label.setBuddy(start)
        for widget in (label, start, measured):
            row.addWidget(widget)
        row.addSpacing(8)
        for words, box in (
            ("At most", self.coats), ("coats,", self.passes), ("passes,", self.mixes),
            ("mixed pots,", self.minutes),
        ):  # fmt: skip
            row.addWidget(Label(tr(words)))
            row.addWidget(box)
        row.addWidget(Label(tr("minutes")))
        row.addStretch(1)
        row.addWidget(self.tools)
        row.addWidget(self.paints)

    def limits(self) -> Limits:
        """Return the limits; raises InputError if no tool is at hand."""
        minutes = None if self.minutes.value() == _ANY_TIME else float(self.minutes.value())
        at_hand = tuple(str(a.data()) for a in self.tools.menu().actions() if a.isChecked())
        return Limits(self.coats.value(), self.passes.value(), minutes, self.mixes.value(), at_hand)

    def usable(self) -> tuple[Paint, ...]:
        """Return the paints that may be used."""
        return tuple(paint for paint in self._rack.paints() if paint.name not in self._left_out)

    def use(self, names: Sequence[str], used: bool) -> None:
        """Allow paints, or leave them out."""
        if used:
            self._left_out.difference_update(names)
        else:
            self._left_out.update(names)
        self._told()

    def _usable(self, name: str) -> bool:
        return name not in self._left_out

    def _told(self) -> None:
        out = len(self._rack.paints()) - len(self.usable())
        self.paints.setText(tr("Paints, {0} left out").format(out) if out else tr("Paints"))
        self.changed.emit()

    def _box(self, name: str, least: int, most: int, usual: int) -> CountBox:
        box = CountBox()
        box.setRange(least, most)
        box.setValue(usual)
        box.setAccessibleName(name)
        box.setToolTip(name[:1].upper() + name[1:])
        box.setKeyboardTracking(False)
        box.setFixedWidth(62)
        box.valueChanged.connect(lambda _: self.changed.emit())
        return box


def _button(words: str, tip: str) -> QToolButton:
    button = QToolButton()
    button.setText(words)
    button.setToolTip(tip)
    return button
