"""What Find finds in a window, and what it does with each."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from zesty_veil.desktop.help.station import HelpStation
from zesty_veil.desktop.kit.command import SEPARATOR, Command
from zesty_veil.desktop.rack.station import RackStation
from zesty_veil.desktop.section.desk import SectionDesk
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.shell.commands import menus
from zesty_veil.desktop.shell.filework import FileWork
from zesty_veil.desktop.shell.menus import Menus
from zesty_veil.desktop.shell.stationrouter import StationRouter
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.samples import sample
from zesty_veil.services.helptext import GLOSSARY, PAGES, glossary, title_of
from zesty_veil.services.lookup import Entry
from zesty_veil.services.starting import DEMOS
from zesty_veil.tr import tr


class Findable:
    """Lists what can be found in a window and runs what is chosen.

    Parameters
    ----------
    document, section, router, files, menus
        The parts of the window that it leads to.
    say
        Told what cannot be done.
    """

    def __init__(
        self,
        document: Document,
        section: SectionDesk,
        router: StationRouter,
        files: FileWork,
        own_menus: Menus,
        say: Callable[[str], None],
    ) -> None:
        self._document, self._section, self._router = document, section, router
        self._files, self._menus, self._say = files, own_menus, say

    def entries(self) -> list[Entry]:
        """Return all that can be found: passages first, for they are what is worked on."""
        passages = self._document.plan.passages
        out = [Entry(tr("passage"), p.name, "", ("passage", i)) for i, p in enumerate(passages)]
        for commands in menus().values():
            out += [
                Entry(tr("command"), _plain(tr(each.words)), _beside(each), ("command", each.id))
                for each in commands
                if each is not SEPARATOR and each.act is not None
            ]
        out += [
            Entry(tr("paint"), paint.name, ", ".join((tr(paint.kind), *paint.pigments)), paint)
            for paint in self._section.rack.paints()
        ]
        recent = self._files.recent
        out += [Entry(tr("plan"), path.name, str(path.parent), path) for path in recent]
        out += [Entry(tr("plan"), sample(name).title, tr("demo"), ("demo", name)) for name in DEMOS]
        out += [Entry(tr("help"), title_of(page), "", ("help", page)) for page in PAGES]
        out += [
            Entry(tr("term"), term, words, ("help", GLOSSARY)) for term, words in glossary().items()
        ]
        return out

    def run(self, entry: Entry) -> None:
        """Do what is meant by choosing something that was found."""
        what = entry.what
        if isinstance(what, Path):
            self._files.when_free(lambda: self._files.open(what))
        elif isinstance(what, Paint):
            self._router.go(RackStation.id)
            self._router.at(RackStation).view.show_paint(what.name)
        elif isinstance(what, tuple):
            kind, which = what
            if kind == "passage":
                self._router.show_section()
                self._section.choose_passage(int(which))
            elif kind == "command":
                self._do(str(which))
            elif kind == "demo":
                self._router.context.plan_wanted.emit(sample(str(which)))
            else:
                self.show_help(str(which))

    def show_help(self, page: str) -> None:
        """Open a page of the help."""
        self._router.go(HelpStation.id)
        self._router.at(HelpStation).view.show_page(page)

    def _do(self, name: str) -> None:
        """Do a command, from the section where it works only there."""
        action = self._menus.actions[name]
        if not action.isEnabled() and self._router.turning:
            self._router.show_section()
        if action.isEnabled():
            action.trigger()
        else:
            self._say(tr("“{0}” can do nothing now.").format(_plain(action.text())))


def _plain(words: str) -> str:
    return words.rstrip(" …")


def _beside(command: Command) -> str:
    return "  ".join(filter(None, (command.key_words, tr(command.hint) if command.hint else "")))
