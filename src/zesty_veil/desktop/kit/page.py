"""A page: what stands in place of the section while some work lasts; and what turns pages."""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QStackedWidget, QWidget

from zesty_veil.desktop.kit.command import Keys
from zesty_veil.desktop.kit.formview import FormView
from zesty_veil.desktop.kit.theme import Surround


class Page(QWidget):
    """Says when it is left, and what is wrong."""

    # Whether it needs the whole window, without passages and looks beside it.
    whole = False
    # Whether the brush card stays beside it.
    keeps_card = False
    # Whether how the colours are looked at can be changed on it.
    look_tools = False
    # What its keys mean.
    keys: ClassVar[Keys]

    left = Signal()
    complained = Signal(str)
    offered = Signal(str, str, object)  # a sentence, a button's words, and what it does
    # What is asked before a press does what it is for: kind, sentence, and what goes on, in words.
    asks = Signal(str, str, str, object)
    turned = Signal()  # to another of its own leaves, where other keys hold
    state_changed = Signal()  # what `state_words` and `tools` tell

    def tools(self) -> QWidget | None:
        """Return what stands in the header while it is shown, besides undo and redo."""
        return None

    def state_words(self) -> str:
        """Return what state it is in, for the header; nothing for the plan's."""
        return ""

    def hint(self) -> str:
        """Return what can be done on the leaf that is shown."""
        return self.keys.hint()

    def open(self) -> bool:
        """Make ready to be shown; False if there is nothing to show, which it then says."""
        return True

    def take_focus(self) -> None:
        """Put the keyboard where work on it begins."""
        self.setFocus()

    def follow(self) -> None:
        """Let what is shown follow the plan and the look, which have changed."""

    def set_surround(self, surround: Surround) -> None:
        """Put predicted colours into another grey field."""

    def show_full(self, full: bool) -> None:
        """Show that it is alone on the screen, or no longer."""

    def give_up(self) -> None:
        """Leave, without doing anything more."""
        self.left.emit()

    def rest(self) -> None:
        """End what is under way for it alone: something else is shown now."""

    def close_jobs(self) -> None:
        """End the workers."""


class PageRouter(QStackedWidget):
    """Shows the section, or the form at large, or one of the pages in their place.

    Parameters
    ----------
    view, form
        The section and the form at large.
    say
        Told what pages complain of.
    """

    switched = Signal()
    state_changed = Signal()
    offered = Signal(str, str, object)
    asks = Signal(str, str, str, object)

    def __init__(self, view: QWidget, form: FormView, say: Callable[[str], None]) -> None:
        super().__init__()
        self.view, self.form, self._say = view, form, say
        self._pages: list[Page] = []
        self._surround: Surround | None = None
        form.clicked.connect(self.toggle_form)
        self.addWidget(view)
        self.addWidget(form)

    def add(self, page: Page) -> None:
        """Take a page that stands in place of the section while work on it lasts."""
        self._pages.append(page)
        if self._surround is not None:
            page.set_surround(self._surround)
        page.left.connect(lambda: self.go_back(page))
        page.complained.connect(self._say)
        page.offered.connect(self.offered.emit)
        page.asks.connect(self.asks.emit)
        page.turned.connect(self.switched.emit)
        page.state_changed.connect(self.state_changed.emit)
        self.addWidget(page)

    def show_page(self, page: QWidget) -> None:
        """Show one of the widgets that were added, with the keys for it."""
        before = self.page
        self.setCurrentWidget(page)
        if before is not None and before is not page:
            self.turned_from(before, page)
        if isinstance(page, Page):
            page.take_focus()
        else:
            page.setFocus()
        self.switched.emit()

    def turned_from(self, before: Page, now: QWidget) -> None:
        """Let a page rest, as something else is shown."""
        before.rest()

    def go_back(self, page: Page) -> None:
        """Show what stands below a page that is left: the section."""
        self.show_page(self.view)

    @property
    def page(self) -> Page | None:
        """The page that stands in place of section and form, if one does."""
        now = self.currentWidget()
        return now if isinstance(now, Page) else None

    @property
    def form_is_big(self) -> bool:
        """Whether the form stands in place of the section."""
        return self.currentWidget() is self.form

    @property
    def whole(self) -> bool:
        """Whether a page is shown that needs the whole window."""
        return self.page is not None and self.page.whole

    @property
    def hides_card(self) -> bool:
        """Whether a page is shown that takes the room of the brush card."""
        return self.page is not None and not self.page.keeps_card

    @property
    def turning(self) -> bool:
        """Whether work on a page lasts, and keys are for that."""
        return self.page is not None

    def toggle_form(self) -> None:
        """Show the form in place of the section, or the section again."""
        self.show_page(self.view if self.form_is_big else self.form)

    def set_surround(self, surround: Surround) -> None:
        """Put form and pages into another grey field."""
        self._surround = surround
        self.form.set_surround(surround)
        for page in self._pages:
            page.set_surround(surround)

    def follow(self) -> None:
        """Let a page that is shown follow the plan."""
        if self.page is not None:
            self.page.follow()

    def hint(self) -> str:
        """Return what can be done on the page that is shown; nothing for the section."""
        return self.page.hint() if self.page is not None else ""

    def give_up(self) -> None:
        """Go back from a page."""
        if self.page is not None:
            self.page.give_up()

    def close_jobs(self) -> None:
        """End the workers."""
        for page in self._pages:
            page.close_jobs()
