"""The brush card: the coat in hand, as the brush, the pot and the clock know it."""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace
from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.kit.numberbox import NumberBox
from zesty_veil.desktop.kit.passageeditor import PassageEditor
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.quiet import WheelGuard, quiet
from zesty_veil.desktop.kit.swatch import CoatSwatch
from zesty_veil.desktop.kit.theme import font
from zesty_veil.desktop.section.drops import drops_counter, tally_counter
from zesty_veil.desktop.section.mixturerows import MixtureRows
from zesty_veil.desktop.section.strokerow import StrokeRow
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.mixture import THINNERS
from zesty_veil.paint.tool import tools
from zesty_veil.plan import edits
from zesty_veil.plan.drying import drying_minutes, whole
from zesty_veil.plan.model import Coat, Passage, Plan, coat_name, thinning_words
from zesty_veil.predict.contribution import Contribution
from zesty_veil.predict.onepass import OnePass
from zesty_veil.predict.words import change_word
from zesty_veil.services.forecast import DrawnCoat
from zesty_veil.thresholds import HIDDEN_DE00
from zesty_veil.tr import tr

_SITES_DRAWN = tuple(reversed(SITES))
_THINNING_STEP = 0.5


class BrushCard(QWidget):
    """Shows and changes the coat in hand."""

    move_wanted = Signal(int)  # +1 up, -1 down
    remove_wanted = Signal()

    def __init__(self, editor: PassageEditor, rack: RackView) -> None:
        super().__init__()
        self._editor = editor
        self._index: int | None = None
        self.setFixedWidth(292)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 10, 12, 10)
        column.setSpacing(6)

        self._title = Label()
        self._title.setFont(font(12, bold=True))
        self._title.setWordWrap(True)
        self._place = Label()
        self.up = self._tool_button(
            "▲", tr("lay this coat later"), lambda: self.move_wanted.emit(1)
        )
        self.down = self._tool_button(
            "▼", tr("lay this coat sooner"), lambda: self.move_wanted.emit(-1)
        )
        self.remove = QPushButton(tr("Take away"))
        self.remove.setAccessibleName(tr("take this coat away"))
        self.remove.clicked.connect(self.remove_wanted)
        order = QHBoxLayout()
        order.setSpacing(4)
        order.addWidget(self._place, 1)
        for button in (self.up, self.down, self.remove):
            order.addWidget(button)
        column.addWidget(self._title)
        column.addLayout(order)

        self._swatch = CoatSwatch()
        column.addWidget(self._swatch)

        self.mixture = MixtureRows(editor, rack)
        column.addWidget(self.mixture)

        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(6)
        grid.setColumnStretch(1, 1)
        column.addLayout(grid)
        self.thinner = QComboBox()
        self.thinner.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.thinner.addItems([tr("water"), tr("thin medium"), tr("thick medium")])
        self.thinner.setAccessibleName(tr("thinner"))
        self.thinner.activated.connect(self._thinner_chosen)
        self.thin, self._thin_drops = drops_counter("thinner")
        self.thin.stepped.connect(lambda s: self._act(lambda i: editor.thin(i, _THINNING_STEP * s)))
        self._ratio = Label()
        self._ratio.setFont(font(bold=True))
        self._row(grid, 0, tr("Thinner"), self.thinner)
        self._row(grid, 1, self._ratio, self.thin)
        self.tool = QComboBox()
        self.tool.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.tool.setAccessibleName(tr("tool and load"))
        for name, tool in tools().items():
            self.tool.addItem(tr(tool.label), name)
        self.tool.activated.connect(self._tool_chosen)
        self._row(grid, 2, tr("Tool"), self.tool)
        self.passes, self._tally = tally_counter("passes")
        self.passes.stepped.connect(lambda s: self._act(lambda i: editor.passes(i, s)))
        self._passes_label = Label(tr("Passes"))
        self._row(grid, 3, self._passes_label, self.passes)
        self.span = self._pair(grid, 4, tr("From, to mm"), tr("span"), self._span_typed)
        self.feather = self._pair(grid, 5, tr("Feather mm"), tr("feather"), self._feather_typed)
        WheelGuard(self).guard(self.thinner, self.tool, *self.span, *self.feather)
        self.strokes = StrokeRow()
        self.strokes.changed.connect(self._change)
        self._stroke_label = Label()
        self._row(grid, 7, self._stroke_label, self.strokes)
        sites = QHBoxLayout()
        sites.setSpacing(4)
        self.sites: dict[str, QPushButton] = {}
        for site in _SITES_DRAWN:
            button = QPushButton(tr(site))
            button.setCheckable(True)
            button.setObjectName("narrow")
            button.setAccessibleName(tr("reaches the {0}").format(site))
            button.clicked.connect(self._sites_clicked)
            sites.addWidget(button)
            self.sites[site] = button
        self._row(grid, 6, tr("Reaches"), sites)

        self._adds = Label()
        self._adds.setWordWrap(True)
        self._touchy = Label()
        self._time = Label()
        self._time.setWordWrap(True)
        # Room for two lines from the start, or the card would jump as the words change.
        for label in (self._adds, self._time):
            label.setMinimumHeight(2 * label.fontMetrics().lineSpacing() + 4)
            label.setAlignment(Qt.AlignmentFlag.AlignTop)
        column.addSpacing(2)
        column.addWidget(self._adds)
        column.addWidget(self._touchy)
        column.addWidget(self._time)
        column.addStretch(1)

    def show_coat(
        self,
        plan: Plan,
        passage: Passage | None,
        index: int | None,
        layer: DrawnCoat | None,
        adds: Contribution | None,
        passes: OnePass | None,
    ) -> None:
        """Show a coat, or that there is none in hand."""
        self._index = index
        known = passage is not None and index is not None and index < len(passage.coats)
        for kind in (QAbstractButton, QAbstractSpinBox, QComboBox):
            for child in self.findChildren(kind):
                child.setEnabled(known)
        self._swatch.layer = layer if known else None
        self._swatch.update()
        if not known or passage is None or index is None:
            self._title.setText(tr("No coat in hand"))
            self._place.setText("")
            self.mixture.show_mixture(plan, None, None)
            self._show_nothing()
            return
        coat = passage.coats[index]
        self._title.setText(coat_name(coat).rpartition(",")[0])
        self._place.setText(tr("{0} of {1}").format(index + 1, len(passage.coats)))
        self.up.setEnabled(index + 1 < len(passage.coats))
        self.down.setEnabled(index > 0)
        self.mixture.show_mixture(plan, index, coat)
        self._show_numbers(coat, passage)
        self._show_words(coat, passage, adds)
        self._show_passes(passes)

    def _show_nothing(self) -> None:
        for drawn in (self._thin_drops, self._tally):
            drawn.count = 0
            drawn.update()
        self._ratio.setText("")
        self._passes_label.setText(tr("Passes"))
        self._adds.setText(tr("Take one on the section, or press N to add one."))
        self._touchy.setText("")
        self._time.setText("")

    def _show_numbers(self, coat: Coat, passage: Passage) -> None:
        total = sum(part.parts for part in coat.mixture.parts)
        self._thin_drops.count = round(coat.mixture.thinning * total, 2)
        self._thin_drops.update()
        self._ratio.setText(thinning_words(coat.mixture).partition(" ")[0])
        self._tally.count = coat.passes
        self._tally.update()
        self._passes_label.setText(tr("Passes {0}").format(coat.passes))
        with quiet(self.thinner, self.tool, *self.span, *self.feather, *self.sites.values()):
            self.thinner.setCurrentIndex(THINNERS.index(coat.mixture.thinner))
            self.tool.setCurrentIndex(self.tool.findData(coat.tool))
            for boxes, numbers in ((self.span, coat.span), (self.feather, coat.feather)):
                for box, number in zip(boxes, numbers, strict=True):
                    box.setMaximum(passage.length_mm)
                    # A box being typed in is left alone until its number is taken.
                    if abs(box.value() - number * passage.length_mm) > 0.051 or not box.hasFocus():
                        box.setValue(number * passage.length_mm)
            for site, button in self.sites.items():
                button.setChecked(site in coat.sites)
        self._stroke_label.setText(self.strokes.show_coat(coat))

    def _show_words(self, coat: Coat, passage: Passage, adds: Contribution | None) -> None:
        if adds is None:
            self._adds.setText(tr("Adds …"))
        elif adds.most < HIDDEN_DE00:
            self._adds.setText(tr("Adds nothing that shows: what lies above hides it."))
        else:
            place = adds.where * passage.length_mm
            self._adds.setText(
                tr("Adds {0}: dE {1:.0f} at {2:.1f} mm, {3:.0f} on average.").format(
                    change_word(adds.most), adds.most, place, adds.mean
                )
            )
        wait = drying_minutes(coat)
        self._time.setText(
            tr("Wait {0:.0f}-{1:.0f} min after a pass; about {2:.0f} min in all.").format(
                wait.least, wait.most, whole(coat, passage)
            )
        )

    def _show_passes(self, passes: OnePass | None) -> None:
        if passes is None:
            self._touchy.setText("")
            return
        words = tr("One pass more: dE {0:.1f}").format(passes.more)
        if passes.less is not None:
            words += tr("; less: dE {0:.1f}").format(passes.less)
        self._touchy.setText(words)

    def _act(self, deed: Callable[[int], None]) -> None:
        if self._index is not None:
            deed(self._index)

    def _change(self, change: Callable[[Coat], Coat], words: str, gesture: str = "") -> None:
        if self._index is None:
            return
        coat = self._editor.coat(self._index)
        if coat is not None:
            self._editor.change(
                self._index, change(coat), tr("{0} of {1}").format(words, coat_name(coat)), gesture
            )

    def _thinner_chosen(self, row: int) -> None:
        thinner = THINNERS[row]
        self._change(lambda c: edits.with_thinning(c, c.mixture.thinning, thinner), "thinner")

    def _tool_chosen(self, row: int) -> None:
        name = str(self.tool.itemData(row))
        self._change(lambda c: replace(c, tool=name), "tool")

    def _span_typed(self) -> None:
        self._typed(self.span, edits.with_span, "span")

    def _feather_typed(self) -> None:
        self._typed(self.feather, edits.with_feather, "feather")

    def _typed(
        self,
        boxes: tuple[NumberBox, NumberBox],
        edit: Callable[[Coat, float, float], Coat],
        what: str,
    ) -> None:
        passage = self._editor.passage
        if passage is not None:
            one, other = (box.value() / passage.length_mm for box in boxes)
            self._change(lambda c: edit(c, one, other), what, what)

    def _sites_clicked(self) -> None:
        chosen = tuple(site for site in SITES if self.sites[site].isChecked())
        self._change(lambda c: edits.with_sites(c, chosen), "reach")
        if not chosen:
            # The last site stays; show it so.
            coat = self._editor.coat(self._index) if self._index is not None else None
            for site, button in self.sites.items():
                button.setChecked(coat is not None and site in coat.sites)

    def _pair(
        self, grid: QGridLayout, row: int, label: str, what: str, typed: Callable[[], None]
    ) -> tuple[NumberBox, NumberBox]:
        pair = QHBoxLayout()
        pair.setSpacing(4)
        boxes = []
        for side in ("light", "far"):
            box = NumberBox()
            box.setDecimals(1)
            box.setSingleStep(0.5)
            box.setKeyboardTracking(False)
            box.setAccessibleName(tr("{0}, {1} side, in mm").format(what, side))
            box.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
            box.valueChanged.connect(typed)
            box.setButtonSymbols(NumberBox.ButtonSymbols.NoButtons)
            box.setMinimumSize(QSize(64, 28))
            pair.addWidget(box)
            boxes.append(box)
        self._row(grid, row, label, pair)
        return boxes[0], boxes[1]

    def _row(
        self, grid: QGridLayout, row: int, label: str | Label, field: QWidget | QHBoxLayout
    ) -> None:
        grid.addWidget(Label(label) if isinstance(label, str) else label, row, 0)
        if isinstance(field, QWidget):
            grid.addWidget(field, row, 1)
        else:
            grid.addLayout(field, row, 1)

    def _tool_button(self, sign: str, name: str, act: Callable[[], None]) -> QToolButton:
        button = QToolButton()
        button.setText(sign)
        button.setFixedWidth(32)
        button.setAccessibleName(name)
        button.setToolTip(name[:1].upper() + name[1:])
        button.clicked.connect(act)
        return button
