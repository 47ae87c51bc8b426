"""Light as a station: which passage shines, and then what its light wants of the others."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from zesty_veil.desktop.glow.keys import LIGHT, LIGHT_START
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.station import Station
from zesty_veil.plan import edits

if TYPE_CHECKING:
    from zesty_veil.desktop.glow.glowview import GlowView
    from zesty_veil.desktop.glow.lightstart import LightStart


class LightStation(Station):
    """A painted light is dragged before what it lights."""

    id, words, key = "light", "Light", "F4"
    keys = (LIGHT, LIGHT_START)
    reads = ("glowview", "lightstart")

    @cached_property
    def view(self) -> GlowView:
        """The page of a plan in which something shines."""
        from zesty_veil.desktop.glow.glowview import GlowView  # noqa: PLC0415 - see `Station`

        page = GlowView(self.context.document, self.context.editor, self.context.rack)
        page.sitting_wanted.connect(lambda: self.context.station_wanted.emit("sitting"))
        self.add(page)
        return page

    @cached_property
    def start(self) -> LightStart:
        """The page of a plan in which nothing does."""
        from zesty_veil.desktop.glow.lightstart import LightStart  # noqa: PLC0415 - see `Station`

        page = LightStart(self.context.document)
        page.lit.connect(lambda: self.context.station_wanted.emit(self.id))
        self.add(page)
        return page

    def page(self) -> Page:
        """Return the page of the light, or the one that asks for it."""
        plan = self.context.document.plan
        lit = any(edits.is_lit(plan, i) for i in range(len(plan.passages)))
        return self.view if lit else self.start
