"""The menus: what each entry does, and which can be used now."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMenu

from zesty_veil.desktop.kit.plain import entry, tip
from zesty_veil.desktop.shell.keys import KEYS

if TYPE_CHECKING:
    from zesty_veil.desktop.shell.window import MainWindow

# While a sculpt is turned, keys are for that; only these still act on the plan.
_ALWAYS = ("new", "open", "save", "save as", "steps", "leave", "keys")
_STEPS_SHOWN = 15


class Menus:
    """Fills a window's menu bar; `actions` are its entries by the names of `KEYS`."""

    def __init__(self, window: MainWindow) -> None:
        self._window = window
        self.actions: dict[str, QAction] = {}
        self.recent = QMenu("Open again", window)
        self.recent.setToolTipsVisible(True)
        self.recent.aboutToShow.connect(self._show_recent)
        self.steps = QMenu("Back to …", window)
        self.steps.aboutToShow.connect(self._fill_steps)
        self.lit_by = QMenu("Lit by", window)
        self.lit_by.aboutToShow.connect(self._fill_lights)
        menus = {"recent": self.recent, "steps back": self.steps, "lit by": self.lit_by}
        calls = _calls(window)
        for title, entries in KEYS.items():
            menu = window.menuBar().addMenu(title)
            for name, words, keys in entries:
                if name == "-":
                    menu.addSeparator()
                elif name in menus:
                    menu.addMenu(menus[name])
                else:
                    action = menu.addAction(words)
                    action.setShortcuts([QKeySequence(key) for key in keys])
                    action.triggered.connect(lambda _=False, c=calls[name]: c())
                    self.actions[name] = action

    def refresh(self) -> None:
        """Offer what can be done now, and name what would be undone."""
        history = self._window.document.history
        turning = self._window.router.turning
        for name, action in self.actions.items():
            action.setEnabled(not turning or name in _ALWAYS)
        for name, steps_there, verb in (
            ("undo", history.past[-1:], "Undo"),
            ("redo", history.future[:1], "Redo"),
        ):
            action = self.actions[name]
            action.setEnabled(bool(steps_there) and not turning)
            action.setText(entry(f"{verb} {steps_there[0].words}") if steps_there else verb)

    def _show_recent(self) -> None:
        """Show what is known now, and what other windows opened as soon as that is read."""
        self._fill_recent()
        self._window.files.look_at_recent(self._fill_recent)

    def _fill_recent(self) -> None:
        window = self._window
        self.recent.clear()
        for path in window.files.recent:
            action = self.recent.addAction(entry(path.name))
            action.setToolTip(tip(str(path)))
            action.triggered.connect(
                lambda _=False, p=path: window.when_free(lambda: window.files.open(p))
            )
        if self.recent.isEmpty():
            self.recent.addAction("Nothing yet").setEnabled(False)

    def _fill_steps(self) -> None:
        """List what was done, the last first; choosing one takes it and all after it back."""
        document = self._window.document
        self.steps.clear()
        for back, step in enumerate(reversed(document.history.past[-_STEPS_SHOWN:]), 1):
            action = self.steps.addAction(entry(f"before {step.words}"))
            action.triggered.connect(lambda _=False, n=back: document.undo(n))
        if self.steps.isEmpty():
            self.steps.addAction("Nothing was done yet").setEnabled(False)

    def _fill_lights(self) -> None:
        """List the other passages, of which one may be the light that falls on this one."""
        station = self._window.station
        passage = station.hand.passage
        self.lit_by.clear()
        if passage is None:
            self.lit_by.addAction("There is no passage in view").setEnabled(False)
            return
        others = [p.name for p in self._window.document.plan.passages if p.name != passage.name]
        for name in (None, *others):
            action = self.lit_by.addAction("no light of the plan" if name is None else entry(name))
            action.setCheckable(True)
            action.setChecked(name == passage.lit_by)
            action.triggered.connect(lambda _=False, n=name: station.moves.light_by(n))


def _calls(window: MainWindow) -> dict[str, Callable[[], object]]:
    """Return what each entry does."""
    station = window.station
    return {
        "new": window.new_plan,
        "open": window.files.choose_and_open,
        "save": window.files.save,
        "save as": window.files.save_as,
        "steps": window.choose_and_export,
        "sit": window.router.sit_down,
        "rack": window.router.open_rack,
        "log": window.router.open_log,
        "guess": window.router.guess_first,
        "undo": window.document.undo,
        "redo": window.document.redo,
        "leave": window.close,
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
        "sculpt": window.router.forms.choose_sculpt,
        "rings": window.router.forms.ring_axis,
        "nozzle left": lambda: window.router.forms.turn_nozzle(-5.0),
        "nozzle right": lambda: window.router.forms.turn_nozzle(5.0),
        "match": lambda: window.router.find_coats(station.coat),
        "glow": window.router.plan_light,
        "form": window.router.toggle_form,
        "grey": station.looks.toggle_grey,
        "hide": station.looks.toggle_hidden,
        "step": station.step_coats,
        "squint": station.looks.toggle_squint,
        "distance": station.looks.next_distance,
        "inside": station.looks.toggle_inside,
        "split": lambda: station.looks.next_split(window.document.plan.light),
        "turns": station.looks.take_turns,
        "keep": lambda: station.looks.keep(window.document.plan),
        "keep file": window.choose_and_keep,
        "mirror": station.looks.toggle_mirror,
        "studio": station.looks.toggle_studio,
        "observer 2": lambda: station.set_observer(2),
        "observer 10": lambda: station.set_observer(10),
        "hand steady": lambda: station.set_hand("steady"),
        "hand ordinary": lambda: station.set_hand("ordinary"),
        "hand loose": lambda: station.set_hand("loose"),
        "keys": window.show_keys,
    }
