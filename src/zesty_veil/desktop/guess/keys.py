"""The keys of the guess, in the order in which the line below tells them."""

from __future__ import annotations

from zesty_veil.desktop.kit.command import Command, Keys

GUESS = Keys(
    "guess",
    Command("pick", "Pick", hint="pick", held="1 to 5"),
    Command("next guess", "Another one", ("Space",), "another one"),
    Command("leave guess", "Back", ("Esc",), "back"),
)
