"""The keys of the sitting, in the order in which the line below tells them."""

from __future__ import annotations

from zesty_veil.desktop.kit.command import Command, Keys

SITTING = Keys(
    "sitting",
    Command("laid", "Laid", ("Space",), "laid"),
    Command("not yet", "Not yet", ("Backspace",), "not yet"),
    Command("later pass", "Later", ("S",), "later"),
    Command("pause", "Pause", ("P",), "pause"),
    Command("rescue", "It went wrong", ("R",), "it went wrong"),
    Command("leave sitting", "Back", ("Esc",), "back"),
    Command("start over", "Start over", ("N",)),
    Command("reschedule", "Reschedule", ("E",)),
    Command("full screen", "Full screen", ("F11",)),
)
WENT_WRONG = Keys(
    "it went wrong",
    Command("find way back", "Find the way back", ("Return", "Enter"), "find the way back"),
    Command("leave wrong", "Back", ("Esc",), "back"),
)
SITTING_START = Keys(
    "sitting start",
    Command("leave sitting start", "Back", ("Esc",), "back"),
)
