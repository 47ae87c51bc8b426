"""The start page as a station."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.station import Station
from zesty_veil.desktop.start.keys import START, TEMPLATE
from zesty_veil.plan.model import Plan
from zesty_veil.plan.samples import sample

if TYPE_CHECKING:
    from zesty_veil.desktop.start.startpage import StartPage
    from zesty_veil.desktop.start.templatepage import TemplatePage


class StartStation(Station):
    """Plans to begin with and to go on with."""

    id, words, key = "start", "Start", "F2"
    keys = (START, TEMPLATE)
    reads = ("startpage", "templatepage")
    on_template = False

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
        page.template_wanted.connect(self._open_template)
        self.add(page)
        return page

    @cached_property
    def template(self) -> TemplatePage:
        """The page of one template."""
        from zesty_veil.desktop.start.templatepage import TemplatePage  # noqa: PLC0415 - see `Station`

        page = TemplatePage(self.context.rack)
        page.plan_wanted.connect(self._begin)
        page.back_wanted.connect(lambda: self._turn(False))
        self.add(page)
        return page

    def _open_template(self, name: str) -> None:
        self.template.show_template(name)
        self._turn(True)

    def _begin(self, plan: Plan) -> None:
        self.on_template = False
        self.context.plan_wanted.emit(plan)

    def _turn(self, template: bool) -> None:
        self.on_template = template
        self.context.station_wanted.emit(self.id)

    def page(self) -> Page:
        """Show the plans, and those opened last as soon as that is read."""
        if self.on_template:
            return self.template
        self.context.recent(self.view.show_recent)
        return self.view
