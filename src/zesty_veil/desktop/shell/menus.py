"""The menus: filled from the table of commands, with what can be done now and what is on."""

from __future__ import annotations

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMainWindow, QMenu, QMenuBar

from zesty_veil.desktop.kit.command import EVERYWHERE, SEPARATOR, Command
from zesty_veil.desktop.kit.plain import entry, tip
from zesty_veil.desktop.section.desk import SectionDesk
from zesty_veil.desktop.section.meant import fill_meant
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.shell.commands import menus
from zesty_veil.desktop.shell.filework import FileWork
from zesty_veil.tr import tr

_STEPS_SHOWN = 15


class Menus:
    """Fills a menu bar; `actions` are its entries by the ids of their commands.

    Parameters
    ----------
    bar
        Where the menus stand.
    window
        What commands are done to.
    document, section, files
        What the menus that list things list.
    """

    def __init__(
        self,
        bar: QMenuBar,
        window: QMainWindow,
        document: Document,
        section: SectionDesk,
        files: FileWork,
    ) -> None:
        self._document, self._section, self._files = document, section, files
        self._window = window
        self._asking = False
        self.actions: dict[str, QAction] = {}
        self._commands: dict[str, Command] = {}
        self.recent = QMenu(tr("Open again"), bar)
        self.recent.setToolTipsVisible(True)
        self.recent.aboutToShow.connect(self._show_recent)
        self.steps = QMenu(tr("Back to …"), bar)
        self.steps.aboutToShow.connect(self._fill_steps)
        self.lit_by = QMenu(tr("Lit by"), bar)
        self.lit_by.aboutToShow.connect(self._fill_lights)
        self.meant = QMenu(tr("Meant as"), bar)
        self.meant.aboutToShow.connect(
            lambda: fill_meant(self.meant, section.editor, section.in_hand)
        )
        lists = {
            "recent": self.recent, "steps back": self.steps, "lit by": self.lit_by,
            "meant": self.meant,
        }  # fmt: skip
        for title, commands in menus().items():
            menu = bar.addMenu(tr(title))
            menu.aboutToShow.connect(self._show_states)
            for command in commands:
                if command is SEPARATOR:
                    menu.addSeparator()
                elif command.submenu:
                    menu.addMenu(lists[command.id])
                elif command.act is not None:
                    action = menu.addAction(tr(command.words))
                    action.setShortcuts([QKeySequence(key) for key in command.keys])
                    action.setCheckable(command.on is not None)
                    action.triggered.connect(lambda _=False, act=command.act: act(window))
                    self.actions[command.id] = action
                    self._commands[command.id] = command

    def refresh(self) -> None:
        """Offer what can be done now, and name what would be undone."""
        history = self._document.history
        turning = self._section.router.turning
        for name, action in self.actions.items():
            command = self._commands[name]
            # Letters are for whatever is asked in the line below, until it is answered.
            meant = not self._asking or not any(len(key) == 1 for key in command.keys)
            action.setEnabled(meant and (not turning or command.where == EVERYWHERE))
        for name, steps_there, words in (
            ("undo", history.past[-1:], tr("Undo {0}")),
            ("redo", history.future[:1], tr("Redo {0}")),
        ):
            action = self.actions[name]
            action.setEnabled(bool(steps_there) and not turning and not self._asking)
            told = entry(words.format(steps_there[0].words)) if steps_there else None
            action.setText(told or tr(self._commands[name].words))

    def hold(self, asking: bool) -> None:
        """Let single keys do nothing while a question waits for its answer."""
        self._asking = asking
        self.refresh()

    def _show_states(self) -> None:
        """Tick what is on."""
        for name, action in self.actions.items():
            is_on = self._commands[name].on
            if is_on is not None:
                action.setChecked(is_on(self._window))

    def _show_recent(self) -> None:
        """Show what is known now, and what other windows opened as soon as that is read."""
        self._fill_recent()
        self._files.look_at_recent(self._fill_recent)

    def _fill_recent(self) -> None:
        files = self._files
        self.recent.clear()
        for path in files.recent:
            action = self.recent.addAction(entry(path.name))
            action.setToolTip(tip(str(path)))
            action.triggered.connect(lambda _=False, p=path: files.when_free(lambda: files.open(p)))
        if self.recent.isEmpty():
            self.recent.addAction(tr("Nothing yet")).setEnabled(False)

    def _fill_steps(self) -> None:
        """List what was done, the last first; choosing one takes it and all after it back."""
        document = self._document
        self.steps.clear()
        for back, step in enumerate(reversed(document.history.past[-_STEPS_SHOWN:]), 1):
            action = self.steps.addAction(entry(tr("before {0}").format(step.words)))
            action.triggered.connect(lambda _=False, n=back: document.undo(n))
        if self.steps.isEmpty():
            self.steps.addAction(tr("Nothing was done yet")).setEnabled(False)

    def _fill_lights(self) -> None:
        """List the other passages, of which one may be the light that falls on this one."""
        section = self._section
        passage = section.editor.passage
        self.lit_by.clear()
        if passage is None:
            self.lit_by.addAction(tr("There is no passage in view")).setEnabled(False)
            return
        others = [p.name for p in self._document.plan.passages if p.name != passage.name]
        for name in (None, *others):
            action = self.lit_by.addAction(
                tr("no light of the plan") if name is None else entry(name)
            )
            action.setCheckable(True)
            action.setChecked(name == passage.lit_by)
            action.triggered.connect(lambda _=False, n=name: section.moves.light_by(n))
