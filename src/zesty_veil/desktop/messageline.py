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
    answered = Signal(str)  # the key of an answer

    def __init__(self) -> None:
        super().__init__()
        self._said = ""
        self._rest = _REST
        self._remarks: tuple[Remark, ...] = ()
        self._alone = False
        self._shown = 0
        self.words = QLabel()
        self.words.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.mend = QPushButton()
        self.mend.clicked.connect(self._mend)
        self.next = QPushButton("Next")
        self.next.setAccessibleName("next remark")
        self.next.clicked.connect(self._next)
        self.answers: dict[str, QPushButton] = {}
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 4, 12, 4)
        row.addWidget(self.words, 1)
        row.addWidget(self.mend)
        row.addWidget(self.next)
        self._row = row
        # As high with buttons as without, or the section would jump as remarks come and go.
        self.setFixedHeight(QPushButton("x").sizeHint().height() + 8)
        self._show()

    def say(self, words: str) -> None:
        """Say a sentence, or with no words, go back to remarks or rest."""
        self._said = words
        self._show()

    def set_rest(self, words: str = "", alone: bool = False) -> None:
        """Give the hint that stands there at rest; with no words, that of the section.

        `alone` while a page is open on which nothing can be done about remarks.
        """
        self._rest, self._alone = words or _REST, alone
        self._show()

    def ask(self, words: str, answers: dict[str, str]) -> None:
        """Say a sentence with some answers, by their keys; the first one is in hand."""
        self.asked()
        self.say(words)
        for key, label in answers.items():
            button = QPushButton(label)
            button.clicked.connect(lambda _=False, k=key: self.answered.emit(k))
            self._row.addWidget(button)
            button.show()
            self.answers[key] = button
        next(iter(self.answers.values())).setFocus()

    def asked(self) -> None:
        """Take the answers away again."""
        for button in self.answers.values():
            self._row.removeWidget(button)
            button.hide()
            button.deleteLater()
        self.answers = {}
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
        told = bool(self._remarks) and not self._said and not self._alone
        remark = self._remarks[self._shown] if told else None
        self.mend.setVisible(remark is not None and remark.mend is not None)
        self.next.setVisible(remark is not None and len(self._remarks) > 1)
        self.words.setFont(font(bold=bool(self._said)))
        if remark is None:
            self.words.setText(self._said or self._rest)
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
