"""The log as a station."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.station import Station
from zesty_veil.desktop.logbook.keys import ENTRY, LOG

if TYPE_CHECKING:
    from zesty_veil.desktop.logbook.logpage import LogPage


class LogStation(Station):
    """What was painted, and what came out."""

    id, words, key = "log", "Log", "F8"
    keys = (LOG, ENTRY)
    reads = ("logpage",)

    @cached_property
    def view(self) -> LogPage:
        """The page."""
        from zesty_veil.desktop.logbook.logpage import LogPage  # noqa: PLC0415 - see `Station`

        context = self.context
        page = LogPage(
            context.document,
            context.user_store,
            lambda: (context.editor.passage_index, context.place()),
        )
        page.again_wanted.connect(context.plan_wanted.emit)
        self.add(page)
        return page

    def page(self) -> Page:
        """Return the page."""
        return self.view
