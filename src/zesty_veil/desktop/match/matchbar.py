"""What Match can do, in the header: stop, keep a way, lay it, go back."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QProgressBar, QPushButton, QWidget

from zesty_veil.desktop.match.keys import MATCH
from zesty_veil.tr import tr

DONE = 1000


class MatchBar(QWidget):
    """Holds the buttons; who shows them listens to them."""

    def __init__(self) -> None:
        super().__init__()
        self.progress = QProgressBar()
        self.progress.setTextVisible(False)
        self.progress.setRange(0, DONE)
        self.progress.setFixedSize(100, 6)
        self.progress.setAccessibleName(tr("how much of the search is done"))
        self.ladder = _button(
            tr("Between pots"), tr("Mix steps between two to four pots, in whole drops")
        )
        self.stop = _button(tr("Stop"), tr("Stop searching and keep what is found"))
        self.keep = _button(
            tr("Keep"),
            MATCH.tooltip("keep way", tr("Keep the way in hand beside whatever is found next")),
        )
        self.lay = _button(
            tr("Lay it"), MATCH.tooltip("lay way", tr("Lay the way in hand into the plan"))
        )
        self.lay.setObjectName("main")
        self.leave = _button(tr("Back"), MATCH.tooltip("leave match", tr("Go back to the section")))
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        for widget in (self.progress, self.ladder, self.stop, self.keep, self.lay, self.leave):
            row.addWidget(widget)
        self.progress.hide()


def _button(words: str, tip: str) -> QPushButton:
    button = QPushButton(words)
    button.setToolTip(tip)
    return button
