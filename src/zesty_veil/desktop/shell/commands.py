"""All commands of the window in one table: menus, the stations' own, and those of their pages."""

from __future__ import annotations

from collections.abc import Iterator

from zesty_veil.desktop.form.keys import AXIS, FORM, NOZZLE, SCULPT
from zesty_veil.desktop.kit.command import SEPARATOR, Command, Keys
from zesty_veil.desktop.kit.menutable import MENUS
from zesty_veil.desktop.shell.stations import STATIONS

_HELP = "&Help"


def menus() -> dict[str, tuple[Command, ...]]:
    """Return the menus in their order: that of the stations stands before the help."""
    own = {title: commands for title, commands in MENUS.items() if title != _HELP}
    stations = tuple(station.command() for station in STATIONS)
    return {**own, "&Go": stations, _HELP: MENUS[_HELP]}


def pages() -> tuple[Keys, ...]:
    """Return the keys of all pages, and those of the form, which stands in the section's place."""
    own = (keys for station in STATIONS for keys in station.keys)
    return *own, FORM, NOZZLE, AXIS, SCULPT


def all_commands() -> Iterator[Command]:
    """Yield all commands: those of the menus, then those of pages."""
    for commands in menus().values():
        yield from (each for each in commands if each is not SEPARATOR)
    for keys in pages():
        yield from keys.commands
