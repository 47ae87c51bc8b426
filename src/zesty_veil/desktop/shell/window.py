"""The main window: menus, the station, and one line for what has to be said."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QCloseEvent, QResizeEvent
from PySide6.QtWidgets import QApplication, QFileDialog, QMainWindow, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.commands import hint_line
from zesty_veil.desktop.kit.messageline import MessageLine
from zesty_veil.desktop.section.station import SectionStation
from zesty_veil.desktop.session.autosave import Autosave
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.userstore import UserStore
from zesty_veil.desktop.shell.exporting import Exporter
from zesty_veil.desktop.shell.filework import PLAN_FILTER, FileWork, file_name
from zesty_veil.desktop.shell.menus import Menus
from zesty_veil.desktop.shell.planstrip import PlanStrip
from zesty_veil.desktop.shell.stationrouter import StationRouter
from zesty_veil.plan.fileformat import load
from zesty_veil.plan.model import Passage, Plan
from zesty_veil.tr import tr

_BESIDE_MENUS = 16


class MainWindow(QMainWindow):
    """One plan in one window."""

    def __init__(self, plan: Plan, path: Path | None = None) -> None:
        super().__init__()
        self.document = Document(plan, path, self)
        # Menus are laid out after this turn of the event loop, and only then tell their width.
        self._fitting = QTimer(self)
        self._fitting.setSingleShot(True)
        self._fitting.setInterval(0)
        self._fitting.timeout.connect(self._fit_strip)
        self.user_store = UserStore(self)
        self.station = SectionStation(self.document, self.user_store, self._make_router)
        self.station.complained.connect(self.say)
        self.autosave = Autosave(self.document, self)
        self.line = MessageLine()
        self.files = FileWork(self, self.document, self.line, self.autosave, self.user_store.writes)
        self.files.opened.connect(self.station.start_over)
        self.exporter = Exporter(
            self,
            self.files,
            self.user_store.writes,
            self.station.view,
            self.station.passages.form_view,
        )
        self.exporter.said.connect(self.say)
        self.document.refused.connect(self.say)
        self.line.mend_wanted.connect(self.station.mend)
        self.station.remarked.connect(self.line.show_remarks)
        self.station.again_wanted.connect(
            lambda plan: self.when_free(lambda: self._show(plan, None))
        )
        self.autosave.failed.connect(self.say)
        body = QWidget()
        column = QVBoxLayout(body)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.station, 1)
        column.addWidget(self.line)
        self.setCentralWidget(body)
        self.strip = PlanStrip(self.document)
        self.menuBar().setCornerWidget(self.strip, Qt.Corner.TopRightCorner)
        self.menus = Menus(
            self.menuBar(), self.document, self.station, self.files, self._acts(), self._states()
        )
        self.router.switched.connect(self._page_turned)
        self.router.offered.connect(self.line.offer)
        self.document.changed.connect(self._changed)
        self.setMinimumSize(1160, 640)
        self.resize(1280, 800)
        self._changed()
        self.station.view.setFocus()
        self.say(self.user_store.trouble)

    def _make_router(self, section: SectionStation) -> StationRouter:
        self.router = StationRouter(section, self.document, self.user_store)
        return self.router

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._fitting.start()

    def _fit_strip(self) -> None:
        """Give the strip what the menus leave; they are wider in a larger type."""
        bar = self.menuBar()
        ends = [bar.actionGeometry(action).right() for action in bar.actions()]
        if self.strip.fit(self.width() - max(ends, default=0) - _BESIDE_MENUS):
            # A menu bar places what stands in its corner only when it is resized itself.
            QApplication.sendEvent(bar, QResizeEvent(bar.size(), bar.size()))

    def say(self, words: str) -> None:
        """Put a sentence in the line below the work; nothing puts remarks or a hint there."""
        self.line.say(words)

    def wait_until_idle(self) -> bool:
        """Run events until files are read and written, and what is shown is the plan."""
        return self.user_store.writes.wait_until_idle() and self.station.wait_until_idle()

    def new_plan(self) -> None:
        """Begin an empty plan, asking first if this one is not saved."""
        self.when_free(lambda: self._show(Plan("New plan", (Passage("new passage"),)), None))

    def choose_and_keep(self) -> None:
        """Let a plan's file be chosen, to see it by turns with the open one."""
        name, _ = QFileDialog.getOpenFileName(
            self, tr("Keep a plan"), str(self.files.folder()), PLAN_FILTER
        )
        if name:
            self.keep_to_turn(Path(name))

    def keep_to_turn(self, path: Path) -> None:
        """See the plan of a file by turns with the open one; on failure say why."""
        looks = self.station.looks
        self.user_store.writes.do(
            lambda: load(path), looks.keep, lambda error: self.say(str(error))
        )

    def choose_and_export(self) -> None:
        """Ask for a file and write the plan to it in the format of its name."""
        plan = self.document.plan
        self.exporter.choose(plan, self.files.folder() / file_name(plan, "-steps.md"))

    def closeEvent(self, event: QCloseEvent) -> None:
        if self.document.unsaved:
            event.ignore()
            self.when_free(lambda: _ignore(self.close()))
            return
        self.hide()  # what is left is written first, and may take as long as a slow disk does
        self.station.stop()
        self.user_store.close()
        self.files.close()
        self.autosave.close()
        event.accept()

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
        self._fitting.start()

    def _page_turned(self) -> None:
        self.menus.refresh()
        self.line.set_rest(self.router.hint(), alone=self.router.turning)

    def _acts(self) -> dict[str, Callable[[], object]]:
        """Return what each command of the menus does."""
        station = self.station
        return {
            "new": self.new_plan,
            "open": self.files.choose_and_open,
            "save": self.files.save,
            "save as": self.files.save_as,
            "steps": self.choose_and_export,
            "sit": self.router.sit_down,
            "rack": self.router.open_rack,
            "log": self.router.open_log,
            "guess": self.router.guess_first,
            "undo": self.document.undo,
            "redo": self.document.redo,
            "leave": self.close,
            "add coat": station.open_rack,
            "remove coat": station.remove_coat,
            "later": lambda: station.move_coat(1),
            "sooner": lambda: station.move_coat(-1),
            "pass more": lambda: station.more_passes(1),
            "pass less": lambda: station.more_passes(-1),
            "thin": lambda: station.thin(0.5),
            "strengthen": lambda: station.thin(-0.5),
            "feather longer": lambda: station.nudge("feather end", 0.5),
            "feather shorter": lambda: station.nudge("feather end", -0.5),
            "light feather longer": lambda: station.nudge("feather start", -0.5),
            "light feather shorter": lambda: station.nudge("feather start", 0.5),
            "add passage": station.passages.add_passage,
            "remove passage": station.passages.remove_passage,
            "next passage": lambda: station.step_passage(1),
            "previous passage": lambda: station.step_passage(-1),
            "ground": station.head.ground.showMenu,
            "primer": station.passages.next_primer,
            "surround light": lambda: station.set_surround("light"),
            "surround middle": lambda: station.set_surround("middle"),
            "surround dark": lambda: station.set_surround("dark"),
            "wet": station.head.toggle_wet,
            "glint": station.head.glint.click,
            "sure": station.head.sure.click,
            "even feather": station.moves.even_feather,
            "smooth here": station.moves.smooth_here,
            "copy coat": station.moves.copy_coat,
            "paste coat": station.moves.paste_coat,
            "copy passage": station.moves.copy_passage,
            "push ends": station.moves.push_ends,
            "aim": station.moves.aim,
            "drop target": station.moves.drop_target,
            "sculpt": self.router.forms.choose_sculpt,
            "rings": self.router.forms.ring_axis,
            "nozzle left": lambda: self.router.forms.turn_nozzle(-5.0),
            "nozzle right": lambda: self.router.forms.turn_nozzle(5.0),
            "match": lambda: self.router.find_coats(station.coat),
            "glow": self.router.plan_light,
            "form": self.router.toggle_form,
            "grey": station.looks.toggle_grey,
            "hide": station.looks.toggle_hidden,
            "step": station.step_coats,
            "squint": station.looks.toggle_squint,
            "distance": station.looks.next_distance,
            "inside": station.looks.toggle_inside,
            "split": lambda: station.looks.next_split(self.document.plan.light),
            "turns": station.looks.take_turns,
            "keep": lambda: station.looks.keep(self.document.plan),
            "keep file": self.choose_and_keep,
            "mirror": station.looks.toggle_mirror,
            "studio": station.looks.toggle_studio,
            "observer 2": lambda: station.set_observer(2),
            "observer 10": lambda: station.set_observer(10),
            "hand steady": lambda: station.set_hand("steady"),
            "hand ordinary": lambda: station.set_hand("ordinary"),
            "hand loose": lambda: station.set_hand("loose"),
            "keys": self.show_keys,
        }

    def _states(self) -> dict[str, Callable[[], bool]]:
        """Return whether each toggle is on."""
        station, looks, document = self.station, self.station.looks, self.document
        return {
            "surround light": lambda: station.surround == "light",
            "surround middle": lambda: station.surround == "middle",
            "surround dark": lambda: station.surround == "dark",
            "wet": lambda: station.look().finish == "wet",
            "glint": station.head.glint.isChecked,
            "sure": station.head.sure.isChecked,
            "form": lambda: self.router.form_is_big,
            "grey": lambda: looks.photograph,
            "hide": lambda: looks.hidden,
            "step": lambda: looks.stepping,
            "squint": lambda: looks.squint,
            "mirror": lambda: looks.how.mirrored,
            "studio": lambda: looks.how.studio,
            "inside": lambda: looks.inside,
            "split": lambda: looks.split is not None,
            "turns": lambda: looks.turned,
            "observer 2": lambda: station.head.observer == 2,
            "observer 10": lambda: station.head.observer == 10,
            "hand steady": lambda: document.plan.hand == "steady",
            "hand ordinary": lambda: document.plan.hand == "ordinary",
            "hand loose": lambda: document.plan.hand == "loose",
        }

    def show_keys(self) -> None:
        """Say the keys that are used most."""
        self.say(tr("{0}  More in the menus.").format(hint_line("coat")))


def _ignore(_: object) -> None:
    """Turn an answer that nobody needs into none."""
