"""All commands in one table: what they are called, their keys, where they work, and hints.

Menus, tooltips, the line below each page and the table of keys in the README come from here, and
what the commands of the menus do to the window; a page asks `pressed` which of its own a key means.
"""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtCore import QKeyCombination, Qt
from PySide6.QtGui import QKeyEvent, QKeySequence

from zesty_veil.desktop.kit.command import SEPARATOR, Command
from zesty_veil.desktop.kit.menutable import MENUS
from zesty_veil.desktop.kit.pagetable import PAGES
from zesty_veil.tr import tr


def all_commands() -> Iterator[Command]:
    """Yield all commands: those of the menus, then those of pages."""
    for commands in MENUS.values():
        yield from (each for each in commands if each is not SEPARATOR)
    for where, commands in PAGES.items():
        yield from (each._replace(where=where) for each in commands)


COMMANDS: dict[str, Command] = {each.id: each for each in all_commands()}


def key_words(command: Command) -> str:
    """Return the keys of a command as people read them: 'Enter', 'Shift + T'."""
    if command.held or not command.keys:
        return command.held
    return _told(command.keys[0])


def _told(key: str) -> str:
    """Return a key as it stands on the keyboard."""
    return key.replace("Return", "Enter")


def hint_line(where: str) -> str:
    """Return what can be done on a page, for the line below it."""
    parts = []
    for each in PAGES[where]:
        keys = key_words(each)
        if each.hint and each.hint[0].islower():
            joined = " " if each.id == "back" else ": "
            parts.append(f"{tr(keys)}{joined}{tr(each.hint)}.")
        elif each.held and (len(parts) == 0):
            parts.append(f"{tr(keys)}.")
    return "  ".join(parts)


def tooltip(id_: str, words: str = "") -> str:
    """Return what a command does, with its key; `words` say it better where they stand."""
    command = COMMANDS[id_]
    told = words or tr(command.hint or command.words)
    return f"{told} ({_told(command.keys[0])})" if command.keys else told


def pressed(event: QKeyEvent, where: str) -> str | None:
    """Return the id of the command of a page that a key means, or none."""
    held = event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier
    shown = QKeySequence(QKeyCombination(held, Qt.Key(event.key())))
    for command in PAGES[where]:
        if any(shown == QKeySequence(key) for key in command.keys):
            return command.id
    return None
