"""The keys of the light, in the order in which the line below tells them."""

from __future__ import annotations

from zesty_veil.desktop.kit.command import Command, Keys

LIGHT = Keys(
    "light",
    Command("move light", "Move the light", hint="nearer", held="Drag the light, or arrows; wheel"),
    Command("find light", "Find coats", ("F",), "find coats"),
    Command("write light", "Write it", ("Return", "Enter"), "write"),
    Command("leave light", "Back", ("Esc",), "back"),
)
LIGHT_START = Keys(
    "light start",
    Command("leave light start", "Back", ("Esc",), "back"),
)
