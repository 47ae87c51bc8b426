"""The section as one of the stations: the one that all others stand in place of."""

from __future__ import annotations

from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.station import Station
from zesty_veil.desktop.section.keys import COAT


class SectionHome(Station):
    """Shows the section."""

    id, words, key = "section", "Section", "F3"
    keys = (COAT,)

    def page(self) -> Page | None:
        """Return none: nothing stands in place of the section."""
        return None
