"""The passages of the plan, each with its predicted ribbon, and the one in view with its sizes."""

from __future__ import annotations

from collections.abc import Sequence
from typing import get_args

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QPainter
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.formview import FormView
from zesty_veil.desktop.kit.numberbox import NumberBox
from zesty_veil.desktop.kit.plain import Label, tip
from zesty_veil.desktop.kit.quiet import WheelGuard, quiet
from zesty_veil.desktop.kit.ribbons import draw_ribbon
from zesty_veil.desktop.kit.theme import ON_STRONG, STRONG, TEXT, font, grey
from zesty_veil.desktop.session.document import Document
from zesty_veil.errors import VeilError
from zesty_veil.light.grid import Array
from zesty_veil.paint.primer import PLAIN, PRIMERS
from zesty_veil.plan import edits
from zesty_veil.plan.model import FORM_NAMES, MOST_AREA_MM2, MOST_LENGTH_MM, Passage, Plan, Primer
from zesty_veil.predict.forms.shapes import FORMS
from zesty_veil.tr import tr

_RIBBON = Qt.ItemDataRole.UserRole
_BELOW = Qt.ItemDataRole.UserRole + 1
_FORM_SIDE = 160


class _Delegate(QStyledItemDelegate):
    """Draws a passage as its name, its ribbon and its length."""

    def sizeHint(
        self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> QSize:
        return QSize(120, 64)

    def paint(
        self,
        painter: QPainter,
        option: QStyleOptionViewItem,
        index: QModelIndex | QPersistentModelIndex,
    ) -> None:
        rect = QRectF(option.rect)
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        ink = grey(ON_STRONG if chosen else TEXT)
        if chosen:
            painter.fillRect(rect, grey(STRONG))
        face = font(bold=chosen)
        painter.setFont(face)
        painter.setPen(ink)
        inside = rect.adjusted(9, 5, -9, -4)
        name = QFontMetricsF(face).elidedText(
            str(index.data()), Qt.TextElideMode.ElideRight, inside.width()
        )
        painter.drawText(inside, Qt.AlignmentFlag.AlignTop, name)
        ribbon = index.data(_RIBBON)
        if ribbon is not None:
            draw_ribbon(painter, QRectF(inside.x(), inside.y() + 20, inside.width(), 17), ribbon)
        painter.setFont(font())
        painter.setPen(ink)
        painter.drawText(inside, Qt.AlignmentFlag.AlignBottom, str(index.data(_BELOW)))


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
        self.setFixedWidth(216)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 10, 10, 10)
        column.setSpacing(7)
        heading = Label(tr("Passages"))
        heading.setFont(font(12, bold=True))
        column.addWidget(heading)
        self.list = QListWidget()
        self.list.setItemDelegate(_Delegate(self.list))
        self.list.setAccessibleName(tr("passages of the plan"))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.currentRowChanged.connect(self._row_changed)
        column.addWidget(self.list, 1)
        buttons = QHBoxLayout()
        self.add = QPushButton(tr("Add"))
        self.add.setAccessibleName(tr("add a passage"))
        self.add.clicked.connect(self.add_passage)
        self.remove = QPushButton(tr("Take away"))
        self.remove.setAccessibleName(tr("take this passage away"))
        self.remove.clicked.connect(self.remove_passage)
        buttons.addWidget(self.add)
        buttons.addWidget(self.remove, 1)
        column.addLayout(buttons)

        self.form_view = FormView(_FORM_SIDE)
        self.form = Choice(tr("form to see the passage on"))
        self.form.activated.connect(self._form_chosen)
        column.addWidget(self.form_view)
        column.addWidget(self.form)
        self.around = Choice(tr("passage that surrounds this one"))
        self.around.setToolTip(
            tr("What surrounds this passage: it stands behind it, and sets how light it seems")
        )
        self.around.activated.connect(self._surround_chosen)
        column.addWidget(self.around)

        self.name = QLineEdit()
        self.name.setMaxLength(80)
        self.name.setMinimumHeight(28)
        self.name.setAccessibleName(tr("name of the passage"))
        self.name.editingFinished.connect(self._renamed)
        self.length = self._box(tr("length of the passage in mm"), MOST_LENGTH_MM, 0.1)
        self.area = self._box(tr("area of the passage in square mm"), MOST_AREA_MM2, 0.1)
        WheelGuard(self).guard(self.length, self.area, self.form, self.around)
        self.length.setSuffix(tr(" mm"))
        self.length.setToolTip(tr("Length along the axis, away from the light"))
        self.area.setSuffix(tr(" mm²"))
        self.area.setToolTip(tr("Area to be painted, which tells the time"))
        sizes = QHBoxLayout()
        sizes.setSpacing(4)
        sizes.addWidget(self.length)
        sizes.addWidget(self.area)
        column.addWidget(self.name)
        column.addLayout(sizes)
        self.undercoat = Choice(tr("coloured undercoat in place of a primer"))
        self.undercoat.addItem(tr("no undercoat"), "")
        for primer in PRIMERS[len(PLAIN) :]:
            self.undercoat.addItem(tr("{0} undercoat").format(primer), primer)
        self.undercoat.activated.connect(self._undercoat_chosen)
        head = QHBoxLayout()
        head.addWidget(Label(tr("Primer")))
        head.addWidget(self.undercoat, 1)
        column.addLayout(head)
        primers = QHBoxLayout()
        primers.setSpacing(4)
        self.primers: dict[str, QPushButton] = {}
        for primer in PLAIN:
            button = QPushButton(tr(primer))
            button.setCheckable(True)
            button.setAccessibleName(tr("{0} primer").format(primer))
            button.clicked.connect(lambda _=False, p=primer: self.prime(p))
            primers.addWidget(button)
            self.primers[primer] = button
        column.addLayout(primers)

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
                words = tr("{0:g} mm, {1} coat{2}").format(
                    passage.length_mm, count, "" if count == 1 else "s"
                )
                item.setData(_BELOW, words)
            self.list.setCurrentRow(index)
        passage_in_view = self.passage
        fields = (self.name, self.length, self.area, self.form, self.around, *self.primers.values())
        for field in (*fields, self.undercoat, self.remove):
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
                self.list.item(row).setData(_RIBBON, ribbon)
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
        self.name.setFocus()
        self.name.selectAll()

    def remove_passage(self) -> None:
        """Take the passage in view away."""
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

    def _box(self, name: str, most: float, least: float) -> NumberBox:
        box = NumberBox()
        box.setRange(least, most)
        box.setDecimals(1)
        box.setMinimumHeight(28)
        box.setKeyboardTracking(False)
        box.setButtonSymbols(NumberBox.ButtonSymbols.NoButtons)
        box.setAccessibleName(name)
        box.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        box.valueChanged.connect(self._resized)
        return box
