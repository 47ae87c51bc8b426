"""The sitting as a station: a plan with coats, or what leads to the first."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.station import Station
from zesty_veil.desktop.sitting.keys import SITTING, SITTING_START, WENT_WRONG

if TYPE_CHECKING:
    from zesty_veil.desktop.sitting.sittingstart import SittingStart
    from zesty_veil.desktop.sitting.sittingview import SittingView
    from zesty_veil.desktop.sitting.wrongpage import WrongPage


class SittingStation(Station):
    """The plan is painted by the clock."""

    id, words, key = "sitting", "Sitting", "F6"
    keys = (SITTING, SITTING_START, WENT_WRONG)
    reads = ("sittingview", "sittingstart", "wrongpage")

    went_wrong = False  # whether it is asked what went wrong

    @cached_property
    def view(self) -> SittingView:
        """The page of a plan that has coats."""
        from zesty_veil.desktop.sitting.sittingview import SittingView  # noqa: PLC0415 - see `Station`

        page = SittingView(self.context.document, self.context.user_store.writes)
        page.full_wanted.connect(self.context.full_wanted.emit)
        page.wrong_wanted.connect(self.ask_what_went_wrong)
        self.add(page)
        return page

    @cached_property
    def wrong(self) -> WrongPage:
        """The page that asks what went wrong."""
        from zesty_veil.desktop.sitting.wrongpage import WrongPage  # noqa: PLC0415 - see `Station`

        context = self.context
        page = WrongPage(context.document, context.rack, context.look)
        page.left.connect(self._forget)
        page.back_wanted.connect(context.way_back_wanted.emit)
        self.add(page)
        return page

    def ask_what_went_wrong(self, passage: int, laid: dict[int, int]) -> None:
        """Ask what a passage is now; `laid` is how many coats of each lie on the bench."""
        self.wrong.show_passage(passage, laid)
        self.went_wrong = True
        self.context.station_wanted.emit(self.id)

    def _forget(self) -> None:
        self.went_wrong = False

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
        if self.went_wrong:
            self.went_wrong = False  # asked for once
            return self.wrong
        passages = self.context.document.plan.passages
        laid = any(passage.coats or passage.ground.coats for passage in passages)
        return self.view if laid else self.start
