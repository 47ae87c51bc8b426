"""All stations of one window: what turns from the section to each."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TypeVar

from PySide6.QtWidgets import QWidget

from zesty_veil.desktop.form.formwork import FormWork
from zesty_veil.desktop.kit.page import Page, PageRouter
from zesty_veil.desktop.kit.station import HearsOfPlans, Station, StationContext
from zesty_veil.desktop.match.station import MatchStation
from zesty_veil.desktop.section.desk import SectionDesk
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.userstore import UserStore
from zesty_veil.desktop.shell.stations import STATIONS
from zesty_veil.desktop.sitting.station import SittingStation
from zesty_veil.errors import InputError
from zesty_veil.services.finding import WaySearch
from zesty_veil.tr import tr

_S = TypeVar("_S", bound=Station)


class StationRouter(PageRouter):
    """Holds form, sculpt and stations, and ties each to the section that it is turned from.

    Pages are made when they are first wanted: most sittings need few of them, and some take as long
    to make as half of the window.
    """

    def __init__(
        self,
        section: SectionDesk,
        document: Document,
        user_store: UserStore,
        recent: Callable[[HearsOfPlans], None],
    ) -> None:
        say = section.complained.emit
        self.forms = FormWork(document, section.editor, say, self.show_page)
        super().__init__(section.view, self.forms.form, say)
        self._section, self._document = section, document
        self.context = StationContext(
            document, user_store, section.editor, section.rack, section.look,
            lambda: section.view.place, lambda: section.coat, recent, lambda: self.station,
        )  # fmt: skip
        self._owner: dict[Page, str] = {}
        self._below: Page | None = None  # what lies as it was below a page that is no step of work
        self.stations = {
            kind.id: kind(self.context, partial(self._take, kind.id)) for kind in STATIONS
        }
        self.sculpt = self.forms.sculpt
        self._take("section", self.sculpt)
        section.passages.form_wanted.connect(self.forms.choose_form)
        section.passages.sculpt_wanted.connect(self.forms.choose_sculpt)
        self.context.said.connect(say)
        self.context.station_wanted.connect(self.go)
        self.context.passage_wanted.connect(section.choose_passage)
        self.context.coat_wanted.connect(section.add_coat)
        self.context.paints_wanted.connect(self._offer_paints)
        self.context.way_back_wanted.connect(self._way_back)

    def hint(self) -> str:
        """Return what can be done on the page that is shown; nothing for the section."""
        return self.forms.hint() if self.form_is_big else super().hint()

    @property
    def station(self) -> str:
        """The id of the station that is shown."""
        return self._owner.get(self.page, "section") if self.page is not None else "section"

    def at(self, kind: type[_S]) -> _S:
        """Return a station of this window by its class."""
        found = self.stations[kind.id]
        assert isinstance(found, kind)
        return found

    def go(self, station: str) -> bool:
        """Go to a station by its id; False where it has nothing to show, which it then says."""
        try:
            page = self.stations[station].page()
        except InputError as error:
            self._say(str(error))
            return False
        if page is None:
            self.show_section()
        elif not page.open():
            return False
        else:
            self.show_page(page)
        return True

    def turned_from(self, before: Page, now: QWidget) -> None:
        """Let a page rest, unless somebody only looks something up and will be back."""
        if self._aside(now):
            self._below = None if self._aside(before) else before
            return
        if self._aside(before):
            before, self._below = self._below or before, None
            if before is now:
                return
        super().turned_from(before, now)

    def go_back(self, page: Page) -> None:
        """Show what stands below a page: the section, or where somebody came from to look it up."""
        below = self._below if self._aside(page) else None
        self.show_page(below or self.view)
        if below is not None:
            below.follow()

    def _aside(self, page: QWidget) -> bool:
        owner = self._owner.get(page) if isinstance(page, Page) else None
        return owner is not None and self.stations[owner].aside

    def show_section(self) -> None:
        """Go back to the section, whatever is open."""
        if self.page is self.sculpt:
            self.sculpt.give_up()
        self.show_page(self.view)

    def dropped(self, path: Path) -> bool:
        """Give a file to the station that takes such files; False where none does."""
        for station in self.stations.values():
            if path.suffix.casefold() in station.drops:
                if self.go(station.id):
                    station.drop(path)
                return True
        return False

    def _take(self, station: str, page: Page) -> None:
        self._owner[page] = station
        self.add(page)

    def _offer_paints(self) -> None:
        """Go to the section and offer the paints."""
        self.show_section()
        self._section.open_rack()

    def went_wrong(self) -> None:
        """Ask what the passage in view is on the bench, all of it being laid."""
        laid = {i: len(p.coats) for i, p in enumerate(self._document.plan.passages) if p.coats}
        if not laid:
            self.context.said.emit(tr("Nothing is laid in this plan yet. Add a coat first."))
            return
        self.at(SittingStation).ask_what_went_wrong(self._section.editor.passage_index, laid)

    def _way_back(self, search: WaySearch) -> None:
        """Find the way back from what went wrong on the bench."""
        if search.passage < len(self._document.plan.passages):
            self._section.choose_passage(search.passage)
            station = self.at(MatchStation)
            station.on_ladder = False
            if self.go("match"):
                station.view.mend(search)
