"""Match as a station."""

from __future__ import annotations

from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.station import Station
from zesty_veil.desktop.match.keys import LADDER, MATCH
from zesty_veil.errors import InputError
from zesty_veil.tr import tr

if TYPE_CHECKING:
    from zesty_veil.desktop.match.ladderpage import LadderPage
    from zesty_veil.desktop.match.matchview import MatchView


class MatchStation(Station):
    """Coats are found for the colours wanted on the passage in view."""

    id, words, key = "match", "Match", "F5"
    keys = (MATCH, LADDER)
    reads = ("matchview", "ladderpage")
    drops = frozenset({".png", ".jpg", ".jpeg"})

    on_ladder = False

    @cached_property
    def ladder(self) -> LadderPage:
        """The page of steps between pots."""
        from zesty_veil.desktop.match.ladderpage import LadderPage  # noqa: PLC0415 - see `Station`

        context = self.context
        page = LadderPage(context.document, context.editor, context.rack, context.look)
        page.colours_wanted.connect(lambda: self._turn(False))
        self.add(page)
        return page

    @cached_property
    def view(self) -> MatchView:
        """The page."""
        from zesty_veil.desktop.match.matchview import MatchView  # noqa: PLC0415 - see `Station`

        context = self.context
        page = MatchView(
            context.document, context.editor, context.rack, context.look, context.place,
            context.coat,
        )  # fmt: skip
        page.passage_wanted.connect(context.passage_wanted.emit)
        page.mended.connect(lambda: context.station_wanted.emit("sitting"))
        page.bar.ladder.clicked.connect(lambda: self._turn(True))
        self.add(page)
        return page

    def page(self) -> Page:
        """Return the page; raises InputError where no passage is in view."""
        if self.context.editor.passage is None:
            raise InputError(
                tr("There is no passage to find coats for; add one on the left first.")
            )
        return self.ladder if self.on_ladder else self.view

    def _turn(self, ladder: bool) -> None:
        """Show the steps between pots, or the ways to wanted colours."""
        self.on_ladder = ladder
        self.context.station_wanted.emit(self.id)

    def drop(self, path: Path) -> None:
        """Show a picture, from which colours can be taken."""
        if self.on_ladder:
            self._turn(False)
        self.view.taking.show(path)
