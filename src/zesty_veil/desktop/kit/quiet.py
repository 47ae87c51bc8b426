"""Keeping widgets quiet: signals while they are filled, the wheel while it only passes over."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from PySide6.QtCore import QEvent, QObject
from PySide6.QtWidgets import QWidget


@contextmanager
def quiet(*objects: QObject) -> Iterator[None]:
    """Hold back the signals of some objects, and put each back as it was."""
    before = [(thing, thing.blockSignals(True)) for thing in objects]
    try:
        yield
    finally:
        for thing, blocked in before:
            thing.blockSignals(blocked)


class WheelGuard(QObject):
    """Keeps the wheel from changing a control that has not been taken in hand.

    A wet hand that scrolls past must not thin the paint.
    """

    def guard(self, *widgets: QWidget) -> None:
        """Guard some controls."""
        for widget in widgets:
            widget.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Turn the wheel away from a control without focus, on to what lies around it."""
        if (
            event.type() == QEvent.Type.Wheel
            and isinstance(watched, QWidget)
            and not watched.hasFocus()
        ):
            event.ignore()
            return True
        return False
