"""What a coat does, in words: what it adds, what one pass changes, how long it takes."""

from __future__ import annotations

from PySide6.QtCore import Qt

from zesty_veil.desktop.kit.fold import Fold
from zesty_veil.desktop.kit.panel import quiet_words
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.plan.drying import drying_minutes, whole
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.contribution import Contribution
from zesty_veil.predict.onepass import OnePass
from zesty_veil.predict.words import change_word
from zesty_veil.thresholds import HIDDEN_DE00
from zesty_veil.tr import tr


class WhatItDoes(Fold):
    """The last group of the brush card."""

    def __init__(self) -> None:
        super().__init__(tr("What it does"))
        self.adds = Label()
        self.touchy, self.time = quiet_words(), quiet_words()
        for label in (self.touchy, self.time):
            label.setWordWrap(False)
        # Room for two lines from the start, or the card would jump as the words change.
        self.adds.setWordWrap(True)
        self.adds.setMinimumHeight(2 * self.adds.fontMetrics().lineSpacing() + 2)
        self.adds.setAlignment(Qt.AlignmentFlag.AlignTop)
        for label in (self.adds, self.touchy, self.time):
            self.body.addWidget(label)

    def show_nothing(self) -> None:
        """Say how to come by a coat."""
        self.adds.setText(tr("Take one on the section, or press N to add one."))
        self.touchy.setText("")
        self.time.setText("")

    def show_coat(
        self,
        coat: Coat,
        passage: Passage,
        adds: Contribution | None,
        passes: OnePass | None,
        patchy: bool = False,
    ) -> None:
        """Say what a coat does on its passage, as far as that is known by now.

        patchy : whether streaks of it show.
        """
        self.adds.setText(_adds_words(passage, adds))
        wait = drying_minutes(coat)
        self.time.setText(
            tr("Wait {0:.0f} to {1:.0f} min a pass; {2:.0f} min in all.").format(
                wait.least, wait.most, whole(coat, passage)
            )
        )
        self.touchy.setText(_pass_words(passes, patchy))


def _adds_words(passage: Passage, adds: Contribution | None) -> str:
    if adds is None:
        return tr("Adds …")
    if adds.most < HIDDEN_DE00:
        return tr("Adds nothing that shows: what lies above hides it.")
    return tr("Adds {0}: dE {1:.0f} at {2:.1f} mm, {3:.0f} on average.").format(
        change_word(adds.most), adds.most, adds.where * passage.length_mm, adds.mean
    )


def _pass_words(passes: OnePass | None, patchy: bool) -> str:
    if passes is None:
        return ""
    if patchy:  # one pass less is no question then, nor is there room for it
        return tr("Looks patchy. One pass more: dE {0:.1f}").format(passes.more)
    words = tr("One pass more: dE {0:.1f}").format(passes.more)
    if passes.less is not None:
        words += tr("; less: dE {0:.1f}").format(passes.less)
    return words
