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
