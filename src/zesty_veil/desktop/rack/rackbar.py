"""The two rows above the drawdowns: which rack, how it is laid, in which order, what to find."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QProgressBar, QPushButton, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.numbersrow import number
from zesty_veil.desktop.kit.panel import Panel
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.quiet import quiet
from zesty_veil.desktop.kit.searchline import search_line
from zesty_veil.desktop.rack.keys import RACK
from zesty_veil.log.drawn import ORDERS, DrawdownMix
from zesty_veil.log.racks import STATUSES, Rack
from zesty_veil.paint.mixture import THINNERS, Mixture
from zesty_veil.tr import tr

_ORDER_WORDS = {
    "kind": "by kind", "rack": "in the rack's order", "name": "by name", "hue": "by hue",
    "value": "light to dark", "hiding": "by hiding", "strength": "by strength",
}  # fmt: skip


class RackBar(QWidget):
    """Says what is wanted of the rack; `changed` when what is shown must follow."""

    changed = Signal()
    chosen = Signal(str)  # the name of a rack

    def __init__(self) -> None:
        super().__init__()
        self.racks = Choice(tr("rack in use"))
        self.racks.setMinimumWidth(150)
        self.order = Choice(tr("order of the paints"))
        self.order.setMinimumWidth(170)
        for order in ORDERS:
            self.order.addItem(tr(_ORDER_WORDS[order]), order)
        self.status = Choice(tr("which paints"))
        self.status.setMinimumWidth(100)
        self.status.addItem(tr("all"), None)
        for status in STATUSES:
            self.status.addItem(tr({"own": "at hand"}.get(status, status)), status)
        self.search = search_line(tr("find paints"), tr("Find a name, kind, pigment, note"))
        self.thinning = number(tr("parts of thinner to one of paint"), 0, 20, 0.5, " : 1", 1)
        self.thinner = Choice(tr("thinner"))
        self.thinner.setMinimumWidth(120)
        for thinner in THINNERS:
            self.thinner.addItem(tr(thinner), thinner)
        self.count = Label()
        self.fresh = QPushButton(tr("Measure a paint …"))
        self.fresh.setToolTip(tr("A paint that is not in the rack yet, from a painted card"))
        self.new = QPushButton(tr("New rack"))
        self.new.setToolTip(tr("An empty rack beside the others"))
        self.take = QPushButton(tr("Take in …"))
        self.take.setToolTip(tr("A rack from a JSON or CSV file"))
        self.give = QPushButton(tr("Give out …"))
        self.give.setToolTip(tr("This rack as JSON, CSV or GPL"))
        self.leave = QPushButton(tr("Back"))
        self.leave.setToolTip(RACK.tooltip("leave rack", tr("Go back to the section")))
        self.head = QWidget()
        one, two = QHBoxLayout(self.head), QHBoxLayout()
        for row in (one, two):
            row.setContentsMargins(0, 0, 0, 0)
            row.setSpacing(8)
        for widget in (self.racks, self.new, self.take, self.give, self.fresh, self.leave):
            one.addWidget(widget)
        laid = Label(tr("Laid"))
        laid.setBuddy(self.thinning)
        two.addWidget(laid)
        two.addWidget(self.thinning)
        two.addWidget(self.thinner)
        two.addSpacing(8)
        two.addWidget(self.order)
        two.addWidget(self.status)
        two.addWidget(self.search, 1)
        two.addWidget(self.count)
        self.going, self.progress, self.stop = Label(), QProgressBar(), QPushButton(tr("Stop"))
        self.progress.setFixedWidth(160)
        self.progress.setAccessibleName(tr("paints done"))
        three = QHBoxLayout()
        three.setContentsMargins(0, 0, 0, 0)
        three.setSpacing(8)
        three.addWidget(self.going, 1)
        three.addWidget(self.progress)
        three.addWidget(self.stop)
        self.show_going("", 0, 0)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        asked = Panel()
        asked.body.addLayout(two)
        asked.body.addLayout(three)
        column.addWidget(asked)
        for changed in (
            self.thinning.valueChanged, self.thinner.activated, self.order.activated,
            self.status.activated, self.search.textChanged,
        ):  # fmt: skip
            changed.connect(lambda *_: self.changed.emit())
        self.racks.activated.connect(lambda _: self.chosen.emit(self.racks.currentData()))

    @property
    def laid(self) -> DrawdownMix:
        """How drawdowns are laid."""
        return DrawdownMix(self.thinning.value(), self.thinner.currentData(), None)

    def lay_as(self, mixture: Mixture) -> None:
        """Lay drawdowns as a mixture is thinned."""
        with quiet(self.thinning, self.thinner):
            self.thinning.setValue(mixture.thinning)
            self.thinner.setCurrentIndex(self.thinner.findData(mixture.thinner))

    def show_racks(self, names: tuple[str, ...], current: str) -> None:
        """Offer racks by name, one in use."""
        with quiet(self.racks):
            self.racks.clear()
            for name in names:
                self.racks.addItem(name, name)
            self.racks.setCurrentIndex(self.racks.findData(current))

    def show_going(self, words: str, done: int, total: int) -> None:
        """Show how far something is that takes a while; without words, nothing."""
        for widget in (self.going, self.progress, self.stop):
            widget.setVisible(bool(words))
        self.going.setText(words)
        self.progress.setRange(0, total)
        self.progress.setValue(done)

    def show_count(self, shown: int, rack: Rack) -> None:
        """Say how many paints are shown."""
        whole = len(rack.paints)
        self.count.setText(
            tr("{0} of {1} paints").format(shown, whole)
            if shown != whole
            else tr("{0} paints").format(shown)
        )
