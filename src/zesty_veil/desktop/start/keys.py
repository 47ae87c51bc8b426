"""The keys of the start page, in the order in which the line below tells them."""

from __future__ import annotations

from zesty_veil.desktop.kit.command import Command, Keys

START = Keys(
    "start",
    Command("leave start", "Go on with this plan", ("Esc",), "go on with this plan"),
)
TEMPLATE = Keys(
    "template",
    Command("begin template", "Begin with it", ("Ctrl+Return",), "begin with it"),
    Command("leave template", "Back", ("Esc",), "back"),
)
