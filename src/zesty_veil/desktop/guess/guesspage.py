"""Guess first: pick from five what a stack will look like, then see it, and how one's eye errs."""

from __future__ import annotations

import numpy as np
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from zesty_veil.desktop.guess.field import GuessField
from zesty_veil.desktop.guess.keys import GUESS
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.theme import CARD, font
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.session.userstore import UserStore
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.log.guess import Guesses, Question, tally
from zesty_veil.log.judge import delta_components
from zesty_veil.log.record import ObservedColour
from zesty_veil.services.asking import Wanted, questions
from zesty_veil.tr import tr

_ASK = "What comes when this is laid and dry? Pick one of the five before it is shown."


class GuessPage(Page):
    """Asks one question after the other, and keeps a tally in the log."""

    keys = GUESS
    whole = True

    def __init__(self, document: Document, user_store: UserStore) -> None:
        super().__init__()
        self._document, self._user_store = document, user_store
        self._seeds = np.random.default_rng()
        self.question: Question | None = None
        self.told, self.tally = Label(tr(_ASK)), Label()
        self.jobs: NewestWins[Wanted, Question] = NewestWins(questions, self, "short")
        self.jobs.answered.connect(self._asked)
        self.jobs.failed.connect(lambda error: self.told.setText(str(error)))
        self.field = GuessField()
        self.setFocusProxy(self.field)
        self.field.picked.connect(self._picked)
        self.field.next_wanted.connect(self._on)
        self.told.setFont(font(CARD, bold=True))
        for label in (self.told, self.tally):
            label.setWordWrap(True)
        self.next = QPushButton(tr("Next"))
        self.next.setToolTip(GUESS.tooltip("next guess", tr("Another one")))
        self.anew = QPushButton(tr("Begin the tally anew"))
        self.anew.setToolTip(tr("Forget all guesses, and begin with none"))
        self.leave = QPushButton(tr("Back"))
        self.leave.setToolTip(GUESS.tooltip("leave guess", tr("Go back to the section")))
        self.next.clicked.connect(lambda _=False: self.ask())
        self.anew.clicked.connect(lambda _=False: self._forget())
        self.leave.clicked.connect(lambda _=False: self.give_up())
        self.next.setObjectName("main")
        self._bar = QWidget()
        bar = QHBoxLayout(self._bar)
        bar.setContentsMargins(0, 0, 0, 0)
        bar.setSpacing(8)
        for button in (self.anew, self.next, self.leave):
            bar.addWidget(button)
        page = QVBoxLayout(self)
        page.setContentsMargins(8, 0, 16, 8)
        page.setSpacing(8)
        page.addWidget(self.told)
        page.addWidget(self.field, 1)
        page.addWidget(self.tally)

    def tools(self) -> QWidget | None:
        """Return what asks the next question."""
        return self._bar

    def open(self) -> bool:
        """Ask the first question."""
        self.ask()
        self._show_tally()
        self.field.setFocus()
        return True

    def ask(self, seed: int | None = None) -> None:
        """Ask another question."""
        # As the rack is, but what the plan prepares counts as a ground that is in use.
        plan = self._document.plan
        paints = {paint.name: paint for paint in self._user_store.own_paints()}
        grounds = tuple(
            passage.ground
            for passage in plan.passages
            if all(
                part.paint in paints for coat in passage.ground.coats for part in coat.mixture.parts
            )
        )
        number = int(self._seeds.integers(2**31)) if seed is None else seed
        self.told.setText(tr(_ASK))
        self.jobs.ask(Wanted(tuple(paints.values()), grounds, number))
        self.field.setFocus()

    def wait_until_idle(self) -> bool:
        """Run events until the question is asked."""
        return self.jobs.wait_until_idle()

    def close_jobs(self) -> None:
        """End the worker."""
        self.jobs.close()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Leave; the field has the other keys."""
        if self.keys.pressed(event) == "leave guess":
            self.give_up()
            event.accept()
        else:
            event.ignore()

    def _asked(self, asked: Question) -> None:
        self.question = asked
        self.field.show_question(asked)

    def _on(self) -> None:
        if self.field.choice is not None:
            self.ask()

    def _picked(self, choice: int) -> None:
        asked = self.question
        if asked is None:
            return
        right, picked = asked.choices[asked.right], asked.choices[choice]
        if choice == asked.right:
            self.told.setText(tr("Right.  Space: another one."))
        else:
            L, a, b = (float(v) for v in picked)
            R, c, d = (float(v) for v in right)
            lean = delta_components(ObservedColour("", 0, "flat", 0, (L, a, b), (R, c, d))).words
            de = float(ciede2000(right, picked))
            self.told.setText(
                tr("You expected it {0} (dE {1:.0f}).  Space: another one.").format(lean, de)
            )
        self._user_store.do(lambda desk: Guesses(desk.store).add(asked, choice), anew=False)
        self._show_tally()

    def _show_tally(self) -> None:
        self._user_store.do(
            lambda desk: tally(Guesses(desk.store).all()).words, self.tally.setText, anew=False
        )

    def _forget(self) -> None:
        self._user_store.do(lambda desk: Guesses(desk.store).forget(), anew=False)
        self._show_tally()
