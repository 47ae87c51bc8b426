"""What is wanted, and what the ways start from."""

from __future__ import annotations

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QWidget

from zesty_veil.advise.match.ramp import MOST_RAMP_TARGETS
from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.colourfield import ColourField
from zesty_veil.desktop.kit.entryline import EntryLine
from zesty_veil.desktop.kit.numberbox import CountBox
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.plan.model import Ground, Passage, Plan, Primer, coat_name
from zesty_veil.services.colours import parse_colour
from zesty_veil.tr import tr

_FROM_ANY, _FROM_MEASURED = -1, -2
_PLAIN: tuple[Primer, ...] = ("white", "grey", "black")


class WantedBar(QWidget):
    """Two rows: wanted colours by words, from a passage or a picture; and the start."""

    written = Signal(str)
    like_passage = Signal(int)
    picture_wanted = Signal()
    start_changed = Signal()
    passage_chosen = Signal(int)
    take_wanted = Signal()
    keep_wanted = Signal()

    def __init__(self, rack: RackView) -> None:
        super().__init__()
        self.passage = Choice(tr("passage that coats are found for"))
        self.passage.setToolTip(tr("The passage that coats are found for"))
        self.passage.setMinimumContentsLength(26)
        self.passage.activated.connect(self.passage_chosen.emit)
        self.target = ColourField(
            tr("colour wanted at the place that is read"), tr("#rrggbb, L,a,b, words"), rack
        )
        self.target.setFixedWidth(204)
        self.target.setToolTip(tr("A colour wanted at the place that is read; Enter adds it"))
        self.target.returnPressed.connect(lambda: self.written.emit(self.target.text()))
        self.like = Choice(tr("passage whose colours are wanted here too"))
        self.like.setToolTip(tr("Want the colours of another passage here too"))
        self.like.setMinimumContentsLength(22)
        self.like.activated.connect(self._like_chosen)
        self.open_picture = QPushButton(tr("Picture …"))
        self.open_picture.setToolTip(tr("Want the colours along a line of a reference picture"))
        self.open_picture.clicked.connect(self.picture_wanted.emit)
        self.count = CountBox()
        self.count.setRange(1, MOST_RAMP_TARGETS)
        self.count.setValue(5)
        self.count.setAccessibleName(tr("colours taken along the line"))
        self.count.setToolTip(tr("Colours taken along the line"))
        self.take = QPushButton(tr("Want these"))
        self.take.setToolTip(tr("Make the colours along the line the targets of this passage"))
        self.take.clicked.connect(self.take_wanted.emit)
        self.keep = QPushButton(tr("Keep as a fire"))
        self.keep.setToolTip(tr("Keep the colours along the line in the plan, to paint lights by"))
        self.keep.clicked.connect(self.keep_wanted.emit)
        self.start = Choice(tr("what the ways start from"))
        self.start.setToolTip(tr("What the ways start from"))
        self.start.setMinimumContentsLength(20)
        self.start.activated.connect(self._start_chosen)
        self.measured = _entry(tr("measured: #rrggbb or L,a,b"), 210)
        self.measured.setAccessibleName(tr("colour measured on the figure"))
        self.measured.setToolTip(tr("A colour measured on the figure, of unknown layers; Enter"))
        self.measured.returnPressed.connect(self.start_changed.emit)
        self.measured.hide()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        wanted = (self.target, self.like, self.open_picture, self.count, self.take, self.keep)
        asked: tuple[tuple[str, tuple[QWidget, ...]], ...] = (
            (tr("For"), (self.passage,)),
            (tr("Wanted"), wanted),
        )
        for words, widgets in asked:
            label = Label(words)
            label.setBuddy(widgets[0])
            row.addWidget(label)
            for widget in widgets:
                row.addWidget(widget)
        row.addStretch(1)
        for widget in (self.start, self.measured):  # they stand with the limits
            widget.setParent(None)
        self.show_picture_tools(False)

    def show_plan(self, plan: Plan, index: int, in_hand: int | None) -> None:
        """Offer what this passage can start from, and the others to be like."""
        passage = plan.passages[index]
        self.passage.clear()
        for each in plan.passages:
            self.passage.addItem(each.name)
        self.passage.setCurrentIndex(index)
        self.like.clear()
        self.like.addItem(tr("as on another passage …"), -1)
        for i, other in enumerate(plan.passages):
            if i != index:
                self.like.addItem(tr("as on {0}").format(other.name), i)
        self.start.clear()
        self.start.addItem(tr("from the ground"), 0)
        if passage.coats:
            self.start.addItem(tr("from all that is there now"), len(passage.coats))
        if in_hand is not None and in_hand + 1 < len(passage.coats):
            name = coat_name(passage.coats[in_hand])
            self.start.addItem(tr("on top of {0}").format(name), in_hand + 1)
        self.start.addItem(tr("from whichever primer is best"), _FROM_ANY)
        self.start.addItem(tr("from a measured colour"), _FROM_MEASURED)
        self._start_chosen(0, tell=False)

    def starts(self, passage: Passage) -> tuple[Passage, ...]:
        """Return what is started from; raises InputError if no colour is written."""
        kind = int(self.start.currentData() or 0)
        bare = replace(passage, coats=())
        if kind == _FROM_ANY:
            return tuple(replace(bare, ground=Ground(primer)) for primer in _PLAIN)
        if kind == _FROM_MEASURED:
            L, a, b = (round(v, 2) for v in parse_colour(self.measured.text()))
            return (replace(bare, ground=Ground("white", measured=(L, a, b))),)
        return (replace(passage, coats=passage.coats[:kind]),)

    @property
    def rescuing(self) -> bool:
        """Whether the ways start from paint that is there already."""
        kind = int(self.start.currentData() or 0)
        return kind > 0 or kind == _FROM_MEASURED

    @property
    def measured_is_missing(self) -> bool:
        """Whether the ways start from a measured colour that is not written yet."""
        measured = int(self.start.currentData() or 0) == _FROM_MEASURED
        return measured and not self.measured.text().strip()

    def show_picture_tools(self, shown: bool) -> None:
        """Show what takes colours from a picture, or put it away."""
        self.count.setVisible(shown)
        self.take.setVisible(shown)
        self.keep.setVisible(shown)
        self.like.setVisible(not shown)  # the row has no room for all

    def _like_chosen(self, row: int) -> None:
        index = int(self.like.itemData(row))
        self.like.setCurrentIndex(0)
        if index >= 0:
            self.like_passage.emit(index)

    def _start_chosen(self, row: int, tell: bool = True) -> None:
        measured = self.start.itemData(row) == _FROM_MEASURED
        self.measured.setVisible(measured)
        if measured and tell:
            self.measured.setFocus()
        if tell:
            self.start_changed.emit()


def _entry(example: str, width: int) -> QLineEdit:
    entry = EntryLine()
    entry.setPlaceholderText(example)
    entry.setFixedWidth(width)
    return entry
