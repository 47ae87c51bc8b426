"""Reading a GPL palette back, to see that what is written is one."""

from __future__ import annotations

import re

from zesty_veil.errors import InputError
from zesty_veil.exchange.colours import Sample, refuse_many
from zesty_veil.light.srgb import lab_of, parsed

_FIRST = "GIMP Palette"
_LINE = re.compile(r"\s*(\d{1,3})\s+(\d{1,3})\s+(\d{1,3})(?:\s+(.*\S))?\s*")


def read_gpl(text: str, what: str) -> tuple[Sample, ...]:
    """Return the colours of a palette; `what` names it in sentences.

    Raises
    ------
    InputError
        If it is no such palette, or a line of it is none.
    """
    lines = text.splitlines()
    refuse_many(len(lines), what)
    if not lines or lines[0].strip() != _FIRST:
        raise InputError(f"{what} is no palette: its first line must be “{_FIRST}”.")
    out: list[Sample] = []
    for number, line in enumerate(lines[1:], 2):
        if not line.strip() or line.lstrip().startswith("#") or re.match(r"\w+:", line):
            continue
        found = _LINE.fullmatch(line)
        if found is None or max(int(n) for n in found.groups()[:3]) > 255:
            raise InputError(
                f"{what}, line {number}: it must be red, green, blue from 0 to 255, and a name."
            )
        r, g, b = (int(n) for n in found.groups()[:3])
        out.append(
            Sample(found[4] or f"colour {len(out) + 1}", lab_of(parsed(f"#{r:02x}{g:02x}{b:02x}")))
        )
    if not out:
        raise InputError(f"{what} holds no colour.")
    return tuple(out)
