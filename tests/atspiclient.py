"""A reader of the screen: walks the running window over AT-SPI, through every station and popover.

Run by the system's Python, which has the bindings, inside a session bus and with a display. Prints
one line of JSON: by stage how many objects there were, and which took focus without a name; what
was announced; and what could not be found.
"""

from __future__ import annotations

import json
import sys
import time
from collections.abc import Callable, Iterator
from typing import Any

import gi

gi.require_version("Atspi", "2.0")
from gi.repository import Atspi, GLib  # type: ignore[import-not-found] # noqa: E402

STATIONS = ("Start", "Light", "Match", "Sitting", "Rack", "Log", "Guess", "Help", "Section")
_QUIET_S, _PATIENCE_S = 0.6, 90.0
_MOST_WALKS = 20


def application() -> Any:
    """Return the program, as soon as it is there."""
    until = time.monotonic() + _PATIENCE_S
    while time.monotonic() < until:
        desktop = Atspi.get_desktop(0)
        for i in range(desktop.get_child_count()):
            one = desktop.get_child_at_index(i)
            if one is not None and one.get_child_count():
                return one
        idle(0.3)
    raise SystemExit("no application is on the bus")


def idle(seconds: float) -> None:
    """Let events come in."""
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        GLib.MainContext.default().iteration(False)
        time.sleep(0.01)


def under(thing: Any, hidden: bool = False, deep: int = 0) -> Iterator[Any]:
    """Yield everything below; of what is not shown only the uppermost, unless `hidden`."""
    yield thing
    if deep > 40:
        raise SystemExit("the tree has no end")
    if deep > 1 and not hidden and not thing.get_state_set().contains(Atspi.StateType.SHOWING):
        return
    for i in range(min(thing.get_child_count(), 400)):
        child = thing.get_child_at_index(i)
        if child is not None:
            yield from under(child, hidden, deep + 1)


def asked(thing: Any) -> tuple[str, str, bool]:
    """Ask a thing for all that it can tell; return role, name, and whether it has none but should.

    A thing may be gone by the time that it is asked; the window may not.
    """
    role, name, states = thing.get_role_name(), thing.get_name(), thing.get_state_set()
    thing.get_description(), thing.get_parent(), thing.get_index_in_parent()
    thing.get_interfaces(), thing.get_relation_set(), thing.get_attributes()
    component = thing.get_component_iface()
    if component is not None:
        component.get_extents(Atspi.CoordType.SCREEN)
    for ask in (thing.get_text_iface, thing.get_value_iface, thing.get_selection_iface,
                thing.get_table_cell, thing.get_table_iface):  # fmt: skip
        ask()
    action = thing.get_action_iface()
    if action is not None:
        [action.get_action_name(i) for i in range(action.get_n_actions())]
    focusable = states.contains(Atspi.StateType.FOCUSABLE)
    bare = focusable and states.contains(Atspi.StateType.SHOWING) and not name
    return role, name, bare


def walked(app: Any) -> tuple[int, list[str]]:
    """Walk all of it until it stands still; return the count, and the roles of the unnamed."""
    before, until = -1, time.monotonic() + _PATIENCE_S
    while True:
        count, bare = 0, []
        for thing in under(app):
            try:
                role, _, nameless = asked(thing)
            except GLib.GError as error:
                if "no longer exists" not in str(error) and "UnknownObject" not in str(error):
                    raise
                continue
            count += 1
            bare += [role] * nameless
        if count == before or time.monotonic() > until:
            return count, bare
        before = count
        idle(_QUIET_S)


def settled(app: Any) -> tuple[int, list[str]]:
    """Walk until two walks find as much: what a page reads comes when the machine has done it."""
    before = walked(app)
    for _ in range(_MOST_WALKS):
        idle(_QUIET_S)
        now = walked(app)
        if now == before:
            break
        before = now
    return before


def found(app: Any, wanted: Callable[[str, str], bool]) -> Any:
    """Return the first thing whose role and name are wanted; none if there is none."""
    for thing in under(app, hidden=True):
        if wanted(thing.get_role_name(), thing.get_name() or ""):
            return thing
    return None


def press(app: Any, role: str, name: str, missing: list[str]) -> None:
    """Press what has a role, and a name that begins so."""
    thing = found(app, lambda r, n: r == role and n.startswith(name))
    action = None if thing is None else thing.get_action_iface()
    if action is None:
        missing.append(f"{role} {name}")
        return
    action.do_action(0)
    idle(_QUIET_S)


def main() -> None:
    """Walk through everything, and print what was met."""
    Atspi.init()
    heard: list[str] = []
    listener = Atspi.EventListener.new(lambda event: heard.append(str(event.any_data)))
    listener.register("object:announcement")
    app = application()
    stages: dict[str, tuple[int, list[str]]] = {"at first": walked(app)}
    missing: list[str] = []
    for station in STATIONS:
        press(app, "page tab", station, missing)
        stages[station] = settled(app)
    press(app, "radio button", "coat 1", missing)
    idle(_QUIET_S)
    press(app, "page tab", "Start", missing)
    press(app, "push button", "Flame", missing)
    stages["a template"] = walked(app)
    press(app, "page tab", "Section", missing)
    for role, name, inside in (
        ("push button", "Find", ("text", "find")),
        ("menu item", "Preferences", ("label", "Preferences")),
        ("push button", "Add a coat", ("text", "find a paint")),
    ):
        press(app, role, name, missing)
        stages[name] = walked(app)
        if found(app, lambda *which, inside=inside: which == inside) is None:
            missing.append(f"{inside} after {name}")
    print(json.dumps({"stages": stages, "heard": heard, "missing": missing}))
    sys.stdout.flush()


main()
