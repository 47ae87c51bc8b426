"""Drawings as assistive technology meets them: a control that is not seen over each drawn item.

The controls are Qt's own, so a reader finds names, states and actions where the items are drawn.
Hands and eyes pass through them.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple

from PySide6.QtCore import QObject, QRectF, Qt, QTimer
from PySide6.QtGui import QAccessible, QAccessibleAnnouncementEvent, QPaintEvent
from PySide6.QtWidgets import QRadioButton, QWidget

from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.quiet import quiet


class SpokenItem(NamedTuple):
    """A drawn item: what it is called, what is to be said of it, where it is, what it does.

    act : takes it in hand, or turns it over; none where nothing can be done with it. one_of :
    whether only one of those beside it is chosen.
    """

    name: str
    value: str
    box: QRectF
    chosen: bool = False
    act: Callable[[], object] | None = None
    one_of: bool = True


class _Unseen(QRadioButton):
    """An item that can be chosen."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)

    def show_chosen(self, chosen: bool, one_of: bool) -> None:
        """Show whether it is; of several none may be."""
        with quiet(self):
            self.setAutoExclusive(False)
            self.setChecked(chosen)
            self.setAutoExclusive(one_of)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw nothing: the view below has drawn the item."""


class SpokenItems(QObject):
    """Keeps the controls over a view in step with what it draws.

    Parameters
    ----------
    view
        Whose items they are.
    items
        Returns them as they are now.
    """

    def __init__(self, view: QWidget, items: Callable[[], Sequence[SpokenItem]]) -> None:
        super().__init__(view)
        self._view, self._items = view, items
        self._told: list[SpokenItem] = []
        self._turned_over = False  # whether a control may show what is not so
        self._controls: list[QWidget] = []
        self._acts: list[Callable[[], object] | None] = []
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(0)
        self._soon.timeout.connect(self.tell)

    def tell_soon(self) -> None:
        """Follow the view once all that changes it now is done."""
        self._soon.start()

    def tell(self) -> None:
        """Follow the view now."""
        items = self._items()
        told = [item._replace(act=None) for item in items]
        self._acts = [item.act for item in items]
        if told == self._told and not self._turned_over:
            return
        self._told, self._turned_over = told, False
        for at, item in enumerate(items):
            control = self._control(at, item.act is not None)
            control.setAccessibleName(item.name)
            control.setAccessibleDescription(item.value)
            control.setGeometry(item.box.toAlignedRect())
            if isinstance(control, _Unseen):
                control.show_chosen(item.chosen, item.one_of)
        for control in self._controls[len(told) :]:
            control.hide()
            control.deleteLater()
        del self._controls[len(told) :]
        # What stands over the drawing stands over them still; and they are read from the first.
        for control in reversed(self._controls):
            control.lower()

    def _control(self, at: int, does: bool) -> QWidget:
        """Return the control of an item; another one where what it can do has changed."""
        if at < len(self._controls) and isinstance(self._controls[at], _Unseen) == does:
            return self._controls[at]
        control: QWidget = _Unseen(self._view) if does else Label(parent=self._view)
        control.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        if isinstance(control, _Unseen):
            control.toggled.connect(lambda on, at=at: self._turned(at, on))
        control.show()
        if at < len(self._controls):
            self._controls[at].hide()
            self._controls[at].deleteLater()
            self._controls[at] = control
        else:
            self._controls.append(control)
        return control

    def _turned(self, at: int, on: bool) -> None:
        """Do what an item does; its control then shows what has come of that."""
        if at >= len(self._told) or (self._told[at].one_of and not on):
            return  # another one of those beside it was chosen
        act, self._turned_over = self._acts[at], True
        if act is not None:
            act()
        self.tell_soon()


def announce(source: QWidget, words: str) -> None:
    """Have something said by whoever reads the screen aloud; nothing where nobody does."""
    if words and QAccessible.isActive():
        QAccessible.updateAccessibility(QAccessibleAnnouncementEvent(source, words))
