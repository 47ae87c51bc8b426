"""The keys of the form at large and of a sculpt, in the order in which its line tells them."""

from __future__ import annotations

from zesty_veil.desktop.kit.command import Command, Keys

FORM = Keys(
    "form",
    Command("back", "Back", hint="goes back to the section", held="A click"),
)
NOZZLE = Keys(
    "nozzle",
    Command(
        "nozzle",
        "Drag the nozzle",
        held="Drag the nozzle round the form (Shift: by single degrees), or [ and ]",
    ),
)
AXIS = Keys(
    "axis",
    Command("axis", "Drag the axis", held="Drag from the light to the far end, or either end"),
    Command("rings on form", "In rings", hint="in rings round the light", held="R"),
)
SCULPT = Keys(
    "sculpt",
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
)
