"""A titled group of controls that can be folded away."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QToolButton, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.theme import CAPTION, font
from zesty_veil.tr import tr


class Fold(QWidget):
    """A heading with a rule, and below it `body`, which a press on the heading folds away."""

    folded = Signal(bool)  # by hand

    def __init__(self, title: str) -> None:
        super().__init__()
        self._title = title
        self.head = QToolButton()
        self.head.setObjectName("fold")
        self.head.setFont(font(CAPTION, bold=True))
        self.head.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextOnly)
        self.head.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.head.clicked.connect(self._pressed)
        rule = QFrame()
        rule.setObjectName("rule")
        rule.setFixedHeight(1)
        top = QHBoxLayout()
        top.setContentsMargins(0, 0, 0, 0)
        top.setSpacing(8)
        top.addWidget(self.head)
        top.addWidget(rule, 1)
        self.inner = QWidget()
        self.body = QVBoxLayout(self.inner)
        self.body.setContentsMargins(0, 0, 0, 0)
        self.body.setSpacing(4)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(2)
        whole.addLayout(top)
        whole.addWidget(self.inner)
        self.fold(False)

    @property
    def is_folded(self) -> bool:
        """Whether its body is folded away."""
        return self.inner.isHidden()

    def fold(self, away: bool) -> None:
        """Fold its body away, or show it."""
        self.inner.setVisible(not away)
        layout = self.layout()
        if layout is not None:
            layout.invalidate()  # who asks for its size at once is told the new one
        self.head.setText(f"{'▸' if away else '▾'}  {self._title}")
        self.head.setAccessibleName(tr("{0}, folded").format(self._title) if away else self._title)
        self.head.setToolTip(tr("Show it") if away else tr("Fold it away"))

    def _pressed(self) -> None:
        self.fold(not self.is_folded)
        self.folded.emit(self.is_folded)
