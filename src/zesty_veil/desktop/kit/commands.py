"""All commands in one table: what they are called, their keys, where they work, and hints.

Menus, tooltips, the line below each page and the table of keys in the README come from here. The
window says what each does; a page asks `pressed` which of its own a key means.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from PySide6.QtCore import QKeyCombination, Qt
from PySide6.QtGui import QKeyEvent, QKeySequence

from zesty_veil.tr import tr

# Where commands work besides pages: in all of the window, also while a page is open.
EVERYWHERE, SECTION = "everywhere", "section"


class Command(NamedTuple):
    """One command.

    `id` is what the program calls it and `words` what people do; `keys` are as Qt writes them, the
    first is the one told. `hint` says more, in a tooltip or in the line of a page; `held` stands
    there in place of keys: for a mouse, or several keys in one word. A `toggle` is on or off, and
    shows which.
    """

    id: str
    words: str
    keys: tuple[str, ...] = ()
    hint: str = ""
    where: str = SECTION
    toggle: bool = False
    held: str = ""
    submenu: bool = False


SEPARATOR = Command("-", "")

MENUS: dict[str, tuple[Command, ...]] = {
    "&Plan": (
        Command("new", "New plan", ("Ctrl+N",), where=EVERYWHERE),
        Command("open", "Open …", ("Ctrl+O",), where=EVERYWHERE),
        Command("recent", "Open again", submenu=True),
        SEPARATOR,
        Command("save", "Save", ("Ctrl+S",), where=EVERYWHERE),
        Command("save as", "Save as …", ("Ctrl+Shift+S",), where=EVERYWHERE),
        Command("steps", "Export …", ("Ctrl+E",), where=EVERYWHERE),
        Command("sit", "Sit down to paint it …", ("F5",)),
        Command("rack", "Look at the rack …", ("F6",)),
        Command("log", "Look at the log …", ("F7",)),
        Command("guess", "Guess first …", ("F8",)),
        SEPARATOR,
        Command("undo", "Undo", ("Ctrl+Z", "U")),
        Command("redo", "Redo", ("Ctrl+Shift+Z", "Ctrl+Y", "Shift+U")),
        Command("steps back", "Back to …", submenu=True),
        SEPARATOR,
        Command("leave", "Leave", ("Ctrl+Q",), where=EVERYWHERE),
    ),
    "&Coat": (
        Command("add coat", "Add a coat …", ("N",), hint="Add a coat above the one in hand"),
        Command("remove coat", "Take the coat away", ("Del",)),
        Command("later", "Lay it later", ("Ctrl+Up",)),
        Command("sooner", "Lay it sooner", ("Ctrl+Down",)),
        SEPARATOR,
        Command("pass more", "One pass more", ("+", "=")),
        Command("pass less", "One pass less", ("-",)),
        Command("thin", "Thin it", ("T",)),
        Command("strengthen", "Strengthen it", ("Shift+T",)),
        SEPARATOR,
        Command("feather longer", "Feather the far end longer", ("F",)),
        Command("feather shorter", "Feather the far end shorter", ("Shift+F",)),
        Command("light feather longer", "Feather the light end longer", ("D",)),
        Command("light feather shorter", "Feather the light end shorter", ("Shift+D",)),
        Command("even feather", "Space its passes evenly", ("E",)),
        Command("smooth here", "Smooth its border with the mid mix", ("S",)),
        SEPARATOR,
        Command("copy coat", "Copy the coat", ("Ctrl+C",)),
        Command("paste coat", "Paste a coat above it", ("Ctrl+V",)),
    ),
    "P&assage": (
        Command("add passage", "Add a passage", ("Ctrl+Shift+N",)),
        Command("remove passage", "Take the passage away"),
        Command("next passage", "Next passage", ("PgDown",)),
        Command("previous passage", "Previous passage", ("PgUp",)),
        Command("primer", "Next primer", ("P",)),
        Command("ground", "Prepare the ground …", ("Shift+P",)),
        Command("copy passage", "Copy the passage", ("Ctrl+D",)),
        Command("push ends", "Push both ends", ("X",)),
        SEPARATOR,
        Command("sculpt", "See it on a sculpt of your own …", ("Ctrl+I",)),
        Command("rings", "Axis on the sculpt in rings, or straight", ("R",)),
        Command("nozzle left", "Lead the ground's nozzle to the left", ("[",)),
        Command("nozzle right", "Lead the ground's nozzle to the right", ("]",)),
        SEPARATOR,
        Command("lit by", "Lit by", submenu=True),
        Command("glow", "Plan a painted light …", ("Z",)),
        SEPARATOR,
        Command("aim", "Keep the colour read as a target", ("K",)),
        Command("match", "Find coats for the targets …", ("C",)),
        Command("drop target", "Forget the nearest target", ("Shift+K",)),
    ),
    "&Look": (
        Command("surround light", "Light surround", ("1",), toggle=True),
        Command("surround middle", "Middle surround", ("2",), toggle=True),
        Command("surround dark", "Dark surround", ("3",), toggle=True),
        SEPARATOR,
        Command("wet", "Still wet, or dry", ("W",), toggle=True),
        Command(
            "glint",
            "Glint of metal, or shade",
            ("G",),
            hint="See metal at the angle where it flashes",
            toggle=True,
        ),
        Command("sure", "How sure", ("B",), hint="Show how far the colours may stray", toggle=True),
        SEPARATOR,
        Command(
            "form",
            "Form, large or small",
            ("O",),
            hint="The passage on its form; click to see it large or small again",
            toggle=True,
        ),
        Command("grey", "Form as a grey photograph", ("V",), toggle=True),
        Command("hide", "Without the coat in hand", ("H",), toggle=True),
        Command("step", "Lay the coats one by one", ("J",), toggle=True),
        Command("squint", "Squint", ("Q",), toggle=True),
        Command("distance", "Squint from elsewhere", ("Shift+Q",)),
        Command("mirror", "Form in the mirror", ("M",), toggle=True),
        Command("studio", "Form under studio light, or flat", ("L",), toggle=True),
        Command("inside", "Ribbons inside what surrounds them", ("I",), toggle=True),
        Command("split", "Half under another light", ("A",), toggle=True),
        SEPARATOR,
        Command("turns", "This plan and the kept one by turns", ("Y",), toggle=True),
        Command("keep", "Keep this plan to see by turns", ("Shift+Y",)),
        Command("keep file", "Keep a plan from a file to see by turns …"),
        SEPARATOR,
        Command("observer 2", "Small field (2 degrees)", toggle=True),
        Command("observer 10", "Large field (10 degrees)", toggle=True),
        SEPARATOR,
        Command("hand steady", "Steady hand", toggle=True),
        Command("hand ordinary", "Ordinary hand", toggle=True),
        Command("hand loose", "Loose hand", toggle=True),
    ),
    "&Help": (Command("keys", "Keys", ("F1",), where=EVERYWHERE),),
}

# What each page answers to, in the order in which its line tells it.
PAGES: dict[str, tuple[Command, ...]] = {
    "coat": (
        Command("coat in hand", "Coat in hand", hint="coat in hand", held="Up, down"),
        Command(
            "move end",
            "Move the far end",
            hint="its far end (Shift: light end)",
            held="Left, right",
        ),
        Command("add", "Add a coat", hint="add a coat", held="N"),
        Command("feathers", "Feathers", hint="feathers", held="F, D"),
        Command("next primer", "Next primer", hint="primer", held="P"),
        Command("reading", "Move the reading", hint="move the reading", held="Comma, point"),
    ),
    "form": (Command("back", "Back", hint="goes back to the section", held="A click"),),
    "nozzle": (
        Command(
            "nozzle",
            "Drag the nozzle",
            held="Drag the nozzle round the form (Shift: by single degrees), or [ and ]",
        ),
    ),
    "axis": (
        Command("axis", "Drag the axis", held="Drag from the light to the far end, or either end"),
        Command("rings on form", "In rings", hint="in rings round the light", held="R"),
    ),
    "sculpt": (
        Command(
            "take view",
            "Take this view",
            ("Return", "Enter"),
            "See the passage on this view of the sculpt",
            held="Hold the sculpt as you want to see it, then take the view (Enter)",
        ),
        Command("leave sculpt", "Leave it", ("Esc",), "leave it"),
        Command("turn sculpt", "Turn it", held="Drag, or arrows"),
        Command("lean sculpt", "Lean it", held="Comma, point"),
    ),
    "match": (
        Command("way in hand", "Way in hand", hint="ways", held="Up, down"),
        Command("coat of way", "Coat of the way", hint="coats", held="Left, right"),
        Command("keep way", "Keep", ("P",), "keep one"),
        Command("lay way", "Lay it", ("Return", "Enter"), "lay it"),
        Command("leave match", "Leave", ("Esc",), "leave"),
    ),
    "light": (
        Command(
            "move light", "Move the light", hint="nearer", held="Drag the light, or arrows; wheel"
        ),
        Command("find light", "Find coats", ("F",), "find coats"),
        Command("write light", "Write it", ("Return", "Enter"), "write"),
        Command("leave light", "Leave", ("Esc",), "leave"),
    ),
    "sitting": (
        Command("laid", "Laid", ("Space",), "laid"),
        Command("not yet", "Not yet", ("Backspace",), "not yet"),
        Command("later pass", "Later", ("S",), "later"),
        Command("pause", "Pause", ("P",), "pause"),
        Command("rescue", "Came out wrong", ("R",), "rescue"),
        Command("leave sitting", "Leave", ("Esc",), "leave"),
        Command("begin anew", "Begin anew", ("N",)),
    ),
    "rack": (
        Command("paint in hand", "Paint in hand", hint="paint in hand", held="Arrows"),
        Command("measure", "Measure", ("M",), "measure it from a card", held="M or Enter"),
        Command("leave rack", "Leave", ("Esc",), "leave"),
    ),
    "measure": (
        Command("patch in hand", "Patch in hand", hint="patch in hand", held="Arrows"),
        Command("forget patch", "Forget a colour", hint="forget its colour", held="Del"),
        Command("keep paint", "Keep the paint", ("Ctrl+Return", "Ctrl+Enter"), "keep it"),
        Command("leave measure", "Back", ("Esc",), "back to the rack"),
    ),
    "log": (
        Command("record in hand", "Record in hand", hint="record in hand", held="Up, down"),
        Command("enter", "Write down", ("N",), "write down what came out of this plan"),
        Command("leave log", "Leave", ("Esc",), "leave"),
    ),
    "entry": (
        Command(
            "white there", "White in the photograph", hint="what is white", held="Shift + click"
        ),
        Command("place there", "Place", hint="the place of the row in hand", held="Click"),
        Command("leave entry", "Back", ("Esc",), "back to the log"),
    ),
    "guess": (
        Command("pick", "Pick", hint="pick", held="1 to 5"),
        Command("next guess", "Another one", ("Space",), "another one"),
        Command("leave guess", "Leave", ("Esc",), "leave"),
    ),
}


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
