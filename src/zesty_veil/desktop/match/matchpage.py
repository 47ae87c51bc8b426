"""The page of Match: where its parts stand."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QStackedWidget, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.emptystate import EmptyState
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.panel import Panel
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.match.compare import ComparePlot
from zesty_veil.desktop.match.keys import MATCH
from zesty_veil.desktop.match.limitsbar import LimitsBar
from zesty_veil.desktop.match.matchbar import DONE, MatchBar
from zesty_veil.desktop.match.pictureview import PictureView
from zesty_veil.desktop.match.thinningtable import ThinningTable
from zesty_veil.desktop.match.wantedbar import WantedBar
from zesty_veil.desktop.match.wayslist import WaysList
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.services.picking import Picking
from zesty_veil.tr import tr

_BESIDE = 344
_WAYS, _PICTURE, _EMPTY = range(3)
_WHAT_FOR = (
    "Match looks for coats of the paints at hand that come out as the colour you want, over "
    "what lies there now: how near, in how many coats and minutes, and how sure that is. "
    "Say first which colour is wanted."
)


class MatchPage(Page):
    """Wanted colours and limits above; the ways left, compared right; or a picture."""

    passage_wanted = Signal(int)  # in view

    keys = MATCH
    look_tools = True
    whole = True

    def __init__(self, rack: RackView, here: Callable[[], Picking | None]) -> None:
        super().__init__()
        self.wanted = WantedBar(rack)
        self.limits = LimitsBar(rack, self.wanted.start, self.wanted.measured, here)
        self.list = WaysList()
        self.plot = ComparePlot()
        self.table = ThinningTable()
        self.picture = PictureView()
        self.words = Label()
        self.words.setWordWrap(True)
        self.bar = MatchBar()
        self.progress, self.stop = self.bar.progress, self.bar.stop
        self.keep, self.lay, self.leave = self.bar.keep, self.bar.lay, self.bar.leave
        beside = QWidget()
        beside.setFixedWidth(_BESIDE)
        column = QVBoxLayout(beside)
        column.setContentsMargins(16, 0, 0, 0)
        column.addWidget(self.plot, 1)
        column.addWidget(self.table)
        found = QWidget()
        row = QHBoxLayout(found)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.list, 1)
        row.addWidget(beside)
        self.pages = QStackedWidget()
        self.pages.addWidget(found)
        self.pages.addWidget(self.picture)
        self.empty = EmptyState("match", tr("The way to a wanted colour"), tr(_WHAT_FOR))
        self.pages.addWidget(self.empty)
        asked = Panel()
        asked.body.addWidget(self.wanted)
        asked.body.addWidget(self.limits)
        page = QVBoxLayout(self)
        page.setContentsMargins(8, 0, 16, 8)
        page.setSpacing(8)
        page.addWidget(asked)
        page.addWidget(self.words)
        page.addWidget(self.pages, 1)

    def tools(self) -> QWidget | None:
        """Return what keeps and lays ways."""
        return self.bar

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
        self.progress.setValue(round(DONE * share))
