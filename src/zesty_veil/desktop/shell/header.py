"""The header of every station: the plan's title and state, undo and redo, and the tools here."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.kit.panel import GRID, IconButton
from zesty_veil.desktop.kit.plain import Label, tip
from zesty_veil.desktop.kit.taborder import tab_after
from zesty_veil.desktop.kit.theme import CAPTION, TITLE, font
from zesty_veil.desktop.session.document import Document
from zesty_veil.plan import edits
from zesty_veil.services.planstate import plan_words
from zesty_veil.tr import counted, tr

HEIGHT = 60


class Header(QFrame):
    """Shows which plan is open and in what state; `undo_wanted` and `redo_wanted` ask for those.

    Parameters
    ----------
    document
        The open plan.
    """

    undo_wanted = Signal()
    redo_wanted = Signal()

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self._own_words = ""
        self.setFixedHeight(HEIGHT)
        self.title = QLineEdit()
        self.title.setObjectName("title")
        self.title.setFont(font(TITLE, bold=True))
        self.title.setMaxLength(120)
        self.title.setFixedHeight(28)
        self.title.setAccessibleName(tr("title of the plan"))
        self.title.editingFinished.connect(self._retitled)
        self.state = Label()
        self.state.setObjectName("quiet")
        self.state.setFont(font(CAPTION))
        self.state.setContentsMargins(6, 0, 0, 0)
        # What does not fit is whole in the tooltip; the row must not push the tools out.
        self.state.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        names = QVBoxLayout()
        names.setContentsMargins(0, 0, 0, 0)
        names.setSpacing(0)
        names.addStretch(1)
        names.addWidget(self.title)
        names.addWidget(self.state)
        names.addStretch(1)
        self.undo = IconButton("undo", tr("Undo"), self.undo_wanted.emit)
        self.redo = IconButton("redo", tr("Redo"), self.redo_wanted.emit)
        self.tools = QWidget()
        self._slots = QHBoxLayout(self.tools)
        self._slots.setContentsMargins(0, 0, 0, 0)
        self._slots.setSpacing(GRID)
        self._shown: tuple[QWidget, ...] = ()
        row = QHBoxLayout(self)
        row.setContentsMargins(2 * GRID, 4, 2 * GRID, 4)
        row.setSpacing(GRID)
        row.addLayout(names, 1)
        for button in (self.undo, self.redo):
            row.addWidget(button, 0, Qt.AlignmentFlag.AlignVCenter)
        row.addWidget(self.tools, 0, Qt.AlignmentFlag.AlignVCenter)
        document.changed.connect(self._show)
        self._show()

    def show_station(self, tools: tuple[QWidget, ...], words: str, editable: bool) -> None:
        """Show the tools of a station and what state it is in; without words, the plan's.

        `editable` tells whether its page leaves room for undo and redo.
        """
        if tools != self._shown:
            for widget in self._shown:
                self._slots.removeWidget(widget)
                widget.hide()
            for widget in tools:
                self._slots.addWidget(widget)
                widget.show()
            self._shown = tools
            tab_after(self.redo, tools)
        self.tools.setVisible(bool(tools))
        for button in (self.undo, self.redo):
            button.setVisible(editable)
        self._own_words = words
        self._show()

    def show_steps(self, undo: str, redo: str) -> None:
        """Offer what can be undone and redone, in words with their keys; none is not offered."""
        for button, words, usual in ((self.undo, undo, tr("Undo")), (self.redo, redo, tr("Redo"))):
            button.setEnabled(bool(words))
            button.setToolTip(tip(words or usual))
            button.setAccessibleName(words or usual)

    def _show(self) -> None:
        document, plan = self._document, self._document.plan
        if not self.title.isModified():
            self._write(plan.title)
        where = document.path.name if document.path is not None else tr("no file yet")
        saved = tr("not saved") if document.unsaved else tr("saved")
        if document.path is None and not document.unsaved:
            saved = ""
        figures = counted(plan.figures, "{0} figure", "{0} figures")
        words = self._own_words or tr("{0}  ·  {1}").format(figures, plan_words(plan))
        self.state.setText("  ·  ".join(filter(None, (words, where, saved))))
        self.state.setToolTip(tip(self.state.text()))

    def _retitled(self) -> None:
        if self.title.isModified():
            self.title.setModified(False)
            plan = edits.retitle(self._document.plan, self.title.text())
            self._document.edit(plan, tr("title of the plan"))
            self._write(plan.title)

    def _write(self, title: str) -> None:
        self.title.setText(title)
        self.title.setToolTip(tip(tr("{0}  (the plan's title; click to change it)").format(title)))
        self.title.setCursorPosition(0)
