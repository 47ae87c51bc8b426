"""Keys that move the coat in hand and the reading while the section has the focus."""

from __future__ import annotations

from typing import Protocol

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent

from zesty_veil.desktop.kit.geometry import Grip
from zesty_veil.desktop.section.view import SectionView

_NUDGE_MM = 0.5
_READING = 0.01


class Handed(Protocol):
    """What keys act on."""

    view: SectionView

    def step_coat(self, up: int) -> None:
        """Take the coat above (+1) or below (-1) in hand."""

    def nudge(self, grip: Grip, mm: float) -> None:
        """Move an end or feather of the coat in hand by some millimetres."""


def take_key(hand: Handed, event: QKeyEvent) -> None:
    """Do what a key asks for, if it is one of these: arrows, comma and point."""
    keys, shift = Qt.Key, Qt.KeyboardModifier.ShiftModifier
    grip: Grip = "start" if event.modifiers() & shift else "end"
    arrows = {keys.Key_Left: -_NUDGE_MM, keys.Key_Right: _NUDGE_MM}
    steps = {keys.Key_Up: 1, keys.Key_Down: -1}
    reading = {keys.Key_Comma: -_READING, keys.Key_Period: _READING}
    key = Qt.Key(event.key())
    if key in steps:
        hand.step_coat(steps[key])
    elif key in arrows:
        hand.nudge(grip, arrows[key])
    elif key in reading:
        hand.view.read_at(hand.view.place + reading[key])
    else:
        return
    event.accept()
