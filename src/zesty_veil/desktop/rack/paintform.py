"""What the painter says of the paint on a card: its name and kind, and how it was laid."""

from __future__ import annotations

from typing import get_args

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QWidget

from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.entryline import EntryLine
from zesty_veil.desktop.kit.numbersrow import number
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.quiet import quiet
from zesty_veil.log.card import Card, Patch, Source
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.kinds import KINDS, USUAL_TOOL, Kind
from zesty_veil.paint.mixture import THINNERS
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.tool import tools
from zesty_veil.tr import tr


class PaintForm(QWidget):
    """Fields for a card's paint; `changed` is sent when any of them changes."""

    changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.name, self.maker, self.pigments = EntryLine(), EntryLine(), EntryLine()
        self.name.setMaxLength(80)
        self.maker.setMaxLength(80)
        self.pigments.setPlaceholderText(tr("such as PR122 PV23"))
        self.pigments.setMaxLength(120)
        self.kind, self.finish = Choice(tr("kind of paint")), Choice(tr("finish of the dry film"))
        for kind in get_args(Kind):
            if not KINDS[kind].unfit:
                self.kind.addItem(tr(kind), kind)
        self.finish.addItem(tr("usual finish"), "")
        for finish in FINISHES:
            self.finish.addItem(tr(finish), finish)
        self.thinning = number(tr("parts of thinner to one of paint"), 0, 50, 0.5, " : 1", 1)
        self.thinner, self.tool = Choice(tr("thinner")), Choice(tr("tool it was laid with"))
        for thinner in THINNERS:
            self.thinner.addItem(tr(thinner), thinner)
        self.tool.setMinimumContentsLength(18)
        for name, tool in tools().items():
            if not tool.ridges_only:
                self.tool.addItem(tr(tool.label), name)
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(6)
        fields: tuple[tuple[str, QWidget], ...] = (
            ("Paint", self.name), ("Maker", self.maker), ("Kind", self.kind),
            ("Pigments", self.pigments), ("Thinned", self.thinning), ("With", self.thinner),
            ("Tool", self.tool), ("Finish", self.finish),
        )  # fmt: skip
        for i, (words, widget) in enumerate(fields):
            label = Label(tr(words))
            label.setBuddy(widget)
            grid.addWidget(label, i, 0)
            grid.addWidget(widget, i, 1)
            widget.setAccessibleName(
                widget.accessibleName() or tr("{0} of the card's paint").format(tr(words).lower())
            )
        grid.setColumnStretch(1, 1)
        for line in (self.name, self.maker, self.pigments):
            line.editingFinished.connect(self.changed.emit)
        for choice in (self.finish, self.thinner, self.tool):
            choice.activated.connect(lambda _: self.changed.emit())
        self.kind.activated.connect(lambda _: self._kind_chosen())
        self.thinning.valueChanged.connect(lambda _: self.changed.emit())

    def show_paint(self, paint: Paint | None, card: Card | None) -> None:
        """Fill the fields from a paint of the rack, and from the card it was measured from."""
        with quiet(self, self.thinning):
            given = paint.name if paint else card.paint if card else ""
            self.name.setText(given)
            self.name.setReadOnly(paint is not None)
            self.maker.setText(paint.maker if paint else card.maker if card else "")
            codes = paint.pigments if paint else card.pigments if card else ()
            self.pigments.setText(" ".join(codes))
            wanted = paint.kind if paint else card.kind if card else "transparent"
            kind: Kind = "transparent" if KINDS[wanted].unfit else wanted
            self.kind.setCurrentIndex(self.kind.findData(kind))
            self.thinning.setValue(card.thinning if card else 0.0)
            self.thinner.setCurrentIndex(self.thinner.findData(card.thinner if card else "water"))
            self.finish.setCurrentIndex(max(self.finish.findData(card.finish if card else ""), 0))
            self.tool.setCurrentIndex(self.tool.findData(card.tool if card else USUAL_TOOL[kind]))

    def card(self, patches: tuple[Patch, ...], source: Source) -> Card:
        """Return the card that the fields and some patches make."""
        return Card(
            " ".join(self.name.text().split()),
            self.kind.currentData(),
            patches,
            tuple(self.pigments.text().replace(",", " ").split()),
            " ".join(self.maker.text().split()),
            self.finish.currentData(),
            self.thinner.currentData(),
            self.thinning.value(),
            self.tool.currentData(),
            source,
        )

    def _kind_chosen(self) -> None:
        self.tool.setCurrentIndex(self.tool.findData(USUAL_TOOL[self.kind.currentData()]))
        self.changed.emit()
