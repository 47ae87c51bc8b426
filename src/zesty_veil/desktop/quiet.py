"""Signals held back while a widget is being filled."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from PySide6.QtCore import QObject


@contextmanager
def quiet(*objects: QObject) -> Iterator[None]:
    """Hold back the signals of some objects, and put each back as it was."""
    before = [(thing, thing.blockSignals(True)) for thing in objects]
    try:
        yield
    finally:
        for thing, blocked in before:
            thing.blockSignals(blocked)
