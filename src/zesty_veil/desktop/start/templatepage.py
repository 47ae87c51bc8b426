"""A template: its few questions, and the plan as it comes, before it is begun with."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.advise.templates.every import template
from zesty_veil.advise.templates.model import NOTHING, Asks
from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.colourfield import ColourField
from zesty_veil.desktop.kit.laidwords import laid_words
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.panel import Panel, heading, quiet_words
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.theme import NUMBER, Surround
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.desktop.start.keys import TEMPLATE
from zesty_veil.desktop.start.templateview import TemplateView
from zesty_veil.services.templating import TemplateRequest, TemplateShown, templating
from zesty_veil.tr import tr

_ASKED = 360


class TemplatePage(Page):
    """Every answer makes the plan anew; one press begins with it.

    Parameters
    ----------
    rack
        The paints at hand, of which it is laid.
    """

    keys = TEMPLATE
    whole = True
    plan_wanted = Signal(object)  # Plan
    back_wanted = Signal()

    def __init__(self, rack: RackView) -> None:
        super().__init__()
        self._rack = rack
        self.name = ""
        self.shown: TemplateShown | None = None
        self._asked: TemplateRequest | None = None  # the last that was asked for
        self._begins = False  # whether its answer is to be begun with
        self.asked: dict[str, Choice | ColourField] = {}
        self.jobs: NewestWins[TemplateRequest, TemplateShown] = NewestWins(templating, self, "long")
        self.jobs.answered.connect(self._answered)
        self.jobs.failed.connect(self._failed)
        self.head, self.words = heading("", NUMBER), quiet_words()
        self.view, self.coats = TemplateView(), Label()
        self.coats.setWordWrap(True)
        self.coats.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.coats.setAccessibleName(tr("coats of the plan"))
        self.assumed = quiet_words()
        self.progress = QProgressBar()
        self.progress.setRange(0, 100)
        self.progress.setTextVisible(False)
        self.progress.setFixedSize(120, 6)
        self.progress.setAccessibleName(tr("how much of the plan is found"))
        self.stop = _button(tr("Stop"), tr("Stop searching"))
        self.use = _button(
            tr("Begin with it"), TEMPLATE.tooltip("begin template", tr("Open this as a new plan"))
        )
        self.use.setObjectName("main")
        self.leave = _button(
            tr("Back"), TEMPLATE.tooltip("leave template", tr("Back to the start page"))
        )
        self.stop.clicked.connect(self._stop)
        self.use.clicked.connect(self.begin)
        self.leave.clicked.connect(self.back)
        self._lay_out()

    def _lay_out(self) -> None:
        self._bar = QWidget()
        bar = QHBoxLayout(self._bar)
        bar.setContentsMargins(0, 0, 0, 0)
        bar.setSpacing(8)
        for widget in (self.progress, self.stop, self.use, self.leave):
            bar.addWidget(widget)
        self.form = Panel()
        self.form.setFixedWidth(_ASKED)
        self._questions = QWidget()
        self.form.body.addWidget(self._questions)
        self.form.body.addStretch(1)
        right = QVBoxLayout()
        right.setSpacing(8)
        listed = QScrollArea()
        listed.setWidget(self.coats)
        listed.setWidgetResizable(True)
        listed.setObjectName("clear")
        listed.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        right.addWidget(self.head)
        right.addWidget(self.words)
        right.addWidget(self.view)
        right.addWidget(listed, 1)
        right.addWidget(self.assumed)
        page = QHBoxLayout(self)
        page.setContentsMargins(24, 8, 24, 16)
        page.setSpacing(24)
        asked = QScrollArea()
        asked.setWidget(self.form)
        asked.setWidgetResizable(True)
        asked.setObjectName("clear")
        asked.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        asked.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        asked.setFixedWidth(_ASKED + 16)
        page.addWidget(asked)
        page.addLayout(right, 1)

    def tools(self) -> QWidget | None:
        """Return what begins with the plan."""
        return self._bar

    def show_template(self, name: str) -> None:
        """Ask the questions of a template, with the usual answers in them."""
        self._close_fields()
        self.name, self.asked = name, {}
        self._clear()
        chosen = template(name)
        self.head.setText(tr(chosen.title))
        questions = QWidget()
        column = QVBoxLayout(questions)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        for question in chosen.questions:
            label = Label(tr(question.words))
            widget = self._answer(question)
            label.setBuddy(widget)
            column.addWidget(label)
            column.addWidget(widget)
            column.addSpacing(4)
            self.asked[question.key] = widget
        self.form.body.replaceWidget(self._questions, questions)
        self._questions.setParent(None)
        self._questions.deleteLater()
        self._questions = questions
        self.ask()

    def _answer(self, question: Asks) -> Choice | ColourField:
        if not question.colour:
            choice = Choice(tr(question.words))
            for key, words in question.answers.items():
                choice.addItem(tr(words), key)
            choice.setCurrentIndex(max(choice.findData(question.usual), 0))
            choice.activated.connect(lambda _: self.ask())
            return choice
        hint = tr("none") if question.optional else tr("a colour, in words")
        field = ColourField(tr(question.words), hint, self._rack)
        field.setText("" if question.usual == NOTHING else question.usual)
        field.setToolTip(tr("A colour in words, as hex or as Lab; Enter"))
        for left in (field.returnPressed, field.editingFinished):
            left.connect(self._ask_if_changed)
        return field

    def answers(self) -> tuple[tuple[str, str], ...]:
        """Return what is answered now."""
        out = []
        for key, widget in self.asked.items():
            said = widget.text().strip() or NOTHING if isinstance(widget, ColourField) else (
                widget.currentData()
            )  # fmt: skip
            out.append((key, said))
        return tuple(out)

    def take_focus(self) -> None:
        """Begin with the first question."""
        first = next(iter(self.asked.values()), None)
        if first is not None:
            first.setFocus()

    def _request(self) -> TemplateRequest:
        return TemplateRequest(self.name, self.answers(), self._rack.paints())

    def ask(self) -> None:
        """Make the plan of the answers as they are."""
        self.shown, self._begins, self._asked = None, False, self._request()
        self.use.setEnabled(True)
        self.words.setText(tr("Finding a recipe from your paints …"))
        self._going(True)
        self.jobs.ask(self._asked)

    def _ask_if_changed(self) -> None:
        """Take an answer whose field is left, if it is another one."""
        if self._asked != self._request():
            self.ask()

    def open(self) -> bool:
        """Go on where it was left; the paints may be others by now."""
        self._ask_if_changed()
        return True

    def begin(self) -> None:
        """Open what comes of the answers as a new plan, as soon as it is there."""
        self._ask_if_changed()
        if self.shown is not None and self.shown.plan is not None:
            self.plan_wanted.emit(self.shown.plan)
        elif not self.jobs.idle():
            self._begins = True
            self.words.setText(tr("The plan opens as soon as its recipe is found …"))

    def back(self) -> None:
        """Go back to the start page."""
        self.back_wanted.emit()

    def rest(self) -> None:
        """Look for nothing any more; what is answered stays."""
        self._halt()
        if self.shown is None:
            self._asked = None  # it is asked again when it is shown again

    def _halt(self) -> None:
        self.jobs.drop()
        self._going(False)
        self._begins = False

    def set_surround(self, surround: Surround) -> None:
        """Put predicted colours into another grey field."""
        self.view.set_surround(surround)

    def wait_until_idle(self) -> bool:
        """Run events until the plan is there."""
        return self.jobs.wait_until_idle()

    def close_jobs(self) -> None:
        """End the workers."""
        self.jobs.close()
        self._close_fields()

    def _close_fields(self) -> None:
        for widget in self.asked.values():
            if isinstance(widget, ColourField):
                widget.stop()

    def _going(self, on: bool, share: float = 0.0) -> None:
        self.stop.setEnabled(on)
        self.progress.setVisible(on)
        self.progress.setValue(round(100 * share))

    def _stop(self) -> None:
        self._halt()
        self.use.setEnabled(False)
        self.words.setText(tr("Stopped. Change an answer to lay it anew."))

    def _failed(self, error: Exception) -> None:
        self._going(False)
        self._begins = False
        self.use.setEnabled(False)
        self._clear()
        self.words.setText(str(error))

    def _clear(self) -> None:
        """Show no plan: what was shown is of other answers."""
        self.view.show_plan(None)
        self.coats.setText("")
        self.assumed.setText("")

    def _answered(self, shown: TemplateShown) -> None:
        if shown.plan is None:
            self._going(True, shown.share)
            return
        self._going(False)
        self.shown = shown
        self.use.setEnabled(True)
        self.view.show_plan(shown)
        passes = sum(coat.passes for p in shown.plan.passages for coat in p.coats)
        pots = {coat.mixture for p in shown.plan.passages for coat in p.coats}
        self.words.setText(tr("{0} passes of {1} pots.").format(passes, len(pots)))
        lines = []
        for passage in shown.plan.passages:
            if len(shown.plan.passages) > 1:
                lines.append(passage.name)
            lines += [laid_words(i, coat) for i, coat in enumerate(passage.coats, 1)]
        self.coats.setText("\n".join(lines))
        taken = " ".join(shown.assumed)
        self.assumed.setText(tr("Taken for granted: {0}").format(taken) if taken else "")
        if self._begins:
            self.begin()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Begin with the plan, or go back."""
        acts = {"begin template": self.begin, "leave template": self.back}
        act = acts.get(self.keys.pressed(event) or "")
        if act is None:
            event.ignore()
            return
        act()
        event.accept()


def _button(words: str, tip: str) -> QPushButton:
    button = QPushButton(words)
    button.setToolTip(tip)
    return button
