"""The keys of the log, in the order in which the line below tells them."""

from __future__ import annotations

from zesty_veil.desktop.kit.command import Command, Keys

LOG = Keys(
    "log",
    Command("record in hand", "Record in hand", hint="record in hand", held="Up, down"),
    Command("enter", "Write down", ("N",), "write down what came out of this plan"),
    Command("leave log", "Back", ("Esc",), "back"),
)
ENTRY = Keys(
    "entry",
    Command("white there", "White in the photograph", hint="what is white", held="Shift + click"),
    Command("place there", "Place", hint="the place of the row in hand", held="Click"),
    Command("leave entry", "Back", ("Esc",), "back to the log"),
)
