"""The keys of the rack, in the order in which the line below tells them."""

from __future__ import annotations

from zesty_veil.desktop.kit.command import Command, Keys

RACK = Keys(
    "rack",
    Command("paint in hand", "Paint in hand", hint="paint in hand", held="Arrows"),
    Command("measure", "Measure", ("M",), "measure it from a card", held="M or Enter"),
    Command("leave rack", "Back", ("Esc",), "back"),
)
MEASURE = Keys(
    "measure",
    Command("patch in hand", "Patch in hand", hint="patch in hand", held="Arrows"),
    Command("forget patch", "Forget a colour", hint="forget its colour", held="Del"),
    Command("keep paint", "Keep the paint", ("Ctrl+Return", "Ctrl+Enter"), "keep it"),
    Command("leave measure", "Back", ("Esc",), "back to the rack"),
)
