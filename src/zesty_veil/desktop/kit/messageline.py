"""The line below the work: errors, questions, remarks with their remedies, or a hint at rest."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtCore import QCoreApplication, QEvent, QObject, Qt, QTimer, Signal
from PySide6.QtWidgets import QApplication, QHBoxLayout, QPushButton, QWidget

from zesty_veil.advise.remark import Remark
from zesty_veil.desktop.kit.plain import Label, entry, name_control, tip
from zesty_veil.desktop.kit.spoken import announce
from zesty_veil.desktop.kit.theme import font
from zesty_veil.tr import tr

_REST = (
    "Drag a coat, its ends or its feathers.  Wheel or + and −: passes.  "
    "Shift + wheel or T: thinning.  F1: more keys."
)


_OFFER_MS, _PASSING_MS, _HOVER_MS = 60_000, 6_000, 250


class Reply(NamedTuple):
    """One answer to a question: what stands on its button, and what it does."""

    label: str
    act: Callable[[], object]


class _Question(NamedTuple):
    kind: str
    words: str
    answers: dict[str, Reply]
    passing: bool
    pressed: bool = False


# What an edit begins with.
_BEGIN_SOMETHING = frozenset({
    QEvent.Type.KeyPress, QEvent.Type.ShortcutOverride, QEvent.Type.MouseButtonPress,
    QEvent.Type.Wheel, QEvent.Type.Drop,
})  # fmt: skip


class MessageLine(QWidget):
    """Two lines. Questions come first, then what has to be said, then remarks on what is seen."""

    mend_wanted = Signal(object)  # Remark
    preview_wanted = Signal(object)  # Remark whose remedy is to be shown, or None
    asking = Signal(bool)  # whether a question waits that must be answered

    def __init__(self) -> None:
        super().__init__()
        self._said = ""
        self._rest = tr(_REST)
        self._remarks: tuple[Remark, ...] = ()
        self._alone = False
        self._shown = 0
        self._questions: list[_Question] = []  # the last one is asked first
        self._over = QTimer(self)
        self._over.setSingleShot(True)
        self._over.setInterval(_OFFER_MS)
        self._over.timeout.connect(lambda: self.withdraw("offer"))
        self.passing = QTimer(self)
        self.passing.setSingleShot(True)
        self.passing.setInterval(_PASSING_MS)
        self.passing.timeout.connect(lambda: self.say(""))
        self.words = Label()
        self.words.setWordWrap(True)  # a long sentence takes two lines
        self.words.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.mend = QPushButton()
        self.mend.clicked.connect(self._mend)
        self.mend.installEventFilter(self)
        # Who only passes over a button sees nothing jump.
        self.hovering = QTimer(self)
        self.hovering.setSingleShot(True)
        self.hovering.setInterval(_HOVER_MS)
        self.hovering.timeout.connect(self._preview)
        self._previewed: Remark | None = None
        self.next = QPushButton(tr("Next"))
        name_control(self.next, tr("next remark"))
        self.next.clicked.connect(self._next)
        self.answers: dict[str, QPushButton] = {}
        self.setObjectName("line")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 4, 12, 4)
        row.addWidget(self.words, 1)
        row.addWidget(self.mend)
        row.addWidget(self.next)
        self._row = row
        # As high with buttons as without, or the section would jump as remarks come and go.
        self.setFixedHeight(QPushButton("x").sizeHint().height() + 8)
        self._show()

    def say(self, words: str, passing: bool = False) -> None:
        """Say a sentence, or with no words, go back to remarks or rest; an offer is over then.

        `passing` for what went well: soon remarks stand there again.
        """
        self._said = words
        self.passing.stop()
        if passing:
            self.passing.start()
        if any(question.passing for question in self._questions):
            self._questions = [q for q in self._questions if not q.passing]
            self._put_answers()
        self._show()

    def stress(self, on: bool) -> None:
        """Stand out from what lies round it, or not."""
        self.setProperty("stressed", on)
        self.style().unpolish(self)
        self.style().polish(self)

    def set_rest(self, words: str = "", alone: bool = False) -> None:
        """Give the hint that stands there at rest; with no words, that of the section.

        `alone` while a page is open on which nothing can be done about remarks.
        """
        self._rest, self._alone = words or tr(_REST), alone
        self._show()

    def ask(self, kind: str, words: str, answers: dict[str, Reply], pressed: bool = False) -> None:
        """Ask a question; its answers by their keys, of which the first one is in hand.

        It stands until it is answered or withdrawn. One of its kind that was asked before is
        replaced; others wait behind it. `pressed` where it stands between a press and what that
        was for: then it comes up where the eyes are.
        """
        self._put(_Question(kind, words, answers, False, pressed))
        next(iter(self.answers.values())).setFocus()

    def offer(self, words: str, label: str, act: Callable[[], object]) -> None:
        """Say a sentence, and offer for a minute to do something about it.

        The offer is over sooner when something else is said.
        """
        self._put(_Question("offer", words, {"offer": Reply(label, act)}, True))
        self._over.start()

    def withdraw(self, kind: str) -> None:
        """Ask a question of some kind no more."""
        if any(question.kind == kind for question in self._questions):
            self._questions = [q for q in self._questions if q.kind != kind]
            self._put_answers()
            self._show()

    def asks(self, kind: str) -> bool:
        """Tell whether a question of some kind waits for an answer."""
        return any(question.kind == kind for question in self._questions)

    def _put(self, question: _Question) -> None:
        self._said = ""
        others = [q for q in self._questions if q.kind != question.kind and not q.passing]
        self._questions = [*others, question]
        self._put_answers()
        self._show()

    def _answered(self, question: _Question, answer: Reply) -> None:
        self._questions = [q for q in self._questions if q is not question]
        self._said = ""
        self._put_answers()
        self._show()
        answer.act()

    def _put_answers(self) -> None:
        """Put the answers of the question that is asked beside it, and take others away."""
        for button in self.answers.values():
            self._row.removeWidget(button)
            button.hide()
            button.deleteLater()
        self.answers = {}
        self.asking.emit(self.holds)
        if not self._questions:
            return
        asked = self._questions[-1]
        for key, answer in asked.answers.items():
            button = QPushButton(entry(answer.label))
            button.clicked.connect(lambda _=False, q=asked, a=answer: self._answered(q, a))
            self._row.addWidget(button)
            button.show()
            self.answers[key] = button

    @property
    def stands_between(self) -> bool:
        """Whether what is asked stands between a press and what that was for."""
        return bool(self._questions) and self._questions[-1].pressed

    @property
    def holds(self) -> bool:
        """Whether a question waits that must be answered."""
        return any(not question.passing for question in self._questions)

    def show_remarks(self, remarks: tuple[Remark, ...]) -> None:
        """Show other remarks, from the first; not those on a remedy that is only shown."""
        if self._previewed is not None:
            return
        kept = self._remarks[self._shown].kind if self._remarks else ""
        self._remarks = remarks
        # While an edit leaves a remark standing, it stays the one that is shown.
        same = (i for i, remark in enumerate(remarks) if remark.kind == kept)
        self._shown = next(same, 0)
        self._show()

    def _show(self) -> None:
        asked = self._questions[-1].words if self._questions else ""
        said = "  ".join(filter(None, (self._said, asked)))
        told = bool(self._remarks) and not said and not self._alone
        remark = self._remarks[self._shown] if told else None
        self.mend.setVisible(remark is not None and remark.mend is not None)
        self.next.setVisible(remark is not None and len(self._remarks) > 1)
        self.words.setFont(font(bold=bool(said)))
        if remark is None:
            self._put_words(said or self._rest, aloud=bool(said))
            self.words.setToolTip(tip(said))
            return
        count = len(self._remarks)
        which = f"{self._shown + 1} of {count}:  " if count > 1 else ""
        self._put_words(which + remark.words, aloud=True)
        self.words.setToolTip(tip(remark.words))
        self.mend.setText(entry(remark.remedy[:1].upper() + remark.remedy[1:]))
        name_control(self.mend, tr("remedy: {0}").format(remark.remedy))
        self.mend.setToolTip(tip(remark.effect or remark.remedy))

    def _put_words(self, words: str, aloud: bool) -> None:
        """Show words, and have new ones said aloud."""
        if aloud and words != self.words.text():
            announce(self.words, words)
        self.words.setText(words)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if watched is self.mend:
            if event.type() == QEvent.Type.Enter:
                self.hovering.start()
            elif event.type() in (QEvent.Type.Leave, QEvent.Type.Hide):
                self._end_preview()
        elif event.type() in _BEGIN_SOMETHING:
            self._end_preview()  # or it would begin from what is only shown
        return super().eventFilter(watched, event)

    def _preview(self) -> None:
        """Have shown what the remedy would change."""
        if self.mend.isVisible() and self._remarks:
            self._previewed = self._remarks[self._shown]
            _application().installEventFilter(self)
            self.preview_wanted.emit(self._previewed)

    def _end_preview(self) -> None:
        self.hovering.stop()
        if self._previewed is not None:
            self._previewed = None
            _application().removeEventFilter(self)
            self.preview_wanted.emit(None)

    def _mend(self) -> None:
        remark = self._remarks[self._shown]
        self._end_preview()
        self.mend_wanted.emit(remark)

    def _next(self) -> None:
        self._shown = (self._shown + 1) % len(self._remarks)
        self._show()


def _application() -> QCoreApplication:
    app = QApplication.instance()
    assert app is not None
    return app
