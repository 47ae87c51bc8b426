"""The help as a station: it opens at the page of the one that it is asked for from."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from zesty_veil.desktop.help.keys import HELP
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.station import Station

if TYPE_CHECKING:
    from zesty_veil.desktop.help.helppage import HelpPage


class HelpStation(Station):
    """Pages to read."""

    id, words, key = "help", "Help", "F1"
    keys = (HELP,)
    reads = ("helppage",)
    aside = True

    @cached_property
    def view(self) -> HelpPage:
        """The page."""
        from zesty_veil.desktop.help.helppage import HelpPage  # noqa: PLC0415 - see `Station`

        page = HelpPage()
        self.add(page)
        return page

    def page(self) -> Page:
        """Return the help, at the page of the station that is open."""
        asked_from = self.context.station()
        if asked_from != self.id:
            self.view.show_page(asked_from)
        return self.view
