"""The passages of the plan, each with its predicted ribbon, and the one in view with its sizes."""

from __future__ import annotations

from collections.abc import Sequence
from typing import get_args

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.kit.commands import tooltip
from zesty_veil.desktop.kit.formview import FormView
from zesty_veil.desktop.kit.panel import heading, quiet_words
from zesty_veil.desktop.kit.plain import tip
from zesty_veil.desktop.kit.quiet import quiet
from zesty_veil.desktop.section.passagecards import BELOW_ROLE, RIBBON_ROLE, PassageCards
from zesty_veil.desktop.section.passagedetails import PassageDetails
from zesty_veil.desktop.session.document import Document
from zesty_veil.errors import VeilError
from zesty_veil.light.grid import Array
from zesty_veil.paint.primer import PLAIN
from zesty_veil.plan import edits
from zesty_veil.plan.model import FORM_NAMES, Passage, Plan, Primer
from zesty_veil.predict.forms.shapes import FORMS
from zesty_veil.tr import counted, tr

_WIDTH = 224
_FORM_SIDE = 176
# A panel lower than this has no room for the form beside the cards.
_LOW = 560


class PassagesPanel(QWidget):
    """Chooses, adds, names, sizes and primes passages."""

    chosen = Signal(int)
    form_wanted = Signal(str)
    sculpt_wanted = Signal()
    complained = Signal(str)

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self._index = -1
        self.setFixedWidth(_WIDTH)
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 8, 8, 8)
        column.setSpacing(8)
        self.add = QPushButton(tr("+ Add"))
        self.add.setObjectName("link")
        self.add.setAccessibleName(tr("add a passage"))
        self.add.setToolTip(tooltip("add passage"))
        self.add.clicked.connect(self.add_passage)
        top = QHBoxLayout()
        top.addWidget(heading(tr("Passages")), 1)
        top.addWidget(self.add)
        column.addLayout(top)
        self.list = QListWidget()
        self.list.setObjectName("cards")
        self.list.setItemDelegate(PassageCards(self.list))
        self.list.setSpacing(2)
        self.list.setAccessibleName(tr("passages of the plan"))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.list.currentRowChanged.connect(self._row_changed)
        column.addWidget(self.list, 1)
        self.form_view = FormView(_FORM_SIDE)
        column.addWidget(self.form_view)
        self.details = PassageDetails(self)
        details = self.details
        self.name, self.length, self.area = details.name, details.length, details.area
        self.form, self.around, self.remove = details.form, details.around, details.remove
        self.undercoat = details.undercoat
        self.form.activated.connect(self._form_chosen)
        self.around.activated.connect(self._surround_chosen)
        self.name.editingFinished.connect(self._renamed)
        self.name.returnPressed.connect(self.details.close)
        for box in (self.length, self.area):
            box.valueChanged.connect(self._resized)
        self.remove.clicked.connect(self.remove_passage)
        self.undercoat.activated.connect(self._undercoat_chosen)
        self.edit = QPushButton(tr("Name, size, form …"))
        self.edit.setToolTip(tr("Name, size, form and surround of the passage in view"))
        self.edit.clicked.connect(self.open_details)
        column.addWidget(self.edit)
        primers = QHBoxLayout()
        primers.setSpacing(4)
        self.primers: dict[str, QPushButton] = {}
        for primer in PLAIN:
            button = QPushButton(tr(primer))
            button.setObjectName("narrow")
            button.setCheckable(True)
            button.setAccessibleName(tr("{0} primer").format(primer))
            button.setToolTip(tooltip("primer", tr("{0} primer").format(tr(primer))))
            button.clicked.connect(lambda _=False, p=primer: self.prime(p))
            primers.addWidget(button)
            self.primers[primer] = button
        column.addWidget(quiet_words(tr("Primer")))
        column.addLayout(primers)

    def open_details(self) -> None:
        """Open what is seldom changed of the passage in view, beside it."""
        if self.passage is not None:
            self.details.open_beside(self.edit)

    def resizeEvent(self, event: QResizeEvent) -> None:
        # On a low screen the cards need the room; the form can be seen large with a key.
        self.form_view.setVisible(self.height() >= _LOW)
        super().resizeEvent(event)

    @property
    def passage(self) -> Passage | None:
        """The passage in view."""
        passages = self._document.plan.passages
        return passages[self._index] if 0 <= self._index < len(passages) else None

    def show_plan(self, plan: Plan, index: int) -> None:
        """Show the passages of a plan, one of them in view."""
        self._index = index
        with quiet(self.list):
            while self.list.count() > len(plan.passages):
                self.list.takeItem(self.list.count() - 1)
            while self.list.count() < len(plan.passages):
                self.list.addItem(QListWidgetItem())
            for row, passage in enumerate(plan.passages):
                item = self.list.item(row)
                item.setText(passage.name)
                item.setToolTip(tip(passage.name))
                count = len(passage.coats)
                coats = counted(count, "{0} coat", "{0} coats")
                words = tr("{0:g} mm  ·  {1}").format(passage.length_mm, coats)
                item.setData(BELOW_ROLE, words)
            self.list.setCurrentRow(index)
        passage_in_view = self.passage
        fields = (self.name, self.length, self.area, self.form, self.around, *self.primers.values())
        for field in (*fields, self.undercoat, self.remove, self.edit):
            field.setEnabled(passage_in_view is not None)
        if passage_in_view is None:
            return
        with quiet(*fields):
            if not self.name.hasFocus() or not self.name.isModified():
                self.name.setText(passage_in_view.name)
                self.name.setCursorPosition(0)
            self.length.setValue(passage_in_view.length_mm)
            self.area.setValue(passage_in_view.area_mm2)
            self._show_surrounds(plan, passage_in_view)
            self._show_forms(plan, passage_in_view)
            ground = passage_in_view.ground
            self._show_primer(ground.primer if ground.measured is None else None)

    def show_ribbons(self, ribbons: Sequence[Array]) -> None:
        """Show the predicted colours of each passage on its flat site."""
        with quiet(self.list):
            for row, ribbon in enumerate(ribbons[: self.list.count()]):
                self.list.item(row).setData(RIBBON_ROLE, ribbon)
        self.list.viewport().update()

    def add_passage(self) -> None:
        """Add an empty passage and put it in view."""
        try:
            plan = edits.add_passage(self._document.plan, Passage(tr("new passage")))
        except VeilError as error:
            self.complained.emit(str(error))
            return
        self._document.edit(plan, tr("new passage"))
        self.chosen.emit(len(plan.passages) - 1)
        self.open_details()
        self.name.setFocus()
        self.name.selectAll()

    def remove_passage(self) -> None:
        """Take the passage in view away."""
        self.details.close()
        if self.passage is not None:
            name = self.passage.name
            plan = edits.remove_passage(self._document.plan, self._index)
            self.chosen.emit(min(self._index, len(plan.passages) - 1))
            self._document.edit(plan, tr("taking away {0}").format(name))

    def prime(self, primer: Primer) -> None:
        """Put another primer below the passage in view."""
        if self.passage is not None:
            plan = edits.prime(self._document.plan, self._index, primer)
            self._document.edit(plan, tr("{0} primer").format(primer))
            self._show_primer(primer)

    def _undercoat_chosen(self, row: int) -> None:
        primer: Primer = self.undercoat.itemData(row) or "white"
        if self.passage is not None and primer != self.passage.ground.primer:
            self.prime(primer)

    def _show_primer(self, primer: str | None) -> None:
        for name, button in self.primers.items():
            button.setChecked(name == primer)
        with quiet(self.undercoat):
            self.undercoat.setCurrentIndex(max(self.undercoat.findData(primer), 0))

    def next_primer(self) -> None:
        """Put the next primer below the passage in view."""
        if self.passage is not None:
            primers = get_args(Primer)
            now = primers.index(self.passage.ground.primer)
            self.prime(primers[(now + 1) % len(primers)])

    def _row_changed(self, row: int) -> None:
        if row >= 0 and row != self._index:
            self.chosen.emit(row)

    def _show_surrounds(self, plan: Plan, passage: Passage) -> None:
        """Offer every other passage as what surrounds this one."""
        others = [p.name for p in plan.passages if p.name != passage.name]
        self.around.clear()
        self.around.addItem(tr("surrounded by nothing"), None)
        for name in others:
            self.around.addItem(tr("before {0}").format(name), name)
        self.around.setCurrentIndex(self.around.findData(passage.surround))

    def _surround_chosen(self, row: int) -> None:
        if self.passage is not None:
            plan = edits.surround(self._document.plan, self._index, self.around.itemData(row))
            self._document.edit(plan, tr("surround of the passage"))

    def _show_forms(self, plan: Plan, passage: Passage) -> None:
        """Offer the program's forms, the plan's sculpts, and to open another."""
        sculpts = [sculpt.name for sculpt in plan.sculpts]
        names = [*FORM_NAMES, *sculpts, None]
        if [self.form.itemData(i) for i in range(self.form.count())] != names:
            self.form.clear()
            for name in FORM_NAMES:
                self.form.addItem(tr(FORMS[name][0]), name)
            for name in sculpts:
                self.form.addItem(tr("sculpt: {0}").format(name), name)
            self.form.addItem(tr("a sculpt of your own …"), None)
        self.form.setCurrentIndex(names.index(passage.form))

    def _form_chosen(self, row: int) -> None:
        name = self.form.itemData(row)
        if self.passage is not None and name is not None:
            self.form_wanted.emit(name)
        elif self.passage is not None:
            self._show_forms(self._document.plan, self.passage)
            self.sculpt_wanted.emit()

    def _renamed(self) -> None:
        if self.passage is not None and self.name.isModified():
            self.name.setModified(False)
            plan = edits.rename_passage(self._document.plan, self._index, self.name.text())
            self._document.edit(plan, tr("name of the passage"))
            self.name.setText(plan.passages[self._index].name)

    def _resized(self) -> None:
        if self.passage is not None:
            plan = edits.size_passage(
                self._document.plan, self._index, self.length.value(), self.area.value()
            )
            self._document.edit(plan, tr("size of the passage"), "size")
