"""Panels with a title, headings with a rule, words that are kept quiet, icon buttons: one style."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QSize, Qt
from PySide6.QtWidgets import QFrame, QToolButton, QVBoxLayout

from zesty_veil.desktop.kit.icons import icon
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.theme import BODY, CARD, font

GRID = 8
_ICON = 18


class Panel(QFrame):
    """A field raised from the chrome; `body` takes what stands in it."""

    def __init__(self, title: str = "") -> None:
        super().__init__()
        self.setObjectName("panel")
        self.body = QVBoxLayout(self)
        self.body.setContentsMargins(2 * GRID, 12, 2 * GRID, 12)
        self.body.setSpacing(GRID)
        if title:
            self.title = heading(title)
            self.body.addWidget(self.title)


def heading(words: str, pixels: int = CARD) -> Label:
    """Return the title of a panel or a card."""
    label = Label(words)
    label.setFont(font(pixels, bold=True))
    return label


def quiet_words(words: str = "", pixels: int = BODY) -> Label:
    """Return words that say more, and need not be read."""
    label = Label(words)
    label.setObjectName("quiet")
    label.setFont(font(pixels))
    label.setWordWrap(True)
    return label


class IconButton(QToolButton):
    """A button that is an icon of ours; its name says what it does."""

    def __init__(self, name: str, words: str, act: Callable[[], object] | None = None) -> None:
        super().__init__()
        self._name = name
        self.setObjectName("narrow")
        self.setIconSize(QSize(_ICON, _ICON))
        self.setFixedWidth(34)
        self.setAccessibleName(words)
        self.setToolTip(words)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self._draw()
        if act is not None:
            self.clicked.connect(lambda _=False: act())

    def changeEvent(self, event: QEvent) -> None:
        if event.type() == QEvent.Type.PaletteChange:
            self._draw()
        super().changeEvent(event)

    def _draw(self) -> None:
        self.setIcon(icon(self._name, _ICON))
