"""The sitting as a station: a plan with coats, or what leads to the first."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.station import Station
from zesty_veil.desktop.sitting.keys import SITTING, SITTING_START

if TYPE_CHECKING:
    from zesty_veil.desktop.sitting.sittingstart import SittingStart
    from zesty_veil.desktop.sitting.sittingview import SittingView


class SittingStation(Station):
    """The plan is painted by the clock."""

    id, words, key = "sitting", "Sitting", "F6"
    keys = (SITTING, SITTING_START)
    reads = ("sittingview", "sittingstart")

    @cached_property
    def view(self) -> SittingView:
        """The page of a plan that has coats."""
        from zesty_veil.desktop.sitting.sittingview import SittingView  # noqa: PLC0415 - see `Station`

        page = SittingView(self.context.document, self.context.user_store.writes)
        page.full_wanted.connect(self.context.full_wanted.emit)
        page.rescue_wanted.connect(self.context.rescue_wanted.emit)
        self.add(page)
        return page

    @cached_property
    def start(self) -> SittingStart:
        """The page of a plan that has none."""
        from zesty_veil.desktop.sitting.sittingstart import SittingStart  # noqa: PLC0415 - see `Station`

        page = SittingStart()
        page.coat_wanted.connect(self.context.paints_wanted.emit)
        page.plans_wanted.connect(lambda: self.context.station_wanted.emit("start"))
        self.add(page)
        return page

    def page(self) -> Page:
        """Return the page of the sitting, or the one that leads to a coat."""
        passages = self.context.document.plan.passages
        laid = any(passage.coats or passage.ground.coats for passage in passages)
        return self.view if laid else self.start
