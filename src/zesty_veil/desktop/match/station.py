"""Match as a station."""

from __future__ import annotations

from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.station import Station
from zesty_veil.desktop.match.keys import MATCH
from zesty_veil.errors import InputError
from zesty_veil.tr import tr

if TYPE_CHECKING:
    from zesty_veil.desktop.match.matchview import MatchView


class MatchStation(Station):
    """Coats are found for the colours wanted on the passage in view."""

    id, words, key = "match", "Match", "F5"
    keys = (MATCH,)
    reads = ("matchview",)
    drops = frozenset({".png", ".jpg", ".jpeg"})

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
        self.add(page)
        return page

    def page(self) -> Page:
        """Return the page; raises InputError where no passage is in view."""
        if self.context.editor.passage is None:
            raise InputError(
                tr("There is no passage to find coats for; add one on the left first.")
            )
        return self.view

    def drop(self, path: Path) -> None:
        """Show a picture, from which colours can be taken."""
        self.view.show_picture(path)
