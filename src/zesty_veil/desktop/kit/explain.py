"""Words of the glossary explained at the pointer, wherever they stand on screen.

Qt offers a rest of the pointer to a widget and, while nobody wants it, to those that hold it; so
the window hears of all that have no tooltip of their own.
"""

from __future__ import annotations

from PySide6.QtCore import QPoint
from PySide6.QtGui import QHelpEvent
from PySide6.QtWidgets import QAbstractButton, QLabel, QToolTip, QWidget

from zesty_veil.desktop.kit.plain import tip
from zesty_veil.services.helptext import explained


def explain(window: QWidget, event: QHelpEvent) -> bool:
    """Show what the terms mean that stand where the pointer rests; tell whether any does."""
    widget = window.childAt(event.pos())
    if widget is None:
        return False
    meaning = explained(words_at(widget, widget.mapFrom(window, event.pos())))
    if meaning:
        QToolTip.showText(event.globalPos(), tip(meaning), widget)
    return bool(meaning)


def words_at(widget: QWidget, place: QPoint) -> str:
    """Return the words that stand at a place of a widget; painted ones it tells itself."""
    painted = getattr(widget, "words_at", None)
    if painted is not None:
        return str(painted(place))
    if isinstance(widget, QLabel | QAbstractButton):
        return widget.text()
    return widget.accessibleName()
