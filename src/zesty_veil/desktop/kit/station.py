"""What a station is: how it is called and reached, and its pages, made when first wanted."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import ClassVar

from PySide6.QtCore import QObject, Signal

from zesty_veil.desktop.kit.command import EVERYWHERE, Command, Keys
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.passageeditor import PassageEditor
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.desktop.session.userstore import UserStore
from zesty_veil.predict.look import ViewingConditions

HearsOfPlans = Callable[[tuple[Path, ...]], object]


class StationContext(QObject):
    """What stations know of the window, and what they may ask of it.

    Parameters
    ----------
    document, user_store, editor, rack
        The open plan, the painter's store, the passage in view and the paints at hand.
    look, place, coat
        Return how colours are looked at, the place that is read, and the coat in hand.
    recent
        Reads which plans were opened last, and tells a function.
    station
        Returns the id of the station that is open.
    """

    said = Signal(str)
    station_wanted = Signal(str)  # by its id
    passage_wanted = Signal(int)  # in view
    paints_wanted = Signal()  # offered over the section, for a new coat
    coat_wanted = Signal(object)  # a Paint to lay
    way_back_wanted = Signal(object)  # a WaySearch from what went wrong on the bench
    plan_wanted = Signal(object)  # a Plan that has no file
    empty_wanted = Signal()
    file_wanted = Signal(object)  # Path
    round_wanted = Signal()  # to be shown round
    full_wanted = Signal()  # the page alone on the whole screen, or all again
    choose_wanted = Signal()  # a plan's file, to be chosen

    def __init__(
        self,
        document: Document,
        user_store: UserStore,
        editor: PassageEditor,
        rack: RackView,
        look: Callable[[], ViewingConditions],
        place: Callable[[], float],
        coat: Callable[[], int | None],
        recent: Callable[[HearsOfPlans], None],
        station: Callable[[], str],
    ) -> None:
        super().__init__()
        self.document, self.user_store = document, user_store
        self.editor, self.rack = editor, rack
        self.look, self.place, self.coat = look, place, coat
        self.recent, self.station = recent, station


class Station:
    """One station; the rail, the menus, the keys and the router read what it says of itself.

    `id` also names its icon. `keys` are those of its pages. A page is imported when it is made, so
    that a window stands before all of them are read; `reads` names them, to be read ahead.

    Parameters
    ----------
    context
        What it knows, and what it may ask for.
    add
        Takes each page when it is made.
    """

    id: ClassVar[str]
    words: ClassVar[str]
    key: ClassVar[str]
    keys: ClassVar[tuple[Keys, ...]]
    reads: ClassVar[tuple[str, ...]] = ()
    # Whether it stands below the others in the rail: it is no step of the work.
    aside: ClassVar[bool] = False
    # Endings of the files that it takes when they are dropped on the window.
    drops: ClassVar[frozenset[str]] = frozenset()

    def __init__(self, context: StationContext, add: Callable[[Page], None]) -> None:
        self.context, self.add = context, add

    @classmethod
    def command(cls) -> Command:
        """Return the command that leads to it."""
        return Command(
            f"to {cls.id}", cls.words, (cls.key,), where=EVERYWHERE,
            act=lambda w: w.router.go(cls.id),
        )  # fmt: skip

    def page(self) -> Page | None:
        """Return the page to show now, which may differ with the plan; none is the section.

        Raises
        ------
        InputError
            If there is nothing to show, with what to do about that.
        """
        raise NotImplementedError

    def drop(self, path: Path) -> None:
        """Take a file that was dropped on the window, now that the page is shown."""
