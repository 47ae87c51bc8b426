"""What a command is, and the commands of one page, of which a key means one."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, NamedTuple

from PySide6.QtCore import QKeyCombination, Qt
from PySide6.QtGui import QKeyEvent, QKeySequence

from zesty_veil.tr import tr

# The window is not known down here; a test does each of them to a real one.
Act = Callable[[Any], object]
# Where commands work besides pages: in all of the window, also while a page is open.
EVERYWHERE, SECTION = "everywhere", "section"


class Command(NamedTuple):
    """One command.

    `id` is what the program calls it and `words` what people do; `keys` are as Qt writes them, the
    first is the one told. `hint` says more, in a tooltip or in the line of a page; `held` stands
    there in place of keys: for a mouse, or several keys in one word. `act` does it to the window;
    a page does its own. `on` tells whether a toggle is on.
    """

    id: str
    words: str
    keys: tuple[str, ...] = ()
    hint: str = ""
    where: str = SECTION
    held: str = ""
    submenu: bool = False
    act: Act | None = None
    on: Callable[[Any], bool] | None = None

    @property
    def key_words(self) -> str:
        """The keys as people read them: 'Enter', 'Shift + T'."""
        return self.held if self.held or not self.keys else told_key(self.keys[0])

    def tooltip(self, words: str = "") -> str:
        """Return what it does, with its key; `words` say it better where they stand."""
        told = words or tr(self.hint or self.words)
        return f"{told} ({told_key(self.keys[0])})" if self.keys else told


SEPARATOR = Command("-", "")


class Keys:
    """The commands that one page does itself, in the order in which its line tells them."""

    def __init__(self, where: str, *commands: Command) -> None:
        self.where = where
        self.commands = tuple(each._replace(where=where) for each in commands)

    def pressed(self, event: QKeyEvent) -> str | None:
        """Return the id of the command that a key means, or none."""
        held = event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier
        shown = QKeySequence(QKeyCombination(held, Qt.Key(event.key())))
        for command in self.commands:
            if any(shown == QKeySequence(key) for key in command.keys):
                return command.id
        return None

    def hint(self) -> str:
        """Return what can be done on the page, for the line below it."""
        parts: list[str] = []
        for each in self.commands:
            if each.hint and each.hint[0].islower():
                joined = " " if each.id == "back" else ": "
                parts.append(f"{tr(each.key_words)}{joined}{tr(each.hint)}.")
            elif each.held and not parts:
                parts.append(f"{tr(each.key_words)}.")
        return "  ".join(parts)

    def tooltip(self, id_: str, words: str = "") -> str:
        """Return what one of the commands does, with its key."""
        return next(each for each in self.commands if each.id == id_).tooltip(words)


def told_key(key: str) -> str:
    """Return a key as it stands on the keyboard."""
    return key.replace("Return", "Enter")
