"""The line below the work: errors, questions, remarks with their remedies, or a hint at rest."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

from zesty_veil.advise.remark import Remark
from zesty_veil.desktop.theme import font

_REST = (
    "Drag a coat, its ends or its feathers.  Wheel or + and −: passes.  "
    "Shift + wheel or T: thinning.  F1: more keys."
)


class MessageLine(QWidget):
    """One line. What has to be said comes first, then remarks on the passage in view."""

    mend_wanted = Signal(object)  # Remark
    answered = Signal(str)  # save, drop or stay

    def __init__(self) -> None:
        super().__init__()
        self._said = ""
        self._remarks: tuple[Remark, ...] = ()
        self._shown = 0
        self.words = QLabel()
        self.words.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.mend = QPushButton()
        self.mend.clicked.connect(self._mend)
        self.next = QPushButton("Next")
        self.next.setAccessibleName("next remark")
        self.next.clicked.connect(self._next)
        self.answers = {
            "save": QPushButton("Save first"),
            "drop": QPushButton("Go on without saving"),
            "stay": QPushButton("Stay here"),
        }
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 4, 12, 4)
        row.addWidget(self.words, 1)
        row.addWidget(self.mend)
        row.addWidget(self.next)
        for key, button in self.answers.items():
            button.clicked.connect(lambda _=False, k=key: self.answered.emit(k))
            button.hide()
            row.addWidget(button)
        # As high with buttons as without, or the section would jump as remarks come and go.
        self.setFixedHeight(self.answers["save"].sizeHint().height() + 8)
        self._show()

    def say(self, words: str) -> None:
        """Say a sentence, or with no words, go back to remarks or rest."""
        self._said = words
        self._show()

    def ask(self, words: str) -> None:
        """Say a sentence with the three answers before unsaved work is left."""
        self.say(words)
        for button in self.answers.values():
            button.show()
        self.answers["save"].setFocus()

    def asked(self) -> None:
        """Take the answers away again."""
        for button in self.answers.values():
            button.hide()
        self.say("")

    def show_remarks(self, remarks: tuple[Remark, ...]) -> None:
        """Show other remarks, from the first."""
        kept = self._remarks[self._shown].kind if self._remarks else ""
        self._remarks = remarks
        # While an edit leaves a remark standing, it stays the one that is shown.
        same = (i for i, remark in enumerate(remarks) if remark.kind == kept)
        self._shown = next(same, 0)
        self._show()

    def _show(self) -> None:
        remark = self._remarks[self._shown] if self._remarks and not self._said else None
        self.mend.setVisible(remark is not None and remark.mend is not None)
        self.next.setVisible(remark is not None and len(self._remarks) > 1)
        self.words.setFont(font(bold=bool(self._said)))
        if remark is None:
            self.words.setText(self._said or _REST)
            self.words.setToolTip("")
            return
        count = len(self._remarks)
        which = f"{self._shown + 1} of {count}:  " if count > 1 else ""
        self.words.setText(which + remark.words)
        self.words.setToolTip(remark.words)
        self.mend.setText(remark.remedy[:1].upper() + remark.remedy[1:])
        self.mend.setAccessibleName(f"remedy: {remark.remedy}")

    def _mend(self) -> None:
        self.mend_wanted.emit(self._remarks[self._shown])

    def _next(self) -> None:
        self._shown = (self._shown + 1) % len(self._remarks)
        self._show()
