"""The brush card: the coat in hand, as the brush, the pot and the clock know it."""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace
from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.kit.commands import tooltip
from zesty_veil.desktop.kit.fold import Fold
from zesty_veil.desktop.kit.numberbox import NumberBox
from zesty_veil.desktop.kit.panel import quiet_words
from zesty_veil.desktop.kit.passageeditor import PassageEditor
from zesty_veil.desktop.kit.plain import Label, name_control
from zesty_veil.desktop.kit.quiet import WheelGuard, quiet
from zesty_veil.desktop.kit.swatch import CoatSwatch
from zesty_veil.desktop.kit.taborder import tab_after
from zesty_veil.desktop.kit.theme import CAPTION, CARD, font
from zesty_veil.desktop.section.cardrows import card_grid, card_row
from zesty_veil.desktop.section.drops import drops_counter, tally_counter
from zesty_veil.desktop.section.meant import MEANT_WORDS
from zesty_veil.desktop.section.mixturerows import MixtureRows
from zesty_veil.desktop.section.strokerow import StrokeRow
from zesty_veil.desktop.section.whatitdoes import WhatItDoes
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.mixture import THINNERS
from zesty_veil.paint.tool import tools
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat, Passage, Plan, coat_name, thinning_words
from zesty_veil.predict.contribution import Contribution
from zesty_veil.predict.onepass import OnePass
from zesty_veil.services.forecast import DrawnCoat
from zesty_veil.services.picking import Picking
from zesty_veil.tr import tr

_SITES_DRAWN = tuple(reversed(SITES))
_THINNING_STEP = 0.5
_DROPS_WIDE, _RATIO_WIDE = 62, 40


