"""Palettes as GPL: a text file of one colour a line, as many painting programs read it.

References
----------
The format is documented by the program that it is named after: a first line "GIMP Palette", then
"Name:" and "Columns:", comments after #, and lines of red, green, blue (0-255) and a name.
"""

from __future__ import annotations

import re
from collections.abc import Sequence

from zesty_veil.exchange.colours import SAMPLE_PLACES, Sample

_FIRST = "GIMP Palette"
_LINE = re.compile(r"\s*(\d{1,3})\s+(\d{1,3})\s+(\d{1,3})(?:\s+(.*\S))?\s*")


def write_gpl(title: str, found: Sequence[Sample]) -> str:
    """Return colours as the text of a palette."""
    lines = [_FIRST, f"Name: {' '.join(title.split())}", f"Columns: {SAMPLE_PLACES}", "#"]
    lines += ["{:3} {:3} {:3}\t{}".format(*one.rgb, " ".join(one.name.split())) for one in found]
    return "\n".join(lines) + "\n"
