"""What a station shows that has nothing to work on yet: what it is for, and how it begins here."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.icons import icon
from zesty_veil.desktop.kit.plain import Label, entry, tip
from zesty_veil.desktop.kit.theme import TITLE, font

_PICTURE = 64
_WIDE = 460

Start = tuple[str, Callable[[], object]]


class EmptyState(QWidget):
    """A picture, a title, a few words, and the presses that start the station here and now."""

    def __init__(self, picture: str, title: str, words: str) -> None:
        super().__init__()
        drawn = Label()
        drawn.setPixmap(icon(picture, _PICTURE).pixmap(_PICTURE, _PICTURE))
        head, said = Label(title), Label(words)
        head.setFont(font(TITLE, bold=True))
        said.setWordWrap(True)
        self.starts = QVBoxLayout()
        self.starts.setSpacing(8)
        self.buttons: list[QPushButton] = []
        inner = QWidget()
        inner.setFixedWidth(_WIDE)
        column = QVBoxLayout(inner)
        column.setSpacing(10)
        for widget in (drawn, head, said):
            column.addWidget(widget)
        column.addLayout(self.starts)
        page = QVBoxLayout(self)
        middle = QHBoxLayout()  # an aligned widget is not asked how high its words are
        middle.addStretch(1)
        middle.addWidget(inner)
        middle.addStretch(1)
        page.addStretch(2)
        page.addLayout(middle)
        page.addStretch(3)

    def show_starts(self, starts: Sequence[Start]) -> None:
        """Offer these presses in place of those before."""
        for button in self.buttons:
            button.setParent(None)
            button.deleteLater()
        self.buttons = []
        for words, act in starts:
            button = QPushButton(entry(words))
            button.setMinimumHeight(32)
            button.setToolTip(tip(words))
            button.clicked.connect(lambda _=False, a=act: a())
            self.starts.addWidget(button)
            self.buttons.append(button)
        if self.buttons:
            self.buttons[0].setFocus()
