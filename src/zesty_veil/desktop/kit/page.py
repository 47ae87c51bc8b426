"""A page: what stands in place of the section while some work lasts."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget


class Page(QWidget):
    """Says when it is left, and what is wrong."""

    # Whether it needs the whole window, without passages and looks beside it.
    whole = False

    left = Signal()
    complained = Signal(str)
    offered = Signal(str, str, object)  # a sentence, a button's words, and what it does
    turned = Signal()  # to another of its own leaves, where other keys hold

    def hint(self) -> str:
        """Return what can be done on the leaf that is shown; nothing for the page's usual hint."""
        return ""

    def open(self) -> bool:
        """Make ready to be shown; False if there is nothing to show, which it then says."""
        return True

    def give_up(self) -> None:
        """Leave, without doing anything more."""
        self.left.emit()

    def close_jobs(self) -> None:
        """End the workers."""
