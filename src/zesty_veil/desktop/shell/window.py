"""The main window: menus, the station, and one line for what has to be said."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QEvent, QMimeData
from PySide6.QtGui import QAction, QCloseEvent, QDragEnterEvent, QDropEvent, QHelpEvent
from PySide6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QMainWindow,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.help.station import HelpStation
from zesty_veil.desktop.kit.command import EVERYWHERE
from zesty_veil.desktop.kit.explain import explain
from zesty_veil.desktop.kit.messageline import MessageLine, Reply
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.popover import Popover
from zesty_veil.desktop.kit.station import HearsOfPlans
from zesty_veil.desktop.section.desk import SectionDesk
from zesty_veil.desktop.section.keys import COAT
from zesty_veil.desktop.session.autosave import Autosave
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.preferences import (
    LEAST_WINDOW,
    Preferences,
    keep_preferences,
    zoom_fits,
)
from zesty_veil.desktop.session.userstore import UserStore
from zesty_veil.desktop.shell.commands import menus
from zesty_veil.desktop.shell.exporting import Exporter
from zesty_veil.desktop.shell.filework import PLAN_FILTER, FileWork, file_name
from zesty_veil.desktop.shell.findable import Findable
from zesty_veil.desktop.shell.finder import Finder
from zesty_veil.desktop.shell.header import Header
from zesty_veil.desktop.shell.keysheet import KeySheet
from zesty_veil.desktop.shell.leaving import Leaving
from zesty_veil.desktop.shell.menus import Menus
from zesty_veil.desktop.shell.preferencespanel import PreferencesPanel
from zesty_veil.desktop.shell.rail import Rail
from zesty_veil.desktop.shell.stationrouter import StationRouter
from zesty_veil.desktop.shell.theming import wear_choice
from zesty_veil.desktop.shell.tour import Tour
from zesty_veil.desktop.shell.toursteps import steps_of
from zesty_veil.plan.fileformat import SUFFIX, load
from zesty_veil.plan.model import Passage, Plan
from zesty_veil.plan.samples import sample
from zesty_veil.tr import tr

# Endings of files that can be dropped on the window besides plans.
MESHES = frozenset({".stl", ".obj"})


class MainWindow(QMainWindow):
    """One plan in one window."""

    def __init__(
        self, plan: Plan, path: Path | None = None, preferences: Preferences | None = None
    ) -> None:
        super().__init__()
        self._keeps = preferences is not None  # whether how it stands is kept between starts
        self.preferences = preferences or Preferences()
        self._zoom = self.preferences.zoom  # another one is there from the next start
        self._full = False  # whether one page stands alone on the screen
        self._full_page: Page | None = None
        self.document = Document(plan, path, self)
        self.user_store = UserStore(self)
        self.section = SectionDesk(self.document, self.user_store, self._make_router)
        self.section.complained.connect(self.say)
        self.autosave = Autosave(self.document, self)
        self.line = MessageLine()
        self.leaving = Leaving(
            self, self.line, self.user_store, self.autosave, self.close, self._shut
        )
        self.files = FileWork(self, self.document, self.line, self.autosave, self.user_store.writes)
        self.files.opened.connect(self.section.start_over)
        wanted = self.router.context
        wanted.plan_wanted.connect(lambda plan: self.when_free(lambda: self._show(plan, None)))
        wanted.file_wanted.connect(lambda path: self.when_free(lambda: self.files.open(path)))
        wanted.full_wanted.connect(lambda: self.show_full(not self._full))
        wanted.round_wanted.connect(self.show_round)
        wanted.empty_wanted.connect(self.new_plan)
        wanted.choose_wanted.connect(self.files.choose_and_open)
        self.exporter = Exporter(
            self,
            self.files,
            self.user_store.writes,
            self.section.view,
            self.section.passages.form_view,
        )
        self.exporter.said.connect(self.say)
        self.document.refused.connect(self.say)
        self.line.mend_wanted.connect(self.section.remedies.apply)
        self.line.preview_wanted.connect(self.section.moves.preview_remedy)
        self.section.remarked.connect(self.line.show_remarks)
        self.autosave.failed.connect(self.say)
        body = QWidget()
        self.rail = Rail()
        self.rail.wanted.connect(self._go)
        row = QHBoxLayout(body)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.rail)
        self._column = column = QVBoxLayout()
        row.addLayout(column, 1)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.header = Header(self.document)
        self.header.undo_wanted.connect(self.document.undo)
        self.header.redo_wanted.connect(self.document.redo)
        column.addWidget(self.header)
        column.addWidget(self.section, 1)
        column.addWidget(self.line)
        self.setCentralWidget(body)
        self.menus = Menus(self.menuBar(), self, self.document, self.section, self.files)
        self.findable = Findable(
            self.document, self.section, self.router, self.files, self.menus, self.say
        )
        self.finder = Finder(self, self.findable.run)
        self.preferences_panel = PreferencesPanel(self)
        self.preferences_panel.theme_chosen.connect(lambda theme: self.prefer(theme=theme))
        self.preferences_panel.zoom_chosen.connect(lambda zoom: self.prefer(zoom=zoom))
        self.line.asking.connect(self.menus.hold)
        self.line.asking.connect(lambda _: self._place_line())
        self.router.switched.connect(self._page_turned)
        for left in (self.router.switched, self.files.opened):
            left.connect(Popover.close_all)  # what is open belongs to what was there
        self.router.state_changed.connect(self._show_header)
        self.router.offered.connect(self.line.offer)
        self.router.asks.connect(self._ask_first)
        self.section.station_wanted.connect(self.router.go)
        self.document.changed.connect(self._changed)
        self.setAcceptDrops(True)
        self.setMinimumSize(*LEAST_WINDOW)
        self.resize(self.preferences.width, self.preferences.height)
        self._changed()
        self.section.view.setFocus()
        self.say(self.user_store.trouble)

    def _make_router(self, section: SectionDesk) -> StationRouter:
        self.router = StationRouter(section, self.document, self.user_store, self._tell_recent)
        return self.router

    def event(self, event: QEvent) -> bool:
        """Explain a term where the pointer rests, if nothing else is told there."""
        if event.type() == QEvent.Type.ToolTip and isinstance(event, QHelpEvent):
            return explain(self, event) or super().event(event)
        return super().event(event)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if self._dropped(event.mimeData()) is not None:
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Open what is dropped: a plan, a picture to take colours from, a sculpt."""
        path = self._dropped(event.mimeData())
        if path is None:
            return
        event.acceptProposedAction()
        ending = path.suffix.casefold()
        if ending == SUFFIX:
            self.when_free(lambda: self.files.open(path))
        elif ending in MESHES:
            self.router.forms.open_sculpt(path)
        else:
            self.router.dropped(path)

    def _dropped(self, what: QMimeData) -> Path | None:
        """Return the first file that can be opened here, if there is one."""
        files = (Path(url.toLocalFile()) for url in what.urls() if url.isLocalFile())
        known = {SUFFIX, *MESHES}.union(*(each.drops for each in self.router.stations.values()))
        return next((path for path in files if path.suffix.casefold() in known), None)

    def say(self, words: str) -> None:
        """Put a sentence in the line below the work; nothing puts remarks or a hint there."""
        self.line.say(words)

    def wait_until_idle(self) -> bool:
        """Run events until files are read and written, and what is shown is the plan."""
        return self.user_store.writes.wait_until_idle() and self.section.wait_until_idle()

    def show_full(self, full: bool) -> None:
        """Show the page that is open alone on the whole screen, or all again."""
        if full == self._full:
            return
        self._full = full
        self._full_page = self.router.page
        for widget in (self.menuBar(), self.rail, self.header):
            widget.setVisible(not full)
        if self.router.page is not None:
            self.router.page.show_full(full)
        if full:
            self.showFullScreen()
        else:
            self.showNormal()

    def new_plan(self) -> None:
        """Begin an empty plan, asking first if this one is not saved."""
        self.when_free(
            lambda: self._show(Plan(tr("New plan"), (Passage(tr("new passage")),)), None)
        )

    def choose_and_keep(self) -> None:
        """Let a plan's file be chosen, to see it by turns with the open one."""
        name, _ = QFileDialog.getOpenFileName(
            self, tr("Keep a plan"), str(self.files.folder()), PLAN_FILTER
        )
        if name:
            self.keep_to_turn(Path(name))

    def keep_to_turn(self, path: Path) -> None:
        """See the plan of a file by turns with the open one; on failure say why."""
        looks = self.section.looks
        self.user_store.writes.do(
            lambda: load(path), looks.keep, lambda error: self.say(str(error)), path
        )

    def choose_and_export(self) -> None:
        """Ask for a file and write the plan to it in the format of its name."""
        plan = self.document.plan
        self.exporter.choose(plan, self.files.folder() / file_name(plan, "-steps.md"))

    def closeEvent(self, event: QCloseEvent) -> None:
        if self.document.unsaved and self.user_store.writes.idle():
            event.ignore()
            self.leaving.stay()
            self.when_free(lambda: _ignore(self.close()))
            return
        if self._keeps and not self.leaving.waiting:
            self._keep_geometry()
        if not self.leaving.ready():
            event.ignore()
            return
        self._shut()
        self.user_store.close()
        self.autosave.close()
        event.accept()

    def _shut(self) -> None:
        """Show nothing any more, compute nothing, and let go of the plan's file."""
        self.hide()
        self.section.stop()
        self.files.close()

    def _keep_geometry(self) -> None:
        normal = self.normalGeometry()
        self.prefer(
            width=normal.width(), height=normal.height(), maximised=self.isMaximized(),
            station=self.router.station,
        )  # fmt: skip

    def when_free(self, go_on: Callable[[], None]) -> None:
        """Do something that would lose unsaved work only after asking, in the line below."""
        self.files.when_free(go_on)

    def _show(self, plan: Plan, path: Path | None) -> None:
        self.files.show(plan, path)

    def _changed(self) -> None:
        document = self.document
        self.say("")  # what was said of the plan before is said no longer
        mark = tr("  ·  not saved") if document.unsaved else ""
        title = document.plan.title.replace("[*]", "[*][*]")  # Qt takes one for a mark of its own
        self.setWindowTitle(tr("{0}{1}  –  Zesty Veil").format(title, mark))
        self._page_turned()

    def _ask_first(self, kind: str, words: str, label: str, act: Callable[[], object]) -> None:
        """Ask before something is done that cannot be undone."""
        answers = {"do": Reply(label, act), "stay": Reply(tr("Cancel"), lambda: None)}
        self.line.ask(kind, words, answers, pressed=True)

    def _place_line(self) -> None:
        """Let a question that a press has led to stand below the header; all else at the foot."""
        between = self.line.stands_between
        wanted = self._column.indexOf(self.header) + 1 if between else self._column.count() - 1
        if self._column.indexOf(self.line) != wanted:
            self._column.removeWidget(self.line)
            self._column.insertWidget(wanted, self.line)
        self.line.stress(between)

    def _go(self, command: str) -> None:
        """Do what a button of the rail stands for; it shows what is open, whatever came of it."""
        self.menus.actions[command].trigger()
        self.rail.show_station(self.router.station)

    def _tell_recent(self, told: HearsOfPlans) -> None:
        """Tell which plans were opened last, as soon as that is read."""
        self.files.look_at_recent(lambda: told(self.files.recent))

    def _page_turned(self) -> None:
        if self._full and self.router.page is not self._full_page:
            self.show_full(False)
        self.menus.refresh()
        self.rail.show_station(self.router.station)
        self._show_header()
        self.line.set_rest(self.router.hint(), alone=self.router.turning)

    def _show_header(self) -> None:
        """Show the tools of what is open; undo and redo where they can be used."""
        page = self.router.page
        own = None if page is None else page.tools()
        look = self.section.head if page is None or page.look_tools else None
        self.section.head.show_coat_tools(page is None)
        tools = tuple(widget for widget in (look, own) if widget is not None)
        self.header.show_station(tools, "" if page is None else page.state_words(), page is None)
        undo, redo = (self.menus.actions[name] for name in ("undo", "redo"))
        self.header.show_steps(
            *(_with_key(action) if action.isEnabled() else "" for action in (undo, redo))
        )

    def show_keys(self) -> None:
        """Lay the keys of what is open over it."""
        page = self.router.page
        own = COAT.commands if page is None else page.keys.commands
        general = (each for commands in menus().values() for each in commands)
        shown = [each for each in general if each.where == EVERYWHERE or page is None]
        title = tr("Keys of the section") if page is None else tr("Keys of this page")
        KeySheet(self, title, [*own, *shown]).open_over(self.router)

    def go_on_at(self, station: str) -> None:
        """Go to the station that was open when the window was last closed, if it has a page now."""
        if station in self.router.stations and station != HelpStation.id:
            self.router.go(station)

    def show_help(self, page: str) -> None:
        """Open a page of the help."""
        self.findable.show_help(page)

    def find_anything(self) -> None:
        """Find a command, a paint, a passage, a plan or help."""
        self.finder.open_among(self.findable.entries(), self)

    def show_round(self) -> None:
        """Show somebody round over the demo, asking first where work would be lost."""
        self.when_free(self._show_round)

    def _show_round(self) -> None:
        self._show(sample("glasswright"), None)
        Tour(self, self.router.go, steps_of(self.section, self.router)).show_step(0)

    def show_preferences(self) -> None:
        """Open what can be chosen about the window."""
        size = self.screen().availableSize()
        room = size.width(), size.height()
        self.preferences_panel.show_preferences(
            self.preferences, lambda zoom: zoom_fits(zoom, self._zoom, room)
        )
        self.preferences_panel.adjustSize()
        at = self.rect().center() - self.preferences_panel.rect().center()
        self.preferences_panel.open_at(self.mapToGlobal(at), self)

    def prefer(self, **changes: object) -> None:
        """Keep a choice about the window, and do what can be done about it now."""
        self.preferences = replace(self.preferences, **changes)
        wear_choice(self.preferences.theme)
        wanted = self.preferences
        self.user_store.writes.do(lambda: keep_preferences(wanted))


def _with_key(action: QAction) -> str:
    return f"{action.text()} ({action.shortcut().toString()})"


def _ignore(_: object) -> None:
    """Turn an answer that nobody needs into none."""
