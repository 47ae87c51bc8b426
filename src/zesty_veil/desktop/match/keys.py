"""The keys of Match, in the order in which the line below tells them."""

from __future__ import annotations

from zesty_veil.desktop.kit.command import Command, Keys

MATCH = Keys(
    "match",
    Command("way in hand", "Way in hand", hint="ways", held="Up, down"),
    Command("coat of way", "Coat of the way", hint="coats", held="Left, right"),
    Command("keep way", "Keep", ("P",), "keep one"),
    Command("lay way", "Lay it", ("Return", "Enter"), "lay it"),
    Command("leave match", "Back", ("Esc",), "back"),
)
LADDER = Keys(
    "ladder",
    Command("pot in hand", "Pot in hand", hint="pots", held="Up, down"),
    Command("take pot", "Take it as the next pot", ("Space",), "take it"),
    Command("drop pot", "Leave the last pot out", ("Backspace",), "leave the last out"),
    Command("lay ladder", "Lay it", ("Return", "Enter"), "lay it"),
    Command("leave ladder", "Back", ("Esc",), "back"),
)
