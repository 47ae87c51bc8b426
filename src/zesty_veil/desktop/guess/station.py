"""The guess as a station."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from zesty_veil.desktop.guess.keys import GUESS
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.station import Station

if TYPE_CHECKING:
    from zesty_veil.desktop.guess.guesspage import GuessPage


class GuessStation(Station):
    """What stacks of one's own paints look like is guessed before it is shown."""

    id, words, key = "guess", "Guess", "F9"
    keys = (GUESS,)
    reads = ("guesspage",)

    @cached_property
    def view(self) -> GuessPage:
        """The page."""
        from zesty_veil.desktop.guess.guesspage import GuessPage  # noqa: PLC0415 - see `Station`

        page = GuessPage(self.context.document, self.context.user_store)
        self.add(page)
        return page

    def page(self) -> Page:
        """Return the page."""
        return self.view
