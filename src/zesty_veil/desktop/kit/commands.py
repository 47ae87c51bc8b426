"""The commands of the menus by their ids, for the tooltips of the controls that do the same.

Those of the pages stand with their pages, and those that lead to stations with the stations; the
shell puts all of them together.
"""

from __future__ import annotations

from zesty_veil.desktop.kit.command import SEPARATOR, Command
from zesty_veil.desktop.kit.menutable import MENUS

COMMANDS: dict[str, Command] = {
    each.id: each for commands in MENUS.values() for each in commands if each is not SEPARATOR
}


def tooltip(id_: str, words: str = "") -> str:
    """Return what a command of the menus does, with its key."""
    return COMMANDS[id_].tooltip(words)
