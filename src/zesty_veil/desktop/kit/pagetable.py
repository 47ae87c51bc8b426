"""The commands of the pages, which do them themselves."""

from __future__ import annotations

from zesty_veil.desktop.kit.command import Command

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
    "start": (Command("leave start", "Go on with this plan", ("Esc",), "go on with this plan"),),
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
        Command("leave sculpt", "Back", ("Esc",), "back without it"),
        Command("turn sculpt", "Turn it", held="Drag, or arrows"),
        Command("lean sculpt", "Lean it", held="Comma, point"),
    ),
    "match": (
        Command("way in hand", "Way in hand", hint="ways", held="Up, down"),
        Command("coat of way", "Coat of the way", hint="coats", held="Left, right"),
        Command("keep way", "Keep", ("P",), "keep one"),
        Command("lay way", "Lay it", ("Return", "Enter"), "lay it"),
        Command("leave match", "Back", ("Esc",), "back"),
    ),
    "light": (
        Command(
            "move light", "Move the light", hint="nearer", held="Drag the light, or arrows; wheel"
        ),
        Command("find light", "Find coats", ("F",), "find coats"),
        Command("write light", "Write it", ("Return", "Enter"), "write"),
        Command("leave light", "Back", ("Esc",), "back"),
    ),
    "light start": (Command("leave light start", "Back", ("Esc",), "back"),),
    "sitting start": (Command("leave sitting start", "Back", ("Esc",), "back"),),
    "sitting": (
        Command("laid", "Laid", ("Space",), "laid"),
        Command("not yet", "Not yet", ("Backspace",), "not yet"),
        Command("later pass", "Later", ("S",), "later"),
        Command("pause", "Pause", ("P",), "pause"),
        Command("rescue", "Came out wrong", ("R",), "rescue"),
        Command("leave sitting", "Back", ("Esc",), "back"),
        Command("begin anew", "Begin anew", ("N",)),
    ),
    "rack": (
        Command("paint in hand", "Paint in hand", hint="paint in hand", held="Arrows"),
        Command("measure", "Measure", ("M",), "measure it from a card", held="M or Enter"),
        Command("leave rack", "Back", ("Esc",), "back"),
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
        Command("leave log", "Back", ("Esc",), "back"),
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
        Command("leave guess", "Back", ("Esc",), "back"),
    ),
}
