"""The plan's title, to be read and changed, and whether its file holds it."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QWidget

from zesty_veil.desktop.kit.plain import Label, tip
from zesty_veil.desktop.kit.theme import font
from zesty_veil.desktop.session.document import Document
from zesty_veil.plan import edits
from zesty_veil.tr import tr

_TITLE_WIDTH = 460
_SAVED_WIDTH = 200
_MARGINS = 28


class PlanStrip(QWidget):
    """Title and file of the open plan, as wide as the menus of a menu bar leave room."""

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 3, 14, 0)
        row.setSpacing(10)
        self.saved = Label()
        self.saved.setAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        self.saved.setFixedWidth(_SAVED_WIDTH)
        self.title = QLineEdit()
        self.title.setObjectName("title")
        self.title.setFont(font(bold=True))
        self.title.setMaxLength(120)
        self.title.setFixedWidth(_TITLE_WIDTH)
        self.title.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.title.setAccessibleName(tr("title of the plan"))
        self.title.setToolTip(tr("The plan's title; click to change it"))
        self.title.editingFinished.connect(self._retitled)
        row.addWidget(self.title)
        row.addWidget(self.saved)
        document.changed.connect(self._show)
        self._show()

    def fit(self, room: int) -> bool:
        """Take no more room than there is beside the menus, so that nothing is drawn over them.

        Return whether it is another width than before.
        """
        saved = min(_SAVED_WIDTH, max(room // 3, 0))
        title = max(min(_TITLE_WIDTH, room - saved - _MARGINS), 0)
        if (saved, title) == (self.saved.width(), self.title.width()):
            return False
        self.saved.setFixedWidth(saved)
        self.title.setFixedWidth(title)
        self.setFixedWidth(saved + title + _MARGINS)
        self._show()
        return True

    def _show(self) -> None:
        document = self._document
        if not self.title.isModified():
            self._write(document.plan.title)
        name = document.path.name if document.path is not None else ""
        words = tr("not saved   {0}").format(name) if document.unsaved else name
        self.saved.setFont(font(bold=document.unsaved))
        self.saved.setText(
            self.saved.fontMetrics().elidedText(
                words, Qt.TextElideMode.ElideRight, self.saved.width()
            )
        )

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
