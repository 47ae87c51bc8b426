"""The rack as a station."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.station import Station
from zesty_veil.desktop.rack.keys import MEASURE, RACK
from zesty_veil.paint.mixture import Mixture

if TYPE_CHECKING:
    from zesty_veil.desktop.rack.rackpage import RackPage


class RackStation(Station):
    """The paints at hand are looked at and measured."""

    id, words, key = "rack", "Rack", "F7"
    keys = (RACK, MEASURE)
    reads = ("rackpage",)

    @cached_property
    def view(self) -> RackPage:
        """The page."""
        from zesty_veil.desktop.rack.rackpage import RackPage  # noqa: PLC0415 - see `Station`

        page = RackPage(self.context.document, self.context.user_store, self._mixture_in_hand)
        page.lay_wanted.connect(self.context.coat_wanted.emit)
        self.add(page)
        return page

    def page(self) -> Page:
        """Return the page."""
        return self.view

    def _mixture_in_hand(self) -> Mixture | None:
        """Return the mixture of the coat in hand, if there is one."""
        passage, coat = self.context.editor.passage, self.context.coat()
        if passage is None or coat is None or coat >= len(passage.coats):
            return None
        return passage.coats[coat].mixture
