"""Match: what is wanted and what may be done above, the ways there below."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QSpinBox,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.advise.match.limits import MOST_COATS, Limits
from zesty_veil.advise.match.ramp import MOST_TARGETS
from zesty_veil.desktop.choice import Choice
from zesty_veil.desktop.document import Document
from zesty_veil.desktop.jobs import NewestWins
from zesty_veil.desktop.match.finding import Found, Wish, finding, laid, target_ribbon, wanted_on
from zesty_veil.desktop.match.pictureview import PictureView
from zesty_veil.desktop.match.wayslist import WaysList
from zesty_veil.desktop.section.hand import Hand
from zesty_veil.desktop.theme import Surround
from zesty_veil.errors import VeilError
from zesty_veil.matchjob import colour
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Target, coat_name
from zesty_veil.predict.look import Look

_PICTURES = "Pictures (*.png *.jpg *.jpeg *.PNG *.JPG *.JPEG)"
_ANY_TIME = 0
_HOW_TO_READ = "Upper ribbon: wanted; lower: what comes. Enter lays the one in hand."
_MOST_MINUTES = 999
_MOST_MIXES = 4


class MatchView(QWidget):
    """Finds coats for the targets of the passage in view, and lays a way into the plan.

    Parameters
    ----------
    document, hand
        The open plan and the passage in view.
    rack, look, place
        Return the paints at hand, how colours are looked at, and the place that is read.
    """

    left = Signal()
    complained = Signal(str)

    def __init__(
        self,
        document: Document,
        hand: Hand,
        rack: Callable[[], tuple[Paint, ...]],
        look: Callable[[], Look],
        place: Callable[[], float],
    ) -> None:
        super().__init__()
        self._document, self._hand = document, hand
        self._rack, self._look, self._place = rack, look, place
        self._wish: Wish | None = None
        self.jobs: NewestWins[Wish, Found] = NewestWins(finding, self)
        self.jobs.answered.connect(self._found)
        self.jobs.failed.connect(self._failed)
        self.list = WaysList()
        self.list.chosen.connect(self.lay_way)
        self.target = QLineEdit()
        self.target.setPlaceholderText("#rrggbb, L,a,b, words")
        self.target.setAccessibleName("colour wanted at the place that is read")
        self.target.setToolTip("A colour wanted at the place that is read; Enter adds it")
        self.target.setFixedWidth(170)
        self.target.returnPressed.connect(self.add_target)
        self.picture = PictureView()
        self.picture.drawn.connect(self._line_drawn)
        self.open_picture = QPushButton("Picture …")
        self.open_picture.setToolTip("Want the colours along a line of a reference picture")
        self.open_picture.clicked.connect(self.choose_picture)
        self.take = QPushButton("Want these")
        self.take.setToolTip("Make the colours along the line the targets of this passage")
        self.take.clicked.connect(self.take_colours)
        self.count = QSpinBox()
        self.count.setRange(1, MOST_TARGETS)
        self.count.setValue(5)
        self.count.setAccessibleName("colours taken along the line")
        self.count.setToolTip("Colours taken along the line")
        self.start = Choice("what the ways start from")
        self.start.activated.connect(lambda _: self.search())
        self.coats = self._box("coats at most", 1, MOST_COATS, 4)
        self.mixes = self._box("mixed pots at most", 0, _MOST_MIXES, 2)
        self.minutes = self._box("minutes at most", _ANY_TIME, _MOST_MINUTES, _ANY_TIME)
        self.minutes.setSpecialValueText("any")
        self.stop = QPushButton("Stop")
        self.stop.setToolTip("Stop searching and keep what is found")
        self.stop.clicked.connect(self._stop)
        self.lay = QPushButton("Lay it")
        self.lay.setToolTip("Lay the way in hand into the plan (Enter)")
        self.lay.clicked.connect(lambda: self.lay_way(self.list.in_hand))
        self.leave = QPushButton("Leave")
        self.leave.setToolTip("Go back to the section (Esc)")
        self.leave.clicked.connect(self.give_up)
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.words.setContentsMargins(12, 0, 12, 8)
        self._lay_out()

    def open(self, in_hand: int | None) -> None:
        """Search for the passage in view; the ways may go on from the coat in hand."""
        passage = self._hand.passage
        self.start.clear()
        self.start.addItem("from the ground", 0)
        if passage is not None and in_hand is not None:
            name = coat_name(passage.coats[in_hand])
            self.start.addItem(f"on top of {name}", in_hand + 1)
        self.list.show_ways((), None)
        self._pages(picture=False)
        self.search()
        self.list.setFocus()
        if passage is not None and not wanted_on(passage):
            self.target.setFocus()

    def choose_picture(self) -> None:
        """Let a picture's file be chosen and show it."""
        name, _ = QFileDialog.getOpenFileName(self, "Open a picture", str(Path.home()), _PICTURES)
        if name:
            self.show_picture(Path(name))

    def show_picture(self, path: Path) -> None:
        """Show a picture to take targets from; on failure say why."""
        try:
            self.picture.open(path)
        except VeilError as error:
            self.words.setText(str(error))
            return
        self.jobs.drop()
        self._pages(picture=True)
        self.picture.setFocus()
        self.words.setText("Click what is white, then drag from the light to the far end.")

    def take_colours(self) -> None:
        """Make the colours along the line the targets of the passage, and search for them."""
        index, count = self._hand.passage_index, self.count.value()
        try:
            labs = self.picture.colours(count)
        except VeilError as error:
            self.words.setText(str(error))
            return
        places = [0.5] if count == 1 else [i / (count - 1) for i in range(count)]
        targets = []
        for place, lab in zip(places, labs, strict=True):
            L, a, b = (round(float(v), 2) for v in lab)
            targets.append(Target(round(place, 4), (L, a, b)))
        plan = edits.aim_at(self._document.plan, index, targets)
        self._document.edit(plan, "targets from a picture")
        self._pages(picture=False)
        self.list.setFocus()
        self.search()

    def _line_drawn(self) -> None:
        white = "" if self.picture.white is not None else " Nothing is picked as white yet."
        self.words.setText(f"“Want these” takes {self.count.value()} colours along it.{white}")

    def _pages(self, picture: bool) -> None:
        self.pages.setCurrentIndex(1 if picture else 0)
        for widget in (self.take, self.count):
            widget.setVisible(picture)

    def add_target(self) -> None:
        """Want the colour that is written at the place that is read, and search again."""
        try:
            L, a, b = (round(float(v), 2) for v in colour(self.target.text()))
            index = self._hand.passage_index
            target = Target(round(self._place(), 4), (L, a, b))
            plan = edits.aim(self._document.plan, index, target)
        except VeilError as error:
            self.words.setText(str(error))
            return
        self.target.clear()
        self._document.edit(plan, "target")
        self.search()

    def search(self) -> None:
        """Search again, for what is wanted and allowed now."""
        passage = self._hand.passage
        if passage is None or not wanted_on(passage):
            self.jobs.drop()
            self.words.setText(
                "No target yet: write a colour above, or keep one on the section with K."
            )
            self._enable(False)
            return
        minutes = None if self.minutes.value() == _ANY_TIME else float(self.minutes.value())
        limits = Limits(self.coats.value(), 24, minutes, self.mixes.value())
        after = self.start.currentData() or 0
        self._wish = Wish(
            self._document.plan, self._hand.passage_index, self._rack(), limits, self._look(), after
        )
        self.words.setText("Searching …")
        self._enable(True)
        self.jobs.ask(self._wish)

    def lay_way(self, index: int) -> None:
        """Lay a way into the plan as one step, and go back to the section."""
        wish = self._wish
        if wish is None or not 0 <= index < len(self.list.ways):
            return
        if self._document.plan != wish.plan:
            self.search()  # the plan has moved on; what is shown is for another
            return
        plan = laid(wish, self.list.ways[index].coats)
        self.give_up()
        self._document.edit(plan, "matched coats")

    def give_up(self) -> None:
        """Stop searching and go back."""
        self.jobs.drop()
        self.left.emit()

    def set_surround(self, surround: Surround) -> None:
        """Put the colours into another grey field."""
        self.list.set_surround(surround)
        self.picture.set_surround(surround)

    def wait_until_idle(self, milliseconds: int = 60_000) -> bool:
        """Run events until the search is done; False if the time is up first."""
        return self.jobs.wait_until_idle(milliseconds)

    def _stop(self) -> None:
        self.jobs.drop()
        self.words.setText("Stopped; these are the ways found so far.")
        self._enable(False)

    def _found(self, found: Found) -> None:
        passage = self._hand.passage
        wanted = target_ribbon(passage) if passage is not None and wanted_on(passage) else None
        self.list.show_ways(found.ways, wanted)
        if found.done:
            self.words.setText(found.words or f"{len(found.ways)} ways. {_HOW_TO_READ}")
        else:
            self.words.setText(f"Searching … the nearest so far is dE {found.ways[0].mean:.1f}.")
        self._enable(not found.done)

    def _failed(self, error: Exception) -> None:
        self.words.setText(str(error))
        self._enable(False)

    def _enable(self, searching: bool) -> None:
        self.stop.setEnabled(searching)
        self.lay.setEnabled(bool(self.list.ways))

    def _box(self, name: str, least: int, most: int, usual: int) -> QSpinBox:
        box = QSpinBox()
        box.setRange(least, most)
        box.setValue(usual)
        box.setAccessibleName(name)
        box.setToolTip(name[:1].upper() + name[1:])
        box.setKeyboardTracking(False)
        box.setMinimumHeight(28)
        box.setFixedWidth(58)
        box.valueChanged.connect(lambda _: self.search())
        return box

    def _lay_out(self) -> None:
        first, second = QHBoxLayout(), QHBoxLayout()
        for row in (first, second):
            row.setContentsMargins(12, 8, 12, 0)
            row.setSpacing(6)
        first.addWidget(QLabel("Wanted"))
        first.addWidget(self.target)
        first.addWidget(self.start, 1)
        first.addWidget(self.open_picture)
        for button in (self.stop, self.lay, self.leave):
            first.addWidget(button)
        for words, box in (
            ("At most", self.coats), ("coats,", self.mixes), ("mixed pots,", self.minutes),
        ):  # fmt: skip
            second.addWidget(QLabel(words))
            second.addWidget(box)
        second.addWidget(QLabel("minutes"))
        second.addStretch(1)
        second.addWidget(self.count)
        second.addWidget(self.take)
        scroll = QScrollArea()
        scroll.setWidget(self.list)
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addLayout(first)
        column.addLayout(second)
        column.addWidget(self.words)
        self.pages = QStackedWidget()
        self.pages.addWidget(scroll)
        self.pages.addWidget(self.picture)
        column.addWidget(self.pages, 1)
        self._pages(picture=False)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            if self.pages.currentIndex() == 1:
                self._pages(picture=False)
                self.search()
            else:
                self.give_up()
            event.accept()
        else:
            event.ignore()
