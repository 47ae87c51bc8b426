"""The start page as a station."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.station import Station
from zesty_veil.desktop.start.keys import START
from zesty_veil.plan.samples import sample

if TYPE_CHECKING:
    from zesty_veil.desktop.start.startpage import StartPage


class StartStation(Station):
    """Plans to begin with and to go on with."""

    id, words, key = "start", "Start", "F2"
    keys = (START,)
    reads = ("startpage",)

    @cached_property
    def view(self) -> StartPage:
        """The page."""
        from zesty_veil.desktop.start.startpage import StartPage  # noqa: PLC0415 - see `Station`

        context = self.context
        page = StartPage(context.rack)
        page.demo_wanted.connect(lambda name: context.plan_wanted.emit(sample(name)))
        page.plan_wanted.connect(context.plan_wanted.emit)
        page.file_wanted.connect(context.file_wanted.emit)
        page.empty_wanted.connect(context.empty_wanted.emit)
        page.choose_wanted.connect(context.choose_wanted.emit)
        page.rack_wanted.connect(lambda: context.station_wanted.emit("rack"))
        page.round_wanted.connect(context.round_wanted.emit)
        self.add(page)
        return page

    def page(self) -> Page:
        """Show the plans, and those opened last as soon as that is read."""
        self.context.recent(self.view.show_recent)
        return self.view
