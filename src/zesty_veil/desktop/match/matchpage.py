"""The page of Match: where its parts stand."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.kit.emptystate import EmptyState
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.match.compare import ComparePlot
from zesty_veil.desktop.match.keys import MATCH
from zesty_veil.desktop.match.limitsbar import LimitsBar
from zesty_veil.desktop.match.pictureview import PictureView
from zesty_veil.desktop.match.thinningtable import ThinningTable
from zesty_veil.desktop.match.wantedbar import WantedBar
from zesty_veil.desktop.match.wayslist import WaysList
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.tr import tr

_BESIDE = 344
_DONE = 1000
_WAYS, _PICTURE, _EMPTY = range(3)
_WHAT_FOR = (
    "Match looks for coats of the paints at hand that come out as the colour you want, over "
    "what lies there now: how near, in how many coats and minutes, and how sure that is. "
    "Say first which colour is wanted."
)


class MatchPage(Page):
    """Wanted colours and limits above; the ways left, compared right; or a picture."""

    keys = MATCH
    look_tools = True

    def __init__(self, rack: RackView) -> None:
        super().__init__()
        self.wanted = WantedBar()
        self.limits = LimitsBar(rack)
        self.list = WaysList()
        self.plot = ComparePlot()
        self.table = ThinningTable()
        self.picture = PictureView()
        self.words = Label()
        self.words.setWordWrap(True)
        self.progress = QProgressBar()
        self.progress.setTextVisible(False)
        self.progress.setRange(0, _DONE)
        self.progress.setFixedHeight(6)
        self.progress.setAccessibleName(tr("how much of the search is done"))
        self.stop = _button(tr("Stop"), tr("Stop searching and keep what is found"))
        self.keep = _button(
            tr("Keep"),
            MATCH.tooltip("keep way", tr("Keep the way in hand beside whatever is found next")),
        )
        self.lay = _button(
            tr("Lay it"), MATCH.tooltip("lay way", tr("Lay the way in hand into the plan"))
        )
        self.leave = _button(tr("Back"), MATCH.tooltip("leave match", tr("Go back to the section")))
        scroll = QScrollArea()
        scroll.setWidget(self.list)
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        beside = QWidget()
        beside.setFixedWidth(_BESIDE)
        column = QVBoxLayout(beside)
        column.setContentsMargins(8, 0, 4, 8)
        column.addWidget(self.plot, 1)
        column.addWidget(self.table)
        found = QWidget()
        row = QHBoxLayout(found)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(scroll, 1)
        row.addWidget(beside)
        self.pages = QStackedWidget()
        self.pages.addWidget(found)
        self.pages.addWidget(self.picture)
        self.empty = EmptyState("match", tr("The way to a wanted colour"), tr(_WHAT_FOR))
        self.pages.addWidget(self.empty)
        said = QHBoxLayout()
        said.setContentsMargins(12, 2, 12, 2)
        said.setSpacing(6)
        said.addWidget(self.words, 1)
        for button in (self.stop, self.keep, self.lay, self.leave):
            said.addWidget(button)
        page = QVBoxLayout(self)
        page.setContentsMargins(0, 0, 0, 0)
        page.setSpacing(6)
        page.addWidget(self.wanted)
        page.addWidget(self.limits)
        page.addLayout(said)
        page.addWidget(self.progress)
        page.addWidget(self.pages, 1)
        keeps = self.progress.sizePolicy()
        keeps.setRetainSizeWhenHidden(True)  # or the ways would jump when the search is done
        self.progress.setSizePolicy(keeps)
        self.progress.hide()

    @property
    def shows_picture(self) -> bool:
        """Whether a reference picture stands where the ways do otherwise."""
        return self.pages.currentIndex() == _PICTURE

    def show_picture_page(self, picture: bool) -> None:
        """Show the reference picture, or the ways."""
        self.pages.setCurrentIndex(_PICTURE if picture else _WAYS)
        self.wanted.show_picture_tools(picture)

    def show_empty(self, empty: bool) -> None:
        """Show how it begins while no colour is wanted; a picture that is open stays."""
        if not self.shows_picture:
            self.pages.setCurrentIndex(_EMPTY if empty else _WAYS)

    def show_progress(self, share: float) -> None:
        """Show how much of the search is done, 0-1; nothing when it is done."""
        self.progress.setVisible(share < 1)
        self.progress.setValue(round(_DONE * share))


def _button(words: str, tip: str) -> QPushButton:
    button = QPushButton(words)
    button.setToolTip(tip)
    return button
