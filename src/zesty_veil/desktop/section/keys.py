"""The keys of the section, in the order in which the line below tells them."""

from __future__ import annotations

from zesty_veil.desktop.kit.command import Command, Keys

COAT = Keys(
    "coat",
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
)
