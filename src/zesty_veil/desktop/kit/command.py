"""What a command is: one row of the tables of commands."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, NamedTuple

# The window is not known down here; a test does each of them to a real one.
Act = Callable[[Any], object]
# Where commands work besides pages: in all of the window, also while a page is open.
EVERYWHERE, SECTION = "everywhere", "section"


class Command(NamedTuple):
    """One command.

    `id` is what the program calls it and `words` what people do; `keys` are as Qt writes them, the
    first is the one told. `hint` says more, in a tooltip or in the line of a page; `held` stands
    there in place of keys: for a mouse, or several keys in one word. `act` does it to the window;
    a page does its own. `on` tells whether a toggle is on.
    """

    id: str
    words: str
    keys: tuple[str, ...] = ()
    hint: str = ""
    where: str = SECTION
    held: str = ""
    submenu: bool = False
    act: Act | None = None
    on: Callable[[Any], bool] | None = None


SEPARATOR = Command("-", "")