class BrushCard(QWidget):
    """Shows and changes the coat in hand."""

    move_wanted = Signal(int)  # +1 up, -1 down
    remove_wanted = Signal()

    def __init__(
        self,
        editor: PassageEditor,
        rack: RackView,
        within: Callable[[int, str], Picking | None] = lambda coat, swapped: None,
    ) -> None:
        super().__init__()
        self._editor = editor
        self._index: int | None = None
        self._by_hand = False  # whether somebody has folded a group
        self._room = 0
        # How high things are is known when they are laid out, after this turn of the event loop.
        self._fitting = QTimer(self)
        self._fitting.setSingleShot(True)
        self._fitting.setInterval(0)
        self._fitting.timeout.connect(self._fit)
        self.setFixedWidth(292)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 12, 8)
        column.setSpacing(6)
        self._title = Label()
        self._title.setFont(font(CARD, bold=True))
        self._title.setWordWrap(True)
        self._place = quiet_words(pixels=CAPTION)
        self._place.setWordWrap(False)
        self._swatch = CoatSwatch()
        self.pot, self.brush = Fold(tr("Mixture")), Fold(tr("Brush"))
        self.lies, self.does = Fold(tr("Place")), WhatItDoes()
        head = QHBoxLayout()
        head.addWidget(self._title, 1)
        head.addWidget(self._place, 0, Qt.AlignmentFlag.AlignTop)
        column.addLayout(head)
        column.addWidget(self._swatch)
        for group in (self.pot, self.brush, self.lies, self.does):
            column.addWidget(group)
            group.folded.connect(self._folded)
        self._fill_pot(rack, within)
        self._fill_brush()
        self._fill_place()
        self.up = self._order_button(tr("Later"), tr("lay this coat later"), 1)
        self.down = self._order_button(tr("Sooner"), tr("lay this coat sooner"), -1)
        self.remove = QPushButton(tr("Take away"))
        self.remove.setAccessibleName(tr("take this coat away"))
        self.remove.setToolTip(tooltip("remove coat"))
        self.remove.clicked.connect(self.remove_wanted)
        self._order = (self.down, self.up, self.remove)
        order = QHBoxLayout()
        order.setSpacing(4)
        for button in self._order:
            button.setObjectName("narrow")
            order.addWidget(button, 1)
        column.addLayout(order)
        column.addStretch(1)
        tab_after(self.pot.head, (self.pot, self.brush, self.lies, self.does, *self._order))
        WheelGuard(self).guard(self.thinner, self.tool, *self.span, *self.feather)

    def fit(self, room: int) -> None:
        """Fold groups away where there is no room for all; what somebody folded is left alone.

        The place goes first: it can be dragged on the section.
        """
        self._room = room
        self._fitting.start()

    def _fit(self) -> None:
        if self._by_hand or not self._room:
            return
        for group in (self.lies, self.brush):
            group.fold(False)
        layout = self.layout()
        assert layout is not None
        for group in (self.lies, self.brush):
            layout.activate()
            if layout.sizeHint().height() <= self._room:
                break
            group.fold(True)

    def _folded(self, _: bool) -> None:
        self._by_hand = True

    def _fill_pot(self, rack: RackView, within: Callable[[int, str], Picking | None]) -> None:
        editor = self._editor
        self.mixture = MixtureRows(editor, rack, within)
        self.pot.body.addWidget(self.mixture)
        self.mixture.before = self.pot.head
        grid = card_grid(self.pot)
        self.thinner = QComboBox()
        self.thinner.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.thinner.addItems([tr("water"), tr("thin medium"), tr("thick medium")])
        name_control(self.thinner, tr("thinner"))
        self.thinner.activated.connect(self._thinner_chosen)
        self.thin, self._thin_drops = drops_counter("thinner")
        self.thin.stepped.connect(lambda s: self._act(lambda i: editor.thin(i, _THINNING_STEP * s)))
        self._ratio = Label()
        self._ratio.setFont(font(bold=True))
        self.thin.drawing.setFixedWidth(_DROPS_WIDE)
        thinned = QHBoxLayout()
        thinned.setSpacing(4)
        thinned.addWidget(self.thinner, 1)
        thinned.addWidget(self.thin)
        self._ratio.setBuddy(self.thinner)
        grid.setColumnMinimumWidth(0, _RATIO_WIDE)  # its row has more to hold than the others
        card_row(grid, 0, self._ratio, thinned)

    def _fill_brush(self) -> None:
        editor, grid = self._editor, card_grid(self.brush)
        self.tool = QComboBox()
        self.tool.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        name_control(self.tool, tr("tool and load"))
        for name, tool in tools().items():
            self.tool.addItem(tr(tool.label), name)
        self.tool.activated.connect(self._tool_chosen)
        card_row(grid, 0, tr("Tool"), self.tool)
        self.passes, self._tally = tally_counter("passes")
        self.passes.stepped.connect(lambda s: self._act(lambda i: editor.passes(i, s)))
        self._passes_label = Label(tr("Passes"))
        card_row(grid, 1, self._passes_label, self.passes)
        self.strokes = StrokeRow()
        self.strokes.changed.connect(self._change)
        self._stroke_label = Label()
        card_row(grid, 2, self._stroke_label, self.strokes)

    def _fill_place(self) -> None:
        grid = card_grid(self.lies)
        self.span = self._pair(grid, 0, tr("From, to mm"), tr("span"), self._span_typed)
        self.feather = self._pair(grid, 1, tr("Feather mm"), tr("feather"), self._feather_typed)
        sites = QHBoxLayout()
        sites.setSpacing(4)
        self.sites: dict[str, QPushButton] = {}
        for site in _SITES_DRAWN:
            button = QPushButton(tr(site))
            button.setCheckable(True)
            button.setObjectName("narrow")
            name_control(button, tr("reaches the {0}").format(tr(site)))
            button.clicked.connect(self._sites_clicked)
            sites.addWidget(button)
            self.sites[site] = button
        card_row(grid, 2, tr("Reaches"), sites)

    def show_coat(
        self,
        plan: Plan,
        passage: Passage | None,
        index: int | None,
        layer: DrawnCoat | None,
        adds: Contribution | None,
        passes: OnePass | None,
        ground: int = 0,
        patchy: bool = False,
    ) -> None:
        """Show a coat, or that none is in hand; the lowest `ground` coats are the ground's.

        patchy : whether streaks of it show.
        """
        self._index = index
        known = passage is not None and index is not None and index < len(passage.coats)
        folds = {group.head for group in (self.pot, self.brush, self.lies, self.does)}
        for kind in (QAbstractButton, QAbstractSpinBox, QComboBox):
            for child in self.findChildren(kind):
                child.setEnabled(known or child in folds)
        self._swatch.layer = layer if known else None
        self._swatch.update()
        for part in (self._swatch, self.pot, self.brush, self.lies, *self._order):
            part.setVisible(known)
        if not known or passage is None or index is None:
            self._title.setText(tr("No coat in hand"))
            self._place.setText("")
            self.mixture.show_mixture(plan, None, None)
            self._show_nothing()
            return
        coat = passage.coats[index]
        self._title.setText(coat_name(coat).rpartition(",")[0])
        if index < ground:
            self._place.setText(tr("ground, {0} of {1}").format(index + 1, ground))
        else:
            laid = len(passage.coats) - ground
            place = tr("{0} of {1}").format(index + 1 - ground, laid)
            meant = tr(MEANT_WORDS[coat.meant])
            self._place.setText(f"{place}, {meant}" if coat.meant else place)
        self.up.setEnabled(index + 1 < len(passage.coats) or index < ground)
        self.down.setEnabled(index > 0)
        if self.mixture.show_mixture(plan, index, coat):
            self._fitting.start()
        self._show_numbers(coat, passage)
        self.does.show_coat(coat, passage, adds, passes, patchy)

    def _show_nothing(self) -> None:
        for drawn in (self._thin_drops, self._tally):
            drawn.count = 0
            drawn.update()
        self._ratio.setText("")
        self._passes_label.setText(tr("Passes"))
        self.does.show_nothing()

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
            name_control(box, tr("{0}, {1} side, in mm").format(what, tr(side)))
            box.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
            box.valueChanged.connect(typed)
            box.setButtonSymbols(NumberBox.ButtonSymbols.NoButtons)
            box.setMinimumWidth(64)
            pair.addWidget(box)
            boxes.append(box)
        card_row(grid, row, label, pair)
        return boxes[0], boxes[1]

    def _order_button(self, words: str, name: str, way: int) -> QPushButton:
        button = QPushButton(words)
        button.setAccessibleName(name)
        button.setToolTip(tooltip("later" if way > 0 else "sooner"))
        button.clicked.connect(lambda: self.move_wanted.emit(way))
        return button
