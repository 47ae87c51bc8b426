"""The keys of the help, in the order in which the line below tells them."""

from __future__ import annotations

from zesty_veil.desktop.kit.command import Command, Keys

HELP = Keys(
    "help",
    Command("help back", "The page before", ("Alt+Left",), "the page before"),
    Command("help forward", "The page after", ("Alt+Right",), "the page after"),
    Command("leave help", "Back", ("Esc",), "back"),
)
